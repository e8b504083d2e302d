"""What a household puts in that no list knows: by its own name, and never tested for the shelf."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session as Orm

from elderberry.core import names
from elderberry.services.errors import Conflict, FieldError
from elderberry.services.who import Who
from elderberry.store import OwnIngredient, queries

MOST = 200
"""Ingredients of its own that a household may have."""


@dataclass(frozen=True)
class NewIngredient:
    """Something that no list knows, and the answers that matter: sweet? sour? fat or starch?"""

    name: str
    sweet: bool = False
    sour: bool = False
    rich: bool = False

    @property
    def material(self) -> str:
        """What it counts as; fat and starch weigh heaviest."""
        if self.rich:
            return "unlisted_rich"
        tastes = [word for word, so in (("sweet", self.sweet), ("sour", self.sour)) if so]
        return f"unlisted_{'_'.join(tastes) or 'plain'}"


@dataclass(frozen=True)
class IngredientView:
    """An ingredient of the household's own, and what it counts as."""

    name: str
    material: str


def name_it(orm: Orm, who: Who, new: NewIngredient) -> list[IngredientView]:
    """Something becomes an ingredient of the household, or is answered for anew.

    Raises:
        FieldError: a name that a list knows already, or none at all.
        Conflict: more than a household has.
    """
    name = " ".join(new.name.lower().split())
    if names.squeeze(name) in names.called():
        raise FieldError("/name", f"{name.capitalize()} is known already. Nothing was changed.")
    if not any(c.isalpha() for c in name):
        raise FieldError("/name", "A name is made of letters. Nothing was changed.")
    rows = queries.all_of(orm, who.household_id, OwnIngredient)
    row = next((r for r in rows if r.name == name), None)
    if row is None:
        if len(rows) >= MOST:
            raise Conflict("too-many", f"A household names {MOST} of its own at most.")
        row = OwnIngredient(household_id=who.household_id, name=name)
        orm.add(row)
    row.material = new.material
    orm.flush()
    return every(orm, who)


def every(orm: Orm, who: Who) -> list[IngredientView]:
    """The household's own ingredients by name."""
    rows = queries.all_of(orm, who.household_id, OwnIngredient)
    return sorted((IngredientView(r.name, r.material) for r in rows), key=lambda v: v.name)
