"""What a kitchen has and what came in, methods of the household's own, and more kinds of lot."""

import sqlalchemy as sa
from alembic import op

from elderberry.store.base import UtcDateTime

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

BEFORE = ("fruit", "juice", "pomace", "steam", "added", "jars")
AFTER = ("fruit", "mash", "juice", "pomace", "steam", "water", "added", "loss", "jars")


def _kinds(words: tuple[str, ...]) -> str:
    return f"kind in ({', '.join(repr(w) for w in words)})"


def owned() -> list[sa.schema.SchemaItem]:
    """The two columns that every household's table begins with."""
    return [
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
    ]


def of_household(table: str) -> list[sa.schema.SchemaItem]:
    """Keys of a household's table."""
    return [
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"],
            name=op.f(f"fk_{table}_household_id"), ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f(f"pk_{table}")),
    ]  # fmt: skip


def upgrade() -> None:
    op.drop_constraint(op.f("ck_lot_kind_known"), "lot", type_="check")
    op.create_check_constraint(op.f("ck_lot_kind_known"), "lot", _kinds(AFTER))
    op.add_column("lot", sa.Column("from_lot_id", sa.BigInteger(), nullable=True))
    op.create_foreign_key(op.f("fk_lot_from_lot_id"), "lot", "lot", ["from_lot_id"], ["id"])
    op.add_column("lot", sa.Column("intake", sa.JSON(), nullable=True))

    op.add_column("kitchen", sa.Column("pressure_pa", sa.Double(), nullable=True))
    op.add_column("kitchen", sa.Column("hardness_mg_l", sa.Double(), nullable=True))
    op.add_column("kitchen", sa.Column("units", sa.String(length=12), nullable=True))
    op.add_column("kitchen", sa.Column("cup", sa.String(length=12), nullable=True))
    op.add_column("kitchen", sa.Column("instruments", sa.JSON(), nullable=True))
    op.add_column("kitchen", sa.Column("containers", sa.JSON(), nullable=True))
    op.execute(
        "update kitchen set units = 'metric', cup = 'metric', containers = json_object(),"
        " instruments = json_array('thermometer', 'jug', 'scale')"
    )
    op.alter_column("kitchen", "containers", existing_type=sa.JSON(), nullable=False)
    op.alter_column("kitchen", "units", existing_type=sa.String(length=12), nullable=False)
    op.alter_column("kitchen", "cup", existing_type=sa.String(length=12), nullable=False)
    op.alter_column("kitchen", "instruments", existing_type=sa.JSON(), nullable=False)
    op.create_check_constraint(
        op.f("ck_kitchen_pressure_pa_on_earth"), "kitchen", "pressure_pa between 30000 and 110000"
    )
    op.create_check_constraint(
        op.f("ck_kitchen_hardness_mg_l_possible"), "kitchen", "hardness_mg_l between 0 and 600"
    )
    op.create_check_constraint(
        op.f("ck_kitchen_units_known"), "kitchen", "units in ('metric', 'us', 'imperial')"
    )
    op.create_check_constraint(
        op.f("ck_kitchen_cup_known"), "kitchen", "cup in ('metric', 'us', 'imperial')"
    )
    op.add_column("place", sa.Column("room_l", sa.Double(), nullable=True))
    op.create_check_constraint(
        op.f("ck_place_room_l_possible"), "place", "room_l between 0 and 2000"
    )
    op.add_column(
        "station",
        sa.Column("retired", sa.Boolean(), nullable=False, server_default=sa.false()),
    )
    op.alter_column(
        "station", "retired", existing_type=sa.Boolean(), existing_nullable=False,
        server_default=None,
    )  # fmt: skip
    op.add_column("person", sa.Column("hours", sa.JSON(), nullable=True))

    op.create_table(
        "vessel",
        *owned(),
        sa.Column("kind", sa.String(length=8), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("litres", sa.Double(), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column("diameter_cm", sa.Double(), nullable=True),
        sa.CheckConstraint("kind in ('pot', 'bowl', 'jug')", name=op.f("ck_vessel_kind_known")),
        sa.CheckConstraint("litres between 0.1 and 200", name=op.f("ck_vessel_litres_possible")),
        sa.CheckConstraint("`count` between 1 and 100", name=op.f("ck_vessel_count_possible")),
        sa.CheckConstraint(
            "diameter_cm between 5 and 100", name=op.f("ck_vessel_diameter_cm_possible")
        ),
        *of_household("vessel"),
    )
    op.create_index(op.f("ix_vessel_household_id"), "vessel", ["household_id"])
    op.create_table(
        "method",
        *owned(),
        sa.Column("key", sa.String(length=60), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("row", sa.JSON(), nullable=False),
        sa.Column("saved_at", UtcDateTime(), nullable=False),
        sa.Column("saved_by", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(["saved_by"], ["person.id"], name=op.f("fk_method_saved_by")),
        sa.UniqueConstraint(
            "household_id", "key", "version", name=op.f("uq_method_household_id_key_version")
        ),
        *of_household("method"),
    )
    op.create_index(op.f("ix_method_household_id"), "method", ["household_id"])


def downgrade() -> None:
    op.drop_table("method")
    op.drop_table("vessel")
    op.drop_column("person", "hours")
    op.drop_column("station", "retired")
    op.drop_constraint(op.f("ck_place_room_l_possible"), "place", type_="check")
    op.drop_column("place", "room_l")
    for name in ("pressure_pa_on_earth", "hardness_mg_l_possible", "units_known", "cup_known"):
        op.drop_constraint(op.f(f"ck_kitchen_{name}"), "kitchen", type_="check")
    for column in ("containers", "instruments", "cup", "units", "hardness_mg_l", "pressure_pa"):
        op.drop_column("kitchen", column)
    op.drop_column("lot", "intake")
    op.drop_constraint(op.f("fk_lot_from_lot_id"), "lot", type_="foreignkey")
    op.drop_column("lot", "from_lot_id")
    op.drop_constraint(op.f("ck_lot_kind_known"), "lot", type_="check")
    op.create_check_constraint(op.f("ck_lot_kind_known"), "lot", _kinds(BEFORE))
