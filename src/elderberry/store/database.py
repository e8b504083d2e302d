"""Connecting, and bringing a database up to the newest migration."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine

MIGRATIONS = Path(__file__).parent / "migrations"


def connect(url: str) -> Engine:
    """An engine for a MariaDB URL; mysql:// and mariadb:// both mean PyMySQL."""
    scheme, _, rest = url.partition("://")
    if scheme in {"mysql", "mariadb"}:
        url = f"mariadb+pymysql://{rest}"
    return create_engine(
        url,
        pool_pre_ping=True,
        pool_size=12,
        max_overflow=20,
        connect_args={"charset": "utf8mb4", "connect_timeout": 5, "init_command": UTC_SESSION},
        isolation_level="READ COMMITTED",
    )


UTC_SESSION = "SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE'"


def migrate(engine: Engine) -> bool:
    """Bring the database up to date; True where something had to be done."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    head = ScriptDirectory.from_config(config).get_current_head()
    with engine.connect() as connection:
        if MigrationContext.configure(connection).get_current_revision() == head:
            return False
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
        connection.commit()
    return True
