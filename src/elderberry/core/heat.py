"""Heat: how long a pot takes, and what a burner can drive off."""

from __future__ import annotations

from typing import Literal

from elderberry.core.errors import check_range

Power = Literal["gas", "electric", "induction"]
EFFICIENCY: dict[str, float] = {"gas": 0.55, "electric": 0.75, "induction": 0.75}
"""Share of a burner's power that reaches the pot (estimates, science of cooktops, ± 0.1)."""
LATENT_KJ_KG = 2257.0
JUICE_KJ_KG_K = 3.7
"""Specific heat of fruit and juice at 10 to 20 Brix (Siebel 1892, rounded)."""


def minutes_to_heat(
    mass_kg: float, from_c: float, to_c: float, power_kw: float, kind: Power = "electric"
) -> float:
    """Minutes to bring fruit or juice from one temperature to another, without boiling.

    m c ΔT / (60 · kW · η); zero when it is already hotter.

    Args:
        mass_kg: what is heated [kg], 0 to 500.
        from_c: its temperature [°C], -5 to 150.
        to_c: wanted temperature [°C], -5 to 150.
        power_kw: burner [kW], 0.2 to 20.
        kind: how the burner heats.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: energy balance; EFFICIENCY.

    >>> round(minutes_to_heat(5, 40, 88, 2.0))
    10
    """
    check_range("mass", mass_kg, "kg", 0, 500)
    check_range("temperature", from_c, "°C", -5, 150)
    check_range("temperature", to_c, "°C", -5, 150)
    check_range("power", power_kw, "kW", 0.2, 20)
    needed_kj = mass_kg * JUICE_KJ_KG_K * max(to_c - from_c, 0.0)
    return needed_kj / (60.0 * power_kw * EFFICIENCY[kind])


def evaporation_kg_h(power_kw: float, kind: Power = "electric") -> float:
    """Water [kg/h] that a steady boil drives off: 3600 · kW · η / 2257.

    Args:
        power_kw: burner [kW], 0.2 to 20, as it is set while boiling.
        kind: how the burner heats.

    Raises:
        OutOfRange: a figure outside its limits.

    Source: latent heat of water at 100 °C; EFFICIENCY.

    >>> round(evaporation_kg_h(2.0), 2)
    2.39
    """
    check_range("power", power_kw, "kW", 0.2, 20)
    return 3600.0 * power_kw * EFFICIENCY[kind] / LATENT_KJ_KG
