"""How long steps took against what was planned, by role.

Revision ID: 0015
Revises: 0014
"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

OWNERS = {"household_id": "household", "batch_id": "batch"}
INDEXES = (["household_id"], ["batch_id"], ["household_id", "role", "id"])


def upgrade() -> None:
    op.create_table(
        "pace_seen",
        sa.Column("batch_id", sa.BigInteger(), nullable=False),
        sa.Column("role", sa.String(24), nullable=False),
        sa.Column("ratio", sa.Double(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_pace_seen"),
        *(
            sa.ForeignKeyConstraint(
                [column], [f"{table}.id"], f"fk_pace_seen_{column}", ondelete="CASCADE"
            )
            for column, table in OWNERS.items()
        ),
    )
    for columns in INDEXES:
        op.create_index(f"ix_pace_seen_{'_'.join(columns)}", "pace_seen", columns)


def downgrade() -> None:
    op.drop_table("pace_seen")
