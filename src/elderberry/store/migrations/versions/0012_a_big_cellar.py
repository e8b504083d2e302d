"""What rows amount to stands in columns, so that a big cellar reads only what it shows.

The columns are filled by whoever upgrades, by the same code that keeps them afterwards.

Revision ID: 0012
Revises: 0011
"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

PHASES = "phase in ('waiting', 'running', 'done', 'dropped')"
INDEXES = {
    "batch": [["household_id", "finished"], ["household_id", "material"]],
    "operation": [["household_id", "phase"]],
    "jar": [
        ["household_id", "place_id", "best_by", "code"],
        ["household_id", "best_by"],
        ["household_id", "own_vessel", "gone"],
        ["household_id", "fell_short"],
    ],
    "lot": [["household_id", "left_g"]],
}


def upgrade() -> None:
    no, nought = sa.text("0"), sa.text("0")
    op.add_column("batch", sa.Column("finished", sa.Boolean(), nullable=False, server_default=no))
    op.add_column("batch", sa.Column("material", sa.String(40), nullable=False, server_default=""))
    op.add_column(
        "operation", sa.Column("phase", sa.String(12), nullable=False, server_default="waiting")
    )
    op.execute(f"alter table operation add constraint ck_operation_phase_known check ({PHASES})")
    op.add_column(
        "jar", sa.Column("best_by", sa.Date(), nullable=False, server_default="9999-12-31")
    )
    for flag in ("gone", "fell_short", "own_vessel"):
        op.add_column("jar", sa.Column(flag, sa.Boolean(), nullable=False, server_default=no))
    op.add_column("lot", sa.Column("left_g", sa.Double(), nullable=True))
    op.add_column("place", sa.Column("jars", sa.Integer(), nullable=False, server_default=nought))
    op.add_column("place", sa.Column("jars_ml", sa.Double(), nullable=False, server_default=nought))
    op.create_table(
        "yield_seen",
        sa.Column("batch_id", sa.BigInteger(), nullable=False),
        sa.Column("fruit", sa.String(40), nullable=False),
        sa.Column("way", sa.String(24), nullable=False),
        sa.Column("litres_per_kg", sa.Double(), nullable=False),
        sa.Column("source", sa.String(120), nullable=False),
        sa.Column("batch_code", sa.String(24), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_yield_seen"),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_yield_seen_household_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["batch_id"], ["batch.id"], "fk_yield_seen_batch_id", ondelete="CASCADE"
        ),
    )
    for columns in (["household_id"], ["batch_id"], ["household_id", "fruit", "id"]):
        op.create_index(_name("yield_seen", columns), "yield_seen", columns)
    for table, listed in INDEXES.items():
        for columns in listed:
            op.create_index(_name(table, columns), table, columns)


def _name(table: str, columns: list[str]) -> str:
    return f"ix_{table}_{'_'.join(columns)}"


def downgrade() -> None:
    op.drop_table("yield_seen")
    op.execute("alter table operation drop constraint ck_operation_phase_known")
    for table, listed in INDEXES.items():
        for columns in listed:
            op.drop_index(_name(table, columns), table)
    for table, columns in {
        "place": ["jars_ml", "jars"], "lot": ["left_g"], "operation": ["phase"],
        "jar": ["own_vessel", "fell_short", "gone", "best_by"], "batch": ["material", "finished"],
    }.items():  # fmt: skip
        for column in columns:
            op.drop_column(table, column)
