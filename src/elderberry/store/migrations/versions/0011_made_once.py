"""A change is made once, whatever it is; a browser that signed in before is known again.

Revision ID: 0011
Revises: 0010
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

from elderberry.store.base import UtcDateTime

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

CODE = sa.String(64, collation="utf8mb4_bin")


def upgrade() -> None:
    op.create_table(
        "change_made",
        sa.Column("retry_key", CODE, nullable=False),
        sa.Column("person_id", sa.BigInteger(), nullable=False),
        sa.Column("what", sa.String(240), nullable=False),
        sa.Column("sent", CODE, nullable=False),
        sa.Column("at", UtcDateTime(), nullable=False),
        sa.Column("status", sa.SmallInteger(), nullable=False),
        sa.Column("answer", mysql.MEDIUMBLOB(), nullable=False),
        *_owned("change_made"),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], "fk_change_made_person_id", ondelete="CASCADE"
        ),
        sa.UniqueConstraint(
            "household_id", "retry_key", name="uq_change_made_household_id_retry_key"
        ),
    )
    for column in ("household_id", "person_id", "at"):
        op.create_index(f"ix_change_made_{column}", "change_made", [column])
    op.create_table(
        "known_browser",
        sa.Column("token_hash", CODE, nullable=False),
        sa.Column("person_id", sa.BigInteger(), nullable=False),
        sa.Column("seen_at", UtcDateTime(), nullable=False),
        *_owned("known_browser"),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], "fk_known_browser_person_id", ondelete="CASCADE"
        ),
        sa.UniqueConstraint("token_hash", name="uq_known_browser_token_hash"),
    )
    for column in ("household_id", "person_id"):
        op.create_index(f"ix_known_browser_{column}", "known_browser", [column])
    op.create_table(
        "sign_in_try",
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("whence", CODE, nullable=False),
        sa.Column("at", UtcDateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_sign_in_try"),
    )
    op.create_index("ix_sign_in_try_whence_at", "sign_in_try", ["whence", "at"])
    op.drop_table("sign_in_failure")
    op.drop_constraint("uq_event_household_id_idempotency_key", "event", type_="unique")
    op.drop_column("event", "idempotency_key")


def _owned(table: str) -> list[sa.schema.SchemaItem]:
    return [
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=f"pk_{table}"),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], f"fk_{table}_household_id", ondelete="CASCADE"
        ),
    ]


def downgrade() -> None:
    op.add_column("event", sa.Column("idempotency_key", CODE, nullable=True))
    op.create_unique_constraint(
        "uq_event_household_id_idempotency_key", "event", ["household_id", "idempotency_key"]
    )
    op.create_table(
        "sign_in_failure",
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("sign_in", sa.String(80, collation="utf8mb4_bin"), nullable=False),
        sa.Column("at", UtcDateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_sign_in_failure"),
    )
    op.create_index("ix_sign_in_failure_sign_in", "sign_in_failure", ["sign_in"])
    for table in ("sign_in_try", "known_browser", "change_made"):
        op.drop_table(table)
