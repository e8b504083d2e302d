"""Tables that come in: every error by its row before anything is written; all of it or nothing."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from datetime import date

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import Engine
from sqlalchemy.orm import Session as Orm

from elderberry.core import jars as kinds
from elderberry.core import materials
from elderberry.formats.sheets import csv_of
from elderberry.services.cooking import ageing, jar_view
from elderberry.services.errors import FieldError
from elderberry.services.notes import notes
from elderberry.services.planning import intake, learned
from elderberry.services.planning.intake import NewLot
from elderberry.services.sheets import coming_in, going_out
from elderberry.services.sheets.coming_in import Looked, Progress
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, Lot, Place, Reading, RowTaken, Serving, queries
from elderberry.store.base import Owned
from tests.factories import NOON, Work, household, minutes, request

NOW = minutes(60 * 24 * 300)
KEPT: dict[str, type[Owned]] = {
    "jars": Jar, "came-in": Lot, "batches": Batch, "readings": Reading, "servings": Serving,
}  # fmt: skip


@pytest.fixture
def who(orm: Orm) -> Who:
    return household(orm)


@pytest.fixture
def work(orm: Orm, who: Who) -> Work:
    """Four sealed pints of damson juice of a batch that is over, read as it went."""
    made = Work(orm, who, request())
    made.to_shelf()
    return made


def take(
    orm: Orm, who: Who, what: coming_in.Name, text: str | bytes, *, keep: bool = True
) -> Looked:
    held = text.encode() if isinstance(text, str) else text
    with orm.begin_nested() as made:
        *_, found = coming_in.take_in(orm, who, what, held, NOW, keep=keep)
        assert isinstance(found, Looked)
        if not found.written:
            made.rollback()
            orm.expire_all()
    return found


def out(orm: Orm, who: Who, what: str) -> str:
    return "".join(csv_of(*going_out.sheet(orm, who, what)))


def count(orm: Orm, who: Who, what: str) -> int:
    return len(queries.all_of(orm, who.household_id, KEPT[what]))


def errors(found: Looked) -> list[tuple[int, str]]:
    return [(w.line, w.column) for w in found.wrong]


@pytest.mark.parametrize("what", coming_in.TABLES)
def test_what_went_out_changes_nothing_when_it_comes_in(work: Work, what: coming_in.Name) -> None:
    orm, who = work.orm, work.who
    intake.take_in(orm, who, NewLot("4 kg quinces", "by the gate"), NOON)
    before, text = count(orm, who, what), out(orm, who, what)
    found = take(orm, who, what, text)
    assert (found.wrong, found.new) == ([], 0)
    assert found.there == found.rows == text.count("\r\n") - 1
    assert count(orm, who, what) == before
    assert out(orm, who, what) == text


JARS = """code,label,jar,filled with [ml],place,filled
,Plum juice,pint,460,Cellar shelf,2025-08
OLD-1,Quince jelly,250 ml,,Cellar shelf,2024
,Plum juice,pint,460,Cellar shelf,2025-08
,Pear,half pint,,refrigerator,
"""


def test_jars_come_in_as_jars_that_nobody_vouches_for(orm: Orm, who: Who) -> None:
    seen = take(orm, who, "jars", JARS, keep=False)
    assert (seen.rows, seen.new, seen.there, seen.wrong) == (4, 4, 0, [])
    assert seen.sample[1] == ["OLD-1", "Quince jelly", "250 ml", "", "Cellar shelf", "2024"]
    assert count(orm, who, "jars") == 0
    assert take(orm, who, "jars", JARS).written
    jars = sorted(queries.all_of(orm, who.household_id, Jar), key=lambda j: j.code)
    assert [j.code for j in jars] == ["OLD-1", "PL-25-F01", "PL-25-F02", "PR-26-F01"]
    assert [j.fill_ml for j in jars] == [250, 460, 460, 237]
    assert [v.filled_words for v in jar_view.views(orm, who, jars)] == [
        "about July 2024", "in August 2025", "in August 2025", "nobody knows when",
    ]  # fmt: skip
    again = take(orm, who, "jars", JARS)
    assert (again.new, again.there) == (0, 4)
    assert count(orm, who, "jars") == 4
    third = take(orm, who, "jars", JARS + ",Plum juice,pint,460,Cellar shelf,2025-08\n")
    assert (third.new, third.there) == (1, 4)
    assert shelf.view(orm, who, NOW).jars == 5


def test_units_of_the_heading_count(orm: Orm, who: Who) -> None:
    take(orm, who, "jars", "label;jar;filled with [l];place\nPlum;pint;0,45;Cellar shelf\n")
    assert queries.all_of(orm, who.household_id, Jar)[0].fill_ml == pytest.approx(450)
    with pytest.raises(FieldError, match="kept in ml"):
        take(orm, who, "jars", "label,jar,filled with [kg],place\nPlum,pint,1,Cellar shelf\n")
    with pytest.raises(FieldError, match="no column “jar”"):
        take(orm, who, "jars", "label,place\nPlum,Cellar shelf\n")


def test_every_column_of_jars_says_what_is_wrong(orm: Orm, who: Who) -> None:
    text = (
        "code,label,jar,filled with [ml],left,state,place,filled,opened,ended,lid\n"
        "ü!,Plum,pint,,,,Cellar shelf,,,,\n"
        ",,pint,,,,Cellar shelf,,,,\n"
        ",Plum,bucket,,,,Cellar shelf,,,,\n"
        ",Plum,pint,much,,,Cellar shelf,,,,\n"
        ",Plum,pint,-3,,,Cellar shelf,,,,\n"
        ",Plum,pint,,-1,,Cellar shelf,,,,\n"
        ",Plum,pint,,,asleep,Cellar shelf,,,,\n"
        ",Plum,pint,,,,attic,,,,\n"
        ",Plum,pint,,,,,,,,\n"
        ",Plum,pint,,,,Cellar shelf,2099-01-01,,,\n"
        ",Plum,pint,,,,Cellar shelf,8/2025,,,\n"
        ",Plum,pint,,,,Cellar shelf,,noon,,\n"
        ",Plum,pint,,,,Cellar shelf,,,soon,\n"
        ",Plum,pint,,,,Cellar shelf,,,,plaid\n"
        ",12,pint,,,,Cellar shelf,,,,\n"
        ",Plum,pint,460,300,stands,Cellar shelf,2025,,,\n"
        ",Plum,pint,,,stands,Cellar shelf,2025,2026-01-05,,\n"
        ",Plum,3 l wheelbarrow,,,,Freezer,,,,\n"
        ",Plum,9000 l bag,,,,Freezer,,,,\n"
        ",Plum,pint,,,,Cellar shelf,,,,\n"
    )
    found = take(orm, who, "jars", text)
    assert errors(found) == [
        (2, "code"), (3, "label"), (4, "jar"), (5, "filled with"), (6, "filled with"), (7, "left"),
        (8, "state"), (9, "place"), (10, "place"), (11, "filled"), (12, "filled"), (13, "opened"),
        (14, "ended"), (15, "lid"), (16, "label"), (17, "left"), (18, "opened"),
        (19, "jar"), (20, "jar"),
    ]  # fmt: skip
    assert (found.written, found.new) == (False, 1)
    assert all(w.words for w in found.wrong)
    assert count(orm, who, "jars") == 0
    assert queries.all_of(orm, who.household_id, RowTaken) == []


def test_a_jar_that_is_here_as_something_else_is_not_changed(work: Work) -> None:
    orm, who, jar = work.orm, work.who, work.folder.jars[0]
    text = f"code,label,jar,place\n{jar.code},Chutney,pint,Cellar shelf\n"
    assert errors(take(orm, who, "jars", text)) == [(2, "label")]
    twice = "code,label,jar,place\nX-1,Plum,pint,Cellar shelf\nX-1,Pear,pint,Cellar shelf\n"
    assert errors(take(orm, who, "jars", twice)) == [(3, "label")]


def test_gone_and_open_jars_keep_their_state(orm: Orm, who: Who) -> None:
    text = (
        "label,jar,filled with [ml],left [ml],state,place,filled,opened,ended\n"
        "Plum,pint,460,0,finished,,2025,,2026-02-01\n"
        "Plum,pint,460,200,opened,Refrigerator,2025,2026-09-30 08:00,\n"
        "Melon juice,pint,460,,stands,Cellar shelf,2025,,\n"
        "Plum,pint,460,300,,Refrigerator,2025,,\n"
        "Plum,pint,460,460,,Cellar shelf,2025,,\n"
    )
    assert take(orm, who, "jars", text).written
    gone, opened, held, poured, whole = sorted(
        queries.all_of(orm, who.household_id, Jar), key=lambda j: j.id
    )
    assert (gone.lives, gone.ended_on, gone.place_id) == ("finished", date(2026, 2, 1), None)
    assert (opened.lives, opened.left_ml, held.held) == ("opened", 200, True)
    assert (poured.lives, poured.left_ml) == ("opened", 300)
    assert (whole.lives, whole.opened_at) == ("stands", None)
    view = shelf.view(orm, who, NOW)
    assert sum(p.count for p in view.places) == 4


LOTS = """material,form,came in [kg],left [kg],source,picked,came,pH
Quince,,12,4,by the gate,2026-09-28,2026-09-29 10:00,3.2
damson,frozen,3.5,,plot 14,2026-09-01,2026-09-02 09:00,
apple,juice,5,,,,2026-10-01 09:00,
"""


def test_fruit_comes_in_and_waits(orm: Orm, who: Who) -> None:
    assert take(orm, who, "came-in", LOTS, keep=False).wrong == []
    assert take(orm, who, "came-in", LOTS).written
    lots = {v.name: v for v in intake.lots(orm, who)}
    assert lots["Quince"].left_kg == pytest.approx(4)
    assert lots["Quince"].ph == 3.2
    assert lots["Quince"].picked_on == date(2026, 9, 28)
    assert {v.form for v in lots.values()} == {"whole", "frozen", "juice"}
    assert take(orm, who, "came-in", LOTS).there == 3
    assert count(orm, who, "came-in") == 3


def test_every_column_of_what_came_in_says_what_is_wrong(orm: Orm, who: Who) -> None:
    text = (
        "material,form,came in [g],left [g],picked,came,sweetness,pH\n"
        "stone,,900,,,,,\n,,900,,,,,\nplum,melted,900,,,,,\nplum,,none,,,,,\nplum,,1,,,,,\n"
        "plum,,900,1900,,,,\nplum,,900,,tomorrow,,,\nplum,,900,,1890-01-01,,,\n"
        "plum,,900,,,2199-01-01,,\nplum,,900,,,,120,\nplum,,900,,,,,14\n"
    )
    found = take(orm, who, "came-in", text)
    assert errors(found) == [
        (2, "material"), (3, "material"), (4, "form"), (5, "came in"), (6, "came in"), (7, "left"),
        (8, "picked"), (9, "material"), (10, "came"), (11, "sweetness"), (12, "ph"),
    ]  # fmt: skip
    assert found.new == 0


BATCHES = """code,title,went in,method,begun
,,4 kg damsons,,2025-09-14 09:00
QN-24-03,The last of the quinces,5 kg quinces; 900 g sugar,,2024-11-02 14:00
"""


def test_batches_are_looked_through_without_being_kept(orm: Orm, who: Who) -> None:
    seen = take(orm, who, "batches", BATCHES, keep=False)
    assert (seen.wrong, seen.new, seen.written) == ([], 2, False)
    assert count(orm, who, "batches") == 0


def test_batches_come_with_their_jars_and_readings(orm: Orm, who: Who) -> None:
    assert take(orm, who, "batches", BATCHES).written
    rows = {b.code: b for b in queries.all_of(orm, who.household_id, Batch)}
    assert set(rows) == {"DM-25-01", "QN-24-03"}
    assert all(b.finished for b in rows.values())
    page = notes.page(orm, who, rows["QN-24-03"].id)
    assert page.title == "The last of the quinces"
    assert page.deviations == []
    assert take(orm, who, "batches", BATCHES).there == 2
    step = next(o for o in steps_of(orm, who, rows["DM-25-01"]) if o == "steam_juice")
    readings = (
        "batch,step,what,value,unit,instrument,at\n"
        f"DM-25-01,{step},Volume,1.9,l,jug,2025-09-14 11:00\n"
        f"DM-25-01,{step},Sweetness,15.5,°Bx,refractometer,2025-09-14 11:02\n"
    )
    assert take(orm, who, "readings", readings).written
    assert count(orm, who, "readings") == 2
    assert take(orm, who, "readings", readings).there == 2
    assert [o.yield_l_per_kg for o in learned.observations(orm, who, "damson")] == [
        pytest.approx(1.9 / 4)
    ]
    jars = "label,batch,jar,place,filled\nDamson juice,DM-25-01,pint,Cellar shelf,2025-09-14\n"
    assert take(orm, who, "jars", jars).written
    jar = queries.all_of(orm, who.household_id, Jar)[0]
    shown = shelf.jar_page(orm, who, jar.id)
    assert shown.batch is not None
    assert shown.jar.batch_code == "DM-25-01"
    assert [f.id for f in shown.findings] == ["found-not-vouched"]


def steps_of(orm: Orm, who: Who, batch: Batch) -> Sequence[str]:
    from elderberry.store import Operation

    return [o.kind for o in queries.of_batch(orm, who.household_id, Operation, batch.id)]


def test_every_column_of_batches_says_what_is_wrong(orm: Orm, who: Who) -> None:
    text = (
        "code,went in,method,begun\n"
        "nonsense,4 kg damsons,,2025-09-14 09:00\n,,,2025-09-14 09:00\n"
        ",4 kg of gravel,,2025-09-14 09:00\n,4 kg damsons,by magic,2025-09-14 09:00\n"
        ",4 kg damsons,,\n,4 kg damsons,,2199-01-01\n,damsons,,2025-09-14 09:00\n"
        "DM-25-04,4 kg damsons,,2025-09-14\nDM-25-04,9 kg damsons,,2025-09-15\n"
    )
    found = take(orm, who, "batches", text)
    assert errors(found) == [
        (2, "code"), (3, "went in"), (4, "went in"), (5, "method"), (6, "begun"), (7, "begun"),
        (8, "went in"),
    ]  # fmt: skip
    assert (found.new, found.there, found.written) == (1, 1, False)


@pytest.mark.parametrize(("letters", "wrong"), [(2000, []), (2001, [(2, "went in")])])
def test_what_went_in_may_be_long(
    orm: Orm, who: Who, letters: int, wrong: list[tuple[int, str]]
) -> None:
    went_in = "4 kg damsons".ljust(letters, ";")
    text = f"went in,begun\n{went_in},2025-09-14\n"
    assert errors(take(orm, who, "batches", text, keep=False)) == wrong


def test_readings_of_what_is_over_count_like_any(work: Work) -> None:
    orm, who, code = work.orm, work.who, work.folder.batch.code
    at = f"{minutes(100):%Y-%m-%d %H:%M}+00:00"
    head = "batch,step,what,value,unit,instrument,at\n"
    sour = head + f"{code},heat_to,Acidity,4.5,,ph_meter,{at}\n"
    name = "Acidity"
    assert take(orm, who, "readings", sour.replace("Acidity", name), keep=False).rows == 1
    orm.expire_all()
    found = take(orm, who, "readings", sour.replace(name, "ph"))
    assert found.written, found.wrong
    jars = jar_view.views(orm, who, work.folder.jars)
    assert any(j.stop for j in jars if j.lives == "stands")  # the limit is never forgotten


def test_every_column_of_readings_says_what_is_wrong(work: Work) -> None:
    code, at = work.folder.batch.code, f"{minutes(90):%Y-%m-%dT%H:%M}+00:00"
    text = (
        "batch,step,what,value,unit,instrument,at\n"
        f"ZZ-11-01,heat_to,Temperature,80,°C,thermometer,{at}\n"
        f"{code},juggle,Temperature,80,°C,thermometer,{at}\n"
        f"{code},heat_to,Mood,80,°C,thermometer,{at}\n"
        f"{code},heat_to,Temperature,hot,°C,thermometer,{at}\n"
        f"{code},heat_to,Temperature,900,°C,thermometer,{at}\n"
        f"{code},heat_to,Temperature,80,kg,thermometer,{at}\n"
        f"{code},heat_to,Temperature,81,°C,elbow,{at}\n"
        f"{code},heat_to,Temperature,82,°C,thermometer,2020-01-01\n"
        f"{code},heat_to,Temperature,83,°C,thermometer,\n"
        f"{code},heat_to,Temperature,176,°F,thermometer,{at}\n"
    )
    found = take(work.orm, work.who, "readings", text)
    assert errors(found) == [
        (2, "batch"), (3, "step"), (4, "what"), (5, "value"), (6, "value"), (7, "unit"),
        (8, "instrument"), (9, "at"), (10, "at"),
    ]  # fmt: skip


def test_what_is_under_way_is_read_at_its_step(orm: Orm, who: Who) -> None:
    under_way = Work(orm, who, request())
    text = (
        "batch,step,what,value,unit,instrument,at\n"
        f"{under_way.batch.code},heat_to,Temperature,80,,thermometer,{minutes(5).isoformat()}\n"
    )
    assert errors(take(orm, who, "readings", text)) == [(2, "batch")]


def test_drinks_come_in_and_nothing_is_poured(work: Work) -> None:
    orm, who, jar = work.orm, work.who, work.folder.jars[0]
    text = f"name,jar,of it [cl],at\nA jug,{jar.code},12,2026-12-24 18:00\n"
    assert take(orm, who, "servings", text).written
    assert queries.all_of(orm, who.household_id, Serving)[0].base_ml == 120
    assert shelf.jar_page(orm, who, jar.id).jar.left_ml == jar.fill_ml
    assert take(orm, who, "servings", text).there == 1
    wrong = f"name,jar,of it [ml],at\n,{jar.code},12,2026-01-01\nA,nowhere,1,2026-01-01\nA,,1,x\n"
    assert errors(take(orm, who, "servings", wrong))[:2] == [(2, "name"), (3, "jar")]


NUMBERS = itertools.count(1)
"""Names of households of which each is another."""


@settings(max_examples=12, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    rows=st.lists(
        st.tuples(
            st.sampled_from(sorted(f.name for f in materials.fruits().values())),
            st.sampled_from(sorted(k.name for k in kinds.kinds().values())),
            st.sampled_from(("Cellar shelf", "Refrigerator", "Freezer")),
            st.one_of(st.none(), st.dates(date(2010, 1, 1), date(2026, 9, 1))),
            st.sampled_from(("stands", "opened", "finished", "given")),
        ),
        min_size=1, max_size=20,
    )
)  # fmt: skip
def test_a_drawn_shelf_comes_to_another_household_as_it_was(
    orm: Orm, rows: list[tuple[str, str, str, date | None, str]]
) -> None:
    one, other = (household(orm, f"{next(NUMBERS)}") for _ in range(2))
    head = "label,jar,place,filled,state\n"
    lines = [f"{f},{k},{p},{d or ''},{s}" for f, k, p, d, s in rows]
    assert take(orm, one, "jars", head + "\n".join(lines)).written
    went = out(orm, one, "jars")
    assert take(orm, other, "jars", went).written

    def told(who: Who) -> list[tuple[object, ...]]:
        places = {p.id: p.name for p in queries.all_of(orm, who.household_id, Place)}
        return sorted(
            (j.code, j.label, j.jar_kind, j.fill_ml, str(j.lives), places.get(j.place_id or 0),
             j.filled_at.date(), j.there_ml)
            for j in queries.all_of(orm, who.household_id, Jar)
        )  # fmt: skip

    assert told(one) == told(other)


@pytest.mark.parametrize(
    ("said", "middle", "off_d"),
    [
        ("2019", date(2019, 7, 2), 182), ("2019-08", date(2019, 8, 16), 15),
        ("2019-8", date(2019, 8, 16), 15), ("2019-08-20", date(2019, 8, 20), 0),
    ],
)  # fmt: skip
def test_a_day_that_is_not_known_is_the_middle_of_what_is(
    orm: Orm, who: Who, said: str, middle: date, off_d: int
) -> None:
    head = JARS.splitlines()[0]
    assert take(orm, who, "jars", f"{head}\n,Plum juice,pint,460,Cellar shelf,{said}\n").written
    jar = queries.all_of(orm, who.household_id, Jar)[0]
    assert (jar.filled_at.date(), ageing.off_days(jar)) == (middle, off_d)


def test_thousands_of_rows_tell_how_far_they_are(committed: Engine) -> None:
    lines = (f"Plum juice,pint,460,Cellar shelf,{2010 + n % 15}-08" for n in range(6_000))
    text = "label,jar,filled with [ml],place,filled\n" + "\n".join(lines)
    with Orm(committed) as orm, orm.begin():
        who = household(orm)
        told = [*coming_in.take_in(orm, who, "jars", text.encode(), NOW, keep=True)]
        far = [(t.doing, t.done) for t in told if isinstance(t, Progress)]
        assert far == [
            ("looked through", 0), ("looked through", 5_000),
            ("written", 5_000), ("written", 6_000),
        ]  # fmt: skip
        assert isinstance(told[-1], Looked)
        assert shelf.view(orm, who, NOW).jars == 6_000
