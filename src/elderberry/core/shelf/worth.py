"""What a litre costs, by fruit, lids, heat and hours, against buying it."""

from __future__ import annotations

from dataclasses import dataclass

from elderberry.core.errors import check_range


@dataclass(frozen=True)
class Prices:
    """Prices in minor units of the kitchen's money: a lid, a kilowatt hour, an hour of hands, and a
    litre of the like as it is bought; nothing where it is not to be counted.
    """

    lid: float = 0.0
    kwh: float = 0.0
    hour: float = 0.0
    bought: float = 0.0


@dataclass(frozen=True)
class Worth:
    """What a litre cost by its parts, all together, and what it saved [minor units]."""

    fruit: float
    lids: float
    heat: float
    hours: float
    together: float
    saved: float | None


def worth(
    litres: float, fruit_minor: float, lids: float, kwh: float, hours: float, prices: Prices
) -> Worth:
    """What a litre cost, and what it saved against buying it.

    Args:
        litres: that were filled [L], above 0.
        fruit_minor: what fruit and sugar cost [minor units].
        lids: new lids that were used.
        kwh: heat [kWh].
        hours: of hands [h].
        prices: what those cost.

    Raises:
        OutOfRange: nothing was filled.

    >>> worth(10.0, 1200, 20, 5.0, 3.0, Prices(lid=25, kwh=30, bought=400)).together
    185.0
    """
    check_range("litres", litres, "l", 1e-3, 1e7)
    parts = (
        fruit_minor / litres,
        lids * prices.lid / litres,
        kwh * prices.kwh / litres,
        hours * prices.hour / litres,
    )
    together = sum(parts)
    return Worth(*parts, together, prices.bought - together if prices.bought else None)
