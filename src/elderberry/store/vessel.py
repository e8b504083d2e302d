"""Vessels: pots, bowls and jugs with what they hold."""

from __future__ import annotations

from typing import get_args

from sqlalchemy import JSON, CheckConstraint, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.core.containers import VesselKind
from elderberry.store.base import Base, Owned, one_of

VESSEL_KINDS = get_args(VesselKind)


class Vessel(Owned, Base):
    """So many vessels of a kind and size: litres to the brim, width inside [cm].

    marks: what it holds at its own marks, from the lowest [mL].
    """

    __tablename__ = "vessel"
    __table_args__ = (
        one_of("kind", VESSEL_KINDS),
        CheckConstraint("litres between 0.05 and 200", name="litres_possible"),
        CheckConstraint("`count` between 1 and 100", name="count_possible"),
        CheckConstraint("diameter_cm between 5 and 100", name="diameter_cm_possible"),
    )
    kind: Mapped[str] = mapped_column(String(8))
    name: Mapped[str] = mapped_column(String(80))
    litres: Mapped[float]
    count: Mapped[int]
    diameter_cm: Mapped[float | None]
    marks: Mapped[list[float] | None] = mapped_column(JSON)
