"""What a batch drew of a fruit, kept so that a plan reads only what it learns from."""

from __future__ import annotations

from sqlalchemy import BigInteger, ForeignKey, Index, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned


class YieldSeen(Owned, Base):
    """Litres a kilo that a batch drew of a fruit by a way of juicing, as the core observes them."""

    __tablename__ = "yield_seen"
    __table_args__ = (Index(None, "household_id", "fruit", "id"),)
    batch_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE"), index=True
    )
    fruit: Mapped[str] = mapped_column(String(40))
    way: Mapped[str] = mapped_column(String(24))
    litres_per_kg: Mapped[float]
    source: Mapped[str] = mapped_column(String(120))
    batch_code: Mapped[str] = mapped_column(String(24))
