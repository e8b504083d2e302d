"""Changes that were asked for under a key, with what was answered, so that each is made once."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, ForeignKey, SmallInteger, String, UniqueConstraint
from sqlalchemy.dialects.mysql import MEDIUMBLOB
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned, code_type


class ChangeMade(Owned, Base):
    """A change under its retry key: who asked for what, and what was answered.

    what: verb and address; sent: SHA-256 of its content; answer: the body, packed by zlib.
    """

    __tablename__ = "change_made"
    __table_args__ = (UniqueConstraint("household_id", "retry_key"),)
    retry_key: Mapped[str] = mapped_column(code_type(64))
    person_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("person.id", ondelete="CASCADE"), index=True
    )
    what: Mapped[str] = mapped_column(String(240))
    sent: Mapped[str] = mapped_column(code_type(64))
    at: Mapped[datetime] = mapped_column(index=True)
    status: Mapped[int] = mapped_column(SmallInteger)
    answer: Mapped[bytes] = mapped_column(MEDIUMBLOB)
