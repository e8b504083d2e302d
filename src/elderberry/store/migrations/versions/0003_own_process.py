"""Tested processes that a household has entered."""

import sqlalchemy as sa
from alembic import op

from elderberry.store.base import UtcDateTime

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "own_process",
        sa.Column("product", sa.String(length=40), nullable=False),
        sa.Column("jar_ml", sa.Double(), nullable=False),
        sa.Column("minutes", sa.JSON(), nullable=False),
        sa.Column("max_ph", sa.Double(), nullable=False),
        sa.Column("source", sa.String(length=300), nullable=False),
        sa.Column("entered_at", UtcDateTime(), nullable=False),
        sa.Column("entered_by", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint("max_ph between 2 and 4.2", name=op.f("ck_own_process_max_ph_acid")),
        sa.CheckConstraint(
            "jar_ml between 50 and 2000", name=op.f("ck_own_process_jar_ml_possible")
        ),
        sa.ForeignKeyConstraint(
            ["entered_by"], ["person.id"], name=op.f("fk_own_process_entered_by")
        ),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_own_process_household_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_own_process")),
    )
    op.create_index(
        op.f("ix_own_process_household_id"), "own_process", ["household_id"], unique=False
    )


def downgrade() -> None:
    op.drop_table("own_process")
