"""The headspace of a filling is a figure, said in the units of the kitchen.

Revision ID: 0009
Revises: 0008
"""

import json
import re

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    link = op.get_bind()
    rows = link.execute(
        sa.text("select id, params from operation where params like '%\"headspace\"%'")
    ).all()
    for row_id, stored in rows:
        params = json.loads(stored)
        told = re.match(r"[\d.]+", str(params["headspace"]))
        if told and "headspace_mm" not in params:
            link.execute(
                sa.text("update operation set params = :now where id = :id"),
                {"now": json.dumps({**params, "headspace_mm": float(told[0])}), "id": row_id},
            )


def downgrade() -> None:
    """The words are still there."""
