"""Readings: which quantities are read at a step, what is possible, and how they compare."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from functools import cache

from elderberry.core import tables
from elderberry.core.errors import Unknown, check_range
from elderberry.core.estimates import Estimate, Evidence, agreement

INSTRUMENTS: dict[str, tuple[str, Evidence]] = {
    "jug": ("volume_ml", Evidence.MEASURED),
    "scale": ("mass_g", Evidence.MEASURED),
    "thermometer": ("temp_c", Evidence.MEASURED),
    "refractometer": ("brix", Evidence.MEASURED),
    "hydrometer": ("brix", Evidence.MEASURED),
    "ph_meter": ("ph", Evidence.MEASURED),
    "ph_strip": ("ph", Evidence.READ),
    "ruler": ("depth_cm", Evidence.READ),
    "boiling": ("temp_c", Evidence.READ),
    "plate": ("drop", Evidence.READ),
    "tray_scale": ("tray_g", Evidence.MEASURED),
}
"""What each instrument reads, and how well. Strips inform; they never clear a stop.
"boiling" is a full boil seen in the pot: where it boils is known; "plate" a drop on a cold one,
by the number of what it did among texture.POURS; "tray_scale" the scale, with what lies on one
tray of a dryer."""


NEEDS_NONE = frozenset({"boiling", "plate", "tray_scale"})
"""Ways of reading that nobody has to own: the boil is seen, any plate is cold, and a tray stands on
the scale."""


def usable(quantity: str, owned: Collection[str]) -> list[str]:
    """Ways of reading a quantity with what a kitchen owns.

    >>> usable("tray_g", ["scale"]), usable("tray_g", ["jug"])
    (['tray_scale'], [])
    """
    there = {*owned, "boiling", *(["tray_scale"] if "scale" in owned else [])}
    return [i for i, (reads, _) in INSTRUMENTS.items() if reads == quantity and i in there]


@dataclass(frozen=True)
class Quantity:
    """A quantity that is read: limits of the possible and error in its unit.

    low, high: what it means below or above what was expected; after: the same by the sort of step
    that gave what is read (Kind.sort), where it means more there.
    """

    key: str
    name: str
    unit: str
    lo: float
    hi: float
    low: str
    high: str
    error: float = 0.0
    error_share: float = 0.0
    after: Mapping[str, Mapping[str, str]] = field(default_factory=dict)

    def half_width(self, value: float) -> float:
        """Half-width of the instrument's 80 % range at a value [its unit]."""
        return self.error + self.error_share * value

    def comparison(self, predicted: Estimate, value: float, after: str = "") -> tuple[str, str]:
        """How a value compares with its prediction, as a word and as a sentence.

        >>> quantity("brix").comparison(Estimate(12, 13, 14), 13.2)
        ('agrees', 'agrees')
        >>> quantity("brix").comparison(Estimate(12, 13, 14), 9, "reduce")[1]
        'thinner than planned: a little longer at the boil'
        """
        word = agreement(predicted, value, self.half_width(value))
        means = {"low": self.low, "high": self.high, **self.after.get(after, {})}
        return word, means.get(word, "agrees")


@cache
def quantities() -> dict[str, Quantity]:
    """Every quantity that can be read, by key."""
    return {key: Quantity(key=key, **row) for key, row in tables.document("readings").items()}


def quantity(key: str) -> Quantity:
    """The quantity with this key.

    Raises:
        Unknown: nothing that is read.
    """
    try:
        return quantities()[key]
    except KeyError:
        raise Unknown("quantity", key) from None


def check_reading(quantity_key: str, value: float, instrument: str) -> Evidence:
    """How well a reading is known, once it is possible at all.

    Raises:
        Unknown: no such quantity, or the instrument does not read it.
        OutOfRange: a value that cannot be, such as a pH of 31.

    >>> check_reading("ph", 3.4, "ph_strip")
    <Evidence.READ: 'read'>
    """
    what = quantity(quantity_key)
    reads, evidence = INSTRUMENTS.get(instrument, ("", Evidence.READ))
    if reads != quantity_key:
        raise Unknown(f"instrument for {what.name}", instrument)
    check_range(what.name, value, what.unit, what.lo, what.hi)
    return evidence
