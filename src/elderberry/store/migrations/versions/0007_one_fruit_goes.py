"""A batch has no one fruit, load or way of keeping any more: its brief says all of it.

Revision ID: 0007
Revises: 0006
"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for table, column in (("batch", "brief"), ("batch", "method"), ("jar", "contents")):
        op.alter_column(table, column, existing_type=sa.JSON(), nullable=False)
    op.drop_constraint(op.f("ck_batch_keep_known"), "batch", type_="check")
    op.drop_constraint(op.f("fk_batch_fruit_lot_id"), "batch", type_="foreignkey")
    for column in ("fruit_key", "fruit_lot_id", "keep", "load"):
        op.drop_column("batch", column)


def downgrade() -> None:
    raise NotImplementedError("a flow of several inputs has no one fruit to go back to")
