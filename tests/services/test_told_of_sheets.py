"""What is said of tables that come in, row by row, and what they leave, is what it was before."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.services.errors import FieldError
from elderberry.services.household import kitchens
from elderberry.services.sheets import coming_in, going_out
from elderberry.services.sheets.coming_in import Looked, Progress
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from tests.factories import Work, minutes
from tests.facts import Book, facts_of
from tests.services.test_told import on_the_shelf

NOW = minutes(60 * 24 * 300)
LONG = "damson " * 17
READ = f"{minutes(100):%Y-%m-%d %H:%M:%S}+00:00"
JARS = """label,jar,filled with [ml],left [ml],state,place,filled,opened,ended,lid,code,mood
Plum,pint,1,,,Cellar shelf,2025-08,,,,,dull
Plum,pint,0.9,,,Cellar shelf,2025-08,,,,,
Pear,1 l bag,1010,,,Freezer,2025,,,,,
Pear,1 l bag,1011,,,Freezer,2025,,,,,
Pear,200 l bag,200000,,,Freezer,2025,,,,,
Pear,200 l bag,200001,,,Freezer,2025,,,,,
Pear,250 ml bag,,,,Freezer,2025-07-31,,,,,
Pear,0.5 ml bag,,,,Freezer,2025-07-31,,,,,
Quince jelly,half-pint,230,0,finished,,2026,,2026-09-01,red,q-1,
Quince jelly,half_pint,230,-1,,Cellar shelf,2026,,,gold,q-2,
Quince jelly,half-pint,230,229.5,,Refrigerator,2026,,,,Q-3,
Quince jelly,half-pint,230,230,,Cellar shelf,2026,,,,Q-4,
Quince jelly,half-pint,230,232.3,,Cellar shelf,2026,,,,Q-5,
Quince jelly,half-pint,230,232.4,,Cellar shelf,2026,,,,Q-6,
Quince jelly,half pint,,280,,Cellar shelf,2026,,,,Q-7,
Rosehip syrup,half-pint,,,stands,Cellar shelf,2026-13,,,,,
Rosehip syrup,half-pint,,,stands,Cellar shelf,2026-06,2026-08-01 10:00,,,,
Rosehip syrup,half-pint,,100,stands,Cellar shelf,2026-06,2026-08-01 10:00,,,,
Rosehip syrup,half-pint,,100,opened,Refrigerator,2026-06,2026-08-01 10:00,,,,
Rosehip syrup,half-pint,,0,given,,2026-06,,2026-08-01,,,
Rosehip syrup,half-pint,,0,sleeps,,2026-06,,2026-08-01,,,
Rosehip syrup,half-pint,,,made,Cellar shelf,2026-06,,,,,
Rosehip syrup,half-pint,,,stands,,2026-06,,,,,
Rosehip syrup,half-pint,,,stands,attic,2026-06,,,,,
"""
SAME = """code,label,jar,place,filled
A-1,Plum juice,pint,Cellar shelf,2026
A-1,Plum juice,pint,Cellar shelf,2026
A-1,Pear juice,pint,Cellar shelf,2026
A-1,Plum juice,trough,Cellar shelf,2026
A-1,Plum juice,quart,Cellar shelf,2026
AAAAAAAAAABBBBBBBBBBCCCCCCCCCCDD,Plum juice,pint,Cellar shelf,2026
AAAAAAAAAABBBBBBBBBBCCCCCCCCCCDDE,Plum juice,pint,Cellar shelf,2026
"""
CAME_IN = f"""material,form,came in [g],left [g],source,picked,came,sweetness,pH
quince,,9,,,,,,
quince,,10,,,,,,
quince,,500000,,,,,,
quince,,500001,,,,,,
damson,frozen,900,901,plot 3,2026-09-01,2026-09-02 09:00,14,3.2
damson,frozen,900,902,plot 3,2026-09-01,2026-09-02 09:00,14,3.2
damson,frozen,900,0,plot 3,2026-09-01,2026-09-02 09:00,85,1.5
damson,frozen,900,300,plot 3,2026-09-01,2026-09-02 09:00,86,8.0
damson,,900,300,plot 3,2026-09-03,2026-09-02 09:00,,8.1
apple,juice,900,,,,,,
apple,pomace,900,450,,,,,
apple,stewed,900,,,,,,
pebble,,900,,,,,,
,,900,,,,,,
{LONG},,900,,,,,,
rhubarb,,900,,,,{NOW:%Y-%m-%d %H:%M}+00:00,,
rhubarb,,900,,,,{NOW:%Y-%m-%d %H}:01+00:00,,
"""
BATCHES = """code,title,went in,method,begun
,,4 kg damsons,,2025-09-14 09:00
dm-25-09,A late one,4 kg damsons; sugar to 40 Brix; ; 2 sticks cinnamon,,2025-10-14 09:00
DM-25-09,,5 kg damsons,,2025-10-15 09:00
DM-25-09,Another,5 kg damsons,,2025-10-15 09:00
D-25-09,,4 kg damsons,,2025-09-14
,,4 kg damsons,,1966-01-01
,,4 kg damsons,,1970-01-01
,,4 kg quinces,Quince jelly,2025-11-02
,,4 kg quinces,a jelly,2025-11-02
,,4 kg shale,,2025-11-02
,,,,2025-11-02
,,4 kg quinces,,
"""
READINGS = f"""batch,step,what,value,unit,instrument,at
CODE,heat_to,Temperature,80,,thermometer,{READ}
CODE,heat_to,Temperature,80,,thermometer,{READ}
CODE,heat_to,Temperature,176,°F,thermometer,{READ}
CODE,heat_to,Temperature,201,°C,thermometer,{READ}
CODE,heat_to,Sweetness,15.2,,refractometer,{READ}
CODE,heat_to,Sweetness,15.2,litres,refractometer,{READ}
CODE,heat_to,Volume,1.9,l,jug,{READ}
CODE,heat_to,Volume,1.9,l,ruler,{READ}
CODE,heat_to,ph,3.3,,ph_meter,{READ}
CODE,heat_to,ph,33,,ph_meter,{READ}
CODE,heat_to,,3,,ph_meter,{READ}
,heat_to,ph,3.1,,ph_meter,{READ}
CODE,fly,ph,3.1,,ph_meter,{READ}
CODE,heat_to,ph,3.1,,,{READ}
CODE,heat_to,ph,3.2,,ph_meter,
CODE,heat_to,ph,3.2,,ph_meter,{NOW:%Y-%m-%d %H}:01+00:00
CODE,heat_to,ph,3.2,,ph_meter,2020-02-02
XX-11-11,heat_to,ph,3.2,,ph_meter,{READ}
"""
SERVINGS = f"""name,jar,of it [ml],at
Fizz,JAR,1,{READ}
Fizz,JAR,1,{READ}
Fizz,JAR,0.9,2026-10-02
Fizz,JAR,100000,2026-10-03
Fizz,JAR,100001,2026-10-04
,JAR,40,2026-10-05
Fizz,,40,2026-10-05
Fizz,Z-9,40,2026-10-05
Fizz,JAR,forty,2026-10-05
Fizz,JAR,40,
Fizz,JAR,40,{NOW:%Y-%m-%d %H}:01+00:00
{"f" * 80},JAR,40,2026-10-06
{"f" * 81},JAR,40,2026-10-06
"""


@dataclass(frozen=True)
class Comes:
    """A table that comes in: of what, and its rows; CODE and JAR stand for what is here."""

    what: coming_in.Name
    text: str


COMING = {
    "jars": Comes("jars", JARS), "the same jars": Comes("jars", SAME),
    "came in": Comes("came-in", CAME_IN), "batches": Comes("batches", BATCHES),
    "readings": Comes("readings", READINGS), "servings": Comes("servings", SERVINGS),
    "pounds": Comes("came-in", "material,came in [lb],left [oz]\ndamson,4.4,16\n"),
    "by commas": Comes("jars", "label;jar;filled with [l];place\nPlum;pint;0,45;Cellar shelf\n"),
    "no jar": Comes("jars", "label,place\nPlum,Cellar shelf\n"),
    "in degrees": Comes("jars", "label,jar,left [°C]\nPlum,pint,3\n"),
    "nothing": Comes("batches", ""), "only a heading": Comes("batches", "went in,begun\n"),
}  # fmt: skip


@pytest.fixture
def work(orm: Orm, monkeypatch: pytest.MonkeyPatch) -> Work:
    return on_the_shelf(orm, monkeypatch)


def looked(orm: Orm, who: Who, comes: Comes, text: str, *, keep: bool) -> Looked | Progress:
    *_, found = coming_in.take_in(orm, who, comes.what, text.encode(), NOW, keep=keep)
    return found


def told(work: Work, comes: Comes) -> Iterator[str]:
    """What is said of a table, and what the rows with nothing wrong leave."""
    orm, who = work.orm, work.who
    text = comes.text.replace("CODE", work.batch.code).replace("JAR", work.folder.jars[0].code)
    try:
        with orm.begin_nested() as tried:
            found = looked(orm, who, comes, text, keep=False)
            tried.rollback()
            orm.expire_all()
    except FieldError as wrong:
        yield f"refused {wrong}"
        return
    assert isinstance(found, Looked)
    yield from (f"{k} {v}" for k, v in facts_of("looked", found))
    wrong_at = {w.line for w in found.wrong}
    rows = text.splitlines()
    sound = "\n".join(row for line, row in enumerate(rows, start=1) if line not in wrong_at)
    kept = looked(orm, who, comes, sound, keep=True)
    yield from (f"{k} {v}" for k, v in facts_of("kept", kept))
    orm.flush()
    headings, there = going_out.sheet(orm, who, comes.what)
    shown = [n for n, heading in enumerate(headings) if heading != "number"]
    yield from (f"out {' ; '.join(str(row[n]) for n in shown)}" for row in there)
    yield f"today {kitchens.today(orm, who, NOW)}"
    of_shelf = shelf.view(orm, who, NOW)
    yield f"shelf {of_shelf.jars} jars, {of_shelf.litres:.4g} l"


BOOK = Book(__file__, "told_of_sheets.txt", COMING)


@pytest.mark.parametrize("name", COMING)
def test_a_table_that_comes_in_says_what_it_said(work: Work, name: str) -> None:
    BOOK.holds(name, told(work, COMING[name]))
