"""Live updates: one look at the store for everybody who looks on.

A page that looks on costs no thread and no connection. What happened in a household has rising ids
in the order in which it was committed, since its changes are made one after the other: so "after
the last one seen" never skips one that came late.
"""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime

from sqlalchemy import Engine
from sqlalchemy.orm import Session as Orm
from starlette.concurrency import run_in_threadpool

from elderberry.services.household import signing_in
from elderberry.services.who import Who
from elderberry.store import Event, queries

LOOK_EVERY_S = 0.5
SIGN_OF_LIFE_S = 15.0
MOST_AT_ONCE = 1000
"""Events of a household that are told at one look; the next look goes on from there."""


@dataclass(eq=False)
class Onlooker:
    """A page that looks on: whose it is, by which session, and the last event it was told of."""

    household_id: int
    token: str
    seen: int
    news: asyncio.Event = field(default_factory=asyncio.Event)
    messages: list[str] = field(default_factory=list)
    over: bool = False

    def tell(self, messages: list[str], seen: int) -> None:
        """Something happened."""
        self.messages += messages
        self.seen = seen
        self.news.set()

    def end(self) -> None:
        """They signed out, or the server stops."""
        self.over = True
        self.news.set()


class Live:
    """Everybody who looks on, and the one who looks for them."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._onlookers: set[Onlooker] = set()
        self._somebody = asyncio.Event()

    @asynccontextmanager
    async def running(self) -> AsyncIterator[None]:
        """While the application runs."""
        self._somebody = asyncio.Event()
        looking = asyncio.create_task(self._look_on())
        try:
            yield
        finally:
            self.stop()
            looking.cancel()
            with suppress(asyncio.CancelledError):
                await looking

    def stop(self) -> None:
        """Every stream ends."""
        for one in self._onlookers:
            one.end()

    async def admit(self, token: str | None, last_seen: int | None) -> Onlooker | None:
        """A page begins to look on; None where nobody is signed in."""
        return await run_in_threadpool(self._admit, token, last_seen)

    def _admit(self, token: str | None, last_seen: int | None) -> Onlooker | None:
        with Orm(self._engine) as orm:
            who: Who | None = signing_in.whose(orm, token, datetime.now(UTC)) if token else None
            if who is None or token is None:
                return None
            newest = queries.newest_event_id(orm, who.household_id)
            seen = newest if last_seen is None else min(last_seen, newest)
            return Onlooker(who.household_id, token, seen)

    async def messages(self, one: Onlooker) -> AsyncIterator[str]:
        """What a page is told, as server-sent events, until it goes or signs out."""
        self._onlookers.add(one)
        self._somebody.set()
        try:
            yield "retry: 2000\n\n"
            while not one.over:
                try:
                    await asyncio.wait_for(one.news.wait(), SIGN_OF_LIFE_S)
                except TimeoutError:
                    yield ": still here\n\n"
                    continue
                one.news.clear()
                told, one.messages = one.messages, []
                if told:
                    yield "".join(told)
        finally:
            self._onlookers.discard(one)

    async def _look_on(self) -> None:
        while True:
            await self._somebody.wait()
            if not self._onlookers:
                self._somebody.clear()
                continue
            # Where the store is coming back, nobody has lost anything: the next look finds it.
            with suppress(Exception):  # whatever happens, the next look is made
                await self._look()
            await asyncio.sleep(LOOK_EVERY_S)

    async def _look(self) -> None:
        there = list(self._onlookers)
        floor: dict[int, int] = {}
        for one in there:
            floor[one.household_id] = min(floor.get(one.household_id, one.seen), one.seen)
        tokens = {one.token for one in there}
        found, still_in = await run_in_threadpool(self._found, floor, tokens)
        for one in there:
            if one.token not in still_in:
                one.end()
                continue
            news = [e for e in found[one.household_id] if e[0] > one.seen]
            if news:
                one.tell([_message(e) for e in news], news[-1][0])

    def _found(
        self, floor: dict[int, int], tokens: set[str]
    ) -> tuple[dict[int, list[tuple[int, str, int | None]]], set[str]]:
        with Orm(self._engine) as orm:
            found = {
                whose: [_told(e) for e in queries.events_after(orm, whose, last, MOST_AT_ONCE)]
                for whose, last in floor.items()
            }
            return found, signing_in.still_open(orm, tokens, datetime.now(UTC))


def _told(event: Event) -> tuple[int, str, int | None]:
    return event.id, event.kind, event.batch_id


def _message(told: tuple[int, str, int | None]) -> str:
    number, kind, batch_id = told
    return f"id: {number}\ndata: {json.dumps({'kind': kind, 'batch_id': batch_id})}\n\n"
