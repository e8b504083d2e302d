"""The life of a jar on its shelf, stacks of like jars, how warm places were, drinks.

Revision ID: 0017
Revises: 0016
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.mysql import DATETIME

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

LIVES = "lives in ('made', 'stands', 'opened', 'finished', 'given', 'went_in', 'thrown', 'never')"


def owned(*columns: sa.Column[object]) -> tuple[sa.Column[object], ...]:
    return (
        *columns,
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
    )


def upgrade() -> None:
    op.create_table(
        "stack",
        *owned(
            sa.Column("place_id", sa.BigInteger(), nullable=False),
            sa.Column("key", sa.String(64, collation="utf8mb4_bin"), nullable=False),
            sa.Column("label", sa.String(120), nullable=False),
            sa.Column("fruit", sa.String(40), nullable=False),
            sa.Column("jars", sa.Integer(), nullable=False),
            sa.Column("ml", sa.Double(), nullable=False),
            sa.Column("best_by", sa.Date(), nullable=False),
            sa.Column("first_jar_id", sa.BigInteger(), nullable=False),
        ),
        sa.PrimaryKeyConstraint("id", name="pk_stack"),
        sa.UniqueConstraint("household_id", "key", name="uq_stack_household_id_key"),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_stack_household_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["place_id"], ["place.id"], "fk_stack_place_id", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_stack_household_id", "stack", ["household_id"])
    op.create_index("ix_stack_place_id", "stack", ["place_id"])
    op.create_index(
        "ix_stack_household_id_place_id_best_by_id",
        "stack", ["household_id", "place_id", "best_by", "id"],
    )  # fmt: skip
    op.create_table(
        "place_day",
        *owned(
            sa.Column("place_id", sa.BigInteger(), nullable=False),
            sa.Column("day", sa.Date(), nullable=False),
            sa.Column("temps", sa.JSON(), nullable=False),
        ),
        sa.PrimaryKeyConstraint("id", name="pk_place_day"),
        sa.UniqueConstraint("place_id", "day", name="uq_place_day_place_id_day"),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_place_day_household_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["place_id"], ["place.id"], "fk_place_day_place_id", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_place_day_household_id", "place_day", ["household_id"])
    op.create_table(
        "tasted",
        *owned(
            sa.Column("jar_id", sa.BigInteger(), nullable=False),
            sa.Column("state", sa.String(24), nullable=False),
            sa.Column("product", sa.String(48), nullable=False),
            sa.Column("aged_d", sa.Double(), nullable=False),
            sa.Column("verdict", sa.String(8), nullable=False),
        ),
        sa.PrimaryKeyConstraint("id", name="pk_tasted"),
        sa.CheckConstraint(
            "verdict in ('good', 'fading', 'gone')", name=op.f("ck_tasted_verdict_known")
        ),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_tasted_household_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["jar_id"], ["jar.id"], "fk_tasted_jar_id", ondelete="CASCADE"),
    )
    op.create_index("ix_tasted_household_id", "tasted", ["household_id"])
    op.create_index("ix_tasted_jar_id", "tasted", ["jar_id"])
    op.create_table(
        "serving",
        *owned(
            sa.Column("name", sa.String(80), nullable=False),
            sa.Column("jar_id", sa.BigInteger(), nullable=False),
            sa.Column("person_id", sa.BigInteger(), nullable=False),
            sa.Column("at", DATETIME(fsp=6), nullable=False),
            sa.Column("base_ml", sa.Double(), nullable=False),
            sa.Column("asked", sa.JSON(), nullable=False),
            sa.Column("told", sa.JSON(), nullable=False),
        ),
        sa.PrimaryKeyConstraint("id", name="pk_serving"),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], "fk_serving_household_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["jar_id"], ["jar.id"], "fk_serving_jar_id", ondelete="CASCADE"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], "fk_serving_person_id"),
    )
    op.create_index("ix_serving_household_id", "serving", ["household_id"])
    op.create_index("ix_serving_jar_id", "serving", ["jar_id"])
    _places()
    _jars()


def _places() -> None:
    op.add_column("place", sa.Column("swing_c", sa.Double(), nullable=False, server_default="0"))
    op.add_column(
        "place", sa.Column("warmest_day", sa.Integer(), nullable=False, server_default="205")
    )
    op.create_check_constraint(
        op.f("ck_place_swing_c_possible"), "place", "swing_c between 0 and 20"
    )
    op.create_check_constraint(
        op.f("ck_place_warmest_day_possible"), "place", "warmest_day between 1 and 366"
    )


def _jars() -> None:
    for column in (
        sa.Column("lives", sa.String(12), nullable=False, server_default="made"),
        sa.Column("left_ml", sa.Double(), nullable=True),
        sa.Column("opened_at", DATETIME(fsp=6), nullable=True),
        sa.Column("ended_on", sa.Date(), nullable=True),
        sa.Column("held", sa.Boolean(), nullable=False, server_default="0"),
        sa.Column("fruit", sa.String(40), nullable=False, server_default=""),
        sa.Column("packet", sa.String(40), nullable=False, server_default=""),
        sa.Column("stack_id", sa.BigInteger(), nullable=True),
    ):
        op.add_column("jar", column)
    for table in ("jar_stock", "lid_stock"):
        op.add_column(table, sa.Column("packet", sa.String(40), nullable=False, server_default=""))
    op.execute("UPDATE jar SET lives = 'stands' WHERE place_id IS NOT NULL")
    ended = (
        "UPDATE jar JOIN event ON event.jar_id = jar.id AND event.kind IN ({kinds}) "
        "SET jar.lives = '{lives}', jar.ended_on = DATE(event.at) WHERE jar.gone = 1"
    )
    op.execute(ended.format(kinds="'used_up'", lives="finished"))
    op.execute(ended.format(kinds="'spoiled', 'broken'", lives="thrown"))
    op.execute("UPDATE jar SET lives = 'never' WHERE gone = 1 AND lives = 'made'")
    op.execute(
        "UPDATE jar SET fruit = COALESCE(JSON_UNQUOTE(JSON_EXTRACT(contents, '$.fruits[0]')), '')"
    )
    op.create_check_constraint(op.f("ck_jar_lives_known"), "jar", LIVES)
    op.create_check_constraint(op.f("ck_jar_left_not_negative"), "jar", "left_ml >= 0")
    op.create_foreign_key(
        "fk_jar_stack_id", "jar", "stack", ["stack_id"], ["id"], ondelete="SET NULL"
    )
    op.create_index("ix_jar_stack_id_best_by_code", "jar", ["stack_id", "best_by", "code"])
    op.create_index(
        "ix_jar_household_id_fruit_ended_on", "jar", ["household_id", "fruit", "ended_on"]
    )
    op.create_index("ix_jar_household_id_held", "jar", ["household_id", "held"])
    op.create_index("ix_jar_household_id_packet", "jar", ["household_id", "packet"])


def downgrade() -> None:
    op.drop_constraint("fk_jar_stack_id", "jar", type_="foreignkey")
    for index in (
        "ix_jar_stack_id_best_by_code",
        "ix_jar_household_id_fruit_ended_on",
        "ix_jar_household_id_held",
        "ix_jar_household_id_packet",
    ):
        op.drop_index(index, "jar")
    op.drop_constraint(op.f("ck_jar_lives_known"), "jar", type_="check")
    op.drop_constraint(op.f("ck_jar_left_not_negative"), "jar", type_="check")
    for column in (
        "lives",
        "left_ml",
        "opened_at",
        "ended_on",
        "held",
        "fruit",
        "packet",
        "stack_id",
    ):
        op.drop_column("jar", column)
    for table in ("jar_stock", "lid_stock"):
        op.drop_column(table, "packet")
    op.drop_constraint(op.f("ck_place_swing_c_possible"), "place", type_="check")
    op.drop_constraint(op.f("ck_place_warmest_day_possible"), "place", type_="check")
    op.drop_column("place", "swing_c")
    op.drop_column("place", "warmest_day")
    for table in ("serving", "tasted", "place_day", "stack"):
        op.drop_table(table)
