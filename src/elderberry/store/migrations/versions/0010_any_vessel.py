"""Any vessel of the household is filled, and lids have colours.

Revision ID: 0010
Revises: 0009
"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

KINDS = "kind in ('pot', 'bowl', 'jug', 'glass', 'can', 'squeeze', 'box', 'bag')"


def upgrade() -> None:
    op.add_column("jar", sa.Column("lid", sa.String(12), nullable=False, server_default=""))
    _checks(KINDS, 0.05)


def downgrade() -> None:
    op.execute("update vessel set kind = 'jug' where kind not in ('pot', 'bowl')")
    op.execute("update vessel set litres = 0.1 where litres < 0.1")
    _checks("kind in ('pot', 'bowl', 'jug')", 0.1)
    op.drop_column("jar", "lid")


def _checks(kinds: str, least_l: float) -> None:
    op.execute("alter table vessel drop constraint ck_vessel_kind_known")
    op.execute("alter table vessel drop constraint ck_vessel_litres_possible")
    op.execute(f"alter table vessel add constraint ck_vessel_kind_known check ({kinds})")
    op.execute(
        "alter table vessel add constraint ck_vessel_litres_possible "
        f"check (litres between {least_l} and 200)"
    )
