"""Private addresses of calendars.

Revision ID: 0019
Revises: 0018
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "feed",
        sa.Column("token_hash", sa.String(64, collation="utf8mb4_bin"), nullable=False),
        sa.Column("person_id", sa.BigInteger(), nullable=False),
        sa.Column("made_at", mysql.DATETIME(fsp=6), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_feed"),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], "fk_feed_person_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_feed_household_id", ondelete="CASCADE"
        ),
    )
    op.create_index("uq_feed_token_hash", "feed", ["token_hash"], unique=True)
    op.create_index("uq_feed_person_id", "feed", ["person_id"], unique=True)
    op.create_index("ix_feed_household_id", "feed", ["household_id"])


def downgrade() -> None:
    op.drop_table("feed")
