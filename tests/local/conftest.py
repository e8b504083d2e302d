"""Servers and programs are killed here, and what is killed closes nothing."""

from __future__ import annotations

import gc
import warnings
from collections.abc import Iterator

import pytest
from sqlalchemy import Engine, inspect, text

from elderberry.local.mariadb import PrivateMariadb
from elderberry.store.database import connect
from tests.local.databases import Fresh


@pytest.fixture(autouse=True)
def _swept() -> Iterator[None]:
    """What a kill left open is swept up by the test that left it."""
    yield
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", ResourceWarning)
        gc.collect()


@pytest.fixture
def fresh(mariadb: PrivateMariadb) -> Iterator[Fresh]:
    """Makes a database of its own, empty."""
    made: list[Engine] = []

    def make() -> Engine:
        engine = connect(mariadb.url("upgraded"))
        with engine.begin() as connection:
            connection.execute(text("SET FOREIGN_KEY_CHECKS = 0"))
            for table in inspect(connection).get_table_names():
                connection.execute(text(f"DROP TABLE `{table}`"))
        made.append(engine)
        return engine

    yield make
    for engine in made:
        engine.dispose()
