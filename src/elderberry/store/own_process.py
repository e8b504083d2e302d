"""Tested processes that a household has entered, with their source."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Json, Owned


class OwnProcessEntry(Owned, Base):
    """A household's own tested process; a newer entry for a product takes the place of an older.

    minutes: minutes by the altitude [m] up to which each holds, keys as text.
    """

    __tablename__ = "own_process"
    __table_args__ = (
        CheckConstraint("max_ph between 2 and 4.2", name="max_ph_acid"),
        CheckConstraint("jar_ml between 50 and 2000", name="jar_ml_possible"),
    )
    product: Mapped[str] = mapped_column(String(40))
    jar_ml: Mapped[float]
    minutes: Mapped[Json]
    max_ph: Mapped[float]
    source: Mapped[str] = mapped_column(String(300))
    entered_at: Mapped[datetime]
    entered_by: Mapped[int] = mapped_column(BigInteger, ForeignKey("person.id"))
