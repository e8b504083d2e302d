"""Many in, many out: room for what goes into a batch, its method and what is in a jar.

Revision ID: 0005
Revises: 0004
"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("batch", sa.Column("brief", sa.JSON(), nullable=True))
    op.add_column("batch", sa.Column("method", sa.JSON(), nullable=True))
    op.add_column("jar", sa.Column("contents", sa.JSON(), nullable=True))
    op.alter_column(
        "lot", "fruit_key", new_column_name="material", existing_type=sa.String(length=40),
        existing_nullable=False,
    )  # fmt: skip


def downgrade() -> None:
    op.alter_column(
        "lot", "material", new_column_name="fruit_key", existing_type=sa.String(length=40),
        existing_nullable=False,
    )  # fmt: skip
    op.drop_column("jar", "contents")
    op.drop_column("batch", "method")
    op.drop_column("batch", "brief")
