"""Places where jars live."""

from __future__ import annotations

from sqlalchemy import CheckConstraint, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned, one_of

PLACE_KINDS = ("shelf", "cellar", "refrigerator", "freezer")


class Place(Owned, Base):
    """A shelf, cellar, refrigerator or freezer with its temperature [°C], light and room [L].

    jars, jars_ml: how many jars stand there and what they hold, kept as they come and go.
    """

    __tablename__ = "place"
    __table_args__ = (
        one_of("kind", PLACE_KINDS),
        CheckConstraint("temp_c between -40 and 45", name="temp_c_possible"),
        CheckConstraint("room_l between 0 and 2000", name="room_l_possible"),
    )
    name: Mapped[str] = mapped_column(String(80))
    kind: Mapped[str] = mapped_column(String(16))
    position: Mapped[int]
    temp_c: Mapped[float]
    light: Mapped[bool]
    room_l: Mapped[float | None]
    jars: Mapped[int] = mapped_column(default=0)
    jars_ml: Mapped[float] = mapped_column(default=0.0)
