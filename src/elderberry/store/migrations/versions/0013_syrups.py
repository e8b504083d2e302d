"""Jars that their sugar keeps, and caramel and peel as lots of their own.

Revision ID: 0013
Revises: 0012
"""

from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

SEALS = ("cooling", "sealed", "failed", "unsealed")
KINDS = ("fruit", "mash", "juice", "pomace", "steam", "water", "added", "loss", "jars")


def upgrade() -> None:
    _one_of("jar", "seal", (*SEALS, "capped"))
    _one_of("lot", "kind", (*KINDS, "caramel", "peel"))


def downgrade() -> None:
    op.execute("update jar set seal = 'unsealed' where seal = 'capped'")
    op.execute("update lot set kind = 'added' where kind in ('caramel', 'peel')")
    _one_of("jar", "seal", SEALS)
    _one_of("lot", "kind", KINDS)


def _one_of(table: str, column: str, words: tuple[str, ...]) -> None:
    name, listed = f"ck_{table}_{column}_known", ", ".join(f"'{w}'" for w in words)
    op.execute(f"alter table {table} drop constraint if exists {name}")
    op.execute(f"alter table {table} add constraint {name} check ({column} in ({listed}))")
