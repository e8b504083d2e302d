"""A household's kitchen, as it is stored and as the core needs it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeVar
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session as Orm

from elderberry.core import heat, jars, materials, tables, water
from elderberry.core import kitchen as core
from elderberry.services.errors import Conflict, NotFound
from elderberry.services.who import Who
from elderberry.store import JarStock, Kitchen, Place, Station, queries


@dataclass(frozen=True)
class FruitView:
    """A fruit that Plan offers, with what it does when steam-juiced."""

    key: str
    name: str
    colour: str
    steamed: bool
    note: str


@dataclass(frozen=True)
class JarKindView:
    """A kind of jar, and how many stand ready."""

    key: str
    name: str
    nominal_ml: float
    system: str
    closure: str
    jars: int
    lids: int
    radius_mm: float
    height_mm: float


@dataclass(frozen=True)
class PlaceView:
    """A place where jars live."""

    id: int
    name: str
    kind: str
    temp_c: float
    light: bool


@dataclass(frozen=True)
class KitchenView:
    """What the frame and Plan show of a kitchen."""

    name: str
    altitude_m: float | None
    boiling_point_c: float
    time_zone: str
    basket_l: float
    canner_jars: int
    fruits: list[FruitView]
    jar_kinds: list[JarKindView]
    places: list[PlaceView]


def stored(orm: Orm, who: Who) -> Kitchen:
    """The household's kitchen."""
    found = queries.all_of(orm, who.household_id, Kitchen)
    if not found:
        raise NotFound("kitchen")
    return found[0]


def station(orm: Orm, who: Who, kind: str) -> Station:
    """The household's first station of a kind."""
    return _first(queries.all_of(orm, who.household_id, Station), kind)


def place(orm: Orm, who: Who, *kinds: str) -> Place:
    """The household's first place of the first of these kinds that it has."""
    return _first(queries.all_of(orm, who.household_id, Place), *kinds)


def for_core(orm: Orm, who: Who) -> core.Kitchen:
    """The kitchen as the core computes with it; a jar counts when it has a new lid."""
    stations = queries.all_of(orm, who.household_id, Station)
    places = queries.all_of(orm, who.household_id, Place)
    juicer, canner, burner = (_first(stations, kind) for kind in ("juicer", "canner", "burner"))
    stock = queries.all_of(orm, who.household_id, JarStock)
    return core.Kitchen(
        altitude_m=stored(orm, who).altitude_m,
        juicer=core.Juicer(
            juicer.basket_l or 8.0, juicer.pan_l or 4.0, juicer.power_kw or 1.8, _power(juicer)
        ),
        canner=core.Canner(canner.jars or 7, "steam" if canner.heater == "steam" else "bath"),
        burner_kw=burner.power_kw or 2.0,
        burner_kind=_power(burner),
        jar_stock={s.jar_kind: min(s.jars, s.lids) for s in stock},
        store_c=_first(places, "cellar", "shelf").temp_c,
        chill_c=_first(places, "refrigerator").temp_c,
        freeze_c=_first(places, "freezer").temp_c,
    )


Furnishing = TypeVar("Furnishing", Station, Place)


def _first(found: Sequence[Furnishing], *kinds: str) -> Furnishing:
    """The first of the first of these kinds that there is."""
    there = [f for f in found if f.kind in kinds]
    if not there:
        words = " or ".join(kinds).replace("_", " ")
        raise Conflict("not-in-kitchen", f"This kitchen has no {words}. Nothing was changed.")
    return min(there, key=lambda f: (kinds.index(f.kind), f.position))


def _power(row: Station) -> heat.Power:
    if row.power_kind == "gas":
        return "gas"
    return "induction" if row.power_kind == "induction" else "electric"


def view(orm: Orm, who: Who) -> KitchenView:
    """The kitchen as the frame and Plan show it."""
    here, row = for_core(orm, who), stored(orm, who)
    stock = {s.jar_kind: s for s in queries.all_of(orm, who.household_id, JarStock)}
    return KitchenView(
        name=row.name,
        altitude_m=row.altitude_m,
        boiling_point_c=float(water.boiling_point_c(None, row.altitude_m or 0.0)),
        time_zone=row.time_zone,
        basket_l=here.juicer.basket_l,
        canner_jars=here.canner.jars,
        fruits=[
            FruitView(f.key, f.name, f.colour, f.steam_l_per_kg is not None, f.note)
            for f in sorted(materials.fruits().values(), key=lambda f: f.name)
        ],
        jar_kinds=[
            JarKindView(
                k.key, k.name, k.nominal_ml, k.system, k.closure,
                stock[k.key].jars if k.key in stock else 0,
                stock[k.key].lids if k.key in stock else 0,
                k.inner_radius_mm, k.inner_height_mm,
            )
            for k in jars.kinds().values()
        ],
        places=[
            PlaceView(p.id, p.name, p.kind, p.temp_c, p.light)
            for p in sorted(
                queries.all_of(orm, who.household_id, Place), key=lambda p: p.position
            )
        ],
    )  # fmt: skip


def zone(orm: Orm, who: Who) -> ZoneInfo:
    """The kitchen's time zone."""
    return ZoneInfo(stored(orm, who).time_zone)


def station_kind(operation_kind: str) -> str:
    """The kind of station an operation occupies."""
    return str(tables.document("operations")[operation_kind]["station"])
