"""Out of the jar: a drink for a glass, a jug or a party, written down and made again."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core import serving, sugar
from elderberry.core.composition import Composition, of_fruit_juice, of_material
from elderberry.core.materials import fruits
from elderberry.core.serving import GLASS_ACID_G_L, GLASS_BRIX, Drink, Wish
from elderberry.core.shelf.life import Lives
from elderberry.services.cooking.ageing import FOUND
from elderberry.services.cooking.folder import folder_of
from elderberry.services.errors import Conflict, FieldError, NotFound
from elderberry.services.household import kitchens
from elderberry.services.planning import intake
from elderberry.services.shelf import lives
from elderberry.services.shelf.shown import DrinkView, ServedView
from elderberry.services.who import Who
from elderberry.store import Jar, Person, Serving, queries

MOST_LISTED = 12


@dataclass(frozen=True)
class Asked:
    """A drink as a page asks for it.

    ml: all of it [mL], of which a glass is glass_ml; diluent: one of serving.OUT_OF_THE_JAR; brix,
    acid_g_l: what it is liked at; ice_g: ice [g]; in_it: lines of what goes in besides.
    """

    ml: float
    diluent: str = "water"
    brix: float = GLASS_BRIX
    acid_g_l: float = GLASS_ACID_G_L
    ice_g: float = 0.0
    in_it: tuple[str, ...] = ()


def ask(orm: Orm, who: Who, jar_id: int, asked: Asked) -> DrinkView:
    """How a drink is made of a jar.

    Raises:
        NotFound: no such jar.
        FieldError: a line that cannot be read.
        CoreError: a drink that cannot be made so.
    """
    jar = lives.one(orm, who, jar_id)
    return _told(orm, who, jar, asked, _drink(orm, who, jar, asked))


def pour(orm: Orm, who: Who, jar_id: int, asked: Asked, name: str, now: datetime) -> DrinkView:
    """A drink is made: it is opened where it was closed, poured from, and written down.

    Raises:
        NotFound: no such jar.
        FieldError: more than is in it, or no name.
        IllegalStep: the jar is held, or gone.
    """
    if not name.strip():
        raise FieldError("/name", "Give the drink a name, so that it is found again.")
    jar = lives.one(orm, who, jar_id)
    drink = _drink(orm, who, jar, asked)
    told = _told(orm, who, jar, asked, drink)
    if jar.lives == Lives.STANDS:
        lives.do(orm, who, now, lives.Which((jar_id,)), "opened", lives.Told())
    poured = lives.Told(ml=drink.base_ml)
    lives.do(orm, who, now, lives.Which((jar_id,)), "poured", poured)
    orm.add(
        Serving(
            household_id=who.household_id, name=name.strip()[:80], jar_id=jar_id,
            person_id=who.person_id, at=now, base_ml=drink.base_ml, asked=asdict(asked),
            told=asdict(drink),
        )
    )  # fmt: skip
    orm.flush()
    return told


def usual(orm: Orm, who: Who) -> list[ServedView]:
    """Drinks that were written down, each name once, the newest first."""
    return _views(orm, who, queries.servings(orm, who.household_id))


def of_jar(orm: Orm, who: Who, jar_id: int) -> list[ServedView]:
    """Drinks that were poured of a jar, the newest first."""
    rows = queries.servings(orm, who.household_id, jar_id)
    return _views(orm, who, rows, each=True)


def _views(orm: Orm, who: Who, rows: list[Serving], *, each: bool = False) -> list[ServedView]:
    people = {p.id: p.name for p in queries.all_of(orm, who.household_id, Person)}
    found: dict[object, ServedView] = {}
    for row in rows:
        said = ServedView(row.name, row.at, people.get(row.person_id, ""), row.base_ml, row.asked)
        found.setdefault(row.id if each else row.name.lower(), said)
    return list(found.values())[:MOST_LISTED]


def _drink(orm: Orm, who: Who, jar: Jar, asked: Asked) -> Drink:
    in_it = tuple(_read(orm, who, n, line) for n, line in enumerate(asked.in_it))
    wish = Wish(asked.ml, asked.diluent, asked.brix, asked.acid_g_l, asked.ice_g, in_it)
    return serving.serve(in_the_jar(orm, who, jar), wish)


def in_the_jar(orm: Orm, who: Who, jar: Jar) -> Composition:
    """What is in a jar, as it was read when it was filled.

    Raises:
        NotFound: its batch does not tell.
        Conflict: it lies loose, and is weighed instead of poured.
    """
    if jar.batch_id is None or jar.contents.get(FOUND):
        return _by_table(jar)
    folder = folder_of(orm, who, jar.batch_id)
    lot = folder.lots.get(jar.lot_id or 0)
    now = folder.standing.lot_now(lot) if lot else None
    if now is None:
        raise NotFound("what is in this jar")
    if now.loose:
        raise Conflict(
            "weighed-not-poured",
            f"{jar.label} is weighed, not poured: its page says how much water it takes.",
        )
    return now.composition


def _by_table(jar: Jar) -> Composition:
    """What is most likely in a jar that was there already: juice as the table has it.

    Raises:
        Conflict: nobody can tell.
    """
    told, product = jar.contents[FOUND], jar.contents["product"]
    fruit = told["material"]
    if product not in {"juice", "syrup", ""} or fruit not in fruits():
        raise Conflict(
            "nobody-knows",
            f"Nobody knows how sweet or sharp {jar.label.lower()} is: thin a spoonful and taste.",
        )
    juice = of_fruit_juice(fruit, jar.fill_ml)
    if product != "syrup":
        return juice
    sugar_g = sugar.sugar_to_reach(float(juice.mass_g), float(juice.brix), USUAL_SYRUP_BRIX)
    return juice + of_material("sugar_white", float(sugar_g))


USUAL_SYRUP_BRIX = 50.0
"""What a syrup is taken for of which nobody knows more [g/100 g]."""
BY_TABLE = "Reckoned by the table: nobody has measured this one. Taste as you thin it."


def _read(orm: Orm, who: Who, place: int, text: str) -> Composition:
    """What a line puts into a drink.

    Raises:
        FieldError: it cannot be read, or says no amount.
    """
    line = intake.read_at(f"/in_it/{place}", text, kitchens.customs(orm, who))
    if line.mass_g is None:
        raise FieldError(f"/in_it/{place}", "Say how much of it. Nothing was changed.")
    if line.material in fruits():
        return of_fruit_juice(line.material, line.mass_g.typ)
    return of_material(line.material, line.mass_g.typ)


def _told(orm: Orm, who: Who, jar: Jar, asked: Asked, drink: Drink) -> DrinkView:
    left = jar.there_ml
    glass = kitchens.for_core(orm, who).glass_ml
    return DrinkView(
        **asdict(drink),
        glasses=asked.ml / glass,
        glass_ml=glass,
        left_ml=left,
        jars=max(1, -int(-drink.base_ml // jar.fill_ml)) if drink.base_ml > left else 1,
        notes=_notes(jar, drink),
    )


def _notes(jar: Jar, drink: Drink) -> list[str]:
    """What there is to say of it."""
    said = [BY_TABLE] if jar.contents.get(FOUND) else []
    life = (jar.contents.get("life") or {}).get("shelf")
    if life in {"infused_whole_fruit", "puree_or_whole_fruit"}:
        said.append("Pour it through a sieve; its fruit is eaten by the spoon.")
    if drink.too_thin:
        said.append("It is thinner than the drink: not thinned, and sugar puts it right.")
    elif drink.sugar_g > 0:
        said.append("Thin enough not to be sharp, and less sweet than wished: sugar in the glass.")
    if drink.alcohol_pct >= LEAST_ALCOHOL:
        said.append("With alcohol: not for children.")
    if "honey" in str(jar.contents.get("origins", "")):
        said.append("It holds honey: not for children under one year.")
    return said


LEAST_ALCOHOL = 0.5
"""Under this a drink is called free of alcohol [% by volume]."""
