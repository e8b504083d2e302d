"""Stations: what a step occupies."""

from __future__ import annotations

from typing import get_args

from sqlalchemy import CheckConstraint, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.core.kitchen import StationKind
from elderberry.store.base import Base, Owned, one_of

STATION_KINDS = get_args(StationKind)
POWER_KINDS = ("gas", "electric", "induction")
HEATERS = ("bath", "steam")


class Station(Owned, Base):
    """A burner, juicer, canner, dryer, rack or worktop, with the sizes that its kind has.

    A retired one stays for the steps that were done on it and is offered no more.
    """

    __tablename__ = "station"
    __table_args__ = (
        one_of("kind", STATION_KINDS),
        one_of("power_kind", POWER_KINDS),
        one_of("heater", HEATERS),
        CheckConstraint("power_kw between 0.2 and 20", name="power_kw_possible"),
        CheckConstraint("basket_l between 0.5 and 100", name="basket_l_possible"),
        CheckConstraint("pan_l between 0.5 and 100", name="pan_l_possible"),
        CheckConstraint("jars between 1 and 60", name="jars_possible"),
        CheckConstraint("trays between 1 and 40", name="trays_possible"),
        CheckConstraint("tray_cm2 between 50 and 10000", name="tray_cm2_possible"),
        CheckConstraint("tray_mm between 3 and 60", name="tray_mm_possible"),
        CheckConstraint("tray_kg between 0.1 and 10", name="tray_kg_possible"),
    )
    kind: Mapped[str] = mapped_column(String(16))
    name: Mapped[str] = mapped_column(String(80))
    position: Mapped[int]
    basket_l: Mapped[float | None]
    pan_l: Mapped[float | None]
    power_kw: Mapped[float | None]
    power_kind: Mapped[str | None] = mapped_column(String(12))
    jars: Mapped[int | None]
    heater: Mapped[str | None] = mapped_column(String(8))
    trays: Mapped[int | None]
    tray_cm2: Mapped[float | None]
    tray_mm: Mapped[float | None]
    tray_kg: Mapped[float | None]
    retired: Mapped[bool] = mapped_column(default=False)
