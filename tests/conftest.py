"""A real MariaDB for the tests, quick and forgetful, on loopback; or yours by DATABASE_URL."""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path
from typing import Any

import pytest
from argon2 import PasswordHasher
from hypothesis import settings
from sqlalchemy import Engine, delete
from sqlalchemy.orm import Session as Orm
from xdist.remote import Producer
from xdist.scheduler import LoadScopeScheduling

from elderberry.core import plan
from elderberry.local.mariadb import QUICK_AND_FORGETFUL, PrivateMariadb
from elderberry.services.household.hashing import Hashing
from elderberry.store import Base
from elderberry.store.database import connect, migrate
from elderberry.trial.installation import in_memory, sharing

settings.register_profile("steady", deadline=None, derandomize=True)
settings.load_profile("steady")

CHEAP = Hashing(PasswordHasher(time_cost=1, memory_cost=64, parallelism=1))
"""Argon2 at its cheapest, so that tests do not wait for it."""


class ByFileAndSize(LoadScopeScheduling):  # type: ignore[misc]  # it has no types
    """Journeys of one file and one size share an application, and so a worker; the longest files
    come first, so that no worker is left with one when all others are done.
    """

    def _split_scope(self, nodeid: str) -> str:
        return f"{nodeid.split('::', maxsplit=1)[0]} {'phone' if '[phone' in nodeid else ''}"

    def _assign_work_unit(self, node: object) -> None:
        longest = max(self.workqueue, key=lambda scope: Path(scope.split()[0]).stat().st_size)
        self.workqueue.move_to_end(longest, last=False)
        super()._assign_work_unit(node)


def pytest_configure(config: pytest.Config) -> None:
    """All workers share what a first start lays out."""
    if not hasattr(config, "workerinput"):
        shared = ExitStack()
        shared.enter_context(sharing())
        config.add_cleanup(shared.close)


def pytest_xdist_make_scheduler(config: pytest.Config, log: Producer) -> ByFileAndSize | None:
    """How tests are shared out among workers."""
    return ByFileAndSize(config, log) if config.getoption("dist") == "loadscope" else None


@pytest.fixture
def laid(monkeypatch: pytest.MonkeyPatch) -> list[object]:
    """Every time that a flow is laid out."""
    times: list[object] = []
    usual = plan.plan

    def counted(*given: Any, **more: Any) -> plan.Plan:
        times.append(given)
        return usual(*given, **more)

    monkeypatch.setattr(plan, "plan", counted)
    return times


@pytest.fixture(scope="session")
def mariadb() -> Iterator[PrivateMariadb]:
    """A private MariaDB in memory."""
    folder = in_memory()
    server = PrivateMariadb(folder, QUICK_AND_FORGETFUL)
    try:
        server.start()
        yield server
    finally:
        server.stop()
        shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def engine(request: pytest.FixtureRequest) -> Iterator[Engine]:
    """A migrated database."""
    url = os.environ.get("DATABASE_URL") or request.getfixturevalue("mariadb").url("tests")
    made = connect(url)
    migrate(made)
    yield made
    made.dispose()


@pytest.fixture
def orm(engine: Engine) -> Iterator[Orm]:
    """A transaction on an empty database, undone afterwards."""
    with engine.connect() as connection, connection.begin() as undone:
        with Orm(connection, join_transaction_mode="create_savepoint") as session:
            yield session
        undone.rollback()


@pytest.fixture
def committed(engine: Engine) -> Iterator[Engine]:
    """The database for tests that really commit; emptied afterwards."""
    yield engine
    with engine.begin() as connection:
        connection.exec_driver_sql("SET FOREIGN_KEY_CHECKS = 0")
        for table in Base.metadata.tables.values():
            connection.execute(delete(table))
        connection.exec_driver_sql("SET FOREIGN_KEY_CHECKS = 1")
