"""A client of the application on a real database."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import Engine
from sqlalchemy.orm import Session as Orm

from elderberry.api.app import create_app
from elderberry.api.settings import Settings
from elderberry.services.who import Who
from tests.conftest import CHEAP
from tests.factories import household


@dataclass
class Kitchen:
    """A signed-in client and whose it is."""

    client: TestClient
    who: Who


def signed_in(engine: Engine, name: str) -> Kitchen:
    """A client of a new household, signed in by name and password."""
    with Orm(engine) as orm, orm.begin():
        who = household(orm, name)
    client = TestClient(create_app(Settings(engine, hasher=CHEAP)), raise_server_exceptions=False)
    sign_in = name.lower().replace(" ", "-")
    answer = client.post("/api/session", json={"sign_in": sign_in, "password": sign_in * 2})
    assert answer.status_code == 200, answer.text
    return Kitchen(client, who)


@pytest.fixture
def here(committed: Engine) -> Iterator[Kitchen]:
    """Our own kitchen."""
    kitchen = signed_in(committed, "Sallow Hill")
    with kitchen.client:
        yield kitchen


@pytest.fixture
def elsewhere(committed: Engine) -> Kitchen:
    """Another household's kitchen."""
    return signed_in(committed, "Elsewhere")
