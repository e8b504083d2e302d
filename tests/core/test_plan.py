"""The flow as planned: balances, ranges, jars, verdict and the life of what comes of it."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import composition, jars, juicing, materials, storage, yields
from elderberry.core.batch import lifecycle
from elderberry.core.batch.lifecycle import Phase, Seal, StepEvent, StepState
from elderberry.core.errors import CannotTell, CoreError, IllegalStep, OutOfRange, Refusal, Unknown
from elderberry.core.estimates import Estimate, from_draws, measured, normal_scores
from elderberry.core.flow import edits
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.method import method
from elderberry.core.plan import Plan, plan
from tests.briefs import load

NOON = datetime(2026, 10, 3, 12, tzinfo=UTC)
STOCK = {"pint": 60, "quart": 24}


def kitchen(altitude_m: float | None = 585, **stock: int) -> Kitchen:
    return Kitchen(altitude_m, Juicer(10, 4, 1.8), Canner(7), 2.0, jar_stock=stock or STOCK)


def planned(fruit: str = "damson", kg: float = 24.5, **rest: object) -> Plan:
    where = rest.pop("where", kitchen())
    choices = rest.pop("choices", {})
    brief = load(fruit, kg, **rest)  # type: ignore[arg-type]
    chosen = method("steam_juiced")
    steps = edits.choose(chosen.steps, "steam_juice", choices)  # type: ignore[arg-type]
    return plan(replace(chosen, steps=steps), brief, where)  # type: ignore[arg-type]


@given(st.sampled_from(["apple", "damson", "rhubarb", "quince"]), st.floats(0.5, 60))
def test_mass_sugar_and_acid_balance_across_the_steamer(fruit: str, kg: float) -> None:
    made = planned(fruit, kg)
    went_in = made.lots["fruit"].composition
    came_out = composition.Composition()
    for key, lot in made.lots.items():
        if lot.kind == "steam":
            went_in += lot.composition
        if key.startswith(("juice-", "pomace-")):
            came_out += lot.composition
    for name in composition.NAMES:
        assert np.allclose(getattr(went_in, name), getattr(came_out, name), rtol=1e-6, atol=1e-6)


def test_steam_juice_is_thinner_than_the_fruit_and_within_the_yield_table() -> None:
    made = planned("damson", 24.5)
    assert made.loads == 4
    assert made.main.litres.typ == pytest.approx(24.5 * 0.50, rel=0.01)
    assert (made.main.litres.lo / 24.5, made.main.litres.hi / 24.5) == pytest.approx(
        (0.42, 0.58), abs=0.02
    )
    hot, fruit = made.lots["hot"].brix, made.lots["fruit"].brix
    assert hot is not None
    assert fruit is not None
    assert hot.typ < fruit.typ - 1


def test_lifting_the_lid_costs_strength() -> None:
    shut, lifted = planned(), planned(choices={"lid": "look"})
    assert lifted.lots["hot"].brix.typ < shut.lots["hot"].brix.typ  # type: ignore[union-attr]


def test_a_measurement_narrows_the_range() -> None:
    typical, known = planned(), planned(brix=measured(16, 0.3), ph=measured(3.0, 0.1))
    for quantity in ("brix", "ph"):
        wide, narrow = (getattr(p.lots["hot"], quantity) for p in (typical, known))
        assert narrow.hi - narrow.lo < wide.hi - wide.lo
    assert known.lots["hot"].brix.evidence == "measured"  # type: ignore[union-attr]


def test_the_shelf_needs_a_tested_time_and_says_what_else_to_do() -> None:
    made = planned("elderberry", 5)
    assert [f.id for f in made.verdict.stops] == ["product-untested"]
    assert not made.verdict.may_start
    chilled = planned("elderberry", 5, keep="chill")
    assert chilled.verdict.may_start
    assert "boil_through" in [o.kind for o in chilled.operations]
    assert chilled.main.process_time is None


def test_a_watched_fruit_may_start_but_its_canner_waits_for_a_reading() -> None:
    made = planned("plum", 5)
    assert [(f.id, f.place) for f in made.verdict.stops] == [("ph-reading-needed", "process")]
    assert made.verdict.may_start
    assert planned("plum", 5, ph=measured(3.6, 0.1)).verdict.stops == ()
    assert planned("plum", 5, ph=measured(4.4, 0.1)).verdict.stops[0].id == "ph-too-high"


@pytest.mark.parametrize("fruit", ["plum", "apple"])
def test_a_juice_that_read_too_high_is_acidified_and_read_again(fruit: str) -> None:
    high = measured(4.4, 0.1)
    stop = planned(fruit, 6, ph=high).verdict.stops[0]
    assert stop.id == "ph-too-high"
    what, grams = stop.change.split("=")
    assert what == "acid"
    assert f"{grams} g of citric acid" in stop.remedy
    soured = planned(fruit, 6, ph=high, ingredients_g={"citric_acid": float(grams)})
    assert [f.id for f in soured.verdict.stops] == ["ph-reading-needed"]
    assert soured.verdict.may_start
    ph = soured.lots["hot"].ph
    assert ph is not None
    assert ph.typ == pytest.approx(3.9, abs=0.05)
    stir = next(o for o in soured.operations if o.kind == "stir_in")
    assert stir.text["before"].startswith(f"{grams} g citric acid into")
    assert "citric_acid" in stir.takes
    went_in = soured.lots["citric_acid"].composition.citric + sum(
        soured.lots[f"juice-{n}"].composition.citric for n in range(1, soured.loads + 1)
    )
    assert np.allclose(soured.lots["hot"].composition.citric, went_in)


@pytest.mark.parametrize(
    ("altitude", "stop"), [(None, "altitude-unknown"), (3200.0, "altitude-over-10000-ft")]
)
def test_where_the_altitude_stops_it(altitude: float | None, stop: str) -> None:
    assert [f.id for f in planned(where=kitchen(altitude)).verdict.stops] == [stop]


def test_swing_bottles_are_for_the_refrigerator() -> None:
    only_bottles = kitchen(585, m700=20)
    assert planned(where=only_bottles).verdict.stops[0].id == "jar-not-for-processing"
    assert planned(where=only_bottles, keep="chill").main.expected.count > 0


def test_short_times_bring_a_sterilising_step() -> None:
    low = planned("apple", 12, where=kitchen(0))
    assert "sterilise" in [o.kind for o in low.operations]
    assert "sterilise" in [o.kind for o in planned("apple", 12).operations]
    assert "sterilise" not in [o.kind for o in planned("damson", 12, where=kitchen(0)).operations]
    many = [o for o in planned("apple", 24).operations if o.kind == "sterilise"]
    assert [o.text["title"] for o in many][:2] == [
        "Boil the empty jars, 1 of 4", "Boil the empty jars, 2 of 4",
    ]  # fmt: skip


def test_cautions_belong_to_the_moment() -> None:
    places = {f.id: f.place for f in planned().verdict.findings}
    assert places["hose-clamp"] == "steam_juice"
    assert places["draught-on-jars"] == "cool"
    assert places["stones-whole"] == "fruit"


@pytest.mark.parametrize(
    ("call", "error"),
    [
        (lambda: planned("grapefruit", 3), CannotTell),
        (lambda: planned("durian", 3), Unknown),
        (lambda: planned(kg=-3), OutOfRange),
        (lambda: planned(kg=5000), OutOfRange),
        (lambda: planned(keep="bury"), Unknown),
        (lambda: Estimate(3, 2, 4), CoreError),
    ],
)
def test_a_plan_that_cannot_be(call: object, error: type[Exception]) -> None:
    with pytest.raises(error):
        call()  # type: ignore[operator]


def test_draws_are_honest_about_an_estimate() -> None:
    back = from_draws(Estimate(2.0, 3.0, 5.0).draws(normal_scores(0)))
    assert (back.lo, back.typ, back.hi) == pytest.approx((2.0, 3.0, 5.0), abs=0.05)


@given(st.floats(0, 60_000), st.integers(0, 40), st.integers(0, 40), st.integers(1, 20))
def test_packing_keeps_every_drop_and_leaves_less_than_a_jar(
    volume: float, pints: int, quarts: int, capacity: int
) -> None:
    stock = {"pint": pints, "quart": quarts, "half_gallon": 3, "m700": 5}
    packed = jars.pack(volume, stock, 946, capacity)
    filled = sum(n * jars.kind(k).nominal_ml for k, n in packed.jars.items())
    assert set(packed.jars) <= {"pint", "quart"}
    assert all(n <= stock[k] for k, n in packed.jars.items())
    assert filled + packed.leftover_ml + packed.unplaced_ml == pytest.approx(volume, abs=1)
    assert packed.loads == -(-packed.count // capacity)
    if packed.jars.get("pint", 0) < pints:
        assert packed.leftover_ml < 473


def test_loads_and_pan() -> None:
    assert juicing.loads(20, 0.62, 8) == 5
    assert juicing.loads(6.2, 0.62, 10) == 1
    assert juicing.minutes_to_dry(0.4, 2) == 0


def test_yields_learn_from_this_kitchen_and_set_nonsense_aside() -> None:
    prior = Estimate(0.42, 0.50, 0.58)
    few = [yields.Observation(0.56, "gate")] * 2
    many = yields.predict(prior, [*few * 4, yields.Observation(2.0, "gate")], "gate")
    assert 0.50 < yields.predict(prior, few, "gate").median < many.median < 0.56
    assert many.hi - many.lo < prior.hi - prior.lo
    assert [o.yield_l_per_kg for o in many.outliers] == [2.0]
    elsewhere = yields.predict(prior, few * 4, "market")
    assert 0.50 < elsewhere.median < many.median


def test_a_warm_shelf_brings_the_date_forward() -> None:
    row, day = storage.life_row("canned_sealed", "juice"), date(2026, 10, 1)
    cool, warm = storage.best_by(day, row, 15), storage.best_by(day, row, 25)
    assert (cool.typ - day).days == 365
    assert (warm.typ - day).days == pytest.approx(182, abs=1)
    assert cool.lo < cool.typ < cool.hi
    with pytest.raises(OutOfRange):
        storage.best_by(day, storage.life_row("frozen", "juice"), 4)


def boiled(*events: tuple[str, float]) -> StepState:
    state = StepState("process", 15)
    return lifecycle.replay(
        state, [StepEvent(kind, NOON + timedelta(minutes=m), "Oda") for kind, m in events]
    )


def test_the_boil_starts_the_clock_and_losing_it_starts_again_from_zero() -> None:
    assert boiled(("started", 0)).due_at is None
    running = boiled(("started", 0), ("boil_reached", 10), ("boil_lost", 20), ("boil_reached", 24))
    assert running.due_at == NOON + timedelta(minutes=39)
    assert running.boils_lost == 1


@pytest.mark.parametrize("minute", [20, 24.9])
def test_a_process_cannot_end_before_its_time(minute: float) -> None:
    with pytest.raises(Refusal, match="unbroken minutes"):
        boiled(("started", 0), ("boil_reached", 10), ("finished", minute))
    assert boiled(("started", 0), ("boil_reached", 10), ("finished", 25)).phase is Phase.DONE


@pytest.mark.parametrize(
    ("events", "code"),
    [
        ([("finished", 1.0)], "not-started"),
        ([("started", 0.0), ("started", 1.0)], "already-running"),
        ([("started", 0.0), ("boil_lost", 1.0)], "not-boiling"),
        ([("dropped", 0.0), ("started", 1.0)], "not-needed"),
        (
            [("started", 0.0), ("boil_reached", 1.0), ("finished", 20.0), ("noted", 21.0)],
            "already-finished",
        ),
    ],
)
def test_an_event_that_does_not_fit(events: list[tuple[str, float]], code: str) -> None:
    with pytest.raises(IllegalStep) as refused:
        boiled(*events)
    assert refused.value.code == code


def test_time_is_only_ever_added() -> None:
    state = StepState("steam_juice", 60)
    events = [StepEvent("started", NOON), StepEvent("lengthened", NOON, data={"minutes": 15})]
    assert lifecycle.replay(state, events).due_at == NOON + timedelta(minutes=75)
    with pytest.raises(IllegalStep):
        lifecycle.replay(state, [events[0], StepEvent("lengthened", NOON, data={"minutes": -5})])


def test_a_failed_seal_has_three_ways_on_and_no_other() -> None:
    assert lifecycle.jar_transition(Seal.FAILED, "reprocessed") is Seal.COOLING
    assert lifecycle.jar_transition(Seal.FAILED, "frozen") is Seal.UNSEALED
    with pytest.raises(IllegalStep):
        lifecycle.jar_transition(Seal.FAILED, "moved")


def test_every_fruit_with_a_basket_time_says_what_a_spent_basket_looks_like() -> None:
    assert all(f.steam_look for f in materials.fruits().values() if f.steam_l_per_kg)
