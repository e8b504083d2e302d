"""Private addresses at which a calendar program fetches what falls due."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned, code_type


class Feed(Owned, Base):
    """The address of one person's calendar; only the hash of its token is kept."""

    __tablename__ = "feed"
    token_hash: Mapped[str] = mapped_column(code_type(64), unique=True)
    person_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("person.id", ondelete="CASCADE"), unique=True
    )
    made_at: Mapped[datetime]
