"""What the last press at a batch did, so that a mis-tap can be taken back.

Revision ID: 0014
Revises: 0013
"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    empty = sa.text("'{}'")
    op.add_column("batch", sa.Column("last_press", sa.JSON(), nullable=False, server_default=empty))


def downgrade() -> None:
    op.drop_column("batch", "last_press")
