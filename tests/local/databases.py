"""Databases of their own for what upgrades, copies and puts back."""

from __future__ import annotations

import gzip
from collections.abc import Callable
from pathlib import Path

from sqlalchemy import Engine, text

OLD = Path(__file__).parents[1] / "store" / "old" / "demo_0004.sql.gz"
Fresh = Callable[[], Engine]


def load_old(engine: Engine) -> dict[str, int]:
    """What an older Elderberry wrote; how many rows of each table there are."""
    _, script = gzip.decompress(OLD.read_bytes()).decode("utf-8").split("\n", 1)
    raw = engine.raw_connection()
    for statement in script.split(";\n"):
        if statement.strip():
            raw.cursor().execute(statement)
    raw.commit()
    raw.close()
    return counts(engine, ("batch", "lot", "operation", "reading", "event", "jar", "person"))


def counts(engine: Engine, tables: tuple[str, ...]) -> dict[str, int]:
    with engine.connect() as connection:
        return {t: int(connection.scalar(text(f"SELECT count(*) FROM `{t}`")) or 0) for t in tables}
