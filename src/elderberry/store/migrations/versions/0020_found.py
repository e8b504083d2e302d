"""Jars that were there already: of no batch, with a seal that nobody has looked at.

Revision ID: 0020
Revises: 0019
"""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None

BEFORE = "seal in ('cooling', 'sealed', 'failed', 'unsealed', 'capped')"
AFTER = "seal in ('cooling', 'sealed', 'failed', 'unsealed', 'capped', 'unknown')"


def upgrade() -> None:
    for column in ("batch_id", "lot_id"):
        op.alter_column("jar", column, existing_type=sa.BigInteger(), nullable=True)
    op.drop_constraint(op.f("ck_jar_seal_known"), "jar", type_="check")
    op.create_check_constraint(op.f("ck_jar_seal_known"), "jar", AFTER)


def downgrade() -> None:
    op.execute("DELETE FROM jar WHERE batch_id IS NULL")
    op.drop_constraint(op.f("ck_jar_seal_known"), "jar", type_="check")
    op.create_check_constraint(op.f("ck_jar_seal_known"), "jar", BEFORE)
    for column in ("batch_id", "lot_id"):
        op.alter_column("jar", column, existing_type=sa.BigInteger(), nullable=False)
