"""Migrations go up on an empty database, and say the same as the models, CHECKs included."""

from __future__ import annotations

import re
from datetime import datetime

import pytest
from alembic.autogenerate import compare_metadata
from alembic.runtime.migration import MigrationContext
from sqlalchemy import CheckConstraint, Engine, text
from sqlalchemy.exc import DBAPIError, StatementError
from sqlalchemy.orm import Session as Orm

from elderberry.store import Base, Household, JarStock
from elderberry.store.database import migrate
from tests.factories import NOON, household


def squeezed(words: str) -> str:
    """A check's text without what MariaDB adds and drops: quoting, brackets, spaces, case."""
    return re.sub(r"[`()\s]", "", words.lower())


def test_the_migrated_schema_is_that_of_the_models(engine: Engine) -> None:
    assert not migrate(engine)
    with engine.connect() as connection:
        context = MigrationContext.configure(connection, opts={"compare_type": True})
        assert compare_metadata(context, Base.metadata) == []


def test_every_check_of_the_models_is_in_the_database(engine: Engine) -> None:
    query = text(
        "select constraint_name, check_clause from information_schema.check_constraints "
        "where constraint_schema = database()"
    )
    with engine.connect() as connection:
        there = {name: squeezed(clause) for name, clause in connection.execute(query)}
    wanted = {
        str(check.name): squeezed(str(check.sqltext))
        for table in Base.metadata.tables.values()
        for check in table.constraints
        if isinstance(check, CheckConstraint)
    }
    assert len(wanted) > 20
    assert {name: there.get(name) for name in wanted} == wanted


def test_the_database_itself_refuses_what_cannot_be(orm: Orm) -> None:
    who = household(orm)
    orm.add(JarStock(household_id=who.household_id, jar_kind="m330", jars=-1, lids=0))
    with pytest.raises(DBAPIError, match="jars_not_negative"):
        orm.flush()


def test_moments_are_utc_and_never_naive(orm: Orm) -> None:
    row = Household(name="Sallow Hill", created_at=NOON)
    orm.add(row)
    orm.flush()
    orm.refresh(row)
    assert row.created_at == NOON
    assert row.created_at.tzinfo is not None
    orm.add(Household(name="Elsewhere", created_at=datetime(2026, 10, 3)))
    with pytest.raises(StatementError, match="without a zone"):
        orm.flush()
