"""Methods that a household has made its own."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, ForeignKey, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Json, Owned


class OwnMethod(Owned, Base):
    """One version of a household's method; a change is a new version, the old ones stay.

    row: the method as the core reads it (core/method.py), steps included.
    """

    __tablename__ = "method"
    __table_args__ = (UniqueConstraint("household_id", "key", "version"),)
    key: Mapped[str] = mapped_column(String(60))
    version: Mapped[int]
    name: Mapped[str] = mapped_column(String(120))
    row: Mapped[Json]
    saved_at: Mapped[datetime]
    saved_by: Mapped[int] = mapped_column(BigInteger, ForeignKey("person.id"))
