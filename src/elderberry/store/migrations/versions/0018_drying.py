"""Dryers: their trays, what they have run, dry lots, bags that let no water through.

Revision ID: 0018
Revises: 0017
"""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

STATIONS = ("juicer", "burner", "canner", "cool_rack", "worktop", "fridge", "freezer")
LOTS = ("fruit", "mash", "juice", "pomace", "steam", "water", "added", "loss", "jars", "caramel",
        "peel")  # fmt: skip
VESSELS = ("pot", "bowl", "jug", "glass", "can", "squeeze", "box", "bag")


def _kinds(table: str, words: tuple[str, ...]) -> None:
    listed = ", ".join(f"'{word}'" for word in words)
    name = f"ck_{table}_kind_known"
    op.drop_constraint(op.f(name), table, type_="check")
    op.create_check_constraint(op.f(name), table, f"kind in ({listed})")


def upgrade() -> None:
    _kinds("station", (*STATIONS, "freeze_dryer", "dryer"))
    _kinds("lot", (*LOTS, "dried"))
    _kinds("vessel", (*VESSELS, "barrier", "cubes"))
    for column in (
        sa.Column("trays", sa.Integer(), nullable=True),
        sa.Column("tray_cm2", sa.Double(), nullable=True),
        sa.Column("tray_mm", sa.Double(), nullable=True),
        sa.Column("tray_kg", sa.Double(), nullable=True),
    ):
        op.add_column("station", column)
    for name, least, most in (
        ("trays", 1, 40), ("tray_cm2", 50, 10_000), ("tray_mm", 3, 60), ("tray_kg", 0.1, 10),
    ):  # fmt: skip
        check = f"{name} between {least} and {most}"
        op.create_check_constraint(op.f(f"ck_station_{name}_possible"), "station", check)
    op.add_column("kitchen", sa.Column("humidity_pct", sa.Double(), nullable=True))
    op.create_check_constraint(
        op.f("ck_kitchen_humidity_pct_possible"), "kitchen", "humidity_pct between 5 and 100"
    )
    op.create_table(
        "cycle_seen",
        sa.Column("batch_id", sa.BigInteger(), nullable=False),
        sa.Column("water_kg", sa.Double(), nullable=False),
        sa.Column("thickness_mm", sa.Double(), nullable=False),
        sa.Column("sugar_share", sa.Double(), nullable=False),
        sa.Column("frozen", sa.Boolean(), nullable=False),
        sa.Column("hours", sa.Double(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_cycle_seen"),
        sa.ForeignKeyConstraint(
            ["batch_id"], ["batch.id"], "fk_cycle_seen_batch_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_cycle_seen_household_id", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_cycle_seen_batch_id", "cycle_seen", ["batch_id"])
    op.create_index("ix_cycle_seen_household_id", "cycle_seen", ["household_id"])
    op.create_index("ix_cycle_seen_household_id_id", "cycle_seen", ["household_id", "id"])


def downgrade() -> None:
    op.drop_table("cycle_seen")
    op.drop_constraint(op.f("ck_kitchen_humidity_pct_possible"), "kitchen", type_="check")
    op.drop_column("kitchen", "humidity_pct")
    for name in ("trays", "tray_cm2", "tray_mm", "tray_kg"):
        op.drop_constraint(op.f(f"ck_station_{name}_possible"), "station", type_="check")
        op.drop_column("station", name)
    _kinds("vessel", VESSELS)
    _kinds("lot", LOTS)
    _kinds("station", STATIONS)
