"""A household's kitchen as its screens show it."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session as Orm

from elderberry.core import closures, colour, heat, jars, materials, process, waiting, water
from elderberry.core import kitchen as core
from elderberry.core.batch import readings
from elderberry.core.estimates import Estimate
from elderberry.services.household.kitchens import altitude_of, for_core, power, stations, stored
from elderberry.services.who import Who
from elderberry.store import JarStock, LidStock, Person, Place, Station, Vessel, queries


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


def _station_view(row: Station) -> StationRow:
    rate = heat.evaporation_kg_h(row.power_kw, power(row)) if row.power_kw else None
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
