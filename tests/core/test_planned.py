"""What a plan and a sum say today is what they said before, to four figures and to the word.

They stand in planned.txt and are written anew as every Book of tests/facts.py is.
"""

from __future__ import annotations

from collections.abc import Iterator
from inspect import signature

import pytest

from elderberry.core.ends import PlannedEnd
from elderberry.core.errors import CoreError
from elderberry.core.flow.lots import Lot
from elderberry.core.flow.steps import Operation
from elderberry.core.method import methods
from elderberry.core.quantities import System
from tests.api.test_bench import ASKED, RECKONED, USUAL
from tests.briefs import a_kitchen
from tests.core.test_ways import made
from tests.facts import Book, said

KG = 3.0
SYSTEMS: tuple[System, ...] = ("metric", "us")


def of_method(key: str) -> Iterator[str]:
    """What is planned by a method for three kilos of its fruit."""
    laid = made(key, KG)
    for operation in laid.operations:
        yield f"step {operation.key}: {' '.join(of_step(operation).values())}"
    for name, lot in laid.lots.items():
        yield f"lot {name}: {', '.join(of_lot(lot).values())}"
    for end in laid.ends:
        yield f"end {end.end.key}: {' '.join(of_end(end).values())}"


def of_step(operation: Operation) -> dict[str, str]:
    """What a step says of itself, by what it speaks of."""
    told = operation.told()
    return {
        "kind": operation.kind,
        "minutes": said(operation.minutes),
        "params": said(operation.params),
        "words": f"{told['title']}; {told['before']}",
    }


def of_lot(lot: Lot) -> dict[str, str]:
    """What there is of a lot, by what is said of it."""
    figures = {n: _figure(lot, n) for n in ("mass_g", "volume_ml", "brix", "ph")}
    return {"kind": lot.kind, "name": lot.name, "clarity": lot.clarity, "figures": said(figures)}


def of_end(end: PlannedEnd) -> dict[str, str]:
    """What comes of it, by what is said of it."""
    time, found = end.process_time, end.verdict.findings
    return {
        "product": end.product,
        "keep": end.keep,
        "litres": said(end.litres),
        "expected": said(end.expected),
        "generous": said(end.generous),
        "head": f"{said(end.headspace_mm)} mm",
        "time": f"{time.row.key} {time.minutes} min to {time.row.max_ph}" if time else "no time",
        "life": f"{end.life.state} {end.life.product}",
        "findings": " ".join(f"{f.id}→{f.change}" if f.change else f.id for f in found),
    }


def _figure(lot: Lot, name: str) -> object:
    """A figure of a lot; None where it has none, as sugar has no pH."""
    try:
        return getattr(lot.figures, name)
    except CoreError:
        return None


def of_sum(name: str) -> Iterator[str]:
    """What a sum of the Bench answers."""
    asked = USUAL.get(name, {}) | ASKED[name]
    for system in SYSTEMS:
        here = {"here": a_kitchen(585.0, units=system)}
        more = here if "here" in signature(RECKONED[name]).parameters else {}
        yield f"{system}: {said(RECKONED[name](**asked, **more))}"


BOOK = Book(__file__, "planned.txt", [*methods(), *RECKONED], " ")


@pytest.mark.parametrize("key", sorted(methods()))
def test_a_plan_says_what_it_said(key: str) -> None:
    BOOK.holds(key, of_method(key))


@pytest.mark.parametrize("name", RECKONED)
def test_a_sum_says_what_it_said(name: str) -> None:
    BOOK.holds(name, of_sum(name))
