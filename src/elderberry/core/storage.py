"""How long it keeps: a quality clock that runs with temperature. Safety has its own rules."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cache
from typing import Any

from elderberry.core import tables
from elderberry.core.errors import OutOfRange, Unknown, check_range
from elderberry.core.numbers import Values

LIMITS_C: dict[str, tuple[float, float]] = {
    "chilled": (0, 10),
    "opened": (0, 10),
    "frozen": (-40, -12),
}
"""Temperatures within which a row's clock holds; never carried across freezing."""
DRY_LIMITS_C = (0.1, 45.0)
SPIRIT_LENGTHENS = frozenset({"fruit_syrup_50brix", "simple_syrup_50brix"})
"""Chilled rows whose life spirit lengthens."""


@dataclass(frozen=True)
class LifeRow:
    """Best-quality life [days] of a product in a state at ref_c [°C], and its q10 [-]."""

    state: str
    product: str
    ref_c: float
    days_lo: float
    days_typ: float
    days_hi: float
    q10: float
    note: str

    @property
    def limits_c(self) -> tuple[float, float]:
        """Temperatures [°C] within which the clock holds."""
        return LIMITS_C.get(self.state.split("_")[0], DRY_LIMITS_C)


LIGHT_FACTOR, HEADSPACE_FACTOR = 0.8, 0.8
INFUSED_READY_DAYS = 30
"""Whole fruit infused in its jar is not ready before this."""


@dataclass(frozen=True)
class Stay:
    """Days at one temperature [°C]."""

    days: float
    temp_c: float


@dataclass(frozen=True)
class BestBy:
    """The day quality is typically used up, with the days a tenth earlier and later ones see."""

    lo: date
    typ: date
    hi: date


@cache
def life_rows() -> dict[tuple[str, str], LifeRow]:
    """Every row of data/storage_life.csv by state and product."""
    return {(r["state"], r["product"]): _row(r) for r in tables.rows("storage_life")}


def life_row(state: str, product: str) -> LifeRow:
    """The life of a product in a state.

    Raises:
        Unknown: not listed.

    >>> life_row("canned_sealed", "juice").days_typ
    365.0
    """
    try:
        return life_rows()[state, product]
    except KeyError:
        raise Unknown("storage life", f"{state}, {product}") from None


def dry_row(product: str) -> LifeRow:
    """The life of what is packed dry: freeze-dried for its powder, air-dried for all others.

    Raises:
        Unknown: not listed.

    >>> dry_row("leather").state, dry_row("powder_or_slices").state
    ('air_dried_sealed', 'freeze_dried_sealed')
    """
    cold = ("freeze_dried_sealed", product) in life_rows()
    return life_row("freeze_dried_sealed" if cold else "air_dried_sealed", product)


def spirited(row: LifeRow, share: float) -> LifeRow:
    """The life of a chilled syrup of about half sugar with some of the spirit of its own row.

    Args:
        row: its row without spirit; any row that spirit does not lengthen comes back as it is.
        share: the alcohol in it, of what the row with spirit stands for [-]; 0 to 1.

    Raises:
        OutOfRange: a share below 0 or over 1.

    Source: data/storage_life.csv; in proportion below the strength of its row, our own reckoning.

    >>> spirited(life_row("chilled_unopened", "fruit_syrup_50brix"), 0.5).days_typ
    42.0
    """
    check_range("share of the spirit", share, "", 0, 1)
    if row.product not in SPIRIT_LENGTHENS:
        return row
    full = life_row("chilled_unopened", "fruit_syrup_50brix_with_spirit")

    def days(there: float, most: float) -> float:
        return there + share * (most - there)

    return replace(
        row,
        days_lo=days(row.days_lo, full.days_lo),
        days_typ=days(row.days_typ, full.days_typ),
        days_hi=days(row.days_hi, full.days_hi),
    )


def rate(temp_c: float, row: LifeRow) -> float:
    """How many times faster than at the row's reference quality goes at temp_c [-].

    q10^((T − T_ref)/10).

    Raises:
        OutOfRange: across freezing or too warm for the row.

    Source: q10 rule, Labuza (1982).

    >>> rate(25, life_row("canned_sealed", "juice"))
    2.0
    """
    check_range(f"{row.state} storage", temp_c, "°C", *row.limits_c)
    return float(pace(temp_c, row))


def pace(temp_c: Values, row: LifeRow) -> Any:
    """The same without asking whether the clock holds there [-].

    >>> pace(15, life_row("canned_sealed", "juice"))
    1.0
    """
    return row.q10 ** ((temp_c - row.ref_c) / 10.0)


def life_used(history: Iterable[Stay], row: LifeRow) -> float:
    """Share of the typical life [-] that a history of stays has used: ∫ rate dt / days_typ.

    Raises:
        OutOfRange: negative days, or a temperature outside the row's limits.

    Source: q10 rule.

    >>> round(life_used([Stay(100, 15), Stay(50, 25)], life_row("canned_sealed", "juice")), 3)
    0.548
    """
    used = 0.0
    for stay in history:
        check_range("stay", stay.days, "days", 0, 36_500)
        used += stay.days * rate(stay.temp_c, row)
    return used / row.days_typ


def best_by(
    since: date,
    row: LifeRow,
    temp_c: float | None = None,
    history: Iterable[Stay] = (),
    factor: float = 1.0,
) -> BestBy:
    """The days by which quality is used up: typical, and the band from the row's lo and hi.

    Args:
        since: the day the jar came to where it is now.
        row: its life row.
        temp_c: where it stands from then on [°C]; the row's reference when not given.
        history: stays before `since`.
        factor: product of modifiers on life [-], from life_factor.

    Raises:
        OutOfRange: a temperature outside the row's limits, or a factor outside 0.1 to 2.

    Source: q10 rule; data/storage_life.csv.

    >>> best_by(date(2026, 10, 1), life_row("canned_sealed", "juice")).typ
    datetime.date(2027, 10, 1)
    """
    check_range("life factor", factor, "", 0.1, 2.0)
    speed = rate(row.ref_c if temp_c is None else temp_c, row)
    spent = life_used(history, row) * row.days_typ

    def day(life: float) -> date:
        return since + timedelta(days=max(0.0, life * factor - spent) / speed)

    return BestBy(day(row.days_lo), day(row.days_typ), day(row.days_hi))


def life_factor(light: bool = False, excess_headspace: bool = False) -> float:
    """How much of its life [-] a canned jar keeps: × 0.8 in the light, × 0.8 with excess headspace.

    Source: NCHFP on colour loss; rounded estimates of our own.

    >>> life_factor(), life_factor(light=True), round(life_factor(True, True), 2)
    (1.0, 0.8, 0.64)
    """
    return (LIGHT_FACTOR if light else 1.0) * (HEADSPACE_FACTOR if excess_headspace else 1.0)


def canned_row(product: str, sugared: bool = True, sealed: bool = True) -> LifeRow:
    """The row of a processed jar: by its product, its sugar, and whether its seal held.

    Args:
        product: juice, syrup, puree, infused or jelly.
        sugared: whether it holds the sugar of its recipe; a little is none.
        sealed: whether its seal held; if not, it is chilled and takes the failed-seal row.

    Raises:
        Unknown: no such product.

    Source: data/storage_life.csv.

    >>> canned_row("syrup", sugared=False).product
    'syrup_or_concentrate_unsugared'
    >>> canned_row("juice", sealed=False).product
    'failed_seal_juice'
    """
    if not sealed:
        failed = "failed_seal_juice" if product == "juice" else "failed_seal_sugared"
        return life_row("chilled_unopened", failed)
    sugar = "sugared" if sugared else "unsugared"
    names = {
        "juice": "juice",
        "syrup": f"syrup_or_concentrate_{sugar}",
        "puree": "puree_or_whole_fruit",
        "infused": "infused_whole_fruit",
        "jelly": "jelly",
    }
    if product not in names:
        raise Unknown("canned product", product)
    return life_row("canned_sealed", names[product])


def opened(used: float, row: LifeRow, on: date, temp_c: float = 4.0) -> BestBy:
    """Best-by of a jar opened on a day: the opened clock, at the share of life it had left.

    Args:
        used: share of its unopened life that was used up [-], 0 or more; over 1 leaves none.
        row: the opened row, such as opened_chilled juice.
        on: the day it was opened.
        temp_c: refrigerator [°C], within the row's limits.

    Raises:
        OutOfRange: a negative share, or a temperature outside the row's limits.

    Source: data/storage_life.csv; the remaining share is our own reckoning.

    >>> opened(0.5, life_row("opened_chilled", "juice"), date(2026, 11, 1)).typ
    datetime.date(2026, 11, 4)
    """
    check_range("life used", used, "", 0, 1e6)
    left = max(0.0, 1.0 - used)
    speed = rate(temp_c, row)

    def day(life: float) -> date:
        return on + timedelta(days=life * left / speed)

    return BestBy(day(row.days_lo), day(row.days_typ), day(row.days_hi))


def ready_from(filled: date) -> date:
    """The day from which fruit infused in its jar may be opened: 30 days after filling.

    >>> ready_from(date(2026, 11, 1))
    datetime.date(2026, 12, 1)
    """
    return filled + timedelta(days=INFUSED_READY_DAYS)


def holds_at(row: LifeRow, temp_c: float) -> bool:
    """Whether the row's clock holds at this temperature [°C].

    >>> holds_at(life_row("frozen", "juice"), 4)
    False
    """
    try:
        rate(temp_c, row)
    except OutOfRange:
        return False
    return True


def _row(row: tables.Row) -> LifeRow:
    return LifeRow(
        state=row["state"],
        product=row["product"],
        ref_c=float(row["ref_c"]),
        days_lo=float(row["days_lo"]),
        days_typ=float(row["days_typ"]),
        days_hi=float(row["days_hi"]),
        q10=float(row["q10"]),
        note=row["note"],
    )
