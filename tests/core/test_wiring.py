"""A flow is edited a step at a time, and never comes apart unnoticed."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core.errors import DoesNotConnect
from elderberry.core.flow import joining, wiring
from elderberry.core.flow.edits import choose, insert, may_follow, move, part, remove
from elderberry.core.flow.inputs import Input, grams
from elderberry.core.flow.said import input_of_line
from elderberry.core.flow.wiring import check, lot_kinds, rows_of, wire
from elderberry.core.lines import read
from elderberry.core.method import method, methods

PLAIN = wire([{"kind": k} for k in ("sort", "mash", "press", "heat_to", "fill")])


def kinds(steps: wiring.Steps) -> list[str]:
    return [s.kind for s in steps]


def test_a_step_takes_what_the_one_before_it_gives() -> None:
    assert [(s.takes, s.gives) for s in PLAIN] == [
        (("fruit",), ("sorted", "sortings")),
        (("sorted",), ("mash",)),
        (("mash",), ("juice", "pomace")),
        (("juice",), ("hot",)),
        (("hot",), ("jars",)),
    ]
    assert check(PLAIN) == PLAIN


@pytest.mark.parametrize("key", sorted(methods()))
def test_stored_steps_come_back_as_they_were(key: str) -> None:
    steps = method(key).steps
    assert wire(wiring.rows_of(steps)) == steps


def test_a_step_is_put_between_two_others() -> None:
    steps = insert(PLAIN, "juice", "strain")
    assert kinds(steps) == ["sort", "mash", "press", "strain", "heat_to", "fill"]
    assert steps[4].takes == ("clear",)
    twice = insert(steps, "clear", "strain")
    assert [s.key for s in twice if s.kind == "strain"] == ["strain", "strain_2"]
    assert twice[4].gives[0] == "clear_2"


def test_a_branch_from_what_nothing_used_joins_the_jars() -> None:
    steps = insert(PLAIN, "pomace", "press_again")
    assert kinds(steps) == ["sort", "mash", "press", "press_again", "heat_to", "fill"]
    assert steps[4].takes == ("juice", "second")
    kept = insert(PLAIN, "pomace", "set_aside")
    assert kept[3].takes == ("pomace",)
    assert kept[4].takes == ("juice",)


def test_taking_a_step_out_takes_what_hung_on_it() -> None:
    branched = insert(PLAIN, "pomace", "press_again")
    assert remove(branched, "press_again") == PLAIN
    assert kinds(remove(insert(PLAIN, "juice", "strain"), "strain")) == kinds(PLAIN)
    assert kinds(remove(PLAIN, "sort")) == ["mash", "press", "heat_to", "fill"]
    bare = remove(remove(PLAIN, "sort"), "mash")
    assert bare[0].takes == ("fruit",)


def test_steps_change_places_along_their_line() -> None:
    steps = insert(insert(PLAIN, "juice", "strain"), "clear", "settle")
    assert kinds(steps)[3:5] == ["strain", "settle"]
    swapped = move(steps, "strain", later=True)
    assert kinds(swapped)[3:5] == ["settle", "strain"]
    assert kinds(move(swapped, "strain", later=False)) == kinds(steps)
    assert swapped[5].takes == ("clear",)


@pytest.mark.parametrize(
    ("act", "words"),
    [
        (lambda: insert(PLAIN, "sorted", "simmer"), "takes fruit, not mash"),
        (lambda: insert(PLAIN, "nowhere", "strain"), "no lot called nowhere"),
        (lambda: remove(PLAIN, "fill"), "has to stay"),
        (lambda: remove(PLAIN, "heat_to"), "has to stay"),
        (lambda: remove(PLAIN, "dance"), "no step called dance"),
        (lambda: move(PLAIN, "sort", later=False), "Nothing comes before"),
        (lambda: move(PLAIN, "heat_to", later=True), "before the jars"),
        (lambda: move(PLAIN, "mash", later=True), "used|takes"),
        (lambda: choose(PLAIN, "sort", {"loss": 99}), "between 0 and 60"),
        (lambda: choose(PLAIN, "sort", {"stems": "sideways"}), "cannot be sideways"),
        (lambda: choose(PLAIN, "sort", {"colour": "red"}), "has no colour"),
        (lambda: check(wire([{"kind": "mash"}])), "ends in a filling"),
        (lambda: wire([{"kind": "sing"}]), "no step called sing"),
        (lambda: check(wire([{"kind": "sort"}] * 41)), "at most 40"),
        (lambda: check(PLAIN, {"fruit": "pomace"}), "takes fruit, not pomace"),
        (lambda: insert(PLAIN, "hot", "settle"), "straight into the jars"),
        (lambda: check(wire([{"kind": "cool"}, *rows_of(PLAIN)])), "comes by itself"),
        (lambda: check(wire([*rows_of(PLAIN), {"kind": "process"}])), "comes by itself"),
        (lambda: check(wire([{"kind": "sort", "gives": ["sorted"]}])), "gives 2 lots, not 1"),
    ],
)
def test_what_would_come_apart_is_refused_in_words(act: object, words: str) -> None:
    with pytest.raises(DoesNotConnect, match=words):
        act()  # type: ignore[operator]


def test_only_what_fits_is_offered() -> None:
    after_juice = may_follow(PLAIN, "juice")
    wanted = {"strain", "settle", "skim", "dissolve", "split", "combine", "reduce", "cook_syrup"}
    assert wanted == set(after_juice)
    assert set(may_follow(PLAIN, "pomace")) >= {"press_again", "set_aside", "steep"}
    assert "mash" not in may_follow(PLAIN, "juice")


@given(st.data())
def test_no_row_of_edits_takes_a_flow_apart(data: st.DataObject) -> None:
    key = data.draw(st.sampled_from(sorted(methods())))
    steps, start = method(key).steps, method(key).begins_with
    for _ in range(data.draw(st.integers(1, 5))):
        lot = data.draw(st.sampled_from(sorted(lot_kinds(steps, start))))
        step = data.draw(st.sampled_from([s.key for s in steps]))
        act = data.draw(
            st.sampled_from([
                lambda s=steps, at=lot: insert(s, at, "strain", start),
                lambda s=steps, at=lot: insert(s, at, "press_again", start),
                lambda s=steps, at=step: remove(s, at, start),
                lambda s=steps, at=step: move(s, at, later=True, inputs=start),
            ])
        )  # fmt: skip
        try:
            steps = act()
        except DoesNotConnect:
            continue
        assert check(steps, start) == steps
        assert wire(wiring.rows_of(steps)) == steps


def test_a_lot_is_parted_for_ends_of_their_own() -> None:
    """Each part is heated and filled as the first end is; what is said of an end goes there."""
    chosen = method("steam_juiced")
    steps = part(chosen.steps, "juice", chosen.begins_with)
    steps = part(steps, "juice", chosen.begins_with)
    assert [s.key for s in wiring.fills(steps)] == ["fill", "fill_2", "fill_3"]
    for fill in wiring.fills(steps):
        assert [s.kind for s in wiring.feeding(steps, fill)] == ["heat_to"]
    honey = replace(input_of_line(read("200 g honey")), step="fill_2")
    sugar = input_of_line(read("1 kg sugar"))
    whole = joining.joined(steps, (Input("fruit", "redcurrant", grams(9000)), honey, sugar))
    stirred = [s for s in whole if s.kind == "stir_in"]
    assert [s.takes for s in stirred] == [("juice", sugar.key), ("part", honey.key)]
    with pytest.raises(DoesNotConnect):
        part(chosen.steps, "pomace", chosen.begins_with)
