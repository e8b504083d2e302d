"""A kitchen in pounds reads nothing in kilos, litres or °C, on any screen and at any step."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import fields, is_dataclass

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import Refusal
from elderberry.services.cooking import batch_list, batch_view, steps
from elderberry.services.day import dates, stove, today
from elderberry.services.household import kitchens
from elderberry.services.notes import notes, season
from elderberry.services.planning import card, plans, shopping
from elderberry.services.planning.asked import PlanRequest
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from tests.factories import NOON, Work, household, minutes, reading, request

METRIC = re.compile(r"\d\s?(?:°C|kg|kilos?|ml|l|litres?|cm|mm|metres?)\b")
SAID = {"source", "name", "line", "code", "key", "id"}
"""Fields that hold what somebody called something."""


@pytest.fixture
def who(orm: Orm) -> Who:
    """A household that weighs in pounds and reads °F."""
    found = household(orm)
    kitchens.stored(orm, found).units = "us"
    kitchens.stored(orm, found).instruments = [
        "thermometer", "jug", "scale", "refractometer", "ph_meter",
    ]  # fmt: skip
    orm.flush()
    return found


def words(shown: object, at: str = "") -> Iterator[tuple[str, str]]:
    """Every text in a view, with where it stands."""
    if isinstance(shown, str):
        yield at, shown
    elif is_dataclass(shown):
        for field in fields(shown):
            if field.name not in SAID:
                yield from words(getattr(shown, field.name), f"{at}.{field.name}")
    elif isinstance(shown, dict):
        for key, value in shown.items():
            yield from words(value, f"{at}.{key}")
    elif isinstance(shown, list | tuple | set | frozenset):
        for one in shown:
            yield from words(one, at)


def metric(shown: object) -> set[tuple[str, str]]:
    """Texts of a view that are in units of another kitchen."""
    return {(at, text) for at, text in words(shown) if METRIC.search(text)}


REQUESTS = {
    "steamed for the shelf": request("damson", 4.0),
    "apples pressed": request("apple", 6.0, method_key="pressed_apple"),
    "rosehips steeped, chilled": request("rosehip", 2.0, method_key="rosehip_steep", keep="chill"),
    "gooseberries under weight": request("gooseberry", 3.0, method_key="weighted_gooseberry"),
    "redcurrants in the jar": request("redcurrant", 2.0, method_key="redcurrants_in_the_jar"),
    "a syrup": request("blackcurrant", 3.0, method_key="berry_syrup"),
    "frozen": request("damson", 4.0, keep="freeze"),
    "quince purée": request("quince", 3.0, method_key="quince_puree"),
    "elderberries, not yet safe": request("elderberry", 3.0),
}


@pytest.mark.parametrize("name", REQUESTS)
def test_a_plan_and_its_papers(orm: Orm, who: Who, name: str) -> None:
    asked: PlanRequest = REQUESTS[name]
    plan = plans.show(orm, who, asked)
    assert metric(plan) == set()
    assert metric(card.of_plan(plan, "us", "")) == set()
    assert metric(shopping.view(orm, who, asked)) == set()


@pytest.mark.parametrize("name", [n for n in REQUESTS if n != "elderberries, not yet safe"])
def test_a_batch_as_it_begins(orm: Orm, who: Who, name: str) -> None:
    work = Work(orm, who, REQUESTS[name])
    assert metric(batch_view.of(work.folder)) == set()
    assert metric(batch_view.lineage(work.folder)) == set()


def test_a_batch_at_every_step_and_every_screen_beside_it(orm: Orm, who: Who) -> None:
    work = Work(orm, who, request("damson", 4.0))
    presses: list[Callable[[], object]] = [
        lambda: work.do("steam_juice-1", 1),
        lambda: work.finish("steam_juice-1", 65, readings=(reading("volume_ml", 2000, "jug"),)),
        lambda: work.do("heat_to", 66),
        lambda: work.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),)),
        lambda: work.finish(
            "fill", 90, jars=(steps.JarEntry("pint", 3),), part_kind="pint", part_ml=200
        ),
        lambda: work.do("process-1", 92),
        lambda: work.do("process-1", 100, lambda made: steps.boil(made, reached=True)),
        lambda: work.finish("process-1", 116),
    ]
    for number, press in enumerate(presses):
        press()
        now = minutes(130 + number)
        seen = {
            "batch": batch_view.of(work.folder),
            "list": batch_list.lines(orm, who),
            "today": today.view(orm, who, now),
            "hob": today.hob(orm, who, now),
            "stove": stove.view(orm, who, now),
            "shelf": shelf.view(orm, who, now),
        }
        assert metric(seen) == set(), number


def test_a_jar_and_its_notes(orm: Orm, who: Who) -> None:
    work = Work(orm, who, request("damson", 4.0))
    work.to_cooling(jars=2, part_ml=0)
    for number in range(2):
        work.look(number, 60 * 26)
    jar = work.folder.jars[0]
    assert metric(shelf.jar_page(orm, who, jar.id)) == set()
    page = notes.page(orm, who, work.batch.id)
    assert metric(page) == set()
    assert metric(season.page(orm, who, NOON.year)) == set()
    assert not METRIC.search(str(dates.ics(orm, who, minutes(60 * 30))))


def test_a_refusal_is_in_them_too(orm: Orm, who: Who) -> None:
    work = Work(orm, who, request("damson", 4.0))
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 65)
    work.do("heat_to", 66)
    with pytest.raises(Refusal, match="°F") as refused:
        work.finish("heat_to", 80, readings=(reading("temp_c", 70, "thermometer"),))
    assert not METRIC.search(str(refused.value))


POUNDS = re.compile(r"\d\s?(?:°F|lbs?|pounds?|oz|ounces?|qt|in|inch|inches|ft|feet)\b")
CELSIUS = re.compile(r"\d\s?°C\b")


@pytest.mark.parametrize("name", REQUESTS)
def test_a_kitchen_in_kilos_reads_no_pounds(orm: Orm, name: str) -> None:
    """Nor an ounce, an inch or a °F, whatever a table was written in."""
    here = household(orm, "Elsewhere")
    plan = plans.show(orm, here, REQUESTS[name])
    found = {(at, text) for at, text in words(plan) if POUNDS.search(text)}
    assert found == set()
    listed = words(shopping.view(orm, here, REQUESTS[name]))
    assert not [text for _, text in listed if POUNDS.search(text)]


def test_an_imperial_kitchen_weighs_in_pounds_and_reads_celsius(orm: Orm, who: Who) -> None:
    kitchens.stored(orm, who).units = "imperial"
    orm.flush()
    work = Work(orm, who, request("damson", 4.0))
    shown = [
        *words(plans.show(orm, who, request("damson", 4.0))),
        *words(batch_view.of(work.folder)),
    ]
    assert any(CELSIUS.search(text) for _, text in shown)
    assert not [text for _, text in shown if "°F" in text]
    weighed = re.compile(r"\d\s?(?:kg|ml|cm|mm)\b")
    assert {(at, text) for at, text in shown if weighed.search(text)} == set()


def test_a_change_of_units_is_seen_at_once_and_loses_nothing(orm: Orm, who: Who) -> None:
    work = Work(orm, who, request("damson", 4.0))
    work.to_hot()
    before = batch_view.of(work.folder)
    kitchens.stored(orm, who).units = "metric"
    orm.flush()
    after = batch_view.of(work.folder)
    assert not [text for _, text in words(after) if "°F" in text]
    assert [s.press for s in after.steps] == [s.press for s in before.steps]
    assert after.juice_l == before.juice_l
    assert [r.value for s in after.steps for r in s.readings] == [
        r.value for s in before.steps for r in s.readings
    ]
