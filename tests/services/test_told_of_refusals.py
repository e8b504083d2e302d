"""What a kitchen will not do, in its words, and what it leaves where it does it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import CoreError
from elderberry.services.cooking import seals, steps, traces
from elderberry.services.errors import ServiceError
from elderberry.services.household import furnishing, kitchens, passwords
from elderberry.services.planning import own_methods, plans
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.own_methods import NewMethod
from elderberry.services.shelf import lives, servings, shelf
from elderberry.services.who import Who
from elderberry.store import JarStock, LidStock, Place, queries
from tests.factories import NOON, Work, forget, minutes, request
from tests.facts import Book, said
from tests.services import test_told
from tests.services.test_told import done, looks, on_the_shelf

LATE = 14 * 60.0
Act = Callable[[Work], object]
TRACE = "time,temp\n" + "".join(
    f"{minutes(98 + n):%Y-%m-%d %H:%M},{t}\n"
    for n, t in enumerate((60, 88, 98.2, 98.3, 98.2, 96.1, 98.2, 98.2, 98.1, 98.2, 97.0, 80))
)
OLD = TRACE.replace("2026", "2019")


THERE: dict[str, Callable[[Orm, Who, str], Any]] = {
    "place": kitchens.place, "station": kitchens.station,
}  # fmt: skip


def jar_is(what: str, *numbers: int, **told: Any) -> Act:
    """Something done with jars."""
    press = test_told.jar_is(what, *numbers, **told)
    return lambda work: press(work, LATE)


def poured(number: int, ml: float) -> Act:
    """A jar is opened, and poured from."""
    opened, from_it = jar_is("opened", number), jar_is("poured", number, ml=ml)
    return lambda work: [opened(work), from_it(work)]


def of_stack(count: int) -> Act:
    """Some of the first stack are used up."""

    def act(work: Work) -> object:
        view = shelf.view(work.orm, work.who, minutes(LATE))
        stack = next(s.id for p in view.places for s in p.stacks)
        which = lives.Which(stack=stack, count=count)
        return lives.do(work.orm, work.who, minutes(LATE), which, "used_up", lives.Told())

    return act


def put(what: str, there: str, /, **said: Any) -> Act:
    """Other figures of something that is there, or something new."""

    def act(work: Work) -> None:
        row = THERE[what](work.orm, work.who, there).id if there else None
        furnishing.put(work.orm, work.who, what, row, said)  # type: ignore[arg-type]

    return act


def drop(what: str, kind: str) -> Act:
    row = THERE[what]
    away = {"place": furnishing.drop_place, "station": furnishing.drop_station}[what]
    return lambda work: away(work.orm, work.who, row(work.orm, work.who, kind).id)


def logs(step: str, text: str, probe: str, at: float = LATE) -> Act:
    """A probe's file at a step."""
    return lambda work: work.do(step, at, lambda made: traces.take(made, text, probe))  # type: ignore[arg-type]


def keeps(name: str, **more: Any) -> Act:
    """A plan is kept as a method of their own."""

    def act(work: Work) -> object:
        asked = PlanRequest((GoesIn(line="3 kg rhubarb"), GoesIn(line="200 g honey")))
        planned = plans.prepare(work.orm, work.who, asked)
        new = NewMethod(name=name, based_on=planned.chosen.key, steps=(), **more)
        kept = [own_methods.keep(work.orm, work.who, new, NOON, planned) for _ in range(2)]
        versions = own_methods.versions(work.orm, work.who, kept[-1].method.key)
        return kept[-1].method.key, kept[-1].method.school, versions

    return act


def drinks(ml: float, name: str) -> Act:
    """A drink out of a jar that is open, once it is stirred."""

    def act(work: Work) -> object:
        jar_is("opened", 4)(work)
        jar, asked = work.folder.jars[4].id, servings.Asked(ml, "tea", in_it=("1 tsp honey",))
        found = servings.pour(work.orm, work.who, jar, asked, name, minutes(LATE + 1))
        return found.base_ml, found.diluent_ml, found.left_ml, found.jars, *found.notes

    return act


def password(chosen: str, *names: str) -> Act:
    return lambda _: passwords.check(chosen, "/password", names)


def again(*presses: Callable[[Work, float], object]) -> Act:
    """A second batch, and the seals of its jars are looked at."""

    def act(work: Work) -> object:
        other = Work(work.orm, work.who, request())
        other.to_cooling(jars=4)
        other.finish("cool-1", LATE)
        for number, press in enumerate(presses, start=1):
            press(other, LATE + number)
        steps_ = other.folder.operations
        jars = tuple((j.seal, j.canner_load) for j in other.folder.jars)
        return jars, tuple((o.key, o.params.get("minutes"), o.minutes) for o in steps_)

    return act


ACTS: dict[str, Act] = {
    "opened": jar_is("opened", 0), "opened twice": jar_is("opened", 0, 0, 4),
    "none": jar_is("opened"), "given": jar_is("given", 1, to="  the fair "),
    "given to nobody": jar_is("given", 1, to=" "), "spoiled": jar_is("spoiled", 0, sign="smells"),
    "spoiled, how": jar_is("spoiled", 0, sign="hums"),
    "went in": jar_is("went_in", 2, to="DM-26-09"), "miscounted": jar_is("miscounted", 3),
    "called": jar_is("relabelled", 0, label=" Dark  damson "),
    "called nothing": jar_is("relabelled", 0, label=" "),
    "called by a letter": jar_is("relabelled", 0, label="D"),
    "called for long": jar_is("relabelled", 0, label="d" * 121),
    "called as long": jar_is("relabelled", 0, label="d" * 120),
    "sound": jar_is("looked_sound", 0), "juggled": jar_is("juggled", 0),
    "poured from one that is closed": jar_is("poured", 0, ml=100.0),
    "poured": poured(4, ml=40.0), "poured more": poured(4, ml=101.0),
    "poured all": poured(4, ml=100.0), "poured nothing": poured(4, ml=0.0),
    "to the cold": jar_is("carried", 0, kind="freezer"),
    "to the cellar": jar_is("carried", 4, kind="cellar"), "nowhere": jar_is("carried", 0),
    "two of a stack": of_stack(2), "nine of a stack": of_stack(9), "no stack": of_stack(0),
    "a warm fridge": put("place", "refrigerator", temp_c=5.1),
    "a cold fridge": put("place", "refrigerator", temp_c=5.0),
    "an icy fridge": put("place", "refrigerator", temp_c=-0.1),
    "a fridge no more": put("place", "refrigerator", kind="shelf"),
    "a warm freezer": put("place", "freezer", temp_c=-14.0),
    "a cellar by another name": put("place", "cellar", name="Under the stairs", temp_c=13.0),
    "no cellar": drop("place", "cellar"), "no freezer": drop("place", "freezer"),
    "no burner": drop("station", "burner"), "no worktop": drop("station", "worktop"),
    "a new place": put(
        "place", "", name="Barn", kind="shelf", temp_c=9.0, light=False, room_l=40.0),
    "jars counted": lambda w: furnishing.count_jars(w.orm, w.who, "quart", 7, 5, " spring "),
    "buckets counted": lambda w: furnishing.count_jars(w.orm, w.who, "bucket", 7, 5),
    "lids counted": lambda w: furnishing.count_lids(w.orm, w.who, "pint", "", "red", 6, " A "),
    "plain lids": lambda w: furnishing.count_lids(w.orm, w.who, "pint", "", "", 6),
    "plaid lids": lambda w: furnishing.count_lids(w.orm, w.who, "pint", "", "plaid", 6),
    "rubber lids": lambda w: furnishing.count_lids(w.orm, w.who, "pint", "reusable", "", 6),
    "corks": lambda w: furnishing.count_lids(w.orm, w.who, "pint", "cap", "", 6),
    "a dowser": lambda w: furnishing.change_kitchen(w.orm, w.who, {"instruments": ["dowser"]}),
    "on Mars": lambda w: furnishing.change_kitchen(w.orm, w.who, {"time_zone": "Mars/Base"}),
    "hours of another": lambda w: furnishing.set_hours(w.orm, w.who, 9_999, {"from": "08:00"}),
    "the bath's log": logs("process-1", TRACE, "bath"), "again the same": logs(
        "process-1", TRACE, "jar"), "of another year": logs("process-1", OLD, "bath"),
    "of no bath": logs("process-1", TRACE, "in_it"), "of a pot": logs("heat_to", TRACE, "bath"),
    "no log": logs("process-1", "a poem", "bath"),
    "kept": keeps("Rhubarb by the shed"), "kept as ours": keeps("Steam-juiced, as it runs"),
    "kept from": keeps("Rhubarb!!", adapted_from="an aunt", note="tart"),
    "one failed": again(looks(0), looks(1, held=False, way_on="reprocess"), looks(2), looks(3),
                        done("seal_check")),
    "one was not looked at": again(looks(0), looks(1), looks(2), done("seal_check")),
    "two were not": again(looks(0), looks(1), done("seal_check")),
    "one of no way": again(looks(0, held=False, way_on="burn"), done("seal_check")),
    "into the cold": again(looks(0, held=False, way_on="chill"),
                           done("seal_check", others_held=True)),
    "a drink": drinks(250.0, "Fizz"), "a drink of no name": drinks(250.0, ""),
    "a sea of it": drinks(19_000.0, "Fizz"), "a thimble": drinks(20.0, "Fizz"),
    "a step again": lambda w: w.do("fill", LATE, steps.repeat),
    "longer when over": lambda w: w.do("heat_to", LATE, lambda m: steps.lengthen(m, 9.0, "")),
    "to the cold, seals": lambda w: w.do(
        "seal_check", LATE, lambda m: seals.to_the_cold(m, w.folder.jars[0])),
    **{f"password {p}": password(p, "Oda", "Sallow Hill") for p in (
        "password1", "Passw0rd!", "qwertyuiop", "poiuytrewq", "aaaaaaaaab", "aabbaabbab",
        "abcabcabc", "sallowhill", "oda", "zwei Quitten im Korb", "12345678", "1damson1damson",
        "lkjhgfdsa")},
}  # fmt: skip


@pytest.fixture
def work(orm: Orm, monkeypatch: pytest.MonkeyPatch) -> Work:
    return on_the_shelf(orm, monkeypatch)


def left(work: Work) -> list[str]:
    """What jars there are, and what stands ready."""
    orm, hh = work.orm, work.who.household_id
    orm.flush()
    kinds = {p.id: p.kind for p in queries.all_of(orm, hh, Place)}
    jars = [
        f"{j.code[-2:]} {j.seal} {j.lives} {j.label} {kinds.get(j.place_id or 0)} {j.there_ml:.4g}"
        f"{' held' if j.held else ''}"
        for j in work.folder.jars
    ]
    stock = [
        f"{s.jar_kind} {s.jars}/{s.lids} {s.packet}" for s in queries.all_of(orm, hh, JarStock)
    ]
    lids = [
        f"{s.closure} {s.colour} {s.lids} {s.packet}" for s in queries.all_of(orm, hh, LidStock)
    ]
    places = [f"{p.name} {p.kind} {p.temp_c:.4g}" for p in queries.all_of(orm, hh, Place)]
    return [*jars, *sorted(stock), *sorted(lids), *sorted(places)]


BOOK = Book(__file__, "told_of_refusals.txt", ACTS)


def told(work: Work, act: Act, before: list[str]) -> list[str]:
    """What is said of something that is done, and what it leaves; then it is as it was before."""
    tried = work.orm.begin_nested()
    try:
        answer = act(work)
        plain = answer if isinstance(answer, tuple) else ""
        return [f"done {said(plain)}", *(f"left {x}" for x in left(work) if x not in before)]
    except (ServiceError, CoreError) as refused:
        of = getattr(refused, "code", "") or getattr(refused, "pointer", "")
        return [f"refused {of} {refused}"]
    finally:
        tried.rollback()
        work.orm.expire_all()
        forget(work.orm)


def test_what_is_not_done_is_said_and_what_is_done_stands(work: Work) -> None:
    before = left(work)
    for name, act in ACTS.items():
        BOOK.holds(name, told(work, act, before))
        assert left(work) == before, name
