"""Reading jars: where they stand, and until when they are at their best."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Sequence
from datetime import UTC, datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core import colour, freezing, materials, sugar
from elderberry.core import jars as kinds
from elderberry.core.again import Again, of_pack
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.estimates import Estimate
from elderberry.core.findings import Finding, Level
from elderberry.core.flow.rows import brief_of
from elderberry.core.quantities import System
from elderberry.core.rules import rule
from elderberry.core.shelf import found
from elderberry.services.cooking import ageing
from elderberry.services.cooking.shown import BestByView, JarView
from elderberry.services.who import Who
from elderberry.store import Jar, Kitchen, Place, PlaceDay, Tasted, furniture, queries

FELL_SHORT = "fell_short"
"""What a jar's process lacks by what is known now, in its record."""


USE_FIRST = "Juice left it in the canner: eat it first."


def views(
    orm: Orm, who: Who, jars: Sequence[Jar], past: ageing.Ageing | None = None
) -> list[JarView]:
    """Jars with their places and their best-by; past: what is known of theirs already."""
    if not jars:
        return []
    known, now = past or ageing.of(orm, who, jars), datetime.now(UTC)
    codes = queries.codes_of(orm, who.household_id, jars)
    colours = _colours(orm, who, jars)
    return [
        _view(
            jar, codes.get(jar.batch_id or 0, ""), colours[jar.id], known.place(jar),
            known.best_by(jar, now), known.units,
        )
        for jar in jars
    ]  # fmt: skip


def listed(
    orm: Orm, who: Who, name: Hashable, find: Callable[[], Sequence[Jar]]
) -> list[JarView]:  # fmt: skip
    """Jars of a list with a name, as those that only read see them until one is another."""
    whose = (who.household_id, "jars", name)
    return furniture.shared(orm, SHOWN_OF, whose, lambda: views(orm, who, find()))


SHOWN_OF = (Jar, Kitchen, Place, PlaceDay, Tasted)
"""Tables that a jar is shown of."""


def _view(
    jar: Jar, code: str, hue: str, place: Place | None, best_by: BestByView | None, units: System
) -> JarView:
    kind = kinds.kind(jar.jar_kind)
    return JarView(
        id=jar.id,
        code=jar.code,
        label=jar.label,
        kind=kind.key,
        kind_name=kind.named(units),
        nominal_ml=kind.nominal_ml,
        radius_mm=kind.inner_radius_mm,
        height_mm=kind.inner_height_mm,
        fill_ml=jar.fill_ml,
        part_filled=jar.part_filled,
        canner_load=jar.canner_load,
        seal=jar.seal,
        place_id=jar.place_id,
        place=place.name if place else "",
        filled_at=jar.filled_at,
        batch_id=jar.batch_id,
        batch_code=code,
        colour=hue,
        best_by=best_by,
        lid=colour.LIDS.get(jar.lid, ""),
        closure=jar.contents.get("closure") or kind.closure,
        lives=jar.lives,
        left_ml=jar.there_ml,
        opened_at=jar.opened_at,
        held=jar.held,
        note=USE_FIRST if jar.contents.get("siphoned") else "",
        stop=next((f.message for f in stands(jar) if f.level is Level.STOP), ""),
        filled_words=found.when(jar.filled_at.date(), ageing.off_days(jar)),
        loose_g=weighs_g(jar, jar.there_ml) if lies_loose(jar) else None,
        dried=jar.contents.get("dried", ""),
    )


def lies_loose(jar: Jar) -> bool:
    """Whether what is in it is weighed and not poured."""
    return bool(jar.contents.get("g_per_ml"))


def weighs_g(jar: Jar, ml: float) -> float | None:
    """What so much of a jar weighs [g]; None where nobody knows what is in it."""
    brix = jar.contents.get("brix")
    if lies_loose(jar):
        return ml * float(jar.contents["g_per_ml"])
    return None if brix is None else ml * float(sugar.density_kg_m3(brix)) / 1000.0


def thaws_h(jar: Jar, known: ageing.Ageing) -> Estimate | None:
    """How long what stands in a freezer takes to thaw in the refrigerator [h]."""
    place, grams = known.place(jar), weighs_g(jar, jar.there_ml)
    if place is None or place.kind != "freezer" or not grams:
        return None
    return freezing.thaws_h(max(10.0, grams))


def again(jar: Jar, sizes_ml: Sequence[float] = ()) -> Again | None:
    """What is left in a jar of something dry, and what it makes with water."""
    grams, told = weighs_g(jar, jar.there_ml), jar.contents
    if not told.get("dried") or not grams:
        return None
    wet = float(told["moisture_pct"]) / 100.0
    return of_pack(
        str(told["dried"]), grams, float(told["water_g_per_g"]), wet, sizes_ml,
        float(told.get("portion_g", 0.0)),
    )  # fmt: skip


def stands(jar: Jar) -> list[Finding]:
    """What stands against a jar by what is known of it: its process, or that nobody vouches."""
    short = fell_short(jar)
    told = jar.contents.get(ageing.FOUND)
    said = found.findings(told["material"], jar.contents["product"], told["stood"]) if told else []
    return [*([short] if short else []), *said]


def fell_short(jar: Jar) -> Finding | None:
    """The stop on a jar whose process is not enough for what is known of it since.

    A jar that went to the cold instead is not kept by its process any more.
    """
    why = jar.process.get(FELL_SHORT) if jar.seal in {Seal.COOLING, Seal.SEALED} else ""
    return rule("process-fell-short").finding("process", why=why) if why else None


def _colours(orm: Orm, who: Who, jars: Sequence[Jar]) -> dict[int, str]:
    """The colour of what is in each jar: of its first fruit, else of what its batch began with."""
    known = {j.id: _of_fruit(j) for j in jars}
    others = {j.batch_id for j in jars if j.batch_id is not None and not known[j.id]}
    briefs = queries.briefs_of(orm, who.household_id, others) if others else {}
    began = {batch_id: brief_of(row).colour for batch_id, row in briefs.items()}
    return {j.id: known[j.id] or began.get(j.batch_id or 0, NOBODY_KNOWS) for j in jars}


NOBODY_KNOWS = "#8c7a6b"
"""The colour of what is in a jar of which nobody knows the fruit."""


def _of_fruit(jar: Jar) -> str:
    """The colour of the first fruit in a jar; empty where there is none that is listed."""
    fruits = jar.contents.get("fruits") or [""]
    fruit = materials.fruits().get(fruits[0])
    return fruit.colour if fruit else ""
