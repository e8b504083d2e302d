"""Jars in stock, and filled ones."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, Index, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.core.batch.lifecycle import Seal
from elderberry.core.shelf.life import Lives
from elderberry.store.base import Base, Json, Owned, code_type, one_of

FAR_OFF = date(9999, 12, 31)
"""The day of what has none, so that it stands behind everything that has one."""


class JarStock(Owned, Base):
    """Empty jars of a kind, and new lids for them, of the packet that is in use."""

    __tablename__ = "jar_stock"
    __table_args__ = (
        UniqueConstraint("household_id", "jar_kind"),
        CheckConstraint("jars >= 0", name="jars_not_negative"),
        CheckConstraint("lids >= 0", name="lids_not_negative"),
    )
    jar_kind: Mapped[str] = mapped_column(String(24))
    jars: Mapped[int]
    lids: Mapped[int]
    packet: Mapped[str] = mapped_column(String(40), default="")


class LidStock(Owned, Base):
    """Lids for a kind of jar that are counted by themselves.

    closure: what they are, empty for new ones of the usual kind; colour: by name, empty for any;
    packet: what is printed on the one in use.
    """

    __tablename__ = "lid_stock"
    __table_args__ = (
        UniqueConstraint("household_id", "jar_kind", "closure", "colour"),
        CheckConstraint("lids >= 0", name="lids_not_negative"),
    )
    jar_kind: Mapped[str] = mapped_column(String(24))
    closure: Mapped[str] = mapped_column(String(12))
    colour: Mapped[str] = mapped_column(String(12))
    lids: Mapped[int]
    packet: Mapped[str] = mapped_column(String(40), default="")


class Stack(Owned, Base):
    """Like jars on one place, so that a shelf of a hundred thousand is read by its stacks.

    key: what they have in common; jars, ml, best_by and first_jar_id (the one to use first) are
    what its jars amount to, kept as they come and go.
    """

    __tablename__ = "stack"
    __table_args__ = (
        UniqueConstraint("household_id", "key"),
        Index(None, "household_id", "place_id", "best_by", "id"),
        Index(None, "household_id", "label", "place_id", "jar_kind", "jars"),
    )
    place_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("place.id", ondelete="CASCADE"), index=True
    )
    key: Mapped[str] = mapped_column(code_type(64))
    label: Mapped[str] = mapped_column(String(120))
    jar_kind: Mapped[str] = mapped_column(String(24), server_default="")
    fruit: Mapped[str] = mapped_column(String(40))
    jars: Mapped[int]
    ml: Mapped[float]
    best_by: Mapped[date]
    first_jar_id: Mapped[int] = mapped_column(BigInteger)


class Jar(Owned, Base):
    """One filled container.

    seal, place_id and placed_at are what its events amount to, kept here so that a shelf of
    thousands is one query; process is the record of the process it went through, or empty.
    contents: what is in it as it was filled: its product, how it keeps, its Brix and origins.
    lid: the colour of its lid by name; empty for its own. best_by: until when it is at its best
    where it stands, FAR_OFF where no clock holds; gone: empty for good; fell_short: whether its
    process is not enough for what is known since; own_vessel: one of the household's own vessels.
    lives: where it is in its life; left_ml: what is left of one that was poured from; ended_on: the
    day it was emptied, given or thrown away; held: nobody takes it until it was looked at; fruit:
    the first fruit in it, or empty; packet: of its lid; stack_id: the like jars it stands with.
    A jar that was there already is of no batch and no lot.
    """

    __tablename__ = "jar"
    __table_args__ = (
        UniqueConstraint("household_id", "code"),
        one_of("seal", Seal),
        CheckConstraint("fill_ml > 0", name="fill_ml_positive"),
        Index(None, "household_id", "place_id", "best_by", "code"),
        Index(None, "household_id", "best_by"),
        Index(None, "household_id", "own_vessel", "gone"),
        Index(None, "household_id", "fell_short"),
        Index(None, "stack_id", "best_by", "code"),
        Index(None, "household_id", "fruit", "label", "lives", "ended_on"),
        Index(None, "household_id", "fruit", "label", "filled_at"),
        Index(None, "household_id", "held"),
        Index(None, "household_id", "packet"),
        one_of("lives", Lives),
        CheckConstraint("left_ml >= 0", name="left_not_negative"),
    )
    batch_id: Mapped[int | None] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE"), index=True
    )
    lot_id: Mapped[int | None] = mapped_column(BigInteger, ForeignKey("lot.id"))
    code: Mapped[str] = mapped_column(code_type(32))
    label: Mapped[str] = mapped_column(String(120))
    jar_kind: Mapped[str] = mapped_column(String(24))
    fill_ml: Mapped[float]
    part_filled: Mapped[bool]
    canner_load: Mapped[int]
    seal: Mapped[str] = mapped_column(String(12))
    place_id: Mapped[int | None] = mapped_column(BigInteger, ForeignKey("place.id"), index=True)
    placed_at: Mapped[datetime]
    filled_at: Mapped[datetime]
    process: Mapped[Json]
    contents: Mapped[Json]
    lid: Mapped[str] = mapped_column(String(12), default="")
    best_by: Mapped[date] = mapped_column(default=FAR_OFF)
    gone: Mapped[bool] = mapped_column(default=False)
    fell_short: Mapped[bool] = mapped_column(default=False)
    own_vessel: Mapped[bool] = mapped_column(default=False)
    lives: Mapped[str] = mapped_column(String(12), default=Lives.MADE)
    left_ml: Mapped[float | None]
    opened_at: Mapped[datetime | None]
    ended_on: Mapped[date | None]
    held: Mapped[bool] = mapped_column(default=False)
    fruit: Mapped[str] = mapped_column(String(40), default="")
    packet: Mapped[str] = mapped_column(String(40), default="")
    stack_id: Mapped[int | None] = mapped_column(
        BigInteger, ForeignKey("stack.id", ondelete="SET NULL")
    )

    @property
    def there_ml(self) -> float:
        """What is in it now: all of it, as long as nobody poured from it [mL]."""
        return self.fill_ml if self.left_ml is None else self.left_ml
