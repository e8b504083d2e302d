"""The declarative base, the time type and the helpers every table shares."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import JSON, BigInteger, CheckConstraint, Double, ForeignKey, MetaData, String
from sqlalchemy.dialects.mysql import DATETIME
from sqlalchemy.engine import Dialect
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column
from sqlalchemy.types import TypeDecorator

Json = dict[str, Any]


class UtcDateTime(TypeDecorator[datetime]):
    """A moment, stored as UTC with microseconds and always aware in Python."""

    impl = DATETIME(fsp=6)
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:  # noqa: ARG002
        """To naive UTC; a naive moment is a mistake."""
        if value is None:
            return None
        if value.tzinfo is None:
            raise ValueError("a moment without a zone cannot be stored")
        return value.astimezone(UTC).replace(tzinfo=None)

    def process_result_value(self, value: datetime | None, dialect: Dialect) -> datetime | None:  # noqa: ARG002
        """Back to aware UTC."""
        return None if value is None else value.replace(tzinfo=UTC)


class Base(DeclarativeBase):
    """Base of all tables; constraints are named so that migrations can speak of them."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {datetime: UtcDateTime, Json: JSON, float: Double}  # noqa: RUF012


class Owned:
    """A row that belongs to a household."""

    id: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=True)
    household_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("household.id", ondelete="CASCADE"), index=True
    )


def one_of(column: str, words: Iterable[str]) -> CheckConstraint:
    """A check that a column holds one of a few words."""
    listed = ", ".join(f"'{word}'" for word in words)
    return CheckConstraint(f"{column} in ({listed})", name=f"{column}_known")


def code_type(length: int) -> String:
    """Codes and tokens compare byte by byte: no case, accent or trailing-space folding."""
    return String(length, collation="utf8mb4_bin")
