"""The rule book: every rule has a case that triggers it and neighbours that do not."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import pytest

from elderberry.core import materials, tables
from elderberry.core.errors import CoreError, OutOfRange
from elderberry.core.estimates import measured
from elderberry.core.findings import Level
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.method import method
from elderberry.core.plan import plan
from elderberry.core.process import OwnProcess, look_up
from elderberry.core.rules import Facts, Rule, rules, standing
from tests.briefs import a_kitchen, filled, load

STANDING = [r for r in rules().values() if r.kind == "standing"]
LEVELS = {
    Level.STOP: """
        product-untested fruit-unlisted fruit-never fruit-not-in-row altitude-unknown
        altitude-over-10000-ft jar-too-large jar-not-for-processing ph-too-high ph-reading-needed
        steam-canner-too-long no-jar-in-stock raw-not-boiled fill-too-cold boil-not-held
        jars-not-sterilised jar-part-filled seal-too-early failed-seal-too-late
        juice-not-strained never-heated ingredient-keeps-off-shelf fat-over-a-trace too-much-ginger
        fresh-citrus-makes-it-safe fresh-left-in pectin-not-set too-little-fruit too-much-water
        ph-cannot-be-told glass-never-frozen open-never-frozen never-seals too-thin-to-keep
        not-sugar-alone raw-pack-liquid cooled-since-heating stood-before-canner
        stood-warm-too-long steep-too-long-warm process-fell-short no-juicer no-canner
        will-foam not-dry-enough not-canned-loose no-freeze-dryer
        weak-vinegar warm-garlic-or-herb-oil wild-not-identified jar-spoiled lid-used-before
        found-not-sour
    """,
    Level.CAUTION: """
        vessel-too-small fridge-full shelf-full ph-and-acidity-disagree steam-burns hose-clamp
        kettle-above-jug pan-near-dry
        hot-juice thermal-shock
        stands-warm oven-warmed-jars water-over-lids steam-canner-water draught-on-jars rings-off
        ice-needs-room closure-untested
        elder-raw rhubarb-leaves stones-whole headspace-off sugar-cut sweetener-swap
        honey-and-infants spirit-near-flame hot-sugar-bursts rinsing-is-not-sterilising
        lid-on-steaming-syrup freeze-dried-left-open low-acid-steep-warm
        found-not-vouched found-watch
        powder-lay-open freezer-full loads-wait-cold dries-sticky not-conditioned
        case-hardens frozen-again no-dryer
        raw-juice-and-the-vulnerable bottles-may-burst waxed-or-sprayed-peel open-drain-and-flies
    """,
    Level.NOTE: "stains own-authority dried-raw",
}
IN_COOK = """
    ph-reading-needed raw-not-boiled fill-too-cold boil-not-held jars-not-sterilised
    jar-part-filled seal-too-early failed-seal-too-late cooled-since-heating stood-before-canner
    raw-pack-liquid not-dry-enough
"""


def an_ingredient(rule: Rule) -> dict[str, float]:
    """Enough of an ingredient that the rule speaks of."""
    for key, item in materials.ingredients().items():
        if key in rule.ingredients or item.kind in rule.ingredient_kinds:
            return {key: 0.5}
    return {}


def facts_for(rule: Rule) -> Facts:
    """Facts that meet every condition the rule names, and no more."""
    return Facts(
        operations=frozenset(rule.operations[:1]),
        fruits=frozenset(rule.fruits[:1]),
        closures=frozenset(rule.closures[:1]),
        keep=rule.keep[0] if rule.keep else "",
        ingredients=an_ingredient(rule),
        said=frozenset(rule.said[:1]),
        heater=frozenset(rule.heater[:1]),
    )


def neighbours(rule: Rule) -> list[Facts]:
    """The same facts with one condition missing each."""
    facts, found = facts_for(rule), []
    empty: dict[str, object] = {
        "operations": frozenset(),
        "fruits": frozenset(),
        "closures": frozenset(),
        "heater": frozenset(),
    }
    for name, value in {
        **empty,
        "keep": "elsewhere",
        "ingredients": {},
        "said": frozenset(),
    }.items():
        named = getattr(rule, name, ()) or (name == "ingredients" and facts.ingredients)
        if named:
            found.append(replace(facts, **{name: value}))  # type: ignore[arg-type]
    return found


@pytest.mark.parametrize("rule", STANDING, ids=lambda r: r.id)
def test_a_rule_stands_where_all_its_conditions_hold_and_nowhere_else(rule: Rule) -> None:
    assert rule.id in {f.id for f in standing(facts_for(rule))}
    for near in neighbours(rule):
        assert rule.id not in {f.id for f in standing(near)}
    if rule.id != "own-authority":
        assert neighbours(rule)


def test_the_rule_book_is_the_one_that_was_agreed() -> None:
    agreed = {name: level for level, names in LEVELS.items() for name in names.split()}
    assert {r.id: r.level for r in rules().values()} == agreed
    assert {r.id for r in rules().values() if r.in_cook} == set(IN_COOK.split())
    assert Counter(r.id for r in rules().values()).most_common(1)[0][1] == 1


def test_every_stop_says_what_to_do_instead() -> None:
    for rule in rules().values():
        if rule.level is Level.STOP:
            assert rule.remedy
            assert rule.change in {
                "", "keep=chill", "keep=freeze", "again=heat", "jars=smaller", "jars=tested",
                "heater=bath",
            }  # fmt: skip


def test_a_plan_is_judged_by_what_goes_into_it_and_what_was_said() -> None:
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": 48, "m500": 9})

    def stops(**more: object) -> set[str]:
        brief = load("damson", 6, jar_kinds=("pint",), **more)  # type: ignore[arg-type]
        return {f.id for f in plan(method("steam_juiced"), brief, kitchen).verdict.stops}

    assert stops() == set()
    assert stops(ingredients_g={"cocoa": 30.0}) == {"ingredient-keeps-off-shelf"}
    assert stops(ingredients_g={"cocoa": 30.0}, keep="chill") == set()
    assert stops(ingredients_g={"butter": 6.0}) == set()
    assert stops(ingredients_g={"butter": 20.0}) == {"fat-over-a-trace"}
    assert stops(said=frozenset({"wild_not_certain"})) == {"wild-not-identified"}


@pytest.mark.parametrize(("ph", "said"), [(None, False), (3.0, False), (1.8, True), (4.3, True)])
def test_a_ph_that_no_such_juice_has_is_doubted(ph: float | None, said: bool) -> None:
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": 48})
    brief = load("damson", 6, ph=None if ph is None else measured(ph, 0.1), keep="chill")
    found = {f.id: f for f in plan(method("steam_juiced"), brief, kitchen).verdict.findings}
    assert ("ph-and-acidity-disagree" in found) == said
    if said:
        assert f"{ph:.2f}" in found["ph-and-acidity-disagree"].message


MINUTES: dict[float, int] = {300: 10, 900: 15, 1800: 20}
OWN = OwnProcess("vinegar_syrup", 473, MINUTES, 3.8, "Food authority leaflet 12", "2026-11-01")


@pytest.mark.parametrize(
    ("altitude", "ph", "jar", "stop", "minutes"),
    [
        (200, 3.4, 473, None, 10),
        (300, 3.4, 473, None, 10),
        (585, 3.4, 237, None, 15),
        (585, 3.8, 473, None, 15),
        (585, 3.9, 473, "ph-too-high", None),
        (585, None, 473, "ph-reading-needed", 15),
        (585, 3.4, 946, "jar-too-large", None),
        (1900, 3.4, 473, "altitude-over-10000-ft", None),
        (None, 3.4, 473, "altitude-unknown", None),
    ],
)
def test_an_own_process_fills_a_gap_and_keeps_every_other_stop(
    altitude: float | None, ph: float | None, jar: float, stop: str | None, minutes: int | None
) -> None:
    shrub = filled(("damson", 600.0), ("vinegar_cider", 300.0), ("sugar_white", 200.0), meter=ph)
    found = look_up(shrub, jar, a_kitchen(altitude), {OWN.product: OWN})
    assert [f.id for f in found.stops] == ([stop] if stop else [])
    assert (found.time.minutes if found.time else None) == minutes
    if found.time:
        assert "entered by this household on 2026-11-01" in found.time.source


@pytest.mark.parametrize(
    ("product", "parts"),
    [
        ("elderberry", (("elderberry", 900.0),)),
        ("cocoa_syrup", (("sugar_white", 500.0), ("water", 300.0), ("cocoa", 60.0))),
        ("plain_sugar_syrup", (("sugar_white", 500.0), ("water", 500.0))),
    ],
)
def test_an_own_process_never_lifts_a_product_that_must_not_be_processed(
    product: str, parts: tuple[tuple[str, float], ...]
) -> None:
    entered = replace(OWN, product=product)
    found = look_up(
        filled(*parts, boiled_min=20, meter=3.0), 473, a_kitchen(200), {product: entered}
    )
    assert found.time is None
    assert {"product-untested", "fruit-never"} & {f.id for f in found.stops}


def test_an_own_process_never_undercuts_a_table_nor_lifts_a_fruit() -> None:
    quick = replace(OWN, product="berry_or_fruit_juice", minutes={3000: 5})
    juice = filled(("damson", 900.0), meter=3.0)
    found = look_up(juice, 473, a_kitchen(585), {quick.product: quick})
    assert found.time is not None
    assert found.time.minutes == 15
    figs = filled(("fig", 600.0), ("vinegar_cider", 300.0), meter=3.0)
    stops = look_up(figs, 473, a_kitchen(200), {OWN.product: OWN}).stops
    assert "fruit-never" in {f.id for f in stops}


@pytest.mark.parametrize(("minutes", "stop"), [(45, []), (46, ["steam-canner-too-long"])])
def test_a_steam_canner_runs_no_longer_than_its_water(minutes: int, stop: list[str]) -> None:
    own = {OWN.product: replace(OWN, minutes={3000: minutes})}
    shrub = filled(("damson", 600.0), ("vinegar_cider", 300.0), meter=3.4)
    found = look_up(shrub, 473, a_kitchen(585), own, heater="steam")
    assert [f.id for f in found.stops] == stop
    assert look_up(shrub, 473, a_kitchen(585), own).stops == ()


@pytest.mark.parametrize(("pints", "stop"), [(0, {"no-jar-in-stock"}), (9, set())])
def test_a_shelf_without_tested_jars_stops(pints: int, stop: set[str]) -> None:
    kitchen = Kitchen(585, Juicer(8, 4, 1.8), Canner(7), 2.2, jar_stock={"pint": pints})
    made = plan(method("steam_juiced"), load("damson", 3), kitchen)
    assert {f.id for f in made.verdict.stops} == stop


@pytest.mark.parametrize(
    ("change", "error"),
    [
        ({"source": " "}, CoreError), ({"minutes": {}}, CoreError), ({"max_ph": 4.6}, OutOfRange),
        ({"minutes": {300: 2}}, OutOfRange), ({"jar_ml": 5000}, OutOfRange),
    ],
)  # fmt: skip
def test_an_own_process_needs_what_a_tested_one_has(
    change: dict[str, object], error: type[Exception]
) -> None:
    with pytest.raises(error):
        replace(OWN, **change)  # type: ignore[arg-type]


def test_everything_a_rule_asks_the_cook_is_asked_somewhere() -> None:
    asked = tables.document("said")
    at_fault_unsaid = {key for key, row in asked.items() if row["where"] == "raw_fill"}
    at_fault_said = {word for rule in rules().values() for word in rule.said}
    assert at_fault_said.isdisjoint(at_fault_unsaid)
    assert set(asked) == at_fault_said | at_fault_unsaid
    assert {row["where"] for row in asked.values()} == {"plan", "fill", "raw_fill", "jar"}
