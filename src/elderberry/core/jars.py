"""Jars: how juice is packed into them, and how many canner loads that makes."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from elderberry.core.containers import JarKind, fits, kind, kinds, vessel_key
from elderberry.core.errors import check_range

__all__ = ("JarKind", "Packing", "Shared", "evenly", "fits", "frozen_headspace_mm",
           "frozen_room_ml", "kind", "kinds", "pack", "pack_cold", "pack_frozen", "part_filled",
           "share", "short_mm", "usual", "vessel_key")  # fmt: skip


@dataclass(frozen=True)
class Packing:
    """Full jars by kind, canner loads, and what is left for a part-filled jar [mL]."""

    jars: dict[str, int]
    loads: int
    leftover_ml: float
    leftover_kind: str | None
    """The smallest jar that takes the leftover, or None when nothing is left."""
    unplaced_ml: float = field(default=0.0)
    """Juice [mL] for which there is no jar at all."""

    @property
    def count(self) -> int:
        """Full jars in all."""
        return sum(self.jars.values())


def pack(
    volume_ml: float, stock: Mapping[str, int], largest_ml: float, canner_capacity: int
) -> Packing:
    """Pack juice into full jars: none over the tested size, fewest canner loads, least left over.

    Jars count at their nominal volume. As many full jars are filled as the stock allows; among
    the ways of doing that the one with the fewest loads wins, then the fewest jars, then the
    least left over. What is left over goes into a part-filled jar, for the refrigerator.

    Args:
        volume_ml: juice as it is filled [mL], 0 to 1e6.
        stock: jars there are, by kind.
        largest_ml: largest tested size [mL]; kinds that process as more are left standing.
        canner_capacity: jars a canner load holds, 1 to 60.

    Raises:
        Unknown: a kind of jar that is not listed.
        OutOfRange: a figure outside its limits.

    Source: bounded search near the largest-first packing.

    >>> packed = pack(5000, {"pint": 12}, 946, 7)
    >>> packed.jars, packed.loads, packed.leftover_ml
    ({'pint': 10}, 2, 270.0)
    """
    allowed = [kind(k) for k, n in stock.items() if n > 0 and fits(kind(k), largest_ml)]
    return _pack(volume_ml, stock, allowed, canner_capacity)


def pack_cold(
    volume_ml: float, stock: Mapping[str, int], largest_ml: float, canner_capacity: int,
    keep: str = "chill",
) -> Packing:  # fmt: skip
    """Pack for the refrigerator, or dry, where any jar or bottle will do that is meant for it.

    Arguments and errors as in pack; largest_ml is the largest that is wanted [mL].

    >>> pack_cold(1000, {"m330": 4}, 946, 7).jars
    {'m330': 3}
    """
    ready = (kind(k) for k, n in stock.items() if n > 0)
    allowed = [k for k in ready if k.nominal_ml <= largest_ml and keep in k.keeps]
    return _pack(volume_ml, stock, allowed, canner_capacity)


def pack_frozen(
    volume_ml: float, stock: Mapping[str, int], swelling_pct: float, canner_capacity: int
) -> Packing:
    """Pack juice for the freezer: each jar only to the room that it may be filled to.

    Arguments and errors as in pack; swelling_pct as it freezes [% of volume]. Narrow-necked glass
    and open vessels are left standing.

    >>> pack_frozen(900, {"pint": 4}, 8, 7).jars
    {'pint': 2}
    """
    rooms = {k: frozen_room_ml(kind(k), swelling_pct) for k, n in stock.items() if n > 0}
    allowed = [kind(k) for k, ml in rooms.items() if ml > 0]
    return _pack(volume_ml, stock, allowed, canner_capacity, rooms)


SMALL_ROOM_MM, LARGE_ROOM_MM, SHOULDER_ROOM_MM, UNDER_SHOULDER_MM = 13.0, 25.0, 38.0, 15.0
"""Room that freezing needs under the rim: to a pint and above, and in shouldered glass [mm]."""
A_PINT_ML = 480.0


def frozen_room_ml(jar: JarKind, swelling_pct: float) -> float:
    """What a jar may be filled with for the freezer [mL]; 0 where it may not be frozen.

    The larger of the computed swelling and the fixed room is left free.

    Args:
        jar: its kind.
        swelling_pct: how much of its volume what is in it grows by [%], 0 to 12.

    Raises:
        OutOfRange: a swelling that water does not have.

    Source: NCHFP freezing guidance; a cylinder of the jar's inner radius.

    >>> round(frozen_room_ml(kind("pint"), 8)), frozen_room_ml(kind("m330"), 8)
    (436, 0.0)
    """
    check_range("swelling", swelling_pct, "%", 0, 12)
    if "freeze" not in jar.keeps:
        return 0.0
    by_room = jar.brim_ml - frozen_headspace_mm(jar) * math.pi * jar.inner_radius_mm**2 / 1000.0
    return max(0.0, min(by_room, jar.brim_ml / (1.0 + swelling_pct / 100.0), jar.nominal_ml))


def frozen_headspace_mm(jar: JarKind) -> float:
    """The fixed room under the rim of what is frozen [mm]; a wide vessel of the household's needs
    no more than small jars do.

    >>> frozen_headspace_mm(kind("pint")), frozen_headspace_mm(kind("quart"))
    (13.0, 50.0)
    """
    if jar.own:
        return SMALL_ROOM_MM
    if jar.neck == "shoulder":
        return max(SHOULDER_ROOM_MM, jar.shoulder_mm + UNDER_SHOULDER_MM)
    return SMALL_ROOM_MM if jar.nominal_ml <= A_PINT_ML else LARGE_ROOM_MM


def usual(volume_ml: float, stock: Mapping[str, int], largest_ml: float) -> tuple[str, ...]:
    """The kind of jar of which most stand ready, among those that so much fills at least once.

    Args:
        volume_ml: what is to be filled [mL].
        stock: jars there are, by kind.
        largest_ml: largest tested size [mL]; 0 where any will do.

    >>> usual(300, {"pint": 40, "half_pint": 3}, 946)
    ('half_pint',)
    """
    ready = [k for k, n in stock.items() if n > 0]
    tested = [k for k in ready if fits(kind(k), largest_ml)] or ready
    filled = [k for k in tested if kind(k).nominal_ml <= volume_ml]
    if filled:
        return (max(filled, key=lambda k: stock[k]),)
    return (min(tested, key=lambda k: kind(k).nominal_ml),) if tested else ()


def short_mm(jar: JarKind, fill_ml: float) -> float:
    """How much more room than usual a jar has that holds so much [mm]; under 0 it is too full.

    >>> round(short_mm(kind("pint"), 472), 1)
    0.2
    """
    return 1000.0 * (jar.nominal_ml - fill_ml) / (math.pi * jar.inner_radius_mm**2)


def part_filled(jar: JarKind, fill_ml: float) -> bool:
    """Whether a jar is so far from full that too much air would stay in it.

    Source: half an inch more room than its row asks; USDA Complete Guide (2015), headspace.

    >>> part_filled(kind("pint"), 472), part_filled(kind("pint"), 300)
    (False, True)
    """
    return short_mm(jar, fill_ml) > PART_FILLED_MM


def _pack(
    volume_ml: float,
    stock: Mapping[str, int],
    kinds_: list[JarKind],
    canner_capacity: int,
    rooms: Mapping[str, float] | None = None,
) -> Packing:
    check_range("volume", volume_ml, "mL", 0, 1e6)
    check_range("canner capacity", canner_capacity, "jars", 1, 60)
    room = rooms or {k.key: k.nominal_ml for k in kinds_}
    allowed = sorted(kinds_, key=lambda k: -room[k.key])
    sizes = [room[k.key] for k in allowed]
    counts = [stock[k.key] for k in allowed]

    def score(fill: tuple[int, ...]) -> tuple[bool, int, int, float]:
        left = volume_ml - sum(n * ml for n, ml in zip(fill, sizes, strict=True))
        spare = [ml for n, ml, have in zip(fill, sizes, counts, strict=True) if n < have]
        jars = sum(fill)
        return bool(spare) and left >= min(spare), math.ceil(jars / canner_capacity), jars, left

    best = min(_fillings(volume_ml, sizes, counts), key=score)
    left = volume_ml - sum(n * ml for n, ml in zip(best, sizes, strict=True))
    jars = {k.key: n for k, n in zip(allowed, best, strict=True) if n}
    spare_kinds = [k for k, n in zip(allowed, best, strict=True) if n < stock[k.key]]
    return _with_leftover(jars, canner_capacity, left, spare_kinds, room)


MORE_ROOM_MM, LESS_ROOM_MM, PART_FILLED_MM = 6.35, 3.2, 12.7
"""A quarter inch more room makes a seal less sure; an eighth less is half of what juice is given,
and beyond it juice boils over the rim."""


@dataclass(frozen=True)
class Shared:
    """Juice shared evenly: jars by kind, each at this part of its usual fill [-]."""

    jars: dict[str, int]
    level: float
    off_mm: float
    """How far the headspace is off in the jar where it is off the most [mm]; + is more room."""

    @property
    def close(self) -> bool:
        """Whether the headspace stays near enough to what was tested."""
        return -LESS_ROOM_MM <= self.off_mm <= MORE_ROOM_MM


def share(packing: Packing, volume_ml: float) -> Shared | None:
    """The leftover shared among the jars, or with one jar more; None where neither is close.

    A little more is poured into each of the full jars, or the part-filled one joins them and all
    stand a little lower, whichever keeps the headspace nearer to what was tested; never more than
    a quarter inch more room, nor an eighth less.

    Args:
        packing: full jars and the leftover, as packed.
        volume_ml: juice as it is filled [mL], above 0.

    Raises:
        OutOfRange: no juice.

    Source: cylinder of the jar's inner radius; tolerance of the headspace caution.

    >>> shared = share(pack(10 * 473 + 60, {"pint": 20}, 946, 7), 10 * 473 + 60)
    >>> shared.jars, round(shared.off_mm, 1)
    ({'pint': 10}, -1.3)
    """
    check_range("volume", volume_ml, "mL", 1, 1e6)
    options = [dict(packing.jars)]
    if packing.leftover_kind:
        more = dict(packing.jars)
        more[packing.leftover_kind] = more.get(packing.leftover_kind, 0) + 1
        options.append(more)
    shared = [evenly(option, volume_ml) for option in options if option]
    return min((s for s in shared if s.close), key=lambda s: abs(s.off_mm), default=None)


def evenly(counts: Mapping[str, int], volume_ml: float) -> Shared:
    """Juice spread over jars in proportion to their usual fill, and what that does to headspace.

    Raises:
        Unknown: a kind of jar that is not listed.
        OutOfRange: no jars, or no juice.

    >>> round(evenly({"pint": 2}, 900).level, 3)
    0.951
    """
    usual = sum(kind(k).nominal_ml * n for k, n in counts.items())
    check_range("jars' usual fill", usual, "mL", 1, 1e6)
    check_range("volume", volume_ml, "mL", 1, 1e6)
    level = volume_ml / usual
    offs = [_off_mm(kind(k), level) for k, n in counts.items() if n]
    return Shared({k: n for k, n in counts.items() if n}, level, max(offs, key=abs))


def _off_mm(jar: JarKind, level: float) -> float:
    area_mm2 = math.pi * jar.inner_radius_mm**2
    return 1000.0 * jar.nominal_ml * (1.0 - level) / area_mm2


def _with_leftover(
    jars: dict[str, int], capacity: int, left: float, spare: list[JarKind],
    room: Mapping[str, float],
) -> Packing:  # fmt: skip
    """Name the smallest spare jar that takes the leftover: more than one takes is in one already.

    A jar that is only a few millimetres short is full.
    """
    loads = math.ceil(sum(jars.values()) / capacity)
    if left < 1.0:
        return Packing(jars, loads, 0.0, None)
    if not spare:
        return Packing(jars, loads, 0.0, None, unplaced_ml=left)
    best = min((k for k in spare if room[k.key] >= left), key=lambda k: room[k.key])
    if short_mm(best, best.nominal_ml - room[best.key] + left) <= MORE_ROOM_MM:
        full = {**jars, best.key: jars.get(best.key, 0) + 1}
        return Packing(full, math.ceil(sum(full.values()) / capacity), 0.0, None)
    return Packing(jars, loads, left, best.key)


FEWER = 3
"""By how many jars in all a way of filling that is looked at may be off largest-first."""


def _fillings(
    volume: float, sizes: list[float], counts: list[int], fewer: int = FEWER
) -> Iterator[tuple[int, ...]]:
    """Ways of filling near largest-first: some jars fewer of the larger, as many of the last."""
    if not sizes:
        yield ()
        return
    most = min(counts[0], int((volume + 1e-6) // sizes[0]))
    fewest = max(0, most - fewer) if len(sizes) > 1 else most
    for n in range(most, fewest - 1, -1):
        left = volume - n * sizes[0]
        for rest in _fillings(left, sizes[1:], counts[1:], fewer - (most - n)):
            yield (n, *rest)
