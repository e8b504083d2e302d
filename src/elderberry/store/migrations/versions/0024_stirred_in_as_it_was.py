"""Water and sugar that were stirred in before the jars stay there, where steps now take them.

Revision ID: 0024
Revises: 0023
"""

import json
from collections.abc import Iterable
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None

SWEET = frozenset(
    ["sugar_white", "sugar_raw", "sugar_brown", "sugar_icing", "honey", "maple_syrup",
     "glucose_syrup", "fructose", "molasses_fruit", "erythritol", "stevia_spoon", "golden_syrup",
     "treacle", "agave_syrup", "date_syrup", "sugar_palm", "dextrose"]
)  # fmt: skip
SWEETENS = frozenset({"dissolve", "pot_up", "infuse"})
WETS = frozenset({"simmer", "steep", "pot_up", "infuse"})
"""Kinds of step that what sweetens, and water, goes into from now on where nobody says when."""
LATER = "strained"
"""What says of an input that it is stirred in before the jars."""


def upgrade() -> None:
    link = op.get_bind()
    for row_id, brief, method in _rows("SELECT id, brief, method FROM batch"):
        steps = json.loads(method)["steps"] if method else []
        said = json.loads(brief)
        if _stay(said["inputs"][1:], steps):
            _put(link, "UPDATE batch SET brief = :now WHERE id = :id", row_id, said)
    for row_id, stored in _rows("SELECT id, `row` FROM method"):
        own = json.loads(stored)
        if _stay(own.get("inputs", []), own["steps"]):
            _put(link, "UPDATE method SET `row` = :now WHERE id = :id", row_id, own)


def _rows(asked: str) -> Iterable[Any]:
    return op.get_bind().execute(sa.text(asked)).all()


def _put(link: sa.Connection, statement: str, row_id: int, now: object) -> None:
    link.execute(sa.text(statement), {"now": json.dumps(now), "id": row_id})


def _stay(inputs: Iterable[dict[str, Any]], steps: Iterable[dict[str, Any]]) -> bool:
    """Say of each input that would go elsewhere that it stays; whether there is one."""
    kinds = {s["kind"] for s in steps}
    named = {lot for s in steps for lot in s.get("takes", ())}
    moved = [i for i in inputs if _would_move(i, kinds) and i["key"] not in named]
    for given in moved:
        given["where"] = LATER
    return bool(moved)


def _would_move(given: dict[str, Any], kinds: set[str]) -> bool:
    if given.get("where") or given.get("step") or "line" in given:
        return False
    how = given["amount"].get("how", "amount")
    if given["material"] in SWEET:
        return how == "amount" and bool(kinds & SWEETENS)
    return given["material"] == "water" and how != "target" and bool(kinds & WETS)


def downgrade() -> None:
    """Nothing: what was said of them holds before as well."""
