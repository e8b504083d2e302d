"""A step is done another way in one move, with all that the other way needs."""

from __future__ import annotations

import pytest

from elderberry.core.errors import DoesNotConnect
from elderberry.core.flow import edits, wiring
from elderberry.core.method import method, methods


def kinds_of(steps: wiring.Steps) -> list[str]:
    return [s.kind for s in steps]


@pytest.mark.parametrize(
    ("key", "step", "other", "flow"),
    [
        ("steam_juiced", "steam_juice", "press", ["mash", "press", "sterilise", "heat_to", "fill"]),
        ("steam_juiced", "steam_juice", "simmer",
         ["simmer", "drain", "sterilise", "heat_to", "fill"]),
        ("mashed_pressed", "press", "drain",
         ["soak", "mash", "drain", "strain", "heat_to", "fill"]),
        ("mashed_pressed", "mash", "steam_juice",
         ["soak", "steam_juice", "strain", "heat_to", "fill"]),
        ("blended", "drain", "press", ["blend", "press", "heat_to", "fill"]),
        ("bought_juice", "strain", "settle", ["settle", "sterilise", "heat_to", "fill"]),
    ],
)  # fmt: skip
def test_a_step_is_replaced_with_all_that_the_other_way_needs(
    key: str, step: str, other: str, flow: list[str]
) -> None:
    chosen = method(key)
    assert kinds_of(edits.swap(chosen.steps, step, other, chosen.begins_with)) == flow


def test_what_is_offered_instead_can_be_done() -> None:
    offered = 0
    for chosen in methods().values():
        begins = chosen.begins_with
        for step in chosen.steps:
            for other, chain in edits.may_replace(chosen.steps, step.key, begins).items():
                made = edits.swap(chosen.steps, step.key, other, begins)
                assert {*chain} <= {*kinds_of(made)}
                assert other in chain
                offered += 1
    assert offered > 200


def test_what_hangs_on_the_pomace_stays_and_what_joins_is_not_lost() -> None:
    gooseberry = method("weighted_gooseberry")
    made = edits.swap(gooseberry.steps, "drain_cold", "press", gooseberry.begins_with)
    assert "press_again" in kinds_of(made)
    for chosen in methods().values():
        joins = {i.key for i in chosen.inputs}
        for step in chosen.steps:
            for other in edits.may_replace(chosen.steps, step.key, chosen.begins_with):
                made = edits.swap(chosen.steps, step.key, other, chosen.begins_with)
                named = {lot for s in chosen.steps for lot in s.takes} & joins
                assert named <= {lot for s in made for lot in s.takes}


@pytest.mark.parametrize(
    ("key", "step", "other"),
    [
        ("steam_juiced", "fill", "strain"),
        ("steam_juiced", "steam_juice", "strain"),
        ("steam_juiced", "steam_juice", "steam_juice"),
        ("steam_juiced", "nothing", "press"),
        ("bought_juice", "strain", "combine"),
        ("blackcurrant_two_ways", "split", "strain"),
    ],
)
def test_what_cannot_stand_for_a_step_is_refused(key: str, step: str, other: str) -> None:
    chosen = method(key)
    with pytest.raises(DoesNotConnect):
        edits.swap(chosen.steps, step, other, chosen.begins_with)
