"""How long steps took against what was planned, kept so that a plan reads only what it learns."""

from __future__ import annotations

from sqlalchemy import BigInteger, ForeignKey, Index, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned


class PaceSeen(Owned, Base):
    """Minutes that a step of a batch took over those that it was planned with, by its role."""

    __tablename__ = "pace_seen"
    __table_args__ = (Index(None, "household_id", "role", "id"),)
    batch_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE"), index=True
    )
    role: Mapped[str] = mapped_column(String(24))
    ratio: Mapped[float]
