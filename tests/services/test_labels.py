"""What a label says: what is in the jar, how it is thinned, and what to know before opening it."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.services.cooking import steps
from elderberry.services.errors import NotFound
from elderberry.services.household import furnishing
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.shelf import labels
from elderberry.services.shelf.labels import LabelView
from elderberry.services.who import Who
from tests.factories import Work, household, reading


@pytest.fixture
def who(orm: Orm) -> Who:
    return household(orm)


def bottled(orm: Orm, who: Who, *lines: str, keep: str = "chill") -> Work:
    """Two pints of what was written down, worked through as it says."""
    inputs = tuple(GoesIn(line=line) for line in lines)
    work = Work(orm, who, PlanRequest(inputs, (End("fill", keep, ("pint",)),)))
    for at in range(0, 4000, 200):
        folder = work.folder
        step = next((o for o in folder.operations if folder.phase(o) != "done"), None)
        if step is None or step.kind == "seal_check":
            return work
        if step.kind != "cool":
            work.do(step.key, at)
        if step.kind in {"boil_through", "process"}:
            work.do(step.key, at + 10, lambda made: steps.boil(made, reached=True))
        said: dict[str, object] = {}
        if step.kind == "fill":
            said["jars"] = (steps.JarEntry("pint", 2),)
        if step.kind in {"heat_to", "boil_through"}:
            said["readings"] = (reading("temp_c", 96, "thermometer"),)
        work.finish(step.key, at + 195, **said)
    raise AssertionError("it does not end")


def label(orm: Orm, work: Work) -> LabelView:
    """The label of the first jar."""
    return labels.shown(orm, work.who, [work.folder.jars[0].id], "http://here")[0]


def parts(made: LabelView) -> dict[str, float]:
    """What is said to be in it [% of mass]."""
    of = next(x for x in made.lines if x.startswith("Of ")).removeprefix("Of ")
    return {p.rsplit(" ", 2)[0]: float(p.rsplit(" ", 2)[1]) for p in of.split(", ")}


def test_each_thing_once_the_most_first(orm: Orm, who: Who) -> None:
    """Water of the steam and water that was stirred in are the same to whoever drinks it."""
    made = label(orm, bottled(orm, who, "2 kg damsons", "900 g sugar", "1 l water", keep="freeze"))
    shares = parts(made)
    assert list(shares) == ["water", "white sugar", "damson juice"]
    assert [*shares.values()] == sorted(shares.values(), reverse=True)
    assert sum(shares.values()) == pytest.approx(100, abs=2)
    assert made.lines[0] == "Keep frozen."
    assert made.days.startswith("made 4 Oct 2026, best by ")
    furnishing.change_kitchen(orm, who, {"units": "us"})
    again = labels.shown(orm, who, [made.jar_id], "http://here")[0]
    assert any("cups" in x and "lb" in x and "of sugar in 100 g" in x for x in again.lines)


def test_what_whoever_opens_it_has_to_know(orm: Orm, who: Who) -> None:
    made = label(orm, bottled(orm, who, "3 kg elderberries", "20 g honey"))
    assert made.lines[:3] == [
        "Honey: not for children under one year.", "Elder, cooked: never eaten raw.", "Keep cold.",
    ]  # fmt: skip
    assert "honey" in parts(made), "however little it is"
    assert made.days.endswith("2026"), "what keeps for days says its day"


def test_what_is_strong_says_how_it_is_thinned(orm: Orm, who: Who) -> None:
    made = label(orm, bottled(orm, who, "3 kg blackcurrants", "1.2 kg sugar"))
    assert "Thin 1 part with 4 of water." in made.lines
    shelf = label(orm, bottled(orm, who, "3 kg damsons", keep="shelf"))
    assert not [x for x in shelf.lines if x.startswith("Keep")]


def test_a_jar_that_is_not_there_has_none(orm: Orm, who: Who) -> None:
    with pytest.raises(NotFound):
        labels.shown(orm, who, [999_999], "http://here")
