"""Alembic's environment: migrations run on a connection that database.migrate hands in."""

from typing import Any, Literal

from alembic import context

from elderberry.store import Base
from elderberry.store.base import UtcDateTime


def render_item(type_: str, obj: Any, autogen_context: Any) -> str | Literal[False]:
    """Write our time type by its name rather than by what it wraps."""
    if type_ == "type" and isinstance(obj, UtcDateTime):
        autogen_context.imports.add("from elderberry.store.base import UtcDateTime")
        return "UtcDateTime()"
    return False


context.configure(
    connection=context.config.attributes["connection"],
    target_metadata=Base.metadata,
    render_item=render_item,
    compare_type=True,
)
with context.begin_transaction():
    context.run_migrations()
