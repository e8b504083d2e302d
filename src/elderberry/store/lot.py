"""Lots: amounts of something at a place in the flow."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, Index, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Json, Owned, one_of

LOT_KINDS = (
    "fruit", "mash", "juice", "pomace", "steam", "water", "added", "loss", "jars", "caramel",
    "peel", "dried",
)  # fmt: skip


class Lot(Owned, Base):
    """A lot; one that came in stands by itself, every other one goes through a batch.

    material: what it is, where it is one thing; empty for what steps have made.

    predicted holds the estimates of the plan: mass_g, volume_ml, brix, ph, acidity_g_l.
    intake holds what was said when it came in (services/planning/intake.py); an
    input of a batch was taken out of such a one (from_lot_id). left_g is what is left of it, none
    for lots of a batch.
    """

    __tablename__ = "lot"
    __table_args__ = (
        one_of("kind", LOT_KINDS),
        CheckConstraint("mass_g > 0", name="mass_g_positive"),
        Index(None, "household_id", "left_g"),
    )
    batch_id: Mapped[int | None] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE", use_alter=True), index=True
    )
    key: Mapped[str] = mapped_column(String(40))
    kind: Mapped[str] = mapped_column(String(12))
    name: Mapped[str] = mapped_column(String(120))
    material: Mapped[str] = mapped_column(String(40))
    predicted: Mapped[Json]
    mass_g: Mapped[float | None]
    source: Mapped[str | None] = mapped_column(String(120))
    picked_on: Mapped[date | None]
    created_at: Mapped[datetime]
    from_lot_id: Mapped[int | None] = mapped_column(BigInteger, ForeignKey("lot.id"))
    intake: Mapped[Json | None]
    left_g: Mapped[float | None]
