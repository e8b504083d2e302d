"""Filling: jars come into being, empty ones leave the stock, canner loads are made to fit."""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Iterator, Mapping

from elderberry.core import ends, heat, keeping
from elderberry.core import jars as kinds
from elderberry.core.again import again
from elderberry.core.batch.lifecycle import Phase, Seal
from elderberry.core.errors import Refusal
from elderberry.core.estimates import Estimate
from elderberry.core.flow.inputs import End
from elderberry.core.flow.kinds import kind, of_role
from elderberry.core.operations.filling import COOL_HOURS
from elderberry.core.process import Contents
from elderberry.core.shelf.life import Lives
from elderberry.services.cooking import batches, places
from elderberry.services.cooking.change import Change
from elderberry.services.errors import FieldError
from elderberry.services.household import kitchens
from elderberry.store import Jar, JarStock, Lot, Operation, queries
from elderberry.store.base import Json

JARS_KEEP = ("shelf", "chill", "freeze")
"""Ways that a jar may come to be kept, whatever its end was meant for."""
BY_ITSELF = ("sugar", "dry")
"""Ways in which what is in a jar keeps without a seal, in the warm."""


def fill_jars(
    made: Change,
    counts: Mapping[str, int],
    part_kind: str | None,
    part_ml: float,
    level: float = 1.0,
    last: bool = True,
) -> None:
    """Make the jars that were filled, a part-filled one for the refrigerator.

    level is the part of its usual fill that each full jar holds, where the rest was shared; last
    whether no more of it is to come. A last jar goes with the others where it is only half an inch
    short, or where they go to the cold.

    Raises:
        Refusal: a jar that may not be processed, where the end is for the shelf.
        FieldError: more jars than there are, or lids.
    """
    for_shelf = made.folder.standing.end(made.operation).keep == "shelf"
    short = part_kind if _goes_along(for_shelf, part_kind, part_ml) else None
    wanted = [*counts, *([short] if short else [])]
    if for_shelf and wanted:
        for stop in made.folder.standing.tested_time(wanted, made.operation).stops:
            if not stop.in_cook:
                raise Refusal(stop)
    _check_keeps(made)
    _take_from_stock(made, counts, part_kind)
    filled = _full(made, counts, level)
    if short:
        filled.append((short, part_ml))
    jars = _jars(made, filled, for_shelf)
    if part_kind and part_ml > 0 and not short:
        jars.append(_part_filled(made, len(filled) + 1, part_kind, part_ml))
    made.orm.add_all(jars)
    made.orm.flush()
    for jar in jars:
        made.log("filled", {"code": jar.code, "fill_ml": jar.fill_ml}, jar_id=jar.id)
    made.folder.jars = [*made.folder.jars, *jars]
    made.folder.jars_ever = [*made.folder.jars_ever, *jars]
    made.folder.anew()
    if for_shelf:
        _fit_canner_loads(made, last)


def _check_keeps(made: Change) -> None:
    """What is to keep by its sugar, or dry, does, by what is known of it now.

    Raises:
        Refusal: it is too thin, or not dry enough.
    """
    standing = made.folder.standing
    contents, end = standing.contents(made.operation), standing.end(made.operation)
    if contents is None:
        return
    damp = ends.too_damp(contents) if end.keep == "dry" else []
    for stop in (*ends.too_thin(end, contents, made.folder.kitchen), *damp):
        raise Refusal(stop)


def _goes_along(for_shelf: bool, part_kind: str | None, part_ml: float) -> bool:
    """Whether the last jar, which did not come full, goes where the others go."""
    if not part_kind or part_ml <= 0:
        return False
    return not for_shelf or not kinds.part_filled(kinds.kind(part_kind), part_ml)


def _full(made: Change, counts: Mapping[str, int], level: float) -> list[tuple[str, float]]:
    """Every full jar with what it holds [mL], the largest first."""
    rooms = {k: made.folder.standing.room_ml(made.operation, k) for k in counts}
    ordered = sorted(counts, key=lambda k: -rooms[k])
    return [(k, level * rooms[k]) for k in ordered for _ in range(counts[k])]


def _jars(made: Change, filled: list[tuple[str, float]], for_shelf: bool) -> list[Jar]:
    capacity = made.folder.kitchen.canner.jars
    before = len(made.folder.jars_ever)
    keep = made.folder.standing.end(made.operation).keep
    closed = Seal.CAPPED if keep in BY_ITSELF else Seal.UNSEALED
    jars = [
        _jar(made, before + number, jar_kind, ml)
        for number, (jar_kind, ml) in enumerate(filled, start=1)
    ]
    rooms = _rooms_in_canner(made, capacity)
    for jar in jars:
        jar.canner_load = next(rooms) if for_shelf else 0
        jar.seal = Seal.COOLING if for_shelf else closed
    return jars


def _rooms_in_canner(made: Change, capacity: int) -> Iterator[int]:
    """The canner load of each jar that is filled now: one that waits with room in it, then new."""
    standing = made.folder.standing
    there = Counter(j.canner_load for j in standing.jars_of(made.operation) if j.canner_load)
    begun = {
        o.params["load"]
        for o in standing.of_role("process")
        if standing.fill_of(o) is made.operation and standing.phase(o) is not Phase.WAITING
    }
    for load in sorted({*there} - begun):
        yield from itertools.repeat(load, capacity - there[load])
    for load in itertools.count(max(there, default=0) + 1):
        yield from itertools.repeat(load, capacity)


def _jar(made: Change, number: int, jar_kind: str, fill_ml: float) -> Jar:
    batch, lot = made.folder.batch, _lot(made)
    return Jar(
        household_id=made.who.household_id,
        batch_id=batch.id,
        lot_id=lot.id,
        code=f"{batch.code}-{number:02d}",
        label=_label(made),
        jar_kind=jar_kind,
        fill_ml=fill_ml,
        part_filled=False,
        canner_load=0,
        seal=Seal.UNSEALED,
        place_id=None,
        placed_at=made.now,
        filled_at=made.now,
        process={},
        contents=_contents(made),
        lid=made.folder.standing.end(made.operation).lid,
        packet=_packet(made, jar_kind),
        lives=Lives.MADE,
    )


def _packet(made: Change, jar_kind: str) -> str:
    """The packet that the lids of an end are taken from; empty where nobody has said."""
    end = made.folder.standing.end(made.operation)
    if end.capped:
        return ""
    chosen = kitchens.lids(made.orm, made.who, jar_kind, end.closure, end.lid)
    if chosen is not None:
        return chosen.packet
    stock = queries.all_of(made.orm, made.who.household_id, JarStock)
    return next((s.packet for s in stock if s.jar_kind == jar_kind), "")


def _lot(made: Change) -> Lot:
    """What the jars of this filling hold."""
    return made.folder.lots[made.folder.edges[made.operation.id]["out"][0]]


def _label(made: Change) -> str:
    """What the jars say: the name that was given, else what is in them."""
    standing = made.folder.standing
    contents, given = standing.contents(made.operation), standing.end(made.operation).name
    return given or (keeping.label_of(contents) if contents else _lot(made).name)


def _contents(made: Change) -> Json:
    """What is in the jars as it is known now: what it is, how it keeps, what it is made of."""
    contents = made.folder.standing.contents(made.operation)
    if contents is None:
        fruits = [i.material for i in made.folder.brief.inputs if i.fruit]
        return {"product": "", "life": {}, "fruits": fruits, "sugared": False}
    end = made.folder.standing.end(made.operation)
    return {
        **({"closure": end.closure} if end.closure else {}),
        "product": keeping.product_word(contents),
        "spirit": keeping.spirit_share(contents),
        "life": {keep: keeping.life_of(contents, keep).product for keep in _ways(contents)},
        "fruits": [p.material for p in contents.fruit],
        "sugared": keeping.sugared(contents),
        "brix": round(contents.brix, 1),
        "ph": None if contents.ph is None else round(contents.ph, 2),
        "origins": _origins(contents),
        **_loose(contents),
    }


def _loose(contents: Contents) -> Json:
    """What a millilitre of it weighs as it lies, and what it makes again where it is dry."""
    lot = contents.lot
    if not lot.loose:
        return {}
    weighs = {"g_per_ml": lot.mass_g.typ / ends.as_it_lies(lot).typ}
    found = again(contents)
    if found is None:
        return weighs
    return {
        **weighs, "dried": lot.dried, "water_g_per_g": found.water_g_per_g,
        "moisture_pct": found.moisture_pct, "portion_g": lot.portion_g,
    }  # fmt: skip


def _ways(contents: Contents) -> tuple[str, ...]:
    """The ways that a jar of it may come to be kept."""
    ways = {"sugar": keeping.keeps_by_sugar(contents), "dry": contents.lot.dried != ""}
    return (*JARS_KEEP, *(keep for keep in BY_ITSELF if ways[keep]))


def _origins(contents: Contents) -> list[Json]:
    """What it is made of, by material and form [% of mass], the most first."""
    whole = max(float(contents.usual.mass_g), 1e-9)
    found = [
        {"material": p.material, "form": p.held.form or p.source.form,
         "pct": round(100 * float(p.composition.mass_g) / whole, 1)}
        for p in contents.parts
    ]  # fmt: skip
    return sorted(found, key=lambda o: -float(str(o["pct"])))


def _part_filled(made: Change, number: int, jar_kind: str, fill_ml: float) -> Jar:
    """The last jar that did not come full: to the refrigerator, to be used first."""
    jar = _jar(made, len(made.folder.jars_ever) + number, jar_kind, fill_ml)
    jar.part_filled = True
    places.stand(made.orm, jar, kitchens.place(made.orm, made.who, "refrigerator"))
    return jar


def _take_from_stock(made: Change, counts: Mapping[str, int], part_kind: str | None) -> None:
    """Empty jars leave the stock, and their lids where none are plain caps."""
    end = made.folder.standing.end(made.operation)
    stock = {s.jar_kind: s for s in queries.all_of(made.orm, made.who.household_id, JarStock)}
    there = made.folder.kitchen.ready(end.keep, end.closure, end.lid)
    needed = dict(counts)
    if part_kind:
        needed[part_kind] = needed.get(part_kind, 0) + 1
    for key, count in needed.items():
        jar, ready = kinds.kind(key), there.get(key, 0)
        if count > ready:
            words = f"{count} × {jar.named(made.folder.units)}, but only {ready} stand ready"
            raise FieldError("/jars", f"{words}{_missing(jar, end)} Nothing was recorded.")
        if not jar.own:
            stock[key].jars -= count
            _take_lids(made, stock[key], end, count)


def _take_lids(made: Change, stock: JarStock, end: End, count: int) -> None:
    """Lids leave the stock: those of the closure and colour that were chosen, where counted."""
    if end.capped:
        return
    row = kitchens.lids(made.orm, made.who, stock.jar_kind, end.closure, end.lid)
    if row is None:
        stock.lids -= count
    else:
        row.lids -= count


def _missing(jar: kinds.JarKind, end: End) -> str:
    """What to do where there are fewer than were filled."""
    if jar.own:
        return ". Say which are empty again, or add one under Kitchen."
    lids = "" if end.capped else " with new lids"
    return f"{lids}. Count again, or bring the stock up to date."


def _fit_canner_loads(made: Change, last: bool) -> None:
    """As many canner loads as the jars make: missing ones are added and, once no more jars are to
    come, surplus ones dropped.
    """
    jars = made.folder.standing.jars_of(made.operation)
    loads = max((j.canner_load for j in jars if not j.part_filled), default=0)
    planned = _of_this_end(made, "process", "cool")
    for operation in planned if last else ():
        surplus = operation.params["load"] > loads
        if surplus and made.folder.phase(operation) is Phase.WAITING:
            made.append("dropped", {"reason": "fewer jars than planned"}, operation=operation)
    if last and loads == 0:
        for operation in _of_this_end(made, "check"):
            made.append("dropped", {"reason": "no jars to seal"}, operation=operation)
    have = {o.params["load"] for o in planned if kind(o.kind).role == "process"}
    for load in range(1, loads + 1):
        if load not in have:
            add_canner_load(made, load, loads, f"{load}")


def _of_this_end(made: Change, *roles: str) -> list[Operation]:
    """Steps of some roles that belong to the end of this step."""
    standing = made.folder.standing
    mine = standing.fill_of(made.operation)
    return [made.folder.find(o.id) for o in standing.of_role(*roles) if standing.fill_of(o) is mine]


def add_canner_load(made: Change, load: int, loads: int, suffix: str, again: bool = False) -> int:
    """One more process and cooling before the last seal check; returns its position."""
    batch, fill = made.folder.batch, made.folder.standing.fill_of(made.operation)
    end = "" if fill is None else fill.key.removeprefix(fill.kind)
    checks = _of_this_end(made, "check")
    open_checks = [o for o in checks if made.folder.phase(o) is Phase.WAITING]
    base = open_checks[0].position if open_checks else made.folder.operations[-1].position + 100
    position = base - 50 + 2 * (load % 20)
    params = {"load": load, "loads": loads, "fill": fill.key if fill else ""}
    minutes, row = _tested_minutes(made)
    rest = 60.0 * COOL_HOURS
    process, cooling = of_role("process"), of_role("cool")
    canned = batches.add_operation(
        made.orm, made.who, batch, f"{process}{end}-{suffix}", process, position,
        Estimate(minutes, minutes, minutes),
        {**params, **_process_words(made, again), "minutes": minutes, "row": row,
         "run_l": heat.steam_canner_water_kg(minutes, made.folder.kitchen.burner_kw)},
    )  # fmt: skip
    cool = batches.add_operation(
        made.orm, made.who, batch, f"{cooling}{end}-{suffix}", cooling, position + 1,
        Estimate(rest, rest, 2 * rest), params,
    )  # fmt: skip
    _connect_jars(made, canned, cool)
    return position + 1


def _tested_minutes(made: Change) -> tuple[float, str]:
    """The minutes that the other loads of this end take, and their row."""
    there = _of_this_end(made, "process")
    if there:
        return float(there[0].params["minutes"]), str(there[0].params["row"])
    stored = made.folder.batch.process
    return float(stored.get("minutes", 0)), str(stored.get("row", ""))


def _process_words(made: Change, again: bool) -> Mapping[str, str]:
    """Words of a process in this kitchen's canner, or of one for jars whose seal failed."""
    variants = kind(of_role("process")).variants
    return variants.get("again" if again else made.folder.kitchen.canner.heater, {})


def _connect_jars(made: Change, *operations: Operation) -> None:
    fill = made.folder.standing.fill_of(made.operation)
    if fill is None:
        return
    for operation in operations:
        batches.connect(made.orm, made.who, operation, made.folder.edges[fill.id]["out"][0], "in")
