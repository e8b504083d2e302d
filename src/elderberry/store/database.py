"""Connecting, and bringing a database up to the newest migration."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from alembic.util.exc import CommandError
from sqlalchemy import Engine, create_engine, func, inspect, select, table

MIGRATIONS = Path(__file__).parent / "migrations"


def connect(url: str) -> Engine:
    """An engine for a MariaDB URL; mysql:// and mariadb:// both mean PyMySQL."""
    scheme, _, rest = url.partition("://")
    if scheme in {"mysql", "mariadb"}:
        url = f"mariadb+pymysql://{rest}"
    return create_engine(
        url,
        pool_pre_ping=True,
        pool_size=16,
        max_overflow=4,
        pool_timeout=5,
        connect_args={"charset": "utf8mb4", "connect_timeout": 5, "init_command": UTC_SESSION},
        isolation_level="READ COMMITTED",
    )


UTC_SESSION = (
    "SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE', "
    "innodb_lock_wait_timeout = 10"
)


def revision(engine: Engine) -> str | None:
    """The migration that a database stands at; None where it is empty."""
    with engine.connect() as connection:
        return MigrationContext.configure(connection).get_current_revision()


def newest() -> str:
    """The migration that this version of Elderberry works with."""
    return str(ScriptDirectory.from_config(_config()).get_current_head())


def lives(engine: Engine) -> bool:
    """Whether there is a household in a database."""
    if not inspect(engine).has_table("household"):
        return False
    with engine.connect() as connection:
        return connection.scalar(select(func.count()).select_from(table("household"))) != 0


def known(migration: str) -> bool:
    """Whether this version of Elderberry knows a migration."""
    try:
        return ScriptDirectory.from_config(_config()).get_revision(migration) is not None
    except CommandError:
        return False


def migrate(engine: Engine, to: str = "head") -> bool:
    """Bring the database up to a migration; True where something had to be done.

    Killed within it, a database is left between two migrations: local.upgrade sees to that.
    """
    if revision(engine) == (newest() if to == "head" else to):
        return False
    config = _config()
    with engine.connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, to)
        connection.commit()
    return True


def _config() -> Config:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    return config
