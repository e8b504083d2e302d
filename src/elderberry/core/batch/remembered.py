"""What is found of a step of a batch once, since a batch under way is looked at, never changed."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import TypeVar

from elderberry.core.batch.rows import OperationRow

Batch = TypeVar("Batch")
Found = TypeVar("Found")


def of_step(find: Callable[[Batch, OperationRow], Found]) -> Callable[[Batch, OperationRow], Found]:
    """A method that finds something of a step, and remembers what it found by the step's id."""
    name = f"_{find.__name__}_of_steps"

    @wraps(find)
    def remembered(batch: Batch, operation: OperationRow) -> Found:
        known: dict[int, Found] = batch.__dict__.setdefault(name, {})
        if operation.id not in known:
            known[operation.id] = find(batch, operation)
        return known[operation.id]

    return remembered
