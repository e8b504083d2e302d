"""Sentences with figures in them, said in the units of a kitchen.

A template names a figure with the unit it is in, "{fruit_kg:kg} of {fruit}", and a sentence that is
made already may hold one as «925 g»; both are said as a cook in that kitchen would.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from typing import Any, Literal

from elderberry.core.quantities import Dimension, Quantity, System, show

Unit = Literal["kg", "g", "l", "ml", "C", "mm", "cm"]
_BASE: Mapping[str, tuple[Dimension, float]] = {
    "kg": ("mass", 1000.0),
    "g": ("mass", 1.0),
    "l": ("volume", 1000.0),
    "ml": ("volume", 1.0),
    "C": ("temperature", 1.0),
    "mm": ("length", 1.0),
    "cm": ("length", 10.0),
}
_UNITS = "|".join(sorted(_BASE, key=len, reverse=True))
_NAMED = re.compile(rf"\{{(\w+)(?::({_UNITS}))?\}}")
_LITERAL = re.compile(rf"«(-?[\d.]+) ({_UNITS})»")


def worded(template: str, params: Mapping[str, Any], system: System = "metric") -> str:
    """A sentence with its figures, in the units of a kitchen.

    Args:
        template: with {name} or {name:unit} for each figure.
        params: the figures by name; a figure with a unit is a number, or the text of one.
        system: the kitchen's units.

    Raises:
        KeyError: a figure that is not among the params.

    >>> worded("{fruit_kg:kg} of {fruit}", {"fruit_kg": "9.6", "fruit": "damson"})
    '9.6 kg of damson'
    >>> worded("Heat to {c:C}", {"c": 88}, "us")
    'Heat to 190 °F'
    """

    def named(match: re.Match[str]) -> str:
        value, unit = params[match[1]], match[2]
        return str(value) if unit is None else _said(value, unit, system)

    said = _NAMED.sub(named, template)
    return in_units(_NAMED.sub(named, said), system)


def in_units(text: str, system: System = "metric") -> str:
    """A sentence that holds figures as «925 g», in the units of a kitchen.

    >>> in_units("«925 g» of honey"), in_units("«60 g» of salt", "us")
    ('925 g of honey', '2 oz of salt')
    """
    return _LITERAL.sub(lambda m: _said(m[1], m[2], system), text)


def retold(text: str, system: System) -> str:
    """A sentence that was made in metric units, said again in those of a kitchen.

    Ratios stay as they are, since the rule that they come from has them so: "20 g a litre".

    >>> retold("Leave 4 cm, and heat it to 71 °C.", "us")
    'Leave 1 1/2 in, and heat it to 160 °F.'
    >>> retold("More than 20 g a litre has not been tested.", "us")
    'More than 20 g a litre has not been tested.'
    """
    if system == "metric":
        return text
    parts = re.split(r"(?<=[.]) ", text)
    return " ".join(p if _RATIO.search(p) else _METRIC.sub(_again(system), p) for p in parts)


_RATIO = re.compile(r"\b(?:a|the|of) litre\b|\bin 100 g\b|g/l")
_METRIC = re.compile(r"(?<![\d.])(?:(\d+) (to|and) )?(\d+(?:\.\d+)?) (ml|mm|cm|kg|g|l|°C)(?![\w/])")


def _again(system: System) -> Callable[[re.Match[str]], str]:
    """What a metric figure, or two with one unit, is in other units."""

    def said(match: re.Match[str]) -> str:
        unit = "C" if match[4] == "°C" else match[4]
        last = _said(match[3], unit, system)
        return f"{_said(match[1], unit, system)} {match[2]} {last}" if match[1] else last

    return said


def listed(names: Sequence[str]) -> str:
    """Names as one says them in a row.

    >>> listed(["damson"]), listed(["damson", "pear"]), listed(["damson", "pear", "quince"])
    ('damson', 'damson and pear', 'damson, pear and quince')
    """
    return f"{', '.join(names[:-1])} and {names[-1]}" if names[1:] else "".join(names)


def figure(value: float, unit: Unit) -> str:
    """A figure as a sentence holds it until it is said.

    >>> figure(925.04, "g")
    '«925.04 g»'
    """
    return f"«{value:.2f} {unit}»"


def _said(value: object, unit: str, system: System) -> str:
    try:
        number = float(str(value))
    except ValueError:
        return f"{value} {unit}"
    dimension, base = _BASE[unit]
    amount = number * base
    if system == "metric" and dimension in {"mass", "volume"} and amount >= 995.0:
        large = "kg" if dimension == "mass" else "l"
        return f"{amount / 1000.0:.1f} {large}".replace(".0 ", " ")
    return show(Quantity(max(amount, 0.0) if dimension != "temperature" else amount, dimension),
                system)  # fmt: skip
