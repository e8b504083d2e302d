"""Batches, their operations, and how lots go through them."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, Index, String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.core.batch.lifecycle import Phase
from elderberry.store.base import Base, Json, Owned, code_type, one_of

SIDES = ("in", "out")


class Batch(Owned, Base):
    """One run of a method; what stands here is the plan, what happened are its events.

    brief: what goes in and its ends, as the core reads them (services/cooking/stored.py).
    method: the method as it was then; empty where the one that ships is meant.
    process: the tested time the plan was made with, or empty.
    version: counts the changes, so that a screen can tell whether it is behind.
    finished: whether every step is over, as its events amount to; material: what it began with.
    last_press: what the newest press did (store/trace.py), with who pressed, at which step and
    when; empty once it was taken back.
    touched: how often it, or a row of it, became another (store/telling.py).
    taught: a digest of what it taught the next one last, or empty.
    """

    __tablename__ = "batch"
    __table_args__ = (
        UniqueConstraint("household_id", "code"),
        Index(None, "household_id", "finished"),
        Index(None, "household_id", "material"),
    )
    code: Mapped[str] = mapped_column(code_type(24))
    title: Mapped[str] = mapped_column(String(120))
    method_key: Mapped[str] = mapped_column(String(60))
    method_version: Mapped[int]
    brief: Mapped[Json]
    method: Mapped[Json]
    predicted: Mapped[Json]
    process: Mapped[Json]
    started_at: Mapped[datetime]
    started_by: Mapped[int] = mapped_column(BigInteger, ForeignKey("person.id"))
    version: Mapped[int] = mapped_column(default=1)
    finished: Mapped[bool] = mapped_column(default=False)
    material: Mapped[str] = mapped_column(String(40))
    last_press: Mapped[Json] = mapped_column(default=dict)
    touched: Mapped[int] = mapped_column(default=0, server_default="0")
    taught: Mapped[str] = mapped_column(code_type(64), default="", server_default="")


class Operation(Owned, Base):
    """One step of a batch as planned; its state is what its events amount to.

    phase: where it stands by them, kept here so that what runs is one query.
    """

    __tablename__ = "operation"
    __table_args__ = (
        UniqueConstraint("batch_id", "key"),
        Index(None, "household_id", "phase"),
        one_of("phase", Phase),
        CheckConstraint("minutes_lo <= minutes and minutes <= minutes_hi", name="minutes_rise"),
    )
    batch_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("batch.id", ondelete="CASCADE"), index=True
    )
    position: Mapped[int]
    key: Mapped[str] = mapped_column(String(40))
    kind: Mapped[str] = mapped_column(String(24))
    station_id: Mapped[int | None] = mapped_column(BigInteger, ForeignKey("station.id"))
    minutes_lo: Mapped[float]
    minutes: Mapped[float]
    minutes_hi: Mapped[float]
    params: Mapped[Json]
    phase: Mapped[str] = mapped_column(String(12), default=Phase.WAITING)


class OperationLot(Owned, Base):
    """An edge of the flow: a lot goes into an operation, or comes out of it."""

    __tablename__ = "operation_lot"
    __table_args__ = (UniqueConstraint("operation_id", "lot_id", "side"), one_of("side", SIDES))
    operation_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("operation.id", ondelete="CASCADE"), index=True
    )
    lot_id: Mapped[int] = mapped_column(
        BigInteger, ForeignKey("lot.id", ondelete="CASCADE"), index=True
    )
    side: Mapped[str] = mapped_column(String(4))
