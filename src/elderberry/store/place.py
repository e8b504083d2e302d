"""Places where jars live."""

from __future__ import annotations

from datetime import date

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Json, Owned, one_of

PLACE_KINDS = ("shelf", "cellar", "refrigerator", "freezer")


class Place(Owned, Base):
    """A shelf, cellar, refrigerator or freezer with its temperature [°C], light and room [L].

    temp_c is its mean over the year, swing_c how much warmer its warmest day is [°C] and
    warmest_day which day of the year that is. jars, jars_ml: how many jars stand there and
    what they hold, kept as they come and go.
    """

    __tablename__ = "place"
    __table_args__ = (
        one_of("kind", PLACE_KINDS),
        CheckConstraint("temp_c between -40 and 45", name="temp_c_possible"),
        CheckConstraint("swing_c between 0 and 20", name="swing_c_possible"),
        CheckConstraint("warmest_day between 1 and 366", name="warmest_day_possible"),
        CheckConstraint("room_l between 0 and 2000", name="room_l_possible"),
    )
    name: Mapped[str] = mapped_column(String(80))
    kind: Mapped[str] = mapped_column(String(16))
    position: Mapped[int]
    temp_c: Mapped[float]
    light: Mapped[bool]
    room_l: Mapped[float | None]
    swing_c: Mapped[float] = mapped_column(default=0.0)
    warmest_day: Mapped[int] = mapped_column(default=205)
    jars: Mapped[int] = mapped_column(default=0)
    jars_ml: Mapped[float] = mapped_column(default=0.0)


class PlaceDay(Owned, Base):
    """What a thermometer at a place showed on a day: temperatures [°C] by the time of the day."""

    __tablename__ = "place_day"
    __table_args__ = (UniqueConstraint("place_id", "day"),)
    place_id: Mapped[int] = mapped_column(BigInteger, ForeignKey("place.id", ondelete="CASCADE"))
    day: Mapped[date]
    temps: Mapped[Json]
