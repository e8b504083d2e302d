"""How a flow can be edited, and what comes of each edit, is as it was before.

For every method: what can be done to each lot, what can stand for each step, and what the flow is
once a step is taken out, moved, or a lot is parted.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

import pytest

from elderberry.core.errors import CoreError
from elderberry.core.flow import edits, wiring
from elderberry.core.flow.wiring import Steps
from elderberry.core.method import method, methods
from tests.facts import Book


def said(steps: Steps) -> str:
    """A flow in a line: each step with what it takes and gives."""
    return "; ".join(f"{s.key} {'+'.join(s.takes)}>{'+'.join(s.gives)}" for s in steps)


def tried(edit: Callable[[], Steps], usual: Steps) -> str:
    """The steps that an edit makes others of, or why it cannot be."""
    try:
        steps = edit()
    except CoreError as refused:
        return str(refused)
    there = {s.key for s in steps}
    changed = tuple(s for s in steps if s not in usual)
    gone = " ".join(s.key for s in usual if s.key not in there)
    order = "" if [s for s in steps if s in usual] == [s for s in usual if s in steps] else " moved"
    return f"{said(changed)}{f' without {gone}' if gone else ''}{order}"


def of_method(key: str) -> Iterator[str]:
    """Every edit of a method, and what comes of it."""
    which = method(key)
    steps, goes_in = which.steps, which.begins_with
    for lot in wiring.lot_kinds(steps, goes_in):
        yield f"{lot} may: {' '.join(edits.may_follow(steps, lot, goes_in))}"
        yield f"{lot} parted: {tried(partial(edits.part, steps, lot, goes_in), steps)}"
    for step in steps:
        for other, chain in edits.may_replace(steps, step.key, goes_in).items():
            swapped = tried(partial(edits.swap, steps, step.key, other, goes_in), steps)
            yield f"{step.key} as {other} ({' '.join(chain)}): {swapped}"
        yield f"{step.key} out: {tried(partial(edits.remove, steps, step.key, goes_in), steps)}"
        for later in (True, False):
            moved = tried(partial(edits.move, steps, step.key, later, goes_in), steps)
            yield f"{step.key} {'later' if later else 'sooner'}: {moved}"


BOOK = Book(__file__, "edited.txt", methods())


@pytest.mark.parametrize("key", sorted(methods()))
def test_a_flow_is_edited_as_it_was(key: str) -> None:
    BOOK.holds(key, of_method(key))
