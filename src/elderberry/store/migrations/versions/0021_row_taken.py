"""Rows of files that were taken in.

Revision ID: 0021
Revises: 0020
"""

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "row_taken",
        sa.Column("sheet", sa.String(16), nullable=False),
        sa.Column("hash", sa.String(64, collation="utf8mb4_bin"), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_row_taken"),
        sa.UniqueConstraint(
            "household_id", "sheet", "hash", name="uq_row_taken_household_id_sheet_hash"
        ),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_row_taken_household_id", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_row_taken_household_id", "row_taken", ["household_id"])


def downgrade() -> None:
    op.drop_table("row_taken")
