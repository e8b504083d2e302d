"""What jars were found to be like when they were tasted."""

from __future__ import annotations

from sqlalchemy import BigInteger, ForeignKey, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.core.shelf.tasting import VERDICTS
from elderberry.store.base import Base, Owned, one_of


class Tasted(Owned, Base):
    """A tasting: the clock it was tasted by, and how far that had run [d at its reference]."""

    __tablename__ = "tasted"
    __table_args__ = (one_of("verdict", VERDICTS),)
    jar_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("jar.id", ondelete="CASCADE"), index=True
    )
    state: Mapped[str] = mapped_column(String(24))
    product: Mapped[str] = mapped_column(String(48))
    aged_d: Mapped[float]
    verdict: Mapped[str] = mapped_column(String(8))
