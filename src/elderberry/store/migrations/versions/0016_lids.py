"""Lids by what they are and by colour, besides the usual new ones of a kind of jar.

Revision ID: 0016
Revises: 0015
"""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "lid_stock",
        sa.Column("jar_kind", sa.String(24), nullable=False),
        sa.Column("closure", sa.String(12), nullable=False),
        sa.Column("colour", sa.String(12), nullable=False),
        sa.Column("lids", sa.Integer(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_lid_stock"),
        sa.CheckConstraint("lids >= 0", name=op.f("ck_lid_stock_lids_not_negative")),
        sa.UniqueConstraint(
            "household_id", "jar_kind", "closure", "colour",
            name="uq_lid_stock_household_id_jar_kind_closure_colour",
        ),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_lid_stock_household_id", ondelete="CASCADE"
        ),
    )  # fmt: skip
    op.create_index("ix_lid_stock_household_id", "lid_stock", ["household_id"])


def downgrade() -> None:
    op.drop_table("lid_stock")
