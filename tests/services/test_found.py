"""The shelf that is already there: put on its places, dated with a wide band, vouched for never."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import IllegalStep, Refusal
from elderberry.core.shelf.worth import Prices
from elderberry.services.cooking import jar_view, kept
from elderberry.services.day import dates, today
from elderberry.services.errors import Conflict, FieldError
from elderberry.services.shelf import (
    figures,
    found,
    labels,
    lives,
    recall,
    servings,
    shelf,
    stack,
)  # fmt: skip
from elderberry.services.shelf.found import Row, Said
from elderberry.services.shelf.lives import Told, Which
from elderberry.services.who import Who
from elderberry.store import Jar, JarStock, Place, queries
from tests.factories import NOON, household


@pytest.fixture
def who(orm: Orm) -> Who:
    return household(orm)


def place(orm: Orm, who: Who, kind: str) -> Place:
    return next(p for p in queries.all_of(orm, who.household_id, Place) if p.kind == kind)


def put(orm: Orm, who: Who, *lines: str) -> list[Jar]:
    read = found.read(orm, who, [Said(line) for line in lines], NOON)
    rows = [r.row for r in read if r.row]
    assert len(rows) == len(lines)
    ids = found.put(orm, who, rows, NOON).ids
    return [queries.one(orm, who.household_id, Jar, i) or pytest.fail("gone") for i in ids]


def test_they_stand_on_their_places_and_are_found(orm: Orm, who: Who) -> None:
    jars = put(
        orm, who, "12 pints plum juice, cellar, August 2025", "3 bottles rosehip, fridge, 2024"
    )
    view = shelf.view(orm, who, NOON)
    assert {p.kind: p.count for p in view.places if p.count} == {"cellar": 12, "refrigerator": 3}
    assert shelf.view(orm, who, NOON, "plum").found == 12
    assert shelf.view(orm, who, NOON, "2025").found == 12
    assert len({j.code for j in jars}) == 15
    assert all(j.batch_id is None and not j.process for j in jars)
    more = put(orm, who, "2 pints plum juice, cellar, August 2025")
    assert more[0].code == "PL-25-F13"
    first = stack.page(orm, who, jars[0].stack_id or 0, NOON)
    assert (first.count, first.batches) == (14, [])


def test_the_band_is_as_wide_as_what_nobody_knows(orm: Orm, who: Who) -> None:
    known, year, never = put(
        orm, who, "1 pint plum juice, cellar, 2026-06-01", "1 pint plum juice, cellar, 2026",
        "1 pint plum juice, cellar",
    )  # fmt: skip
    bands = [v.best_by for v in jar_view.views(orm, who, [known, year, never])]
    assert all(b is not None for b in bands)
    widths = [(b.hi - b.lo).days for b in bands if b]
    assert widths == sorted(widths)
    assert widths[2] > 2 * 500
    assert bands[0] is not None
    assert bands[0].typ < known.filled_at.date() + timedelta(days=365)
    assert [v.filled_words for v in jar_view.views(orm, who, [known, never])] == [
        "", "nobody knows when",
    ]  # fmt: skip


def test_a_tasting_of_one_teaches_nothing_of_what_is_made_here(orm: Orm, who: Who) -> None:
    jar = put(orm, who, "1 pint plum juice, cellar, 2025")[0]
    before = jar_view.views(orm, who, [jar])[0].best_by
    lives.do(orm, who, NOON, Which([jar.id]), "tasted", Told(verdict="gone"))
    assert jar_view.views(orm, who, [jar])[0].best_by == before


def test_what_is_not_sour_is_held_and_nothing_lifts_it(orm: Orm, who: Who) -> None:
    jar = put(orm, who, "2 jars green beans, cellar")[0]
    assert jar.best_by is not None
    with pytest.raises(IllegalStep):
        lives.do(orm, who, NOON, Which([jar.id]), "opened", Told())
    with pytest.raises(Refusal):
        lives.do(orm, who, NOON, Which([jar.id]), "looked_sound", Told())
    cold = place(orm, who, "refrigerator")
    lives.do(orm, who, NOON, Which([jar.id]), "carried", Told(place_id=cold.id))
    with pytest.raises(Refusal):
        lives.do(orm, who, NOON, Which([jar.id]), "looked_sound", Told())
    page = shelf.jar_page(orm, who, jar.id)
    assert [f.level for f in page.findings] == ["stop"]
    text = [i.text for i in today.view(orm, who, NOON).items]
    assert any("Do not eat from what was there already: green beans" in t for t in text)
    over = NOON + timedelta(days=365)
    assert not [i for i in today.view(orm, who, over).items if i.text.startswith("Use ")]
    first = jar.best_by - timedelta(days=1)
    soon = datetime(first.year, first.month, first.day, tzinfo=UTC)
    assert not [e for e in dates.entries(orm, who, soon) if e.title.startswith("Use ")]
    plums = put(orm, who, "3 pints plum, cellar")[0]
    assert plums.best_by is not None
    assert [i.text for i in today.view(orm, who, over).items if i.text.startswith("Use ")]
    lives.do(orm, who, NOON, Which([jar.id]), "spoiled", Told(sign="bulges"))
    assert jar.gone


def test_said_what_it_is_of_the_stop_is_gone(orm: Orm, who: Who) -> None:
    line = "4 pints of our own, cellar, 2025"
    before, after = (
        found.read(orm, who, [Said(line, material=m)], NOON)[0] for m in ("", "damson")
    )
    assert [f.level for f in before.findings] == ["stop"]
    assert [f.level for f in after.findings] == ["caution"]
    still = found.read(orm, who, [Said(line, material="melon")], NOON)[0]
    assert [f.level for f in still.findings] == ["stop"]
    with pytest.raises(FieldError):
        found.read(orm, who, [Said(line, material="unobtainium")], NOON)


def test_what_stood_cold_is_not_carried_into_the_warm(orm: Orm, who: Who) -> None:
    cold, warm = put(orm, who, "1 pint plum juice, fridge", "1 pint plum juice, cellar")
    kitchen, cellar = place(orm, who, "shelf"), place(orm, who, "cellar")
    with pytest.raises(Conflict):
        lives.do(orm, who, NOON, Which([cold.id]), "carried", Told(place_id=cellar.id))
    lives.do(orm, who, NOON, Which([warm.id]), "carried", Told(place_id=kitchen.id))
    assert warm.place_id == kitchen.id


def test_it_lives_on_as_any_jar(orm: Orm, who: Who) -> None:
    jars = put(orm, who, "3 pints damson syrup, cellar, September 2025")
    ids = [j.id for j in jars]
    drink = servings.ask(orm, who, ids[0], servings.Asked(400))
    assert servings.BY_TABLE in drink.notes
    assert drink.base_ml < drink.diluent_ml
    servings.pour(orm, who, ids[0], servings.Asked(400), "a jug", NOON)
    assert shelf.jar_page(orm, who, ids[0]).jar.lives == "opened"
    lives.do(orm, who, NOON, Which([ids[0]]), "used_up", Told())
    stock = {s.jar_kind: s.jars for s in queries.all_of(orm, who.household_id, JarStock)}
    lives.do(orm, who, NOON, Which([ids[1]]), "miscounted", Told())
    after = {s.jar_kind: s.jars for s in queries.all_of(orm, who.household_id, JarStock)}
    assert after == stock  # its glass was never in stock
    lives.do(orm, who, NOON, Which([ids[2]]), "given", Told(to="Hedda"))
    assert shelf.jar_page(orm, who, ids[2]).moments[0].text.startswith("was there already")
    assert sum(p.count for p in shelf.view(orm, who, NOON).places) == 0


def test_a_bad_sign_holds_those_of_its_name(orm: Orm, who: Who) -> None:
    one, other, another = put(
        orm, who, "2 pints plum juice, cellar, 2025", "1 pint quince juice, cellar, 2025"
    )
    lives.do(orm, who, NOON, Which([one.id]), "spoiled", Told(sign="bulges"))
    assert (other.held, another.held) == (True, False)
    text = [i.text for i in today.view(orm, who, NOON).items]
    assert "Look at 1 jar: plum juice" in text


def test_what_is_printed_and_reckoned_of_them(orm: Orm, who: Who) -> None:
    jars = put(orm, who, "2 pints plum juice, cellar, August 2025", "1 pint damson, cellar")
    label = labels.shown(orm, who, [jars[0].id], "http://here")[0]
    assert label.days.startswith("made in August 2025")
    assert label.lines[0].startswith("Was there already")
    assert labels.printed(orm, who, [j.id for j in jars], "http://here", "a4_21", 1)[:5] == b"%PDF-"
    view = figures.view(orm, who, Prices())
    assert view.costs == []  # nobody knows what they cost
    assert sum(y.kept for y in view.years) == 3
    known = recall.known(orm, who)
    assert known.batch == []
    uids = [e.uid for e in dates.entries(orm, who, NOON)]
    assert len(uids) == len(set(uids))
    kept.everything(orm)
    assert shelf.view(orm, who, NOON).jars == 3


@pytest.mark.parametrize(
    ("field", "row"),
    [
        ("jar_kind", {"jar_kind": "bathtub"}), ("place_id", {"place_id": 10**9}),
        ("label", {"label": "12"}), ("product", {"product": "wine"}),
        ("material", {"material": "unobtainium"}),
        ("first", {"first": date(2027, 1, 1)}), ("first", {"first": date(1999, 1, 1)}),
        ("first", {"first": date(2026, 1, 2), "last": date(2026, 1, 1)}),
    ],
)  # fmt: skip
def test_all_of_it_or_nothing(orm: Orm, who: Who, field: str, row: dict[str, object]) -> None:
    good = Row(2, "Plum", "pint", place(orm, who, "cellar").id, "plum", first=date(2025, 8, 1))
    bad = Row(**{**good.__dict__, **row})
    with pytest.raises(FieldError) as refused:
        found.put(orm, who, [good, bad], NOON)
    assert refused.value.pointer == f"/rows/1/{field}"
    assert queries.all_of(orm, who.household_id, Jar) == []
    with pytest.raises(FieldError, match="2000 jars"):
        found.put(orm, who, [good] * 1001, NOON)
