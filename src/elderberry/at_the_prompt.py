"""`./elderberry plan "10 kg damsons, 2 cups sugar"`: a plan without a household or a database."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Iterator, Sequence
from dataclasses import asdict
from typing import Any, Literal

from elderberry.core import method as methods
from elderberry.core.errors import CannotTell, CoreError
from elderberry.core.figures import CannotRead
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import Brief, End
from elderberry.core.flow.said import input_of_line, own_key
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.lines import Line, read
from elderberry.core.plan import Plan, plan
from elderberry.core.quantities import Customs, System
from elderberry.core.wording import figure, in_units
from elderberry.services.planning.asked import begins_with
from elderberry.services.planning.end_view import EndView
from elderberry.services.planning.plan_view import PlanView, view

USUAL_JARS = {"pint": 60, "half_pint": 48, "quart": 24, "m500": 24}
"""Jars that stand ready where no kitchen says."""


def usual_kitchen(altitude_m: float | None, units: System = "metric") -> Kitchen:
    """A kitchen with a steamer, a canner for seven jars and one large ring."""
    return Kitchen(
        altitude_m, Juicer(8.0, 4.0, 1.8), Canner(7), 2.2, jar_stock=USUAL_JARS, units=units
    )


def run(arguments: Sequence[str]) -> int:
    """Print a plan of what was said, as text or as JSON; returns the exit code."""
    parser = argparse.ArgumentParser(prog="./elderberry plan")
    parser.add_argument("what", help='what goes in, such as "10 kg damsons, 2 cups sugar"')
    parser.add_argument("--method", default="", help="its key; the plainest that suits if not said")
    parser.add_argument("--keep", default="", help="shelf, sugar, dry, chill, freeze or now")
    parser.add_argument("--jars", default="", help="kinds of jar, such as pint,quart")
    parser.add_argument("--altitude", type=float, default=None, help="of the kitchen, in metres")
    parser.add_argument("--units", choices=("metric", "us", "imperial"), default="metric")
    parser.add_argument("--json", action="store_true")
    said = parser.parse_args(arguments)
    try:
        jars = tuple(filter(None, said.jars.split(",")))
        kitchen = usual_kitchen(said.altitude, said.units)
        made = planned(said.what, kitchen, said.method, said.keep, jars)
    except (CoreError, CannotRead) as wrong:
        sys.stdout.write(f"  {str(wrong).capitalize()}\n")
        return 1
    shown = view(made)
    as_json = json.dumps(asdict(shown), indent=2, default=str) if said.json else ""
    sys.stdout.write(f"{as_json or told(shown, kitchen)}\n")
    return 0


def planned(
    what: str, kitchen: Kitchen, method_key: str = "", keep: str = "", jars: tuple[str, ...] = ()
) -> Plan:
    """The plan of what was said, the first fruit of it leading.

    Raises:
        CannotRead: a part of it is no line of what goes in.
        CoreError: no method suits, or it cannot be laid out.
    """
    lines = [line for text in parts(what) if (line := read(text, Customs(kitchen.units)))]
    if not lines:
        raise CannotTell("there is nothing in it to plan")
    said = [input_of_line(line) for line in lines]
    wanted = methods.method(method_key).begins_with[wiring.START] if method_key else ""
    weighed = [i.amount.how == "amount" for i in said]
    first = begins_with([i.lot_kind for i in said], weighed, wanted)
    chosen = methods.method(method_key or _usual(lines[first], kitchen))
    taken = {wiring.START}
    inputs = []
    for number, line in enumerate(lines):
        key = wiring.START if number == first else own_key(line.material, taken)
        taken.add(key)
        inputs.append(input_of_line(line, key))
    fill = wiring.fills(chosen.steps)[0].key
    asked = [End(fill, keep or _kept(chosen, fill), jars)] if keep or jars else []
    return plan(chosen, Brief(chosen.goes_in(inputs), chosen.ends_for(asked)), kitchen)


def _kept(chosen: methods.Method, fill: str) -> str:
    return next((e.keep for e in chosen.ends if e.key == fill), "shelf")


def _usual(line: Line, kitchen: Kitchen) -> str:
    """The plainest method that suits what a plan begins with."""
    offered, form = methods.methods().values(), input_of_line(line).form or "whole"
    return methods.plainest(offered, line.material, form, kitchen.lacks).key


def parts(what: str) -> Iterator[str]:
    """Lines of what goes in; a comma parts them where both sides can be read.

    >>> list(parts("1.5 kg pears, chopped, 2 cups sugar"))
    ['1.5 kg pears, chopped', '2 cups sugar']
    """
    held = ""
    for piece in filter(None, (p.strip() for p in what.replace(";", ",").split(","))):
        if held and _reads(piece) and any(c.isdigit() for c in piece):
            yield held
            held = piece
        else:
            held = f"{held}, {piece}" if held else piece
    if held:
        yield held


def _reads(text: str) -> bool:
    try:
        read(text)
    except CoreError:
        return False
    return True


def told(plan_: PlanView, kitchen: Kitchen) -> str:
    """A plan in words, as Plan shows it."""
    return "\n".join(line.rstrip() for line in _lines(plan_, kitchen))


def _lines(shown: PlanView, kitchen: Kitchen) -> Iterator[str]:
    def said(value: float, unit: Literal["g", "ml"]) -> str:
        return in_units(figure(value, unit), kitchen.units)

    yield shown.title
    yield f"  {shown.method.name}, {shown.method.school}"
    yield ""
    for given in shown.inputs:
        yield f"  {said(given.mass_g.typ, 'g'):>10}  {given.name.lower()}  {given.joins}"
    yield ""
    for operation in shown.operations:
        yield f"  {operation.minutes.typ:>6.0f} min  {operation.title}"
    for end in shown.ends:
        yield ""
        yield from _of_end(end, said)
    yield ""
    said_of = (f"  {f.level}: {f.message} {f.remedy}" for f in shown.findings if f.level != "note")
    yield from dict.fromkeys(said_of)


def _of_end(end: EndView, said: Any) -> Iterator[str]:
    low, high = said(1000.0 * end.litres.lo, "ml"), said(1000.0 * end.litres.hi, "ml")
    yield f"  {end.label}: {low} to {high}"
    jars = ", ".join(f"{j.count} × {j.name}" for j in end.expected.jars) or "no jars"
    part = f", and {said(end.expected.part_ml, 'ml')} besides" if end.expected.part_kind else ""
    yield f"    {jars}{part}; kept: {end.keep}"
    if end.brix is not None:
        sharp = f", pH {end.ph.lo:.1f} to {end.ph.hi:.1f}" if end.ph else ""
        yield f"    {end.brix.lo:.1f} to {end.brix.hi:.1f} °Bx{sharp}"
    if end.process is not None:
        time = end.process
        yield f"    {time.minutes} min in boiling water, {time.source}, row {time.row}"
    if end.keep != "shelf" or end.process is not None:
        days = end.life
        yield f"    at its best for {days.days_lo:g} to {days.days_hi:g} days"
