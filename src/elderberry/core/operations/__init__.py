"""How each kind of step is laid out: one function a way of working, named by the kind's data."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

from elderberry.core.errors import CoreError
from elderberry.core.flow.draft import Draft
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.steps import Step
from elderberry.core.operations import (
    clearing,
    drying,
    extracting,
    filling,
    preparing,
    reducing,
    stretching,
    sugarwork,
    sweetening,
)

Apply = Callable[[Draft, Step], Draft]
_ROOMS = {
    m.__name__.rpartition(".")[2]: m
    for m in (
        preparing, extracting, clearing, sweetening, sugarwork, stretching, reducing,
        drying, filling,
    )
}  # fmt: skip


@cache
def laying(does: str) -> Apply:
    """The function that a kind's data names, such as "extracting.drain".

    Raises:
        CoreError: there is no such function.
    """
    room, _, name = does.partition(".")
    found = getattr(_ROOMS.get(room), name, None)
    if found is None:
        raise CoreError(f"nothing lays out a step by {does or 'itself'}")
    made: Apply = found
    return made


def apply(draft: Draft, step: Step) -> Draft:
    """The draft with one more step laid out.

    Raises:
        CoreError: what it takes is not there, or a figure of it cannot be.
    """
    for name in step.takes:
        if draft.given(name) is not None and step.takes[0] == name:
            draft = draft.with_input(name)
    return laying(kind(step.kind).does)(draft, step)
