"""What was one load of one fruit becomes inputs and ends; jars learn what is in them.

Revision ID: 0006
Revises: 0005
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

BRIX_ERROR, PH_ERROR = 0.3, 0.1
USUAL_LIFE = {"shelf": "juice", "chill": "juice_unprocessed", "freeze": "juice"}
HEAT_LOOK = "first wisps of steam, small bubbles at the rim, no boil"
NO_LONGER_SAID = {"product", "life"}


def upgrade() -> None:
    link = op.get_bind()
    batches = link.execute(
        sa.text(
            "select b.id, b.fruit_key, b.keep, b.load, l.source, (select count(*) from operation o "
            "where o.batch_id = b.id and o.kind = 'steam_juice') from batch b "
            "left join lot l on l.id = b.fruit_lot_id where b.brief is null"
        )
    ).all()
    for batch_id, fruit, keep, stored, source, loads in batches:
        load = json.loads(stored)
        method = load.get("method") or {}
        link.execute(
            sa.text("update batch set brief = :brief, method = :method where id = :id"),
            {
                "id": batch_id,
                "brief": json.dumps(brief_of(load, fruit, keep, source or "", loads or None)),
                "method": json.dumps({k: v for k, v in method.items() if k not in NO_LONGER_SAID}),
            },
        )
        link.execute(
            sa.text(
                "update jar set contents = :contents where batch_id = :id and contents is null"
            ),
            {"id": batch_id, "contents": json.dumps(contents_of(load, fruit))},
        )
    link.execute(
        sa.text(
            "update operation set params = json_set(params, '$.heat_words', "
            "concat('Heat to ', json_value(params, '$.target_c'), ' °C'), '$.heat_look', :look) "
            "where kind = 'heat_to' and json_value(params, '$.heat_words') is null"
        ),
        {"look": HEAT_LOOK},
    )
    link.execute(
        sa.text("update lot set material = '' where batch_id is not null and `key` <> 'fruit'")
    )


def brief_of(
    load: dict[str, Any], fruit: str, keep: str, source: str, loads: int | None
) -> dict[str, Any]:
    """Inputs and ends of what was asked for as one load of a fruit."""
    fruit_input = {
        "key": "fruit",
        "material": fruit,
        "amount": weighed(1000.0 * load["fruit_kg"]),
        "form": load.get("form") or "fresh",
        "brix": read(load.get("brix"), BRIX_ERROR),
        "ph": read(load.get("ph"), PH_ERROR),
        "ph_by_meter": True,
        "temp_c": None,
        "source": source,
        "step": "",
    }
    also = [
        {**fruit_input, "key": key, "material": key, "amount": weighed(grams), "form": "",
         "brix": None, "ph": None, "source": ""}
        for key, grams in (load.get("ingredients_g") or {}).items()
        if grams > 0
    ]  # fmt: skip
    ends = [{"key": "fill", "keep": keep, "jar_kinds": load.get("jar_kinds") or [], "name": ""}]
    said = load.get("said") or []
    return {"inputs": [fruit_input, *also], "ends": ends, "said": said, "loads": loads}


def contents_of(load: dict[str, Any], fruit: str) -> dict[str, Any]:
    """What is known of a jar that was filled before: how it keeps, by where it stands."""
    method = load.get("method") or {}
    life = {**USUAL_LIFE, **(method.get("life") or {})}
    return {"product": "", "life": life, "fruits": [fruit], "sugared": False}


def weighed(grams: float) -> dict[str, Any]:
    """An amount that was weighed."""
    return {
        "how": "amount", "grams": estimate(grams, 0.0), "share": 0.0, "of": "", "per": "g/g",
        "target": "", "value": 0.0, "said": "",
    }  # fmt: skip


def read(value: float | None, half: float) -> dict[str, Any] | None:
    """A figure that was read, with its instrument's range."""
    return None if value is None else estimate(value, half)


def estimate(value: float, half: float) -> dict[str, Any]:
    """A measured estimate as it is stored."""
    return {"lo": value - half, "typ": value, "hi": value + half, "evidence": "measured"}


def downgrade() -> None:
    raise NotImplementedError("a flow of several inputs has no one fruit to go back to")
