"""The spine: households, kitchens, lots, batches, events and jars."""

import sqlalchemy as sa
from alembic import op

from elderberry.store.base import UtcDateTime

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "household",
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("created_at", UtcDateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_household")),
    )
    op.create_table(
        "sign_in_failure",
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("sign_in", sa.String(length=80, collation="utf8mb4_bin"), nullable=False),
        sa.Column("at", UtcDateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in_failure")),
    )
    op.create_index(
        op.f("ix_sign_in_failure_sign_in"), "sign_in_failure", ["sign_in"], unique=False
    )
    op.create_table(
        "jar_stock",
        sa.Column("jar_kind", sa.String(length=24), nullable=False),
        sa.Column("jars", sa.Integer(), nullable=False),
        sa.Column("lids", sa.Integer(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint("jars >= 0", name=op.f("ck_jar_stock_jars_not_negative")),
        sa.CheckConstraint("lids >= 0", name=op.f("ck_jar_stock_lids_not_negative")),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_jar_stock_household_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_jar_stock")),
        sa.UniqueConstraint(
            "household_id", "jar_kind", name=op.f("uq_jar_stock_household_id_jar_kind")
        ),
    )
    op.create_index(op.f("ix_jar_stock_household_id"), "jar_stock", ["household_id"], unique=False)
    op.create_table(
        "kitchen",
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("altitude_m", sa.Double(), nullable=True),
        sa.Column("time_zone", sa.String(length=64), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "altitude_m between -430 and 9000", name=op.f("ck_kitchen_altitude_m_on_earth")
        ),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_kitchen_household_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_kitchen")),
    )
    op.create_index(op.f("ix_kitchen_household_id"), "kitchen", ["household_id"], unique=False)
    op.create_table(
        "lot",
        sa.Column("batch_id", sa.BigInteger(), nullable=True),
        sa.Column("key", sa.String(length=40), nullable=False),
        sa.Column("kind", sa.String(length=12), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("fruit_key", sa.String(length=40), nullable=False),
        sa.Column("predicted", sa.JSON(), nullable=False),
        sa.Column("mass_g", sa.Double(), nullable=True),
        sa.Column("source", sa.String(length=120), nullable=True),
        sa.Column("picked_on", sa.Date(), nullable=True),
        sa.Column("created_at", UtcDateTime(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "kind in ('fruit', 'juice', 'pomace', 'steam', 'jars')", name=op.f("ck_lot_kind_known")
        ),
        sa.CheckConstraint("mass_g > 0", name=op.f("ck_lot_mass_g_positive")),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], name=op.f("fk_lot_household_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_lot")),
    )
    op.create_index(op.f("ix_lot_batch_id"), "lot", ["batch_id"], unique=False)
    op.create_index(op.f("ix_lot_household_id"), "lot", ["household_id"], unique=False)
    op.create_table(
        "person",
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("sign_in", sa.String(length=80, collation="utf8mb4_bin"), nullable=False),
        sa.Column("password_hash", sa.String(length=200, collation="utf8mb4_bin"), nullable=False),
        sa.Column("role", sa.String(length=12), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "role in ('keeper', 'helper', 'guest')", name=op.f("ck_person_role_known")
        ),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_person_household_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_person")),
        sa.UniqueConstraint("sign_in", name=op.f("uq_person_sign_in")),
    )
    op.create_index(op.f("ix_person_household_id"), "person", ["household_id"], unique=False)
    op.create_table(
        "place",
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("kind", sa.String(length=16), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("temp_c", sa.Double(), nullable=False),
        sa.Column("light", sa.Boolean(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "kind in ('shelf', 'cellar', 'refrigerator', 'freezer')",
            name=op.f("ck_place_kind_known"),
        ),
        sa.CheckConstraint("temp_c between -40 and 45", name=op.f("ck_place_temp_c_possible")),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_place_household_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_place")),
    )
    op.create_index(op.f("ix_place_household_id"), "place", ["household_id"], unique=False)
    op.create_table(
        "station",
        sa.Column("kind", sa.String(length=16), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("basket_l", sa.Double(), nullable=True),
        sa.Column("pan_l", sa.Double(), nullable=True),
        sa.Column("power_kw", sa.Double(), nullable=True),
        sa.Column("power_kind", sa.String(length=12), nullable=True),
        sa.Column("jars", sa.Integer(), nullable=True),
        sa.Column("heater", sa.String(length=8), nullable=True),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint("heater in ('bath', 'steam')", name=op.f("ck_station_heater_known")),
        sa.CheckConstraint(
            "kind in ('juicer', 'burner', 'canner', 'cool_rack', 'worktop', 'fridge', 'freezer')",
            name=op.f("ck_station_kind_known"),
        ),
        sa.CheckConstraint(
            "power_kind in ('gas', 'electric', 'induction')",
            name=op.f("ck_station_power_kind_known"),
        ),
        sa.CheckConstraint(
            "basket_l between 0.5 and 100", name=op.f("ck_station_basket_l_possible")
        ),
        sa.CheckConstraint("jars between 1 and 60", name=op.f("ck_station_jars_possible")),
        sa.CheckConstraint("pan_l between 0.5 and 100", name=op.f("ck_station_pan_l_possible")),
        sa.CheckConstraint(
            "power_kw between 0.2 and 20", name=op.f("ck_station_power_kw_possible")
        ),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_station_household_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_station")),
    )
    op.create_index(op.f("ix_station_household_id"), "station", ["household_id"], unique=False)
    op.create_table(
        "batch",
        sa.Column("code", sa.String(length=24, collation="utf8mb4_bin"), nullable=False),
        sa.Column("title", sa.String(length=120), nullable=False),
        sa.Column("method_key", sa.String(length=60), nullable=False),
        sa.Column("method_version", sa.Integer(), nullable=False),
        sa.Column("fruit_key", sa.String(length=40), nullable=False),
        sa.Column("fruit_lot_id", sa.BigInteger(), nullable=False),
        sa.Column("keep", sa.String(length=12), nullable=False),
        sa.Column("load", sa.JSON(), nullable=False),
        sa.Column("predicted", sa.JSON(), nullable=False),
        sa.Column("process", sa.JSON(), nullable=False),
        sa.Column("started_at", UtcDateTime(), nullable=False),
        sa.Column("started_by", sa.BigInteger(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "keep in ('shelf', 'chill', 'freeze')", name=op.f("ck_batch_keep_known")
        ),
        sa.ForeignKeyConstraint(["fruit_lot_id"], ["lot.id"], name=op.f("fk_batch_fruit_lot_id")),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_batch_household_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(["started_by"], ["person.id"], name=op.f("fk_batch_started_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_batch")),
        sa.UniqueConstraint("household_id", "code", name=op.f("uq_batch_household_id_code")),
    )
    op.create_index(op.f("ix_batch_household_id"), "batch", ["household_id"], unique=False)
    op.create_table(
        "session",
        sa.Column("token_hash", sa.String(length=64, collation="utf8mb4_bin"), nullable=False),
        sa.Column("person_id", sa.BigInteger(), nullable=False),
        sa.Column("created_at", UtcDateTime(), nullable=False),
        sa.Column("expires_at", UtcDateTime(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_session_household_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_session_person_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_session")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_session_token_hash")),
    )
    op.create_index(op.f("ix_session_household_id"), "session", ["household_id"], unique=False)
    op.create_index(op.f("ix_session_person_id"), "session", ["person_id"], unique=False)
    op.create_table(
        "jar",
        sa.Column("batch_id", sa.BigInteger(), nullable=False),
        sa.Column("lot_id", sa.BigInteger(), nullable=False),
        sa.Column("code", sa.String(length=32, collation="utf8mb4_bin"), nullable=False),
        sa.Column("label", sa.String(length=120), nullable=False),
        sa.Column("jar_kind", sa.String(length=24), nullable=False),
        sa.Column("fill_ml", sa.Double(), nullable=False),
        sa.Column("part_filled", sa.Boolean(), nullable=False),
        sa.Column("canner_load", sa.Integer(), nullable=False),
        sa.Column("seal", sa.String(length=12), nullable=False),
        sa.Column("place_id", sa.BigInteger(), nullable=True),
        sa.Column("placed_at", UtcDateTime(), nullable=False),
        sa.Column("filled_at", UtcDateTime(), nullable=False),
        sa.Column("process", sa.JSON(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "seal in ('cooling', 'sealed', 'failed', 'unsealed')", name=op.f("ck_jar_seal_known")
        ),
        sa.CheckConstraint("fill_ml > 0", name=op.f("ck_jar_fill_ml_positive")),
        sa.ForeignKeyConstraint(
            ["batch_id"], ["batch.id"], name=op.f("fk_jar_batch_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["household_id"], ["household.id"], name=op.f("fk_jar_household_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["lot_id"], ["lot.id"], name=op.f("fk_jar_lot_id")),
        sa.ForeignKeyConstraint(["place_id"], ["place.id"], name=op.f("fk_jar_place_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_jar")),
        sa.UniqueConstraint("household_id", "code", name=op.f("uq_jar_household_id_code")),
    )
    op.create_index(op.f("ix_jar_batch_id"), "jar", ["batch_id"], unique=False)
    op.create_index(op.f("ix_jar_household_id"), "jar", ["household_id"], unique=False)
    op.create_index(op.f("ix_jar_place_id"), "jar", ["place_id"], unique=False)
    op.create_table(
        "operation",
        sa.Column("batch_id", sa.BigInteger(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("key", sa.String(length=40), nullable=False),
        sa.Column("kind", sa.String(length=24), nullable=False),
        sa.Column("station_id", sa.BigInteger(), nullable=True),
        sa.Column("minutes_lo", sa.Double(), nullable=False),
        sa.Column("minutes", sa.Double(), nullable=False),
        sa.Column("minutes_hi", sa.Double(), nullable=False),
        sa.Column("params", sa.JSON(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "minutes_lo <= minutes and minutes <= minutes_hi",
            name=op.f("ck_operation_minutes_rise"),
        ),
        sa.ForeignKeyConstraint(
            ["batch_id"], ["batch.id"], name=op.f("fk_operation_batch_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_operation_household_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["station_id"], ["station.id"], name=op.f("fk_operation_station_id")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_operation")),
        sa.UniqueConstraint("batch_id", "key", name=op.f("uq_operation_batch_id_key")),
    )
    op.create_index(op.f("ix_operation_batch_id"), "operation", ["batch_id"], unique=False)
    op.create_index(op.f("ix_operation_household_id"), "operation", ["household_id"], unique=False)
    op.create_table(
        "event",
        sa.Column("batch_id", sa.BigInteger(), nullable=True),
        sa.Column("operation_id", sa.BigInteger(), nullable=True),
        sa.Column("jar_id", sa.BigInteger(), nullable=True),
        sa.Column("kind", sa.String(length=32), nullable=False),
        sa.Column("at", UtcDateTime(), nullable=False),
        sa.Column("person_id", sa.BigInteger(), nullable=False),
        sa.Column("data", sa.JSON(), nullable=False),
        sa.Column("idempotency_key", sa.String(length=64, collation="utf8mb4_bin"), nullable=True),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(
            ["batch_id"], ["batch.id"], name=op.f("fk_event_batch_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_event_household_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["jar_id"], ["jar.id"], name=op.f("fk_event_jar_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["operation_id"],
            ["operation.id"],
            name=op.f("fk_event_operation_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_event_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_event")),
        sa.UniqueConstraint(
            "household_id", "idempotency_key", name=op.f("uq_event_household_id_idempotency_key")
        ),
    )
    op.create_index(op.f("ix_event_batch_id"), "event", ["batch_id"], unique=False)
    op.create_index(op.f("ix_event_household_id"), "event", ["household_id"], unique=False)
    op.create_index(op.f("ix_event_jar_id"), "event", ["jar_id"], unique=False)
    op.create_index(op.f("ix_event_operation_id"), "event", ["operation_id"], unique=False)
    op.create_table(
        "operation_lot",
        sa.Column("operation_id", sa.BigInteger(), nullable=False),
        sa.Column("lot_id", sa.BigInteger(), nullable=False),
        sa.Column("side", sa.String(length=4), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint("side in ('in', 'out')", name=op.f("ck_operation_lot_side_known")),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_operation_lot_household_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["lot_id"], ["lot.id"], name=op.f("fk_operation_lot_lot_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["operation_id"],
            ["operation.id"],
            name=op.f("fk_operation_lot_operation_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_operation_lot")),
        sa.UniqueConstraint(
            "operation_id", "lot_id", "side", name=op.f("uq_operation_lot_operation_id_lot_id_side")
        ),
    )
    op.create_index(
        op.f("ix_operation_lot_household_id"), "operation_lot", ["household_id"], unique=False
    )
    op.create_index(op.f("ix_operation_lot_lot_id"), "operation_lot", ["lot_id"], unique=False)
    op.create_index(
        op.f("ix_operation_lot_operation_id"), "operation_lot", ["operation_id"], unique=False
    )
    op.create_table(
        "reading",
        sa.Column("batch_id", sa.BigInteger(), nullable=False),
        sa.Column("operation_id", sa.BigInteger(), nullable=False),
        sa.Column("lot_id", sa.BigInteger(), nullable=True),
        sa.Column("quantity", sa.String(length=16), nullable=False),
        sa.Column("value", sa.Double(), nullable=False),
        sa.Column("instrument", sa.String(length=24), nullable=False),
        sa.Column("evidence", sa.String(length=12), nullable=False),
        sa.Column("at", UtcDateTime(), nullable=False),
        sa.Column("person_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.CheckConstraint(
            "evidence in ('measured', 'read', 'typical')", name=op.f("ck_reading_evidence_known")
        ),
        sa.ForeignKeyConstraint(
            ["batch_id"], ["batch.id"], name=op.f("fk_reading_batch_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_reading_household_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["lot_id"], ["lot.id"], name=op.f("fk_reading_lot_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["operation_id"],
            ["operation.id"],
            name=op.f("fk_reading_operation_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_reading_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reading")),
    )
    op.create_index(op.f("ix_reading_batch_id"), "reading", ["batch_id"], unique=False)
    op.create_index(op.f("ix_reading_household_id"), "reading", ["household_id"], unique=False)
    op.create_index(op.f("ix_reading_lot_id"), "reading", ["lot_id"], unique=False)
    op.create_index(op.f("ix_reading_operation_id"), "reading", ["operation_id"], unique=False)
    # lot and batch point at each other, so this one comes last.
    op.create_foreign_key(
        op.f("fk_lot_batch_id"), "lot", "batch", ["batch_id"], ["id"], ondelete="CASCADE"
    )


def downgrade() -> None:
    op.drop_constraint(op.f("fk_lot_batch_id"), "lot", type_="foreignkey")
    op.drop_index(op.f("ix_reading_operation_id"), table_name="reading")
    op.drop_index(op.f("ix_reading_lot_id"), table_name="reading")
    op.drop_index(op.f("ix_reading_household_id"), table_name="reading")
    op.drop_index(op.f("ix_reading_batch_id"), table_name="reading")
    op.drop_table("reading")
    op.drop_index(op.f("ix_operation_lot_operation_id"), table_name="operation_lot")
    op.drop_index(op.f("ix_operation_lot_lot_id"), table_name="operation_lot")
    op.drop_index(op.f("ix_operation_lot_household_id"), table_name="operation_lot")
    op.drop_table("operation_lot")
    op.drop_index(op.f("ix_event_operation_id"), table_name="event")
    op.drop_index(op.f("ix_event_jar_id"), table_name="event")
    op.drop_index(op.f("ix_event_household_id"), table_name="event")
    op.drop_index(op.f("ix_event_batch_id"), table_name="event")
    op.drop_table("event")
    op.drop_index(op.f("ix_operation_household_id"), table_name="operation")
    op.drop_index(op.f("ix_operation_batch_id"), table_name="operation")
    op.drop_table("operation")
    op.drop_index(op.f("ix_jar_place_id"), table_name="jar")
    op.drop_index(op.f("ix_jar_household_id"), table_name="jar")
    op.drop_index(op.f("ix_jar_batch_id"), table_name="jar")
    op.drop_table("jar")
    op.drop_index(op.f("ix_session_person_id"), table_name="session")
    op.drop_index(op.f("ix_session_household_id"), table_name="session")
    op.drop_table("session")
    op.drop_index(op.f("ix_batch_household_id"), table_name="batch")
    op.drop_table("batch")
    op.drop_index(op.f("ix_station_household_id"), table_name="station")
    op.drop_table("station")
    op.drop_index(op.f("ix_place_household_id"), table_name="place")
    op.drop_table("place")
    op.drop_index(op.f("ix_person_household_id"), table_name="person")
    op.drop_table("person")
    op.drop_index(op.f("ix_lot_household_id"), table_name="lot")
    op.drop_index(op.f("ix_lot_batch_id"), table_name="lot")
    op.drop_table("lot")
    op.drop_index(op.f("ix_kitchen_household_id"), table_name="kitchen")
    op.drop_table("kitchen")
    op.drop_index(op.f("ix_jar_stock_household_id"), table_name="jar_stock")
    op.drop_table("jar_stock")
    op.drop_index(op.f("ix_sign_in_failure_sign_in"), table_name="sign_in_failure")
    op.drop_table("sign_in_failure")
    op.drop_table("household")
