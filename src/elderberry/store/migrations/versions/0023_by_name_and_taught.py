"""Jars and stacks are found by their names; a batch knows what it taught.

Revision ID: 0023
Revises: 0022
"""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None

BY_NAME = {
    "ix_jar_household_id_fruit_label_lives_ended_on": (
        "jar", ("household_id", "fruit", "label", "lives", "ended_on"),
    ),
    "ix_jar_household_id_fruit_label_filled_at": (
        "jar", ("household_id", "fruit", "label", "filled_at"),
    ),
    "ix_stack_household_id_label_place_id_jar_kind_jars": (
        "stack", ("household_id", "label", "place_id", "jar_kind", "jars"),
    ),
}  # fmt: skip


def upgrade() -> None:
    code = sa.String(64, collation="utf8mb4_bin")
    op.add_column("batch", sa.Column("taught", code, nullable=False, server_default=""))
    kind = sa.Column("jar_kind", sa.String(24), nullable=False, server_default="")
    op.add_column("stack", kind)
    op.execute(
        "UPDATE stack JOIN jar ON jar.id = stack.first_jar_id SET stack.jar_kind = jar.jar_kind"
    )
    for name, (table, columns) in BY_NAME.items():
        op.create_index(name, table, columns)
    op.drop_index("ix_jar_household_id_fruit_ended_on", "jar")


def downgrade() -> None:
    op.create_index(
        "ix_jar_household_id_fruit_ended_on", "jar", ("household_id", "fruit", "ended_on")
    )
    for name, (table, _) in BY_NAME.items():
        op.drop_index(name, table)
    op.drop_column("stack", "jar_kind")
    op.drop_column("batch", "taught")
