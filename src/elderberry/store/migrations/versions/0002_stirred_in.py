"""Lots of what is stirred in, such as acid."""

from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.drop_constraint(op.f("ck_lot_kind_known"), "lot", type_="check")
    op.create_check_constraint(
        op.f("ck_lot_kind_known"),
        "lot",
        "kind in ('fruit', 'juice', 'pomace', 'steam', 'added', 'jars')",
    )


def downgrade() -> None:
    op.drop_constraint(op.f("ck_lot_kind_known"), "lot", type_="check")
    op.create_check_constraint(
        op.f("ck_lot_kind_known"),
        "lot",
        "kind in ('fruit', 'juice', 'pomace', 'steam', 'jars')",
    )
