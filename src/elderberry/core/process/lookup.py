"""The plain question to the tables: a product, a jar, an altitude, a fruit."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Literal

from elderberry.core import materials
from elderberry.core.acid import MODEL_HALF_WIDTH
from elderberry.core.errors import Refusal, Unknown
from elderberry.core.findings import Finding
from elderberry.core.kitchen import Heater
from elderberry.core.process.rows import (
    HIGHEST_FT,
    STEAM_LIMIT_MIN,
    ProcessRow,
    ProcessTime,
    altitude_ft,
    process_rows,
    time_of_row,
)
from elderberry.core.rules import rule

PLACE = "process"
Pack = Literal["any", "hot", "raw"]


def process_minutes(
    product: str,
    process_as_ml: float | None,
    altitude_m: float | None,
    fruit: str | None = None,
    heater: Heater = "bath",
    measured_ph: float | None = None,
    predicted_ph_hi: float | None = None,
    pack: Pack = "any",
) -> ProcessTime:
    """Minutes in a boiling-water bath or steam canner for a product in a jar at an altitude.

    Args:
        product: product of data/process_times.csv, such as apple_juice.
        process_as_ml: tested size of the jar [mL], from data/jars.csv; None where it has none.
        altitude_m: altitude [m]; None when it is not known.
        fruit: fruit key; may be left out only where the product's name says it.
        heater: bath or steam.
        measured_ph: pH meter reading [-] of what is filled, if there is one.
        predicted_ph_hi: upper edge of its predicted pH [-]; typical of the fruit when left out.
        pack: hot or raw; the longer time of the two where it is not said.

    Returns:
        The longest time of the row's band and, for practice rows, of both altitude schools.

    Raises:
        Refusal: no tested process, or a condition of it is not met; carries the stop.

    Source: USDA Complete Guide to Home Canning (2015); extension bulletins, as the rows say.

    >>> process_minutes("apple_juice", 946, 585).minutes
    10
    >>> process_minutes("elderberry", 473, 0)
    Traceback (most recent call last):
    elderberry.core.errors.Refusal: No tested home process exists for elderberry.
    """
    rows = _packed(rows_of(product, fruit), pack)
    for stop in _stops(rows, process_as_ml, altitude_m, fruit, measured_ph, predicted_ph_hi):
        raise Refusal(stop)
    assert process_as_ml is not None and altitude_m is not None  # noqa: PT018  stopped before
    time = _of_jar(rows, process_as_ml, altitude_m, heater)
    if time is None:
        raise Refusal(rule("product-untested").finding(PLACE, product=product))
    if heater == "steam" and time.minutes > STEAM_LIMIT_MIN:
        raise Refusal(rule("steam-canner-too-long").finding(PLACE, minutes=time.minutes))
    return time


def rows_of(product: str, fruit_key: str | None) -> tuple[ProcessRow, ...]:
    """The rows of a product that were tested with, or speak for, a fruit; names displace "any".

    Raises:
        Refusal: the product or the fruit is not tested.

    >>> [r.key for r in rows_of("jelly", "quince")]
    ['jelly-hot-473']
    """
    words = product.replace("_", " ")
    known = [r for r in process_rows() if r.product == product]
    if not known or all(r.pack == "none" for r in known):
        raise Refusal(rule("product-untested").finding(PLACE, product=words))
    fruit = _listed(fruit_key)
    rows = [r for r in known if r.takes(fruit)]
    if not rows:
        named = ", ".join(sorted({f for r in known for f in r.fruits}))
        said = fruit.name if fruit else "an unnamed fruit"
        raise Refusal(
            rule("fruit-not-in-row").finding(PLACE, product=words, fruits=named, fruit=said)
        )
    named_rows = [r for r in rows if not r.any_fruit]
    return tuple(named_rows or rows)


def _packed(rows: tuple[ProcessRow, ...], pack: Pack) -> tuple[ProcessRow, ...]:
    """The rows that were tested with this pack.

    Raises:
        Refusal: none was.
    """
    kept = tuple(r for r in rows if pack in ("any", r.pack))
    if not kept:
        what = f"{rows[0].product.replace('_', ' ')} packed {pack}"
        raise Refusal(rule("product-untested").finding(PLACE, product=what))
    return kept


def _listed(fruit_key: str | None) -> materials.Fruit | None:
    if fruit_key is None:
        return None
    try:
        fruit = materials.fruit(fruit_key)
    except Unknown:
        raise Refusal(rule("fruit-unlisted").finding(PLACE, fruit=fruit_key)) from None
    if fruit.ph_risk == "never":
        raise Refusal(rule("fruit-never").finding(PLACE, fruit=fruit.name))
    return fruit


def _stops(
    rows: tuple[ProcessRow, ...], jar_ml: float | None, metres: float | None,
    fruit_key: str | None, ph: float | None, edge: float | None,
) -> Iterator[Finding]:  # fmt: skip
    if metres is None or math.isnan(metres):
        yield rule("altitude-unknown").finding(PLACE)
    elif altitude_ft(metres) > HIGHEST_FT:
        yield rule("altitude-over-10000-ft").finding(PLACE)
    largest = max(r.largest_jar_ml for r in rows)
    if jar_ml is None or not jar_ml > 0:
        yield rule("jar-not-for-processing").finding(PLACE)
    elif jar_ml > largest:
        yield rule("jar-too-large").finding(PLACE, jar_ml=f"{jar_ml:g}", largest_ml=f"{largest:g}")
    yield from _acid_stops(rows[0], fruit_key, ph, edge)


def _acid_stops(
    row: ProcessRow, fruit_key: str | None, ph: float | None, edge: float | None
) -> Iterator[Finding]:
    if row.max_ph is None:
        return
    if ph is not None and not ph <= row.max_ph:
        yield rule("ph-too-high").finding(PLACE, ph=f"{ph:.2f}", max_ph=f"{row.max_ph:g}")
    elif ph is None and not _gate_open(row, fruit_key, edge):
        yield rule("ph-reading-needed").finding(PLACE, max_ph=f"{row.max_ph:g}")


def _gate_open(row: ProcessRow, fruit_key: str | None, edge: float | None) -> bool:
    """Whether a row goes without a reading: always, never, or by a low-risk fruit's prediction."""
    if row.gate == "none":
        return True
    fruit = materials.fruits().get(fruit_key or "")
    if row.gate != "low_risk_or_measured" or fruit is None or fruit.ph_risk != "low":
        return False
    known = edge if edge is not None else _typical_ph_edge(fruit)
    return known is not None and row.max_ph is not None and known < row.max_ph


def _typical_ph_edge(fruit: materials.Fruit) -> float | None:
    """Upper edge of a pH predicted from the tables alone: their spread and the model's, squared."""
    if fruit.ph is None:
        return None
    return fruit.ph.typ + math.hypot(fruit.ph.hi - fruit.ph.typ, MODEL_HALF_WIDTH)


def _of_jar(
    rows: tuple[ProcessRow, ...], jar_ml: float, metres: float, heater: Heater
) -> ProcessTime | None:
    """The longest time of the smallest tested size that the jar fits."""
    roomy = [r for r in rows if r.largest_jar_ml >= jar_ml]
    smallest = min((r.largest_jar_ml for r in roomy), default=None)
    times = [time_of_row(r, metres, heater) for r in roomy if r.largest_jar_ml == smallest]
    return max((t for t in times if t), key=lambda t: t.minutes, default=None)
