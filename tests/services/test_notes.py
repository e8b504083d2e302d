"""Notes: every finished batch is found, and its page says how it went."""

from __future__ import annotations

from dataclasses import replace
from io import BytesIO
from zoneinfo import ZoneInfo

import pytest
from pypdf import PdfReader
from sqlalchemy.orm import Session as Orm

from elderberry.core import safety
from elderberry.core.flow.inputs import End
from elderberry.formats import paper
from elderberry.services.cooking import endings, mishaps, steps
from elderberry.services.errors import NotFound
from elderberry.services.notes import notes, season
from elderberry.services.notes import sheet as sheets
from elderberry.services.notes.shown import NotePage, NotesView
from elderberry.services.planning import intake
from elderberry.services.planning.intake import NewLot
from elderberry.services.who import Who
from tests.factories import NOON, Work, household, minutes, reading, request

VIENNA = ZoneInfo("Europe/Vienna")
MORNING = 116 + 13 * 60


def finished(orm: Orm, who: Who, fruit: str = "damson") -> Work:
    """A batch from the crate to the shelf, with a boil that was lost and a word written down."""
    work = Work(orm, who, request(fruit))
    work.to_filled()
    work.do("process-1", 92)
    work.do("process-1", 94, lambda m: mishaps.happened(m, "boil_lost", mishaps.Said()))
    work.do("process-1", 100, lambda m: steps.boil(m, reached=True))
    work.do("process-1", 101, lambda m: steps.note(m, "problem", "smelt of almonds"))
    work.finish("process-1", 117)
    work.finish("seal_check", MORNING, others_held=True)
    return work


def codes(view: NotesView) -> list[str]:
    return [b.code for season in view.seasons for b in season.batches]


@pytest.fixture
def work(orm: Orm) -> Work:
    return finished(orm, household(orm))


def page_of(work: Work) -> NotePage:
    return notes.page(work.orm, work.who, work.batch.id)


def test_a_batch_is_there_once_it_is_finished(orm: Orm) -> None:
    who = household(orm)
    Work(orm, who).to_filled()
    assert not notes.view(orm, who).seasons
    done = finished(orm, who)
    view = notes.view(orm, who)
    assert [s.name for s in view.seasons] == ["2026"]
    assert codes(view) == [done.batch.code]
    assert view.seasons[0].batches[0].jars == 5


def test_what_filled_no_jars_was_poured_or_given_up(orm: Orm) -> None:
    who = household(orm)
    drunk = Work(orm, who, replace(request(), ends=(End("fill", "now"),)))
    drunk.do("steam_juice-1", 1)
    drunk.finish("steam_juice-1", 65, readings=(reading("volume_ml", 1900, "jug"),))
    drunk.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    assert page_of(drunk).flow.became is None
    drunk.finish("fill", 90)
    mistaken = Work(orm, who, request("quince"))
    mistaken.do("steam_juice-1", 91)
    endings.give_up(orm, who, mistaken.batch.id, minutes(93))
    kept = finished(orm, who)
    pages = [page_of(w).flow for w in (kept, mistaken, drunk)]
    assert [p.became for p in pages] == ["jars", "nothing", "glasses"]
    listed = notes.view(orm, who).seasons[0].batches
    assert [b.became for b in listed] == ["jars", "nothing", "glasses"]
    sheet = season.sheet(season.page(orm, who, NOON.year), "metric", "")
    printed = next(block.rows for block in sheet.blocks if block.heading == "Batches")
    ends = {words.rsplit(": ", 1)[-1] for row in printed for words in row[1::2] if words}
    assert ends == {"5 jars", "given up", "poured"}


@pytest.mark.parametrize(
    ("words", "found"),
    [(["damson"], True), (["DM-26"], True), (["almonds", "damson"], True), (["ALMONDS"], True),
     (["boil"], True), (["quince"], False), (["damson", "quince"], False), (["%"], False)],
)  # fmt: skip
def test_it_is_found_by_any_word_of_it(work: Work, words: list[str], found: bool) -> None:
    assert bool(codes(notes.view(work.orm, work.who, words))) is found


def test_older_ones_come_after_and_nobody_elses(orm: Orm) -> None:
    who = household(orm)
    first, second = finished(orm, who), finished(orm, who, "blackcurrant")
    finished(orm, household(orm, "Next door"))
    assert codes(notes.view(orm, who)) == [second.batch.code, first.batch.code]
    assert codes(notes.view(orm, who, (), second.batch.id)) == [first.batch.code]
    with pytest.raises(NotFound):
        notes.page(orm, household(orm, "Third"), first.batch.id)


def test_its_page_says_what_was_planned_and_what_came(work: Work) -> None:
    page = page_of(work)
    volume = next(r for r in page.figures if r.quantity == "volume_ml")
    assert (volume.measured, volume.planned is not None) == (2000, True)
    assert page.litres_per_kg == pytest.approx(0.5)
    assert page.litres == pytest.approx(4 * 0.473 + 0.1, rel=0.01)
    steamed = page.steps[0]
    assert steamed.took_min == pytest.approx(64)
    assert 0 < page.hands_h < 3
    assert page.process
    assert [(j.place, j.jars) for j in page.jars] == [
        ("Cellar shelf", "4 × pint"), ("Refrigerator", "1 × pint"),
    ]  # fmt: skip


def test_what_went_otherwise_is_on_it(work: Work) -> None:
    said = [d.words for d in page_of(work).deviations]
    assert "The boil was lost" in said
    assert "smelt of almonds" in said


def test_what_came_in_with_a_price_makes_the_litre_cost(orm: Orm) -> None:
    who = household(orm)
    lot = intake.take_in(orm, who, NewLot(line="8 kg damsons", cost=16.0), NOON)
    asked = request("damson", 4.0)
    given = asked.inputs[0].__class__(**{**vars(asked.inputs[0]), "lot_id": lot.id})
    work = Work(orm, who, asked.__class__(**{**vars(asked), "inputs": (given,)}))
    work.to_filled()
    page = page_of(work)
    assert page.cost_minor == 800
    assert page.cost_per_litre_minor == round(800 / page.litres)
    said = f"what came in cost 8.00, {8 / page.litres:.2f} a litre"
    assert said in str(sheets.of_page(page, "metric", VIENNA))


@pytest.mark.parametrize("units", ["metric", "us"])
def test_its_sheet_can_be_printed_and_read(work: Work, units: str) -> None:
    page = page_of(work)
    held = paper.pdf(sheets.of_page(page, units, VIENNA))  # type: ignore[arg-type]
    text = "\n".join(p.extract_text() for p in PdfReader(BytesIO(held)).pages)
    for words in (page.title, page.code, "The boil was lost", safety.STANDING_LINE, "Steam load 1"):
        assert words in text
    assert ("2 quarts" if units == "us" else "2 l") in text


def test_a_reading_that_was_put_right_and_more_time_are_on_it(orm: Orm) -> None:
    work = Work(orm, household(orm), request())
    work.do("steam_juice-1", 1)
    work.do("steam_juice-1", 50, lambda m: steps.lengthen(m, 12, "still dark"))
    work.finish("steam_juice-1", 80, readings=(reading("volume_ml", 1700, "jug"),))
    wrong = next(r for r in work.folder.readings if r.quantity == "volume_ml")
    work.do("steam_juice-1", 81, lambda m: steps.correct(m, wrong.id, 2050))
    said = [d.words for d in page_of(work).deviations]
    assert "12 min more: still dark" in said
    assert [w for w in said if "put right" in w and "1700" in w and "2050" in w]
