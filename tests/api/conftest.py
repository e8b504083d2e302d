"""A client of the application on a real database."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime

import httpx2 as httpx
import pytest
import uvicorn
from fastapi import FastAPI
from fastapi.testclient import TestClient
from sqlalchemy import Engine
from sqlalchemy.orm import Session as Orm

from elderberry.api.app import create_app
from elderberry.api.deps import COOKIE
from elderberry.api.settings import Settings
from elderberry.services.household import signing_in
from elderberry.services.who import Who
from elderberry.trial import hands
from tests.conftest import CHEAP
from tests.factories import household

HERE = "http://127.0.0.1"
"""The address at which it is asked."""


@dataclass
class Kitchen:
    """A signed-in client and whose it is."""

    client: TestClient
    who: Who


@pytest.fixture(scope="session")
def app(engine: Engine) -> FastAPI:
    """The application; one for all, since it takes as long to make as a test."""
    return create_app(Settings(engine, hashing=CHEAP))


@pytest.fixture(scope="session")
def address(engine: Engine) -> Iterator[str]:
    """Where a real server answers, for what many do at once and for what comes as it happens."""
    app = create_app(Settings(engine, hashing=CHEAP))
    server = uvicorn.Server(uvicorn.Config(app, port=0, log_level="warning"))
    running = threading.Thread(target=server.run)
    running.start()
    while not server.started:
        time.sleep(0.01)
    yield f"http://127.0.0.1:{server.servers[0].sockets[0].getsockname()[1]}"
    server.should_exit = True
    running.join()


@pytest.fixture
def many(address: str, committed: Engine) -> Many:
    """A household at a real server, for many hands at once."""
    with Orm(committed) as orm, orm.begin():
        who = household(orm, "Sallow Hill")
        token = signing_in.open_session(orm, who, datetime.now(UTC))
    return Many(address, who, token, committed)


@dataclass
class Many:
    """Many hands of one household at a real server."""

    address: str
    who: Who
    token: str
    engine: Engine

    def client(self, token: str | None = None) -> httpx.Client:
        """One pair of hands, signed in."""
        cookies = {COOKIE: token or self.token}
        return httpx.Client(base_url=self.address, cookies=cookies, timeout=30)

    def at_once(self, count: int, act: hands.Act) -> list[int]:
        """So many hands do the same at the same moment; what each was answered."""
        return hands.at_once(self.client, count, act)


@pytest.fixture
def stranger(app: FastAPI, committed: Engine) -> TestClient:
    """A client that nobody has signed in."""
    return TestClient(app, HERE, raise_server_exceptions=False)


def signed_in(app: FastAPI, engine: Engine, name: str) -> Kitchen:
    """A client of a new household, signed in by name and password."""
    with Orm(engine) as orm, orm.begin():
        who = household(orm, name)
    client = TestClient(app, HERE, raise_server_exceptions=False)
    sign_in = name.lower().replace(" ", "-")
    answer = client.post("/api/session", json={"sign_in": sign_in, "password": sign_in * 2})
    assert answer.status_code == 200, answer.text
    return Kitchen(client, who)


@pytest.fixture
def here(app: FastAPI, committed: Engine) -> Iterator[Kitchen]:
    """Our own kitchen."""
    kitchen = signed_in(app, committed, "Sallow Hill")
    with kitchen.client:
        yield kitchen


@pytest.fixture
def elsewhere(app: FastAPI, committed: Engine) -> Kitchen:
    """Another household's kitchen."""
    return signed_in(app, committed, "Elsewhere")
