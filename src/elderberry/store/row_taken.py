"""Rows of files that were taken in, so that the same file twice changes nothing."""

from __future__ import annotations

from sqlalchemy import String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned, code_type


class RowTaken(Owned, Base):
    """A row that was taken in: of which table, and what stood in it as a hash.

    The same row a second time in one file has another number in its hash.
    """

    __tablename__ = "row_taken"
    __table_args__ = (UniqueConstraint("household_id", "sheet", "hash"),)
    sheet: Mapped[str] = mapped_column(String(16))
    hash: Mapped[str] = mapped_column(code_type(64))
