"""Fruit as it grows is whole, not fresh; a household names its own ingredients and marks.

Revision ID: 0008
Revises: 0007
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

SPOKEN_OF = (("batch", "brief"), ("batch", "method"), ("lot", "intake"), ("method", "row"))
"""Columns in which a form is named."""


def upgrade() -> None:
    link = op.get_bind()
    for table, column in SPOKEN_OF:
        rows = link.execute(
            sa.text(f"select id, `{column}` from `{table}` where `{column}` like '%\"fresh\"%'")  # noqa: S608
        ).all()
        for row_id, stored in rows:
            link.execute(
                sa.text(f"update `{table}` set `{column}` = :now where id = :id"),  # noqa: S608
                {"now": json.dumps(whole(json.loads(stored))), "id": row_id},
            )
    op.create_table(
        "own_ingredient",
        sa.Column("name", sa.String(length=60), nullable=False),
        sa.Column("material", sa.String(length=40), nullable=False),
        sa.Column("id", sa.BigInteger(), autoincrement=True, nullable=False),
        sa.Column("household_id", sa.BigInteger(), nullable=False),
        sa.ForeignKeyConstraint(
            ["household_id"],
            ["household.id"],
            name=op.f("fk_own_ingredient_household_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_own_ingredient")),
        sa.UniqueConstraint(
            "household_id", "name", name=op.f("uq_own_ingredient_household_id_name")
        ),
    )
    op.create_index(op.f("ix_own_ingredient_household_id"), "own_ingredient", ["household_id"])
    op.add_column("vessel", sa.Column("marks", sa.JSON(), nullable=True))


def whole(stored: Any) -> Any:
    """What was stored, with whole fruit where it said fresh."""
    if isinstance(stored, dict):
        return {key: _form(key, value) for key, value in stored.items()}
    return [whole(item) for item in stored] if isinstance(stored, list) else stored


def _form(key: str, value: Any) -> Any:
    if key == "form" and value == "fresh":
        return "whole"
    if key == "forms" and isinstance(value, list):
        return ["whole" if form == "fresh" else form for form in value]
    return whole(value)


def downgrade() -> None:
    op.drop_column("vessel", "marks")
    op.drop_table("own_ingredient")
