"""Whoever looks on hears of everything, in order, until they sign out."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime

import httpx2 as httpx
import pytest
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as Orm

from elderberry.services.household import signing_in
from elderberry.store import Event, Session
from tests.api.conftest import Many
from tests.factories import household


class Ears:
    """A page that looks on, and the ids of what it heard."""

    def __init__(self, many: Many, token: str | None = None, last: int | None = None) -> None:
        self.heard: list[int] = []
        self.over = threading.Event()
        self._client = many.client(token)
        self._headers = {} if last is None else {"Last-Event-ID": str(last)}
        self.listening = threading.Event()
        threading.Thread(target=self._listen, daemon=True).start()
        assert self.listening.wait(10)

    def _listen(self) -> None:
        with (
            self._client,
            self._client.stream("GET", "/api/events", headers=self._headers) as answer,
        ):
            for line in answer.iter_lines():
                self.listening.set()
                if line.startswith("id: "):
                    self.heard.append(int(line[4:]))
        self.over.set()


Listen = Callable[..., Ears]


@pytest.fixture
def listen(many: Many) -> Iterator[Listen]:
    """Opens ears, and sees to it that they close when everybody is signed out."""
    opened: list[Ears] = []

    def open_ears(token: str | None = None, last: int | None = None) -> Ears:
        opened.append(Ears(many, token, last))
        return opened[-1]

    yield open_ears
    with Orm(many.engine) as orm, orm.begin():
        orm.execute(delete(Session))
    for one in opened:
        assert one.over.wait(10)


def until(holds: Callable[[], bool], within_s: float = 10.0) -> bool:
    """Whether something comes to hold."""
    end = time.monotonic() + within_s
    while time.monotonic() < end:
        if holds():
            return True
        time.sleep(0.02)
    return holds()


def happened(many: Many) -> list[int]:
    """Everything that happened in the household."""
    with Orm(many.engine) as orm:
        query = select(Event.id).where(Event.household_id == many.who.household_id)
        return list(orm.scalars(query.order_by(Event.id)))


def take_in(client: httpx.Client, number: int) -> int:
    return client.post("/api/lots", json={"line": f"{number + 1} kg damsons"}).status_code


def test_what_many_do_at_once_is_heard_once_each_and_in_order(many: Many, listen: Listen) -> None:
    ears = [listen() for _ in range(3)]
    assert set(many.at_once(16, take_in)) == {201}
    everything = happened(many)
    assert len(everything) == 16
    for one in ears:
        assert until(lambda one=one: len(one.heard) >= 16)  # type: ignore[misc]
        assert one.heard == everything


def test_a_page_that_was_away_is_told_what_it_missed(many: Many, listen: Listen) -> None:
    with many.client() as client:
        for number in range(5):
            take_in(client, number)
    everything = happened(many)
    ears = listen(last=everything[1])
    assert until(lambda: len(ears.heard) >= 3)
    assert ears.heard == everything[2:]


def test_it_ends_at_sign_out_and_not_before(many: Many, listen: Listen) -> None:
    with Orm(many.engine) as orm, orm.begin():
        other = signing_in.open_session(orm, many.who, datetime.now(UTC))
    leaves, stays = listen(other), listen()
    with many.client(other) as client:
        assert client.delete("/api/session").status_code == 204
    assert leaves.over.wait(5)
    with many.client() as client:
        take_in(client, 1)
    assert until(lambda: len(stays.heard) == 1)
    assert not stays.over.is_set()
    assert leaves.heard == []


def test_nobody_hears_of_another_household(many: Many, listen: Listen) -> None:
    with Orm(many.engine) as orm, orm.begin():
        they = household(orm, "Elsewhere")
        token = signing_in.open_session(orm, they, datetime.now(UTC))
    theirs, ours = listen(token), listen()
    with many.client() as client:
        take_in(client, 1)
    assert until(lambda: len(ours.heard) == 1)
    assert theirs.heard == []


def test_fifty_who_look_on_take_nothing_from_whoever_works(many: Many, listen: Listen) -> None:
    ears = [listen() for _ in range(50)]
    with Orm(many.engine) as orm:
        idle = select(func.count()).select_from(Event)
        assert orm.scalar(idle) == 0
    assert set(many.at_once(8, take_in)) == {201}
    for one in ears:
        assert until(lambda one=one: len(one.heard) == 8)  # type: ignore[misc]


def test_head_of_a_stream_ends(many: Many) -> None:
    with many.client() as client:
        assert client.head("/api/events").status_code == 200
