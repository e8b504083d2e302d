"""What happened: events and readings, appended and never changed."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, ForeignKey, String, event
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.core.estimates import Evidence
from elderberry.store.base import Base, Json, Owned, one_of


class Event(Owned, Base):
    """Something that happened to a batch, a step of it or a jar, with who and when."""

    __tablename__ = "event"
    batch_id: Mapped[int | None] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE"), index=True
    )
    operation_id: Mapped[int | None] = mapped_column(
        BigInteger, ForeignKey("operation.id", ondelete="CASCADE"), index=True
    )
    jar_id: Mapped[int | None] = mapped_column(
        BigInteger, ForeignKey("jar.id", ondelete="CASCADE"), index=True
    )
    kind: Mapped[str] = mapped_column(String(32))
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(BigInteger, ForeignKey("person.id"))
    data: Mapped[Json]


class Reading(Owned, Base):
    """A measured value with its instrument, time and place in the flow; base units."""

    __tablename__ = "reading"
    __table_args__ = (one_of("evidence", Evidence),)
    batch_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE"), index=True
    )
    operation_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("operation.id", ondelete="CASCADE"), index=True
    )
    lot_id: Mapped[int | None] = mapped_column(
        BigInteger, ForeignKey("lot.id", ondelete="CASCADE"), index=True
    )
    quantity: Mapped[str] = mapped_column(String(16))
    value: Mapped[float]
    instrument: Mapped[str] = mapped_column(String(24))
    evidence: Mapped[str] = mapped_column(String(12))
    at: Mapped[datetime]
    person_id: Mapped[int] = mapped_column(BigInteger, ForeignKey("person.id"))


class HistoryChanged(Exception):
    """Code tried to change recorded history; a mistake is corrected by a new entry."""


@event.listens_for(Event, "before_update")
@event.listens_for(Event, "before_delete")
@event.listens_for(Reading, "before_update")
@event.listens_for(Reading, "before_delete")
def _refuse(_mapper: Any, _connection: Any, target: Event | Reading) -> None:
    raise HistoryChanged(f"{type(target).__name__} {target.id} is history")
