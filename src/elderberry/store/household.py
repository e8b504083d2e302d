"""Households and their kitchens."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import JSON, BigInteger, CheckConstraint, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned, one_of

UNITS = ("metric", "us", "imperial")


class Household(Base):
    """Who cooks together and shares a shelf; nobody else ever sees it.

    furnished: how often each of its small tables became another (store/telling.py).
    """

    __tablename__ = "household"
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=True)
    name: Mapped[str] = mapped_column(String(120))
    created_at: Mapped[datetime]
    furnished: Mapped[dict[str, int]] = mapped_column(JSON, default=dict, server_default="{}")


class Kitchen(Owned, Base):
    """Where a household cooks: altitude [m], or unknown, and its time zone.

    pressure_pa: a barometer's reading that overrules the altitude for boiling points; hardness of
    the water as CaCO₃ [mg/L]; humidity of its air [%]; units and cup that figures are shown in;
    instruments there are;
    containers of its own, such as what a crate holds [g].
    """

    __tablename__ = "kitchen"
    __table_args__ = (
        CheckConstraint("altitude_m between -430 and 9000", name="altitude_m_on_earth"),
        CheckConstraint("pressure_pa between 30000 and 110000", name="pressure_pa_on_earth"),
        CheckConstraint("hardness_mg_l between 0 and 600", name="hardness_mg_l_possible"),
        CheckConstraint("humidity_pct between 5 and 100", name="humidity_pct_possible"),
        one_of("units", UNITS),
        one_of("cup", UNITS),
    )
    name: Mapped[str] = mapped_column(String(120))
    altitude_m: Mapped[float | None]
    time_zone: Mapped[str] = mapped_column(String(64))
    pressure_pa: Mapped[float | None]
    hardness_mg_l: Mapped[float | None]
    humidity_pct: Mapped[float | None]
    units: Mapped[str] = mapped_column(String(12), default="metric")
    cup: Mapped[str] = mapped_column(String(12), default="metric")
    instruments: Mapped[list[str]] = mapped_column(
        JSON, default=lambda: ["thermometer", "jug", "scale"]
    )
    containers: Mapped[dict[str, float]] = mapped_column(JSON, default=dict)
