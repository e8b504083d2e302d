"""What those who only read keep for each other is never another than what the tables say."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, timedelta

import pytest
from sqlalchemy import inspect, select
from sqlalchemy.orm import Session as Orm

from elderberry.services.cooking import batch_list, batch_view, endings, jar_view, undo
from elderberry.services.cooking.folder import find
from elderberry.services.day import stove, today
from elderberry.services.household import (
    furnishing,
    kitchen_view,
    kitchens,
    own_ingredients,
    own_processes,
)
from elderberry.services.household.own_ingredients import NewIngredient
from elderberry.services.household.own_processes import NewOwnProcess
from elderberry.services.planning import intake, plans
from elderberry.services.shelf import found, lives, logs, shelf
from elderberry.services.shelf.lives import Told, Which
from elderberry.store import (
    Batch,
    Household,
    Jar,
    JarStock,
    Kitchen,
    Person,
    Place,
    Station,
    furniture,
    queries,
    telling,
)
from elderberry.store.base import Owned
from elderberry.store.furniture import Furnished
from elderberry.store.memory import FOR_S, Memory
from tests.factories import NOON, Work, household, minutes, request
from tests.services.hands import Hands
from tests.services.test_query_counts import counted

LATER = minutes(60 * 24 * 60)


class Onlookers:
    """Those who look on while somebody works, and keep what they found for each other."""

    def __init__(self, work: Work) -> None:
        self.work, self.memory = work, Memory(clock=lambda: 0.0)

    @contextmanager
    def one(self, memory: Memory | None) -> Iterator[Orm]:
        """A session that only reads."""
        tables, connection = furnished(self.work), self.work.orm.connection()
        with Orm(connection, join_transaction_mode="create_savepoint") as orm:
            mine = self.work.who.household_id
            if memory is not None:
                there = Furnished(queries.newest_event_id(orm, mine), tables)
                furniture.look_on(orm, memory, mine, there, only=True)
            yield orm

    def see(self, memory: Memory | None) -> list[object]:
        """Every screen as one of them sees it."""
        who, now = self.work.who, LATER
        with self.one(memory) as orm:
            batches = [
                batch_view.view(orm, who, find(orm, who, b.id))
                for b in queries.all_of(orm, who.household_id, Batch)
            ]
            return [
                *batches,
                *(shelf.jar_page(orm, who, j.id) for b in batches for j in b.jars[:1]),
                today.view(orm, who, now), today.hob(orm, who, now), stove.view(orm, who, now),
                shelf.view(orm, who, now), kitchen_view.view(orm, who), batch_list.lines(orm, who),
                plans.show(orm, who, request()), intake.lots(orm, who),
                own_processes.every(orm, who), own_ingredients.every(orm, who),
            ]  # fmt: skip

    def agree(self) -> list[object]:
        """What is seen by what others found is what one sees who asks the tables."""
        remembered = self.see(self.memory)
        for seen, told in zip(remembered, self.see(None), strict=True):
            assert seen == told
        return remembered


def furnished(work: Work) -> dict[str, int]:
    """How often each small table has become another, as whoever looks on is told."""
    telling.tell(work.orm)
    query = select(Household.furnished).where(Household.id == work.who.household_id)
    return work.orm.scalar(query) or {}


@pytest.fixture(autouse=True)
def _no_time_passes(monkeypatch: pytest.MonkeyPatch) -> None:
    """Jars age all the time, which must not go by between two that look on."""

    class Stands:
        """A clock."""

        @staticmethod
        def now(_: object) -> object:
            """The same moment for all."""
            return LATER

    monkeypatch.setattr(jar_view, "datetime", Stands)


@pytest.fixture
def work(orm: Orm) -> Work:
    """Four pints of damson juice in the cellar, one in the cold, and a batch that was begun."""
    made = Work(orm, household(orm))
    made.to_shelf()
    begun = Work(orm, made.who, request(kg=5.0))
    begun.do("steam_juice-1", 1)
    return begun


def place(work: Work, kind: str) -> int:
    mine = queries.all_of(work.orm, work.who.household_id, Place)
    return next(p.id for p in mine if p.kind == kind)


def lived(work: Work, what: str, **told: object) -> None:
    jar = next(
        j for j in queries.all_of(work.orm, work.who.household_id, Jar) if j.seal == "sealed"
    )
    lives.do(work.orm, work.who, LATER, Which([jar.id]), what, Told(**told))  # type: ignore[arg-type]


def in_a_vessel(work: Work) -> None:
    orm, who = work.orm, work.who
    box = {"kind": "box", "name": "Box", "litres": 1.0, "count": 2}
    furnishing.put(orm, who, "vessel", None, box)
    row = found.Row(
        1, "Quince", "box-1000", place(work, "freezer"), "quince", first=date(2026, 9, 1)
    )
    found.put(orm, who, [row], LATER)


CHANGES: dict[str, Callable[[Work], object]] = {
    "pressed": lambda w: w.finish("steam_juice-1", 62),
    "taken back": lambda w: undo.take_back(w.orm, w.who, w.batch.id, minutes(1.1)),
    "given up": lambda w: endings.give_up(w.orm, w.who, w.batch.id, minutes(9)),
    "kept in the cold": lambda w: endings.divert(w.orm, w.who, w.batch.id, "chill", minutes(9)),
    "another batch": lambda w: Work(w.orm, w.who, request("quince", 3.0)),
    "carried": lambda w: lived(w, "carried", place_id=place(w, "refrigerator")),
    "opened": lambda w: lived(w, "opened"),
    "called otherwise": lambda w: lived(w, "relabelled", label="Damson, the sharp one"),
    "given away": lambda w: lived(w, "given", to="the neighbours"),
    "jars from before": lambda w: found.put(
        w.orm, w.who, [found.Row(3, "Quince", "pint", place(w, "cellar"), "quince")], LATER
    ),
    "a vessel that is full": in_a_vessel,
    "a warm cellar": lambda w: furnishing.put(
        w.orm, w.who, "place", place(w, "cellar"), {"temp_c": 21.0}
    ),
    "a log": lambda w: logs.keep(
        w.orm, w.who, place(w, "cellar"), [(LATER - timedelta(hours=h), 24.0) for h in range(90)]
    ),
    "another altitude": lambda w: furnishing.change_kitchen(w.orm, w.who, {"altitude_m": 1400.0}),
    "other units": lambda w: furnishing.change_kitchen(w.orm, w.who, {"units": "us"}),
    "fewer jars": lambda w: furnishing.count_jars(w.orm, w.who, "pint", 2, 2),
    "a process": lambda w: own_processes.enter(
        w.orm, w.who, NewOwnProcess("vinegar_syrup", 473, 20, 600, 3.6, "Leaflet 12"), LATER
    ),
    "a name": lambda w: own_ingredients.name_it(
        w.orm, w.who, NewIngredient("granny's brew", sweet=True)
    ),
    "what came in": lambda w: intake.take_in(w.orm, w.who, intake.NewLot("3 kg quinces"), LATER),
}


@pytest.mark.parametrize("change", CHANGES)
def test_what_changes_is_seen_by_all(work: Work, change: str) -> None:
    onlookers = Onlookers(work)
    before = onlookers.see(onlookers.memory)
    CHANGES[change](work)
    assert onlookers.agree() != before


@pytest.mark.parametrize("seed", [0, 3, 4])
def test_whatever_is_pressed_is_seen_by_all(orm: Orm, seed: int) -> None:
    hands = Hands(orm, seed)
    onlookers = Onlookers(hands.work)
    for press in range(45):
        hands.press()
        if press % 3 == 0:
            onlookers.agree()


def test_nothing_is_read_twice_while_nothing_changes(work: Work) -> None:
    onlookers = Onlookers(work)
    onlookers.see(onlookers.memory)
    said = []
    for memory in (None, onlookers.memory):
        with onlookers.one(memory) as orm, counted(work.orm.get_bind().engine) as asked:
            today.view(orm, work.who, LATER)
            batch_view.view(orm, work.who, find(orm, work.who, work.batch.id))
            plans.show(orm, work.who, request())
        said.append(asked)
    assert len(said[0]) > 30
    assert len(said[1]) <= 6, said[1]


def test_a_row_that_many_look_at_is_not_written_to(work: Work) -> None:
    onlookers, mine = Onlookers(work), work.who.household_id
    with onlookers.one(onlookers.memory) as orm:
        kitchen = queries.all_of(orm, mine, Kitchen)[0]
        with pytest.raises(AttributeError, match="looked at by many"):
            kitchen.altitude_m = 20.0
    with onlookers.one(onlookers.memory) as orm:
        assert queries.all_of(orm, mine, Kitchen)[0] is kitchen
        assert kitchen.altitude_m == 585


def test_what_is_undone_was_never_told(work: Work) -> None:
    onlookers = Onlookers(work)
    onlookers.agree()
    undone = work.orm.begin_nested()
    furnishing.change_kitchen(work.orm, work.who, {"altitude_m": 1400.0})
    undone.rollback()
    onlookers.agree()
    with onlookers.one(onlookers.memory) as orm:
        assert kitchens.for_core(orm, work.who).altitude_m == 585


def test_who_changes_something_shares_what_they_have_not_touched(work: Work) -> None:
    orm, who, memory = work.orm, work.who, Memory(clock=lambda: 0.0)
    with Onlookers(work).one(memory) as others:
        kitchen = kitchens.for_core(others, who)
        names = own_processes.every(others, who)
    there = Furnished(queries.newest_event_id(orm, who.household_id), furnished(work))
    furniture.look_on(orm, memory, who.household_id, there, only=False)
    furniture.forget(orm)
    assert kitchens.for_core(orm, who) is kitchen
    assert kitchens.stored(orm, who) in orm
    furnishing.change_kitchen(orm, who, {"altitude_m": 1400.0})
    assert kitchens.for_core(orm, who).altitude_m == 1400.0
    assert own_processes.every(orm, who) is names
    with Onlookers(work).one(memory) as others:
        assert kitchens.for_core(others, who).altitude_m == 1400.0


@pytest.mark.parametrize("table", [JarStock, Place, Station, Person])
def test_a_small_table_is_told_of_by_itself(work: Work, table: type[Owned]) -> None:
    before = furnished(work)
    row = queries.all_of(work.orm, work.who.household_id, table)[0]
    setattr(row, *(("jars", 71) if isinstance(row, JarStock) else ("name", "Old")))
    after = furnished(work)
    changed = {name for name in after if after[name] != before.get(name)}
    assert changed == {inspect(table).local_table.name}


def test_there_is_an_end_to_what_is_kept() -> None:
    memory = Memory(most=2)
    for name in ("a", "b"):
        memory.keep(name, 1, name)
    assert memory.find("a", 1) == "a"
    memory.keep("c", 1, "c")
    assert [memory.find(name, 1) for name in "abc"] == ["a", None, "c"]
    assert memory.find("a", 2) is None


def test_nothing_is_kept_for_longer_than_a_moment() -> None:
    now = [10.0]
    memory = Memory(clock=lambda: now[0])
    memory.keep("a", 1, "a")
    now[0] += FOR_S
    assert memory.find("a", 1) == "a"
    now[0] += 0.1
    assert memory.find("a", 1) is None


def test_what_somebody_wrote_by_hand_is_read_anew_once_it_is_told() -> None:
    memory, ours = Memory(), {8}.__contains__
    memory.hear(1, 7, ours)
    memory.keep("a", 1, "a")
    memory.hear(1, 8, ours)
    memory.hear(2, 5, ours)
    assert memory.find("a", 1) == "a"
    memory.hear(1, 9, ours)
    assert memory.find("a", 1) is None


def test_the_day_that_it_is_seen_on_is_no_part_of_it(work: Work) -> None:
    """What is kept hangs on rows alone: another moment is reckoned with as another moment."""
    onlookers = Onlookers(work)
    with onlookers.one(onlookers.memory) as orm:
        soon = today.view(orm, work.who, NOON + timedelta(minutes=2))
    with onlookers.one(onlookers.memory) as orm:
        later = today.view(orm, work.who, NOON + timedelta(hours=7))
    with onlookers.one(None) as orm:
        assert later == today.view(orm, work.who, NOON + timedelta(hours=7))
    assert soon != later
