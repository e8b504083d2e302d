"""Whatever is pressed, in whatever order: no boil is short and no finished step moves."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core.batch import lifecycle
from elderberry.core.batch.lifecycle import JAR_TRANSITIONS, Phase, Seal, StepEvent, StepState
from elderberry.core.errors import IllegalStep, Refusal

NOON = datetime(2026, 10, 3, 12, tzinfo=UTC)
KINDS = ["started", "boil_reached", "boil_lost", "lengthened", "noted", "finished", "dropped"]
presses = st.lists(st.tuples(st.sampled_from(KINDS), st.floats(0, 30)), max_size=14)


def press_all(state: StepState, what: list[tuple[str, float]]) -> tuple[StepState, list[StepEvent]]:
    """Press everything in order, skipping what is refused; returns the state and what was taken."""
    at, taken = NOON, []
    for kind, wait in what:
        at += timedelta(minutes=wait)
        event = StepEvent(kind, at, "Oda", {"minutes": 5} if kind == "lengthened" else {})
        try:
            state = lifecycle.transition(state, event)
        except (IllegalStep, Refusal):
            continue
        taken.append(event)
    return state, taken


@given(presses)
def test_no_order_of_presses_ends_a_process_before_its_minutes(
    what: list[tuple[str, float]],
) -> None:
    state, taken = press_all(StepState("process", 15), what)
    if state.phase is not Phase.DONE:
        return
    boils = [e for e in taken if e.kind in {"boil_reached", "boil_lost"}]
    assert boils[-1].kind == "boil_reached"
    assert taken[-1].kind == "finished"
    assert taken[-1].at - boils[-1].at >= timedelta(minutes=15)


@given(presses, presses)
def test_a_finished_or_dropped_step_takes_nothing_more(
    what: list[tuple[str, float]], later: list[tuple[str, float]]
) -> None:
    state, _ = press_all(StepState("steam_juice", 60), what)
    if state.phase in {Phase.DONE, Phase.DROPPED}:
        assert press_all(state, later) == (state, [])


@given(presses)
def test_a_timer_never_gets_shorter(what: list[tuple[str, float]]) -> None:
    state, taken = press_all(StepState("steam_juice", 60), what)
    added = 5 * sum(e.kind == "lengthened" for e in taken)
    assert state.extra_minutes == added
    if state.due_at is not None:
        assert state.clock_from is not None
        assert state.due_at - state.clock_from == timedelta(minutes=60 + added)


@given(presses)
def test_replaying_what_was_taken_gives_the_same_state(what: list[tuple[str, float]]) -> None:
    fresh = StepState("process", 10)
    state, taken = press_all(fresh, what)
    assert lifecycle.replay(fresh, taken) == state


def test_minutes_told_at_the_start_only_lengthen() -> None:
    for told, minutes in ((20, 20), (5, 15)):
        start = StepEvent("started", NOON, data={"minutes": told})
        assert lifecycle.transition(StepState("process", 15), start).minutes == minutes


@pytest.mark.parametrize("kind", ["process", "sterilise", "boil_through"])
def test_what_boils_counts_from_the_boil(kind: str) -> None:
    started = lifecycle.transition(StepState(kind, 10), StepEvent("started", NOON))
    assert started.due_at is None
    with pytest.raises(Refusal):
        lifecycle.transition(started, StepEvent("finished", NOON + timedelta(hours=2)))


def test_raw_toxic_fruit_has_its_own_words() -> None:
    started = lifecycle.transition(StepState("boil_through", 10), StepEvent("started", NOON))
    with pytest.raises(Refusal) as refused:
        lifecycle.transition(started, StepEvent("finished", NOON))
    assert refused.value.finding.id == "raw-not-boiled"


@given(st.sampled_from(list(Seal)), st.sampled_from(sorted({e for _, e in JAR_TRANSITIONS})))
def test_a_jar_is_only_sealed_by_a_seal_that_held(seal: Seal, event: str) -> None:
    try:
        after = lifecycle.jar_transition(seal, event)
    except IllegalStep:
        return
    if after is Seal.SEALED:
        assert (seal, event) in {(Seal.COOLING, "seal_held"), (Seal.SEALED, "moved")}
