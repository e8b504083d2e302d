"""Lines as people write them are read rightly, or refused at the place."""

from __future__ import annotations

import csv
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import materials, names
from elderberry.core.figures import CannotRead
from elderberry.core.flow.inputs import forms
from elderberry.core.lines import CouldBe, Line, NotListed, read
from elderberry.core.quantities import Customs, Quantity

US = Customs("us")
_TEXT = (Path(__file__).parent / "lines.csv").read_text("utf-8").splitlines()
WRITTEN = list(csv.DictReader(line for line in _TEXT if not line.startswith("#")))


def _more(line: Line) -> dict[str, str]:
    """A line in the words of the table."""
    of = f" of {line.of}" if line.of else ""
    states = (line.where, "out" if line.leaves else "", "guessed" if line.guessed else "")
    return {
        "material": line.material,
        "form": line.form,
        "measured_as": line.measured_as if line.measured_as != line.form else "",
        "how": line.how,
        "share": f"{line.share:.4g} {line.per}{of}" if line.how == "share" else "",
        "target": f"{line.target} {line.value:g}" if line.target else "",
        "where": " ".join(filter(None, states)),
    }


@pytest.mark.parametrize("row", WRITTEN, ids=[row["line"] for row in WRITTEN])
def test_a_line_is_read_as_it_is_meant(row: dict[str, str]) -> None:
    line = read(row["line"], US)
    assert _more(line) == {key: row[key] for key in _more(line)}
    known = [line.mass_g.lo, line.mass_g.typ, line.mass_g.hi] if line.mass_g else []
    meant = [float(g) for g in row["grams"].split("|")] if row["grams"] else []
    assert known == pytest.approx(meant, rel=1e-3)
    assert line.said == row["line"]
    assert line.form in forms()


@pytest.mark.parametrize(
    ("text", "place", "words"),
    [
        ("", "", "nothing to read"),
        ("   ", "", "nothing to read"),
        ("to taste", "to taste", "Of what"),
        ("5 kg", "5 kg", "Of what"),
        ("the rest", "the rest", "Of what"),
        ("💥", "💥", "Of what"),
        ("12", "12", "Of what"),
        ("half", "half", "Of what"),
        ("sugar", "sugar", "How much sugar"),
        ("quinces", "quinces", "How much quince"),
        ("1,500 g sugar", "1,500", "1500 or 1.500"),
        ("1/0 kg plums", "1/0", "divided by nought"),
        ("-3 kg plums", "-3", "nought up"),
        ("0 kg plums", "0", "Leave the line out"),
        ("12 to 10 sprigs thyme", "12", "smaller to the larger"),
        ("100 C water", "C", "cups or degrees"),
        ("water at 90 °C", "°C", "weighed, counted or measured"),
        ("2 m rhubarb", "m", "weighed, counted or measured"),
        ("12 redcurrants", "12", "^Redcurrant is not counted: weigh it, or write cups[.]$"),
        ("3 honey", "3", "not counted"),
        ("2 lb 3 cups plums", "3", "do not add up"),
        ("sugar to 120 Brix", "to 120 Brix", "Brix goes from"),
        ("citric acid to pH 9", "to pH 9", "pH goes from"),
        ("2 apples, 3 pears", "pears", "second thing"),
        ("2 cups sugar and 1 cup honey", "honey", "second thing"),
        ("zest and juice of 1 lemon", "zest", "two things"),
        ("1.5 kg Boskoop apples", "Boskoop", "leave it out"),
        ("2 kg plums from the corner", "from", "leave it out"),
        ("2 kg rhubarb leaves", "leaves", "leave it out"),
        ("1 cup sugar, 20 %", "20 %", "amount and a share"),
        ("water to the second ring of the jar", "to the second ring of the jar", "not known"),
        ("90000 kg damsons", "90000", "no kitchen"),
    ],
)
def test_what_cannot_be_read_is_refused_at_its_place(text: str, place: str, words: str) -> None:
    with pytest.raises(CannotRead, match=words) as wrong:
        read(text, US)
    if place:
        assert text[wrong.value.start : wrong.value.end] == place
    assert not isinstance(wrong.value, NotListed)


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("3 bananas", "bananas"), ("2 kg tomatoes", "tomatoes"), ("2 dashes bitters", "bitters"),
        ("1 kg cherry tomatoes", "cherry tomatoes"), ("2 kg sweet potatoes", "sweet potatoes"),
        ("2 cups moonshine", "moonshine"), ("4 lb peas", "peas"), ("1 cup of love", "love"),
        ("2 custard apples", "custard apples"), ("500 ml oat milk", "oat milk"), ("abc", "abc"),
    ],
)  # fmt: skip
def test_what_no_list_knows_is_named_and_never_taken_for_something_else(
    text: str, name: str
) -> None:
    with pytest.raises(NotListed) as wrong:
        read(text, US)
    assert wrong.value.name == name == text[wrong.value.start : wrong.value.end]


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("1 cup lemon juice", ["lemon_bottled", "lemon_fresh"]),
        ("1 cup lime juice", ["lime_bottled", "lime"]),
        ("1 cup vinegar", ["vinegar_white", "vinegar_cider"]),
        ("2 kg cherries, pitted", ["cherry_sweet", "cherry_sour"]),
        ("4 l grapes", ["grape_slipskin", "grape_table"]),
        ("1 packet pectin", ["pectin_regular", "pectin_low"]),
        ("1 kg currants", ["blackcurrant", "redcurrant"]),
    ],
)
def test_a_name_that_several_share_is_asked_and_each_answer_is_a_line(
    text: str, meant: list[str]
) -> None:
    with pytest.raises(CouldBe) as wrong:
        read(text, US)
    assert [read(c.line, US).material for c in wrong.value.choices] == meant
    assert all(c.words in c.line for c in wrong.value.choices)


def test_a_household_measures_and_names_things_in_its_own_way() -> None:
    own = Customs(
        "us",
        containers={"bucket": Quantity(6500, "mass"), "big jug": Quantity(2000, "volume")},
        marks={"jar": (250.0, 500.0, 750.0), "tall pot": (2000.0, 4000.0)},
        own={"moonshine": "spirit_40", "bitters": "unlisted_plain"},
    )
    bucket = read("a third of a bucket of plums", own).mass_g
    assert bucket is not None
    assert bucket.typ == pytest.approx(6500 / 3)
    jug = read("1 big jug apple juice", own).mass_g
    assert jug is not None
    assert jug.typ == pytest.approx(2000 * 1.0485, rel=1e-3)
    assert read("water to the second ring of the jar", own).value == 500
    assert read("water to the top mark of the tall pot", own).value == 4000
    assert read("water to the lowest mark of the tall pot", own).value == 2000
    assert read("water to the highest ring of the jar", own).value == 750
    assert read("water to the 3 l mark of the tall pot", own).value == 3000
    with pytest.raises(CannotRead, match="third mark of the tall pot"):
        read("water to the third mark of the tall pot", own)
    assert read("water to the brim of the pint jar", own).value == 495
    assert read("2 cups moonshine", own).material == "spirit_40"
    bitters = read("2 dashes bitters", own)
    assert (bitters.material, bitters.called) == ("unlisted_plain", "bitters")


def test_what_is_spoken_of_need_not_be_named() -> None:
    assert read("2 1/2 lb", US, of="damson").material == "damson"
    assert read("18", US, of="quince").mass_g == read("18 quinces", US).mass_g
    assert read("1 cup vinegar", US, of="vinegar_cider").material == "vinegar_cider"
    with pytest.raises(CannotRead, match="That is lemon, and damson is spoken of"):
        read("18 lemons", US, of="damson")


def test_every_part_that_was_read_has_its_place() -> None:
    text = "2 1/2 cups sliced strawberries, frozen, off the heat"
    places = {part: text[slice(*span)] for part, span in read(text, US).places.items()}
    assert places == {
        "amount": "2 1/2", "unit": "cups", "material": "strawberries", "form": "frozen",
        "where": "off the heat",
    }  # fmt: skip
    text = "sugar to 46 Brix"
    assert text[slice(*read(text).places["target"])] == "to 46 Brix"


def test_every_name_leads_to_what_it_names() -> None:
    for key in {**materials.fruits(), **materials.ingredients()}:
        if not key.startswith("unlisted"):
            assert read(f"200 g {names.told(key)}").material == key, key
    assert not names.called().keys() & names.unlisted().keys()


WORDS = [w for row in WRITTEN for w in row["line"].split()] + ["½", "-", "(", ")", "%", "to", "x"]


@given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=7).map(" ".join))
def test_any_words_are_read_or_refused_inside_the_text(text: str) -> None:
    _read_or_refused(text)


@given(st.text(max_size=30))
def test_any_letters_are_read_or_refused_inside_the_text(text: str) -> None:
    _read_or_refused(text)


def _read_or_refused(text: str) -> None:
    try:
        line = read(text, US)
    except CannotRead as error:
        wrong = error
    else:
        _hangs_together(line)
        return
    assert 0 <= wrong.start < wrong.end <= max(len(text), 1)


def _hangs_together(line: Line) -> None:
    if line.mass_g is not None:
        assert 0 <= line.mass_g.lo <= line.mass_g.typ <= line.mass_g.hi
    assert (line.how == "amount") <= (line.mass_g is not None)
    assert (line.how == "target") == bool(line.target)
    assert (line.how == "share") == (line.share > 0)


@pytest.mark.parametrize("text", ["half a bucket", "2 buckets", "a big jug", "bucket"])
@pytest.mark.parametrize("of", ["damson", "water", "honey"])
def test_a_container_of_our_own_may_end_a_line_that_names_nothing(text: str, of: str) -> None:
    own = {"bucket": Quantity(4500, "mass"), "big jug": Quantity(3000, "volume")}
    found = read(text, replace(US, containers=own), of=of)
    assert found.mass_g is not None
    assert found.mass_g.typ > 1000


def test_however_many_words_a_household_has_given_a_name() -> None:
    """And none that is listed has more words than are looked at together."""
    mine = "aunt Tilda's very dark winter spice mix"
    customs = Customs("metric", own={mine: "unlisted_plain"})
    line = read(f"20 g {mine}", customs)
    assert (line.material, line.called) == ("unlisted_plain", mine)
    listed = {c.name for c in names.called().values()}
    assert max(len(name.split()) for name in listed) == names.LONGEST


@pytest.mark.parametrize("line", ["0 g sugar", "0 cups honey"])
def test_nothing_of_something_is_left_out(line: str) -> None:
    with pytest.raises(CannotRead, match="Leave the line out"):
        read(line)
