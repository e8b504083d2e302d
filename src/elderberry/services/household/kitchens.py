"""A household's kitchen, as it is stored and as the core needs it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime
from typing import TypeVar
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session as Orm

from elderberry.core import heat, quantities, water
from elderberry.core import kitchen as core
from elderberry.services.errors import Conflict, NotFound
from elderberry.services.household import zones
from elderberry.services.who import Who
from elderberry.store import (
    JarStock,
    Kitchen,
    LidStock,
    OwnIngredient,
    Place,
    Station,
    Vessel,
    furniture,
    queries,
)


def stored(orm: Orm, who: Who) -> Kitchen:
    """The household's kitchen."""
    found = queries.all_of(orm, who.household_id, Kitchen)
    if not found:
        raise NotFound("kitchen")
    return found[0]


def stations(orm: Orm, who: Who) -> list[Station]:
    """The household's stations that are in use."""
    return [s for s in queries.all_of(orm, who.household_id, Station) if not s.retired]


def station(orm: Orm, who: Who, kind: str) -> Station:
    """The household's first station of a kind, or what stands in where there is none."""
    return _first(stations(orm, who), kind, *INSTEAD.get(kind, ()))


INSTEAD = {"canner": ("burner",), "dryer": ("worktop",)}
"""Jars are scalded on a ring where no canner is; frames in moving air stand anywhere."""


def place(orm: Orm, who: Who, *kinds: str) -> Place:
    """The household's first place of the first of these kinds that it has."""
    return _first(queries.all_of(orm, who.household_id, Place), *kinds)


def for_core(orm: Orm, who: Who) -> core.Kitchen:
    """The kitchen as the core computes with it; a jar counts when it has a new lid."""
    return furniture.reckoned(orm, OF_A_KITCHEN, who.household_id, lambda: _for_core(orm, who))


OF_A_KITCHEN = (Kitchen, Station, Place, JarStock, LidStock, Vessel)
"""Tables that the core's kitchen is made of."""


def _for_core(orm: Orm, who: Who) -> core.Kitchen:
    there, row = stations(orm, who), stored(orm, who)
    places = queries.all_of(orm, who.household_id, Place)
    lacks = frozenset(MAY_LACK - {s.kind for s in there})
    juicer, canner = (_there_or_usual(there, kind) for kind in ("juicer", "canner"))
    burner = _first(there, "burner")
    stock = queries.all_of(orm, who.household_id, JarStock)
    fridge = _first(places, "refrigerator")
    store = _first(places, "cellar", "shelf")
    return core.Kitchen(
        units=row.units,  # type: ignore[arg-type]
        altitude_m=altitude_of(row.altitude_m, row.pressure_pa),
        juicer=core.Juicer(
            juicer.basket_l or 8.0, juicer.pan_l or 4.0, juicer.power_kw or 1.8, power(juicer)
        ),
        canner=core.Canner(canner.jars or 7, "steam" if canner.heater == "steam" else "bath"),
        burner_kw=burner.power_kw or 2.0,
        burner_kind=power(burner),
        pressure_pa=row.pressure_pa,
        jar_stock={s.jar_kind: min(s.jars, s.lids) for s in stock},
        jars_there={s.jar_kind: s.jars for s in stock},
        lids={
            (s.jar_kind, s.closure, s.colour): s.lids
            for s in queries.all_of(orm, who.household_id, LidStock)
        },
        store_c=store.temp_c,
        chill_c=fridge.temp_c,
        freeze_c=_first(places, "freezer").temp_c,
        alkalinity_mg_l=row.hardness_mg_l,
        vessels=_vessels(orm, who),
        fridge_free_l=fridge.room_l,
        shelf_free_l=_free_l(store),
        freezer_free_l=_free_l(_first(places, "freezer")),
        lacks=lacks,
        freeze_dryer=_freeze_dryer(there),
        dryer=_dryer(there),
        humidity_pct=row.humidity_pct or core.USUAL_HUMIDITY_PCT,
    )


def _free_l(place: Place) -> float | None:
    """Room that a place has for what is in more jars [L]; None where nobody has told."""
    return None if place.room_l is None else place.room_l - place.jars_ml / 1000.0


def _freeze_dryer(there: Sequence[Station]) -> core.FreezeDryer:
    """The freeze dryer with the sizes that are known of it; a usual one where there is none."""
    row = next((s for s in there if s.kind == "freeze_dryer"), None)
    usual = core.FreezeDryer()
    if row is None:
        return usual
    return core.FreezeDryer(
        row.trays or usual.trays, row.tray_cm2 or usual.tray_cm2, row.tray_mm or usual.tray_mm,
        row.tray_kg or usual.tray_kg,
    )  # fmt: skip


def _dryer(there: Sequence[Station]) -> core.Dryer:
    row, usual = next((s for s in there if s.kind == "dryer"), None), core.Dryer()
    return usual if row is None else core.Dryer(
        row.trays or usual.trays, row.tray_cm2 or usual.tray_cm2
    )  # fmt: skip


MAY_LACK = frozenset({"juicer", "canner", "freeze_dryer", "dryer"})
"""Stations that a kitchen may do without; what needs one is not planned there."""


def _there_or_usual(found: Sequence[Station], kind: str) -> Station:
    """A station of a kind; one of the usual size to reckon with where there is none."""
    return next((s for s in found if s.kind == kind), Station(kind=kind))


def _vessels(orm: Orm, who: Who) -> tuple[core.Vessel, ...]:
    """Its vessels; of those of one size, the first are the ones that stand full somewhere."""
    full = queries.full_vessels(orm, who.household_id)
    found = []
    for row in queries.all_of(orm, who.household_id, Vessel):
        vessel = core.Vessel(row.kind, row.litres, row.count, row.diameter_cm)
        taken = min(row.count, full.get(vessel.container, 0))
        full[vessel.container] = full.get(vessel.container, 0) - taken
        found.append(replace(vessel, full=taken))
    return tuple(found)


WEATHER_M = 150.0
"""Added to an altitude that is only known from a barometer: weather moves it [m]."""


def altitude_of(altitude_m: float | None, pressure_pa: float | None) -> float | None:
    """The altitude that times are looked up for [m]: told, or read off a barometer."""
    if altitude_m is not None or pressure_pa is None:
        return altitude_m
    return max(0.0, float(water.altitude_from_pressure_m(pressure_pa)) + WEATHER_M)


def customs(orm: Orm, who: Who) -> quantities.Customs:
    """How this household measures: its cup, what its containers hold, and what it calls things."""
    row = stored(orm, who)
    own = {name: quantities.Quantity(grams, "mass") for name, grams in row.containers.items()}
    vessels = queries.all_of(orm, who.household_id, Vessel)
    jugs = {v.name.lower(): quantities.Quantity(1000.0 * v.litres, "volume") for v in vessels}
    marks = {v.name.lower(): tuple(v.marks) for v in vessels if v.marks}
    named = {i.name: i.material for i in queries.all_of(orm, who.household_id, OwnIngredient)}
    return quantities.Customs(row.cup, {**jugs, **own}, marks, named)  # type: ignore[arg-type]


Furnishing = TypeVar("Furnishing", Station, Place)


def _first(found: Sequence[Furnishing], *kinds: str) -> Furnishing:
    """The first of the first of these kinds that there is."""
    there = [f for f in found if f.kind in kinds]
    if not there:
        words = " or ".join(kinds).replace("_", " ")
        raise Conflict("not-in-kitchen", f"This kitchen has no {words}. Nothing was changed.")
    return min(there, key=lambda f: (kinds.index(f.kind), f.position))


def power(row: Station) -> heat.Power:
    if row.power_kind == "gas":
        return "gas"
    return "induction" if row.power_kind == "induction" else "electric"


def lids(orm: Orm, who: Who, jar_kind: str, closure: str, colour: str) -> LidStock | None:
    """Lids for a kind of jar, where those of that closure and colour are counted by themselves."""
    wanted = (jar_kind, closure, colour)
    rows = queries.all_of(orm, who.household_id, LidStock)
    return next((r for r in rows if (r.jar_kind, r.closure, r.colour) == wanted), None)


def units(orm: Orm, who: Who) -> quantities.System:
    """The units that figures are said in."""
    return stored(orm, who).units  # type: ignore[return-value]


def zone(orm: Orm, who: Who) -> ZoneInfo:
    """The kitchen's time zone."""
    return zones.zone(stored(orm, who).time_zone)


def today(orm: Orm, who: Who, now: datetime) -> date:
    """The kitchen's day."""
    return now.astimezone(zone(orm, who)).date()
