"""What a kitchen has and where it stands, as far as the core needs to know."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Literal

from elderberry.core import heat, water
from elderberry.core.containers import kind, vessel_key
from elderberry.core.drying.freeze_dry import Cycle
from elderberry.core.errors import check_range
from elderberry.core.pace import Pace
from elderberry.core.quantities import System

Heater = Literal["bath", "steam"]
StationKind = Literal[
    "juicer", "burner", "canner", "cool_rack", "worktop", "fridge", "freezer", "freeze_dryer",
    "dryer",
]  # fmt: skip
"""What a step occupies."""
ON_A_RING = frozenset({"juicer", "burner", "canner"})
"""Stations that heat something."""
NEAR_BOIL_C = 3.0
"""A thermometer within this of the local boiling point shows that the whole pot boils [°C]."""
UNDER_BOIL_C = 2.0
"""How far under the local boiling point what is filled may be at the most [°C]."""
UNKNOWN_HARDNESS_MG_L, UNKNOWN_HARDNESS_HIGH_MG_L = 150.0, 350.0
"""Alkalinity of water that nobody measured, and how high it may be [mg/L as CaCO₃]."""


@dataclass(frozen=True)
class Juicer:
    """A steam juicer: basket and pan [L], burner under it [kW]."""

    basket_l: float
    pan_l: float
    power_kw: float
    power_kind: heat.Power = "electric"

    @property
    def boil_off_kg_h(self) -> float:
        """Water it turns to steam at a steady boil [kg/h]."""
        return heat.evaporation_kg_h(self.power_kw, self.power_kind)


@dataclass(frozen=True)
class Canner:
    """A canner: jars a load, and whether it is a boiling-water bath or a steam canner."""

    jars: int
    heater: Heater = "bath"


@dataclass(frozen=True)
class FreezeDryer:
    """A freeze dryer: trays, how large [cm²] and deep [mm], what each takes [kg], what it ran."""

    trays: int = 4
    tray_cm2: float = 900.0
    tray_mm: float = 20.0
    tray_kg: float = 1.2
    cycles: tuple[Cycle, ...] = ()


@dataclass(frozen=True)
class Dryer:
    """A dryer with warm air: its trays and how large they are [cm²]."""

    trays: int = 5
    tray_cm2: float = 1000.0


GLASS_ML: Mapping[System, float] = {"metric": 250.0, "us": 236.6, "imperial": 284.1}
"""A usual glass, by the units of a kitchen [mL]: a quarter litre, a cup, half a pint."""
FREEZER_C = -18.0
"""How cold a freezer is where nobody says [°C]."""


USUAL_HUMIDITY_PCT = 55.0
"""Humidity of a kitchen where nobody measures it [%]."""


@dataclass(frozen=True)
class Vessel:
    """Vessels of a type (data/vessels.csv): litres to the brim, how many, how wide inside [cm].

    full: how many of them stand somewhere with something in them.
    """

    kind: str
    litres: float
    count: int = 1
    diameter_cm: float | None = None
    full: int = 0

    @property
    def container(self) -> str:
        """The kind of container that it is."""
        return vessel_key(self.kind, self.litres)


@dataclass(frozen=True)
class Kitchen:
    """A kitchen's physics: altitude [m] or barometer [Pa], stations, and jars in stock."""

    altitude_m: float | None
    juicer: Juicer
    canner: Canner
    burner_kw: float
    burner_kind: heat.Power = "electric"
    pressure_pa: float | None = None
    jar_stock: Mapping[str, int] = field(default_factory=dict)
    """Jars with a new lid, by kind."""
    jars_there: Mapping[str, int] = field(default_factory=dict)
    """Jars by kind, with a new lid or without."""
    lids: Mapping[tuple[str, str, str], int] = field(default_factory=dict)
    """Lids that are counted by themselves, by kind of jar, closure and colour."""
    store_c: float = 15.0
    """Where finished jars will stand [°C]."""
    chill_c: float = 4.0
    freeze_c: float = FREEZER_C
    units: System = "metric"
    """Those that figures are said in."""
    alkalinity_mg_l: float | None = None
    """Of the tap water, as CaCO₃ [mg/L]; None where nobody has measured it."""
    vessels: tuple[Vessel, ...] = ()
    """Pots, bowls and jugs; none listed means that nobody has told."""
    fridge_free_l: float | None = None
    """Room in the refrigerator for what drains, rests and is chilled [L]."""
    freezer_free_l: float | None = None
    """Room in the freezer for what is filled [L]; None: not told."""
    shelf_free_l: float | None = None
    """Room on the shelf where jars are put away, for what is in them [L]; None: not told."""
    lacks: frozenset[str] = frozenset()
    """Stations that there are none of: juicer, canner, freeze_dryer, dryer."""
    freeze_dryer: FreezeDryer = FreezeDryer()
    dryer: Dryer = Dryer()
    humidity_pct: float = USUAL_HUMIDITY_PCT
    """Of the air where powder is packed [%]."""
    paces: Mapping[str, Pace] = field(default_factory=dict)
    """How much longer steps take here than the tables say, by role."""

    @property
    def drunk_from_ml(self) -> tuple[float, ...]:
        """Its glass and its jugs [mL]."""
        return (self.glass_ml, *self.jugs_ml)

    @property
    def jugs_ml(self) -> tuple[float, ...]:
        """Its jugs [mL], each size once, the smallest first."""
        return tuple(sorted({1000.0 * v.litres for v in self.vessels if v.kind == "jug"}))

    def __post_init__(self) -> None:
        if self.altitude_m is not None:
            check_range("altitude", self.altitude_m, "m", -430, 9000)

    def pace(self, role: str) -> float:
        """How much longer a step of a role takes here than the tables say [-]."""
        return self.paces.get(role, Pace()).factor

    def _closed(self, jar: str, closure: str, lid: str) -> int:
        """Jars of a kind that there is a lid for; lids whose colour nobody counts are as usual."""
        there, usual = self.jars_there.get(jar, 0), self.jar_stock.get(jar, 0)
        if closure == "cap":
            return there
        counted = self.lids.get((jar, closure, lid))
        if counted is None:
            return usual if closure == "" else 0
        return min(there or usual, counted)

    def reachable_c(self, fill_c: float) -> float:
        """A fill temperature, or what this altitude lets a pot reach without boiling over [°C]."""
        return min(fill_c, self.boiling_point_c - UNDER_BOIL_C)

    @property
    def boiling_point_c(self) -> float:
        """Where water boils here [°C]; at sea level's 99.97 when the altitude is not known."""
        return _water_boils_c(self.altitude_m or 0.0, self.pressure_pa)

    @property
    def hardness_mg_l(self) -> float:
        """Alkalinity of the water to reckon with [mg/L as CaCO₃]."""
        known = self.alkalinity_mg_l
        return UNKNOWN_HARDNESS_MG_L if known is None else known

    def ready(self, keep: str, closure: str = "", lid: str = "") -> dict[str, int]:
        """What may be filled, by kind: jars with lids, and for the cold any vessel besides.

        Args:
            keep: how what is filled is kept.
            closure: what closes them; the usual new lids where it is empty. A plain cap needs none.
            lid: the colour of the lids; any where it is empty.

        >>> cold = Kitchen(0, Juicer(8, 4, 2), Canner(7), 2, vessels=(Vessel("jug", 2.0, 2),))
        >>> cold.ready("chill"), cold.ready("shelf")
        ({'jug-2000': 2}, {})
        """
        jars = {k: self._closed(k, closure, lid) for k in self.jars_there or self.jar_stock}
        if keep == "shelf":
            return jars
        for vessel in self.vessels:
            if keep in kind(vessel.container).keeps:
                key = vessel.container
                jars[key] = jars.get(key, 0) + max(0, vessel.count - vessel.full)
        return jars

    @property
    def glass_ml(self) -> float:
        """What is drunk from here [mL]: the household's first glass, or a usual one."""
        own = (1000.0 * v.litres for v in self.vessels if v.kind == "glass")
        return next(own, GLASS_ML[self.units])

    def room_l(self, vessel: str) -> float | None:
        """What all vessels of a kind hold together [L]; None where none is listed.

        >>> two = (Vessel("bowl", 4.0, 2), Vessel("pot", 9.0))
        >>> Kitchen(0, Juicer(8, 4, 2), Canner(7), 2, vessels=two).room_l("bowl")
        8.0
        """
        there = [v for v in self.vessels if v.kind == vessel]
        return sum(v.litres * v.count for v in there) if there else None

    def widest_pot_cm(self) -> float | None:
        """Inner diameter of the largest pot whose width is known [cm]."""
        pots = [v for v in self.vessels if v.kind == "pot" and v.diameter_cm]
        return max(pots, key=lambda v: v.litres).diameter_cm if pots else None


@lru_cache(maxsize=64)
def _water_boils_c(altitude_m: float, pressure_pa: float | None) -> float:
    """Where water boils; a plan asks for it at every pot."""
    return float(water.boiling_point_c(None, altitude_m, pressure_pa))
