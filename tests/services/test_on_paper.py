"""A shopping list beside what there is, a method's card, and the season on a page; read as PDF."""

from __future__ import annotations

from datetime import UTC, datetime
from io import BytesIO

import pytest
from pypdf import PdfReader
from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.core.safety import STANDING_LINE
from elderberry.formats import paper
from elderberry.services.cooking import steps
from elderberry.services.notes import season
from elderberry.services.planning import card, intake, plans, shopping
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.intake import NewLot
from elderberry.services.planning.shopping import ShoppingView
from elderberry.services.shelf import figures
from elderberry.services.who import Who
from elderberry.store import Jar, JarStock, Reading, queries
from tests.factories import NOON, Work, household, minutes


@pytest.fixture
def who(orm: Orm) -> Who:
    return household(orm)


def asked(*lines: str, keep: str = "shelf", **more: object) -> PlanRequest:
    inputs = tuple(GoesIn(line=line) for line in lines)
    return PlanRequest(inputs, (End("fill", keep, **more),))  # type: ignore[arg-type]


def read(sheet: paper.Sheet) -> tuple[int, str]:
    found = PdfReader(BytesIO(paper.pdf(sheet)))
    return len(found.pages), "\n".join(p.extract_text() for p in found.pages)


def listed(orm: Orm, who: Who, *lines: str, keep: str = "shelf", **more: object) -> ShoppingView:
    return shopping.view(orm, who, asked(*lines, keep=keep, **more))


def test_what_waits_already_is_not_bought(orm: Orm, who: Who) -> None:
    intake.take_in(orm, who, NewLot("3 kg damsons"), NOON)
    intake.take_in(orm, who, NewLot("2 kg damsons, frozen"), NOON)
    found = listed(orm, who, "8 kg damsons", "2 cups sugar", "3 l water")
    damson, sugar = found.goes_in
    assert (damson.name, damson.there_g, damson.get_g) == ("Damson", 3000.0, 5000.0)
    assert damson.get == "5 kg"
    assert (sugar.said, sugar.there_g) == ("2 cups sugar", 0.0)
    assert sugar.get_g == pytest.approx(sugar.need_g)
    enough = listed(orm, who, "2 kg damsons").goes_in[0]
    assert (enough.get_g, enough.get) == (0.0, "")


@pytest.mark.parametrize(("need", "get"), [(3000.9, 0.0), (3001.0, 1.0), (3002.0, 2.0)])
def test_less_than_a_gram_is_not_short(orm: Orm, who: Who, need: float, get: float) -> None:
    intake.take_in(orm, who, NewLot("3 kg damsons"), NOON)
    assert listed(orm, who, f"{need} g damsons").goes_in[0].get_g == pytest.approx(get)


def test_the_same_in_two_places_is_one_line(orm: Orm, who: Who) -> None:
    found = listed(orm, who, "4 kg damsons", "300 g sugar", "200 g sugar, off the heat")
    assert [g.get_g for g in found.goes_in] == [4000.0, pytest.approx(500.0)]


def stock(orm: Orm, who: Who, kind: str, jars: int, lids: int) -> None:
    for row in queries.all_of(orm, who.household_id, JarStock):
        row.jars, row.lids = (jars, lids) if row.jar_kind == kind else (0, 0)
    orm.flush()


def test_jars_and_lids_are_held_against_the_stock(orm: Orm, who: Who) -> None:
    stock(orm, who, "pint", 40, 3)
    plan = plans.show(orm, who, asked("8 kg damsons", jar_kinds=("pint",)))
    jars = listed(orm, who, "8 kg damsons", jar_kinds=("pint",)).jars[0]
    assert jars.need >= plan.ends[0].generous.count
    assert (jars.get, jars.there) == (0, 40)
    assert jars.get_lids == jars.need - 3
    stock(orm, who, "pint", 2, 40)
    few = listed(orm, who, "8 kg damsons", jar_kinds=("pint",)).jars[0]
    assert few.get == few.need - 2
    assert few.need >= jars.need - 1  # what finds no jar is counted by its room
    assert few.get_lids == 0


def test_what_is_drunk_now_needs_no_jars(orm: Orm, who: Who) -> None:
    assert listed(orm, who, "4 kg damsons", keep="now").jars == []


def test_a_list_on_paper_says_what_the_page_says(orm: Orm, who: Who) -> None:
    stock(orm, who, "pint", 2, 1)
    found = listed(orm, who, "8 kg damsons", "2 cups sugar", jar_kinds=("pint",))
    paper = shopping.sheet(found, STANDING_LINE)
    assert [sum(b.widths) for b in paper.blocks] == [pytest.approx(1.0)] * 2
    pages, text = read(paper)
    assert pages == 1
    for words in ("Shopping list", "Damson", "8 kg", "2 cups sugar", "new lids to get"):
        assert words in text
    assert f"{found.jars[0].get} to get" in text
    assert STANDING_LINE in text


def test_a_card_has_all_of_a_method(orm: Orm, who: Who) -> None:
    plan = plans.show(orm, who, asked("5 kg quinces", "900 g sugar"))
    pages, text = read(card.of_plan(plan, "metric", STANDING_LINE))
    flat = " ".join(text.split())
    assert pages <= 2
    for step in plan.operations:
        assert step.title in flat
    for given in plan.inputs:
        assert given.name in flat
    for finding in plan.findings:
        assert finding.level == "note" or " ".join(finding.message.split()) in flat


def test_the_season_is_what_its_batches_came_to(orm: Orm, who: Who) -> None:
    for _ in range(2):
        made = Work(orm, who)
        made.to_canner(jars=4, part_ml=0)
        made.do("process-1", 105, lambda step: steps.boil(step, reached=False))
        made.do("process-1", 108, lambda step: steps.boil(step, reached=True))
        made.finish("process-1", 124)
    page = season.page(orm, who, 2026)
    jars = queries.all_of(orm, who.household_id, Jar)
    assert (page.jars, len(page.batches)) == (len(jars), 2)
    assert page.litres == pytest.approx(sum(j.fill_ml for j in jars) / 1000)
    assert [f.fruit for f in page.fruits] == ["Damson"]
    assert page.fruits[0].kg == pytest.approx(8.0)
    drawn = [r.value for r in queries.all_of(orm, who.household_id, Reading)
             if r.quantity == "volume_ml"]  # fmt: skip
    assert page.ways[0].batches == 2
    assert page.ways[0].middle == pytest.approx(sum(drawn) / 8000.0, rel=0.01)
    assert [(w.words, w.times) for w in page.wrong] == [("a boil was lost", 2)]
    assert page.years == [2026]
    pages, text = read(season.sheet(page, "metric", STANDING_LINE))
    assert pages == 1
    assert "The season of 2026" in text
    assert season.page(orm, who, 2020).batches == []


def test_a_batch_of_new_years_night_is_of_the_year_of_the_kitchen(orm: Orm, who: Who) -> None:
    made = Work(orm, who)
    made.batch.started_at = datetime(2025, 12, 31, 23, 30, tzinfo=UTC)  # half past midnight here
    orm.flush()
    assert len(season.page(orm, who, 2026).batches) == 1
    assert season.page(orm, who, 2025).batches == []
    assert figures.hours_of(orm, who, 2026) == 0.0
    assert minutes(0) == NOON
