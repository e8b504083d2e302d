"""People, their sessions and browsers, and tries to sign in."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, ForeignKey, Index, String
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Json, Owned, code_type, one_of

ROLES = ("keeper", "helper", "guest")


class Person(Owned, Base):
    """Someone of a household; password_hash is Argon2id.

    hours: when they cook, "from" and "to" as "HH:MM" of the kitchen's day, and "days" of the week.
    """

    __tablename__ = "person"
    __table_args__ = (one_of("role", ROLES),)
    name: Mapped[str] = mapped_column(String(80))
    sign_in: Mapped[str] = mapped_column(code_type(80), unique=True)
    password_hash: Mapped[str] = mapped_column(code_type(200))
    role: Mapped[str] = mapped_column(String(12))
    hours: Mapped[Json | None]


class Session(Owned, Base):
    """A signed-in browser; only the hash of its token is kept."""

    __tablename__ = "session"
    token_hash: Mapped[str] = mapped_column(code_type(64), unique=True)
    person_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("person.id", ondelete="CASCADE"), index=True
    )
    created_at: Mapped[datetime]
    expires_at: Mapped[datetime]


class KnownBrowser(Owned, Base):
    """A browser in which a person has signed in before; only the hash of its token is kept."""

    __tablename__ = "known_browser"
    token_hash: Mapped[str] = mapped_column(code_type(64), unique=True)
    person_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("person.id", ondelete="CASCADE"), index=True
    )
    seen_at: Mapped[datetime]


class SignInTry(Base):
    """A try to sign in, for a quarter of an hour; whence: hash of a name and a place."""

    __tablename__ = "sign_in_try"
    __table_args__ = (Index(None, "whence", "at"),)
    id: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=True)
    whence: Mapped[str] = mapped_column(code_type(64))
    at: Mapped[datetime]
