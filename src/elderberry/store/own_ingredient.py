"""What a household puts in that no list knows."""

from __future__ import annotations

from sqlalchemy import String, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from elderberry.store.base import Base, Owned


class OwnIngredient(Owned, Base):
    """An ingredient by the household's own name, and the material that it counts as.

    material: a row of core/data/ingredients.csv of the kind "unlisted", which is never tested for
    the shelf.
    """

    __tablename__ = "own_ingredient"
    __table_args__ = (UniqueConstraint("household_id", "name"),)
    name: Mapped[str] = mapped_column(String(60))
    material: Mapped[str] = mapped_column(String(40))
