"""Drinks as they were written down, to be made again."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Json, Owned


class Serving(Owned, Base):
    """A drink: how it was asked for, what it came to, and from which jar it was poured.

    asked: as the page asked for it, to be asked again of any jar; told: what it came to.
    """

    __tablename__ = "serving"
    name: Mapped[str] = mapped_column(String(80))
    jar_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("jar.id", ondelete="CASCADE"), index=True
    )
    person_id: Mapped[int] = mapped_column(BigInteger, ForeignKey("person.id"))
    at: Mapped[datetime]
    base_ml: Mapped[float]
    asked: Mapped[Json]
    told: Mapped[Json]
