"""Households and their kitchens."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, CheckConstraint, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned


class Household(Base):
    """Who cooks together and shares a shelf; nobody else ever sees it."""

    __tablename__ = "household"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=True)
    name: Mapped[str] = mapped_column(String(120))
    created_at: Mapped[datetime]


class Kitchen(Owned, Base):
    """Where a household cooks: altitude [m], or unknown, and its time zone."""

    __tablename__ = "kitchen"
    __table_args__ = (
        CheckConstraint("altitude_m between -430 and 9000", name="altitude_m_on_earth"),
    )
    name: Mapped[str] = mapped_column(String(120))
    altitude_m: Mapped[float | None]
    time_zone: Mapped[str] = mapped_column(String(64))
