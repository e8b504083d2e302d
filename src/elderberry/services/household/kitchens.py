"""A household's kitchen, as it is stored and as the core needs it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import TypeVar
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session as Orm

from elderberry.core import (
    closures,
    colour,
    heat,
    jars,
    materials,
    process,
    quantities,
    waiting,
    water,
)
from elderberry.core import kitchen as core
from elderberry.core.batch import readings
from elderberry.core.estimates import Estimate
from elderberry.services.errors import Conflict, NotFound
from elderberry.services.household import zones
from elderberry.services.who import Who
from elderberry.store import (
    JarStock,
    Kitchen,
    LidStock,
    OwnIngredient,
    Person,
    Place,
    Station,
    Vessel,
    furniture,
    queries,
)


@dataclass(frozen=True)
class FruitView:
    """A fruit that Plan offers: the forms it comes in, and how long it waits in a cool room."""

    key: str
    name: str
    colour: str
    forms: list[str]
    counted: bool
    waits_days: Estimate
    note: str


@dataclass(frozen=True)
class LidsView:
    """Lids for a kind of jar that are counted by themselves: what they are, and their colour."""

    closure: str
    name: str
    colour: str
    count: int
    packet: str


@dataclass(frozen=True)
class JarKindView:
    """A kind of jar or a vessel that something is kept in, and how many stand ready."""

    key: str
    name: str
    nominal_ml: float
    system: str
    closure: str
    jars: int
    lids: int
    radius_mm: float
    height_mm: float
    keeps: list[str]
    other_lids: list[LidsView]
    own: bool
    """Whether it is a vessel of the household, which never seals."""
    packet: str = ""
    """What is printed on the packet of lids in use."""


@dataclass(frozen=True)
class PlaceView:
    """A place where jars live; room_l is what is free in it for what drains and rests."""

    id: int
    name: str
    kind: str
    temp_c: float
    light: bool
    room_l: float | None
    swing_c: float
    warmest_day: int


@dataclass(frozen=True)
class StationRow:
    """A station with its sizes."""

    id: int
    kind: str
    name: str
    basket_l: float | None
    pan_l: float | None
    power_kw: float | None
    power_kind: str | None
    jars: int | None
    heater: str | None
    trays: int | None
    tray_cm2: float | None
    tray_mm: float | None
    tray_kg: float | None
    boil_off_l_h: float | None
    """Water that a steady boil on it drives off [L/h]."""


@dataclass(frozen=True)
class VesselView:
    """Pots, bowls or jugs of a size."""

    id: int
    kind: str
    name: str
    litres: float
    count: int
    diameter_cm: float | None
    marks: list[float] | None
    """What it holds at its own marks, from the lowest [mL]."""


@dataclass(frozen=True)
class PersonView:
    """Someone of the household, with the hours they cook."""

    id: int
    name: str
    role: str
    hours: dict[str, str] | None
    you: bool
    """Whether it is who asks."""


@dataclass(frozen=True)
class Effect:
    """What a place does to the work: where water boils, and the tested minutes."""

    altitude_m: float | None
    pressure_hpa: float
    boiling_point_c: float
    sterilise_min: int | None
    minutes: list[EffectLine]


@dataclass(frozen=True)
class EffectLine:
    """Tested minutes of a product in a jar of a size, None where there is no time."""

    product: str
    jar_ml: float
    minutes: int | None


@dataclass(frozen=True)
class KitchenView:
    """A kitchen: its place and physics, what is in it, and who cooks."""

    name: str
    altitude_m: float | None
    pressure_hpa: float | None
    hardness_mg_l: float | None
    humidity_pct: float | None
    units: str
    cup: str
    instruments: list[str]
    all_instruments: list[str]
    containers: dict[str, float]
    boiling_point_c: float
    time_zone: str
    basket_l: float
    canner_jars: int
    lacks: list[str]
    fruits: list[FruitView]
    jar_kinds: list[JarKindView]
    places: list[PlaceView]
    stations: list[StationRow]
    vessels: list[VesselView]
    people: list[PersonView]
    effect: Effect
    lids: dict[str, str]
    """Colours of lids by name."""
    glass_ml: float
    """What is drunk from here [mL]."""


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
            juicer.basket_l or 8.0, juicer.pan_l or 4.0, juicer.power_kw or 1.8, _power(juicer)
        ),
        canner=core.Canner(canner.jars or 7, "steam" if canner.heater == "steam" else "bath"),
        burner_kw=burner.power_kw or 2.0,
        burner_kind=_power(burner),
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


def effect(
    altitude_m: float | None, pressure_pa: float | None, heater: core.Heater = "bath"
) -> Effect:
    """What an altitude or a barometer reading does to boiling points and tested times."""
    known = altitude_of(altitude_m, pressure_pa)
    pressure = pressure_pa or float(water.air_pressure_pa(altitude_m or 0.0))
    feet = None if known is None else process.altitude_ft(known)
    timed = [r for r in process.process_rows() if r.evidence != "none"]
    return Effect(
        altitude_m=known,
        pressure_hpa=pressure / 100.0,
        boiling_point_c=float(water.boiling_point_c(None, altitude_m or 0.0, pressure_pa)),
        sterilise_min=None if feet is None else process.sterilising_minutes(feet),
        minutes=[
            EffectLine(
                _named(row), row.largest_jar_ml,
                time.minutes if known is not None
                and (time := process.time_of_row(row, known, heater)) else None,
            )
            for row in timed
        ],
    )  # fmt: skip


def _named(row: process.ProcessRow) -> str:
    """A row's product in words; two packs of one jar are told apart."""
    product = row.product.replace("_", " ")
    return f"{product}, {row.pack}" if product.startswith("whole") else product


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


def _power(row: Station) -> heat.Power:
    if row.power_kind == "gas":
        return "gas"
    return "induction" if row.power_kind == "induction" else "electric"


def view(orm: Orm, who: Who) -> KitchenView:
    """The kitchen as the frame, Plan and the Kitchen screen show it."""
    here, row = for_core(orm, who), stored(orm, who)
    hh = who.household_id
    return KitchenView(
        name=row.name,
        altitude_m=row.altitude_m,
        pressure_hpa=None if row.pressure_pa is None else row.pressure_pa / 100.0,
        hardness_mg_l=row.hardness_mg_l,
        humidity_pct=row.humidity_pct,
        units=row.units,
        cup=row.cup,
        instruments=list(row.instruments),
        all_instruments=[i for i in readings.INSTRUMENTS if i not in readings.NEEDS_NONE],
        containers=dict(row.containers),
        boiling_point_c=here.boiling_point_c,
        time_zone=row.time_zone,
        basket_l=here.juicer.basket_l,
        canner_jars=here.canner.jars,
        lacks=sorted(here.lacks),
        fruits=_fruits(),
        jar_kinds=[*_jar_kinds(orm, who), *_own_kinds(here)],
        places=[
            PlaceView(p.id, p.name, p.kind, p.temp_c, p.light, p.room_l, p.swing_c, p.warmest_day)
            for p in sorted(queries.all_of(orm, hh, Place), key=lambda p: p.position)
        ],
        stations=[_station_view(s) for s in sorted(stations(orm, who), key=lambda s: s.position)],
        vessels=[
            VesselView(v.id, v.kind, v.name, v.litres, v.count, v.diameter_cm, v.marks)
            for v in queries.all_of(orm, hh, Vessel)
        ],
        people=[
            PersonView(p.id, p.name, p.role, p.hours, p.id == who.person_id)
            for p in queries.all_of(orm, hh, Person)
        ],
        effect=effect(row.altitude_m, row.pressure_pa, here.canner.heater),
        lids=dict(colour.LIDS),
        glass_ml=here.glass_ml,
    )


def lids(orm: Orm, who: Who, jar_kind: str, closure: str, colour: str) -> LidStock | None:
    """Lids for a kind of jar, where those of that closure and colour are counted by themselves."""
    wanted = (jar_kind, closure, colour)
    rows = queries.all_of(orm, who.household_id, LidStock)
    return next((r for r in rows if (r.jar_kind, r.closure, r.colour) == wanted), None)


def _station_view(row: Station) -> StationRow:
    rate = heat.evaporation_kg_h(row.power_kw, _power(row)) if row.power_kw else None
    return StationRow(
        row.id, row.kind, row.name, row.basket_l, row.pan_l, row.power_kw, row.power_kind,
        row.jars, row.heater, row.trays, row.tray_cm2, row.tray_mm, row.tray_kg, rate,
    )  # fmt: skip


def _fruits() -> list[FruitView]:
    return [
        FruitView(
            f.key, f.name, f.colour,
            ["dried"] if f.comes_dried else ["whole", "frozen", "juice", "pomace"],
            f.piece_g is not None, waiting.waits_days(f.key), f.note,
        )
        for f in sorted(materials.fruits().values(), key=lambda f: f.name)
    ]  # fmt: skip


def _jar_kinds(orm: Orm, who: Who) -> list[JarKindView]:
    stock = {s.jar_kind: s for s in queries.all_of(orm, who.household_id, JarStock)}
    lids: dict[str, list[LidsView]] = {}
    for s in queries.all_of(orm, who.household_id, LidStock):
        name = closures.named(s.closure)
        lids.setdefault(s.jar_kind, []).append(
            LidsView(s.closure, name, s.colour, s.lids, s.packet)
        )
    return [
        JarKindView(
            k.key, k.name, k.nominal_ml, k.system, k.closure,
            stock[k.key].jars if k.key in stock else 0,
            stock[k.key].lids if k.key in stock else 0,
            k.inner_radius_mm, k.inner_height_mm, list(k.keeps), lids.get(k.key, []), own=False,
            packet=stock[k.key].packet if k.key in stock else "",
        )
        for k in jars.kinds().values()
    ]  # fmt: skip


def _own_kinds(here: core.Kitchen) -> list[JarKindView]:
    """Vessels of the household that something may be kept in, and how many are empty."""
    ready = {**here.ready("chill"), **here.ready("freeze"), **here.ready("dry")}
    own = (k for key in ready if (k := jars.kind(key)).own)
    return [
        JarKindView(
            k.key, k.named(here.units), k.nominal_ml, k.system, k.closure, ready[k.key],
            ready[k.key], k.inner_radius_mm, k.inner_height_mm, list(k.keeps), [], own=True,
        )
        for k in own
    ]  # fmt: skip


def units(orm: Orm, who: Who) -> quantities.System:
    """The units that figures are said in."""
    return stored(orm, who).units  # type: ignore[return-value]


def zone(orm: Orm, who: Who) -> ZoneInfo:
    """The kitchen's time zone."""
    return zones.zone(stored(orm, who).time_zone)


def today(orm: Orm, who: Who, now: datetime) -> date:
    """The kitchen's day."""
    return now.astimezone(zone(orm, who)).date()
