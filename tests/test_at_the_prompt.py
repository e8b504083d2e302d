"""The core by itself: what its page says is so, and a plan at the prompt is that of the page."""

from __future__ import annotations

import doctest
import json
from pathlib import Path

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry import at_the_prompt
from elderberry.core.errors import CoreError
from elderberry.services.household import kitchens
from elderberry.services.planning import plans
from elderberry.services.planning.plan_view import view
from tests.factories import asks, household

ROOT = Path(__file__).resolve().parents[1]


def test_the_page_on_the_core_says_what_it_computes() -> None:
    ran = doctest.testfile(str(ROOT / "docs" / "using-the-core.md"), module_relative=False)
    assert ran.attempted > 20
    assert ran.failed == 0


@pytest.mark.parametrize(
    ("lines", "method"),
    [
        (["10 kg damsons", "2 cups sugar"], ""),
        (["3 kg blackcurrants", "1.5 kg pears, chopped", "sugar to 40 Brix"], ""),
        (["700 ml water", "1 kg sugar"], ""),
        (["4 kg quinces"], ""),
        (["500 ml water", "600 g sugar"], "caramel_syrup"),
    ],
)
def test_a_plan_at_the_prompt_is_that_of_the_page(orm: Orm, lines: list[str], method: str) -> None:
    who = household(orm)
    here = kitchens.for_core(orm, who)
    asked = asks(*lines, method_key=method)
    page = plans.show(orm, who, asked)
    prompt = view(at_the_prompt.planned(", ".join(lines), here, method))
    assert prompt.title == page.title
    assert prompt.method.key == page.method.key
    for mine, shown in zip(prompt.ends, page.ends, strict=True):
        assert mine.litres == shown.litres
        assert mine.expected == shown.expected
        assert mine.process == shown.process
        assert [f.id for f in mine.findings] == [f.id for f in shown.findings]
    assert [o.title for o in prompt.operations] == [o.title for o in page.operations]


def test_it_prints_text_and_json(capsys: pytest.CaptureFixture[str]) -> None:
    assert at_the_prompt.run(["6 kg damsons", "--altitude", "585", "--jars", "pint"]) == 0
    said = capsys.readouterr().out
    assert said.startswith("Damson juice from 6 kg")
    assert "pint" in said
    assert "min in boiling water" in said
    assert at_the_prompt.run(["6 kg damsons", "--altitude", "585", "--json"]) == 0
    shown = json.loads(capsys.readouterr().out)
    assert shown["ends"][0]["process"]["minutes"] == 15
    assert at_the_prompt.run(["2 kg pears", "--method", "slices_air_dried"]) == 0
    assert "dried slices" in capsys.readouterr().out


@pytest.mark.parametrize("what", ["", "zzz", "5 kg moonfruit", "2 kg damsons, and some hope"])
def test_what_it_cannot_plan_it_says_in_words(
    what: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert at_the_prompt.run([what]) == 1
    assert len(capsys.readouterr().out.strip()) > 10


@pytest.mark.parametrize(
    ("what", "found"),
    [
        ("1 kg pears, chopped", ["1 kg pears, chopped"]),
        ("2 kg damsons; 3 sticks cinnamon", ["2 kg damsons", "3 sticks cinnamon"]),
        ("1 kg damsons, 200 g honey, 1 l water", ["1 kg damsons", "200 g honey", "1 l water"]),
    ],
)
def test_a_comma_parts_lines_and_not_what_is_said_of_one(what: str, found: list[str]) -> None:
    assert list(at_the_prompt.parts(what)) == found


def test_nothing_is_planned_where_nothing_suits() -> None:
    with pytest.raises(CoreError):
        at_the_prompt.planned("2 kg damsons", at_the_prompt.usual_kitchen(585), "no_such_method")
