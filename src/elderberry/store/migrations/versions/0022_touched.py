"""How often a household's small tables and the rows of a batch became others.

Revision ID: 0022
Revises: 0021
"""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "household", sa.Column("furnished", sa.JSON(), nullable=False, server_default="{}")
    )
    op.add_column("batch", sa.Column("touched", sa.Integer(), nullable=False, server_default="0"))


def downgrade() -> None:
    op.drop_column("batch", "touched")
    op.drop_column("household", "furnished")
