"""Which rows of the tables hold for what is in the jar, displacing and competing."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from elderberry.core import materials
from elderberry.core.process.contents import Contents
from elderberry.core.process.rows import GATES, ProcessRow, process_rows

STRAINED_PULP_PCT = 1.0
"""Undissolved matter over which a juice counts as a purée [g/100 g]."""
NAMED_SHARE, OTHER_SHARE = 0.95, 0.05
WHOLE_TABLE_G_PER_L, WHOLE_LEAST_G_PER_L = 600.0, 150.0
WHOLE_MARGIN_PH = 0.2
LEAST_FRUIT = 0.25
"""Fruit under this part of everything filled makes no table's syrup [-]."""
PIECES_SHARE = 0.25
APPLE = "apple"
NO_PUREE = frozenset({"pear_asian"})


@dataclass(frozen=True)
class Conditions:
    """What is asked of contents beside themselves: where water boils, whether jars are sterile."""

    boiling_c: float
    jars_sterile: bool = True


def standing_rows(contents: Contents, where: Conditions) -> tuple[ProcessRow, ...]:
    """The rows that hold, as they stand for these contents, after displacing.

    None holds without fruit, or with any that is marked never. A row that names the fruits
    displaces the "any" row of its form; some products displace others (column displaces). Rows of
    equal standing all stay, and compete.

    Source: conditions in data/process_times.csv.
    """
    if not contents.fruit or contents.never:
        return ()
    held = [row for r in process_rows() if (row := _as_it_stands(r, contents, where))]
    named = {r.form for r in held if not r.any_fruit}
    gone = {product for r in held for product in r.displaces}
    return tuple(r for r in held if r.product not in gone and not (r.any_fruit and r.form in named))


def _as_it_stands(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    """A row with what these contents make of its gate, limit and minutes; None where it fails."""
    if row.pack == "none" or not row.brix_lo <= c.brix <= row.brix_hi:
        return None
    if row.boils and not c.heated_through(where.boiling_c):
        return None
    made = _FORMS[row.form](row, c, where)
    return _watered(made, c) if made else None


def _juice(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    del where
    return row if _strained(c) and _its_fruits(row, c) and not c.holds_pectin else None


def _syrup(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    del where
    if not _its_fruits(row, c) or not (_strained(c) or _pieces(row, c)) or c.holds_pectin:
        return None
    if c.fruit_share < LEAST_FRUIT:
        return _gated(row, "measured") if row.any_fruit else None
    return _under(row, c)


def _under(row: ProcessRow, c: Contents) -> ProcessRow:
    """Under its Brix a row is opened as a juice is."""
    if c.brix >= row.gated_under_brix:
        return row
    juice = next(r for r in process_rows() if r.form == "juice" and r.any_fruit)
    limits = [m for m in (row.max_ph, juice.max_ph) if m is not None]
    return _gated(replace(row, max_ph=min(limits, default=None)), juice.gate)


def _puree(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    del where
    crushed = c.pulp_pct > STRAINED_PULP_PCT and not c.whole and not c.sliced
    if not crushed or NO_PUREE & set(c.shares) or c.holds_pectin:
        return None
    if row.displaces:
        apple = c.shares.get(APPLE, 0.0)
        if apple < row.least_share:
            return None
        general = next(r for r in process_rows() if r.form == row.form and r.any_fruit)
        return _gated(row, general.gate) if 1.0 - apple >= OTHER_SHARE else row
    return row if _its_fruits(row, c) else None


def _citrus(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    del where
    fits = c.citrus_share >= row.least_share and not c.whole and not c.sliced
    return row if fits and not c.holds_pectin else None


def _whole(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    """Fruit whole in its liquid: the kinds that the rows name make nearly all of it."""
    total = sum(c.whole.values())
    if not total or c.sliced or c.holds_pectin or c.whole_g_per_l < WHOLE_LEAST_G_PER_L:
        return None
    mine = {k: g / total for k, g in c.whole.items() if row.names(materials.fruit(k))}
    if not mine or max(mine.values()) < OTHER_SHARE or _with_rows(c) < NAMED_SHARE:
        return None
    if (row.pack == "hot") != c.heated_through(where.boiling_c):
        return None
    if c.whole_g_per_l >= WHOLE_TABLE_G_PER_L:
        return row
    limit = None if row.max_ph is None else row.max_ph - WHOLE_MARGIN_PH
    return _gated(replace(row, evidence="practice", max_ph=limit), "edge_or_measured")


def _with_rows(c: Contents) -> float:
    """The part of the whole fruit that some row of whole fruit names [-]."""
    rows = [r for r in process_rows() if r.form == "whole"]
    total = sum(c.whole.values())
    named = (g for k, g in c.whole.items() if any(r.names(materials.fruit(k)) for r in rows))
    return sum(named) / total


def _jelly(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    if not c.sets or not _strained(c) or not _its_fruits(row, c):
        return None
    if c.fruit_share < LEAST_FRUIT and not row.any_fruit:
        return None
    thin = c.brix < row.gated_under_brix
    unsterile = row.unsterilised is not None and (thin or not where.jars_sterile)
    stands = replace(row, minutes=row.unsterilised) if unsterile and row.unsterilised else row
    return _under(stands, c) if thin else stands


def _never(row: ProcessRow, c: Contents, where: Conditions) -> ProcessRow | None:
    del row, c, where
    return None


_FORMS = {
    "juice": _juice, "syrup": _syrup, "puree": _puree, "citrus": _citrus, "whole": _whole,
    "jelly": _jelly, "": _never,
}  # fmt: skip


def _strained(c: Contents) -> bool:
    return c.pulp_pct <= STRAINED_PULP_PCT and not c.whole and not c.sliced


def _pieces(row: ProcessRow, c: Contents) -> bool:
    """Whether it is a syrup thick enough to hold some of its fruit in pieces."""
    pieces = sum(p.pieces_g for p in c.parts if p.held.form in {"whole", "sliced"})
    thick = row.pieces_brix is not None and c.brix >= row.pieces_brix
    return thick and pieces <= PIECES_SHARE * float(c.usual.mass_g)


def _its_fruits(row: ProcessRow, c: Contents) -> bool:
    """Whether the fruits that a row names, counted together, make nearly all of it."""
    if row.any_fruit:
        return True
    named = (s for k, s in c.shares.items() if row.names(materials.fruit(k)))
    return sum(named) >= row.least_share


def _gated(row: ProcessRow, gate: str) -> ProcessRow:
    """A row that is opened no more easily than by a gate."""
    return replace(row, gate=max(row.gate, gate, key=GATES.index))


def _watered(row: ProcessRow, c: Contents) -> ProcessRow | None:
    """A row with what added water makes of it."""
    if row.water_pct is None or c.water_pct <= row.water_pct + 1e-9:
        return row
    if row.most_water_pct is None or c.water_pct > row.most_water_pct:
        return None
    return _gated(row, "measured")


def products(rows: Iterable[ProcessRow]) -> Iterator[tuple[ProcessRow, ...]]:
    """The rows of each product, its size lines together."""
    listed = list(rows)
    for product in dict.fromkeys(r.product for r in listed):
        yield tuple(r for r in listed if r.product == product)
