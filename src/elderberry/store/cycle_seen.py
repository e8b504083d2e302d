"""Cycles of a freeze dryer as they went: what a household's own hours are learned from."""

from __future__ import annotations

from sqlalchemy import BigInteger, ForeignKey, Index
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned


class CycleSeen(Owned, Base):
    """A finished load of a freeze dryer: water that came off a tray [kg], depth [mm], sugar in the
    solids [-], whether it went in frozen, and how long it took [h].
    """

    __tablename__ = "cycle_seen"
    __table_args__ = (Index(None, "household_id", "id"),)
    batch_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE"), index=True
    )
    water_kg: Mapped[float]
    thickness_mm: Mapped[float]
    sugar_share: Mapped[float]
    frozen: Mapped[bool]
    hours: Mapped[float]
