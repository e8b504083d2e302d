"""The layout of a batch is made once for all who look at it, and anew for whatever changes it."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from elderberry.core.batch.laid import LaidOut, ToLay
from elderberry.core.flow.seen import Seen, StepSeen
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.method import method
from elderberry.core.plan import Plan
from elderberry.core.process import OwnProcess
from tests.briefs import load

HERE = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": 24, "quart": 6})


def as_asked() -> ToLay:
    """All of it made anew, as each request makes it from its rows."""
    return ToLay(method("steam_juiced"), load("quince", 3.5), replace(HERE), {}, {}, {}, {})


def look(batch: LaidOut, wanted: ToLay) -> Plan | None:
    """A batch as it is laid out for whoever looks at it."""
    return batch.made(wanted, wanted.plan)


def test_who_looks_again_finds_it_laid_out(laid: list[object]) -> None:
    batch = LaidOut()
    first = look(batch, as_asked())
    assert first is not None
    assert look(batch, as_asked()) is first
    assert len(laid) == 1


OTHERWISE: dict[str, dict[str, Any]] = {
    "read": {"seen": {"juice": Seen(brix=12.5)}},
    "boiled": {"done": {"heat": StepSeen(boiled_min=6.0)}},
    "a jar fewer": {"kitchen": replace(HERE, jar_stock={**HERE.jar_stock, "pint": 1})},
    "higher up": {"kitchen": replace(HERE, altitude_m=1480.0)},
    "another amount": {"brief": load("quince", 3.6)},
    "more in it": {"brief": load("quince", 3.5, ingredients_g={"honey": 120})},
    "another way": {"method": method("steamed_quince")},
    "a process of ones own": {
        "own": {"quince": OwnProcess("quince", 500, {900: 25}, 4.0, "county office", "2026-10-01")}
    },
}


@pytest.mark.parametrize("what", OTHERWISE)
def test_whatever_is_otherwise_lays_it_out_anew(what: str, laid: list[object]) -> None:
    batch = LaidOut()
    before = look(batch, as_asked())
    after = look(batch, replace(as_asked(), **OTHERWISE[what]))
    assert after is not before
    assert len(laid) == 2


def test_what_cannot_be_laid_out_is_not_tried_again(laid: list[object]) -> None:
    batch = LaidOut()
    none_left = replace(as_asked(), brief=load("quince", 3.5, loads=0))
    assert look(batch, none_left) is None
    assert look(batch, none_left) is None
    assert len(laid) == 1
