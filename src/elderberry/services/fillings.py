"""Filling: jars come into being, empty ones leave the stock, canner loads are made to fit."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING

from elderberry.core import jars as kinds
from elderberry.core.batch.lifecycle import Phase, Seal
from elderberry.core.errors import Refusal
from elderberry.core.estimates import Estimate
from elderberry.core.operations.filling import COOL_HOURS
from elderberry.services import batches, kitchens
from elderberry.services.errors import FieldError
from elderberry.store import Jar, JarStock, Lot, Operation, queries

if TYPE_CHECKING:
    from elderberry.services.steps import Change


def fill_jars(
    made: Change,
    counts: Mapping[str, int],
    part_kind: str | None,
    part_ml: float,
    level: float = 1.0,
) -> None:
    """Make the jars that were filled, the part-filled one for the refrigerator.

    level is the part of its usual fill that each full jar holds, where the rest was shared.

    Raises:
        Refusal: a jar that may not be processed, where the batch is for the shelf.
        FieldError: more jars than there are, or lids.
    """
    for_shelf = made.folder.batch.keep == "shelf"
    if for_shelf and counts:
        for stop in made.folder.tested_time(list(counts)).stops:
            if not stop.in_cook:
                raise Refusal(stop)
    _take_from_stock(made, counts, part_kind)
    lot = next(lot for lot in made.folder.lots.values() if lot.key == "jars")
    capacity = kitchens.for_core(made.orm, made.who).canner.jars
    ordered = sorted(counts, key=lambda k: -kinds.kind(k).nominal_ml)
    filled = [kind for kind in ordered for _ in range(counts[kind])]
    jars = [
        _jar(made, lot, number, kind, level * kinds.kind(kind).nominal_ml)
        for number, kind in enumerate(filled, start=1)
    ]
    for index, jar in enumerate(jars):
        jar.canner_load = index // capacity + 1 if for_shelf else 0
        jar.seal = Seal.COOLING if for_shelf else Seal.UNSEALED
    if part_kind and part_ml > 0:
        jars.append(_part_filled(made, lot, len(filled) + 1, part_kind, part_ml))
    made.orm.add_all(jars)
    made.orm.flush()
    for jar in jars:
        made.log("filled", {"code": jar.code, "fill_ml": jar.fill_ml}, jar_id=jar.id)
    made.folder.jars = jars
    if for_shelf:
        _fit_canner_loads(made, math.ceil(len(filled) / capacity))


def _jar(made: Change, lot: Lot, number: int, kind: str, fill_ml: float) -> Jar:
    batch = made.folder.batch
    return Jar(
        household_id=made.who.household_id,
        batch_id=batch.id,
        lot_id=lot.id,
        code=f"{batch.code}-{number:02d}",
        label=lot.name.removesuffix(" in jars"),
        jar_kind=kind,
        fill_ml=fill_ml,
        part_filled=False,
        canner_load=0,
        seal=Seal.UNSEALED,
        place_id=None,
        placed_at=made.now,
        filled_at=made.now,
        process={},
    )


def _part_filled(made: Change, lot: Lot, number: int, kind: str, fill_ml: float) -> Jar:
    """The last jar that did not come full: to the refrigerator, to be used first."""
    jar = _jar(made, lot, number, kind, fill_ml)
    jar.part_filled = True
    jar.place_id = kitchens.place(made.orm, made.who, "refrigerator").id
    return jar


def _take_from_stock(made: Change, counts: Mapping[str, int], part_kind: str | None) -> None:
    stock = {s.jar_kind: s for s in queries.all_of(made.orm, made.who.household_id, JarStock)}
    needed = dict(counts)
    if part_kind:
        needed[part_kind] = needed.get(part_kind, 0) + 1
    for kind, count in needed.items():
        row = stock.get(kind)
        ready = min(row.jars, row.lids) if row else 0
        if count > ready or row is None:
            raise FieldError(
                "/jars",
                f"{count} {kinds.kind(kind).name} jars, but only {ready} stand ready with new "
                "lids. Count again, or bring the stock up to date. Nothing was recorded.",
            )
        row.jars, row.lids = row.jars - count, row.lids - count


def _fit_canner_loads(made: Change, loads: int) -> None:
    """As many canner loads as the jars make: surplus ones are dropped, missing ones added."""
    planned = [o for o in made.folder.operations if o.kind in {"process", "cool"}]
    for operation in planned:
        surplus = operation.params["load"] > loads
        if surplus and made.folder.phase(operation) is Phase.WAITING:
            made.append("dropped", {"reason": "fewer jars than planned"}, operation=operation)
    if loads == 0:
        for operation in made.folder.operations:
            if operation.kind == "seal_check":
                made.append("dropped", {"reason": "no jars to seal"}, operation=operation)
    have = {o.params["load"] for o in planned if o.kind == "process"}
    for load in range(1, loads + 1):
        if load not in have:
            add_canner_load(made, load, loads, f"{load}")


def add_canner_load(made: Change, load: int, loads: int, suffix: str) -> int:
    """One more process and cooling before the last seal check; returns its position."""
    batch, minutes = made.folder.batch, float(made.folder.batch.process["minutes"])
    checks = [o for o in made.folder.operations if o.kind == "seal_check"]
    open_checks = [o for o in checks if made.folder.phase(o) is Phase.WAITING]
    base = open_checks[0].position if open_checks else made.folder.operations[-1].position + 100
    position = base - 50 + 2 * (load % 20)
    params = {"load": load, "loads": loads}
    rest = 60.0 * COOL_HOURS
    process = batches.add_operation(
        made.orm, made.who, batch, f"process-{suffix}", "process", position,
        Estimate(minutes, minutes, minutes),
        {**params, "minutes": batch.process["minutes"], "row": batch.process["row"]},
    )  # fmt: skip
    cool = batches.add_operation(
        made.orm, made.who, batch, f"cool-{suffix}", "cool", position + 1,
        Estimate(rest, rest, 2 * rest), params,
    )  # fmt: skip
    _connect_jars(made, process, cool)
    return position + 1


def _connect_jars(made: Change, *operations: Operation) -> None:
    lot = next(lot for lot in made.folder.lots.values() if lot.key == "jars")
    for operation in operations:
        batches.connect(made.orm, made.who, operation, lot.id, "in")
