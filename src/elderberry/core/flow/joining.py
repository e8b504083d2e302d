"""Where everything that goes into a flow joins it, unless a method or a cook has said so."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from elderberry.core import materials, yields
from elderberry.core.errors import DoesNotConnect
from elderberry.core.flow.inputs import Input
from elderberry.core.flow.kinds import DRIES, kind, of_role
from elderberry.core.flow.lots import WORKED_ON
from elderberry.core.flow.steps import Step
from elderberry.core.flow.wiring import START, Steps, feeding, fills, find, lot_kinds, made

EARLY = frozenset({"start", "simmer"})


def joined(steps: Steps, inputs: Sequence[Input]) -> Steps:
    """The steps with everything that goes in: what no step takes by name joins where it should.

    What is said of a step, of an end by its filling, or of a time, decides. Else a second fruit is
    worked on with the first; water goes where fruit is cooked or covered, in place of the step's
    own, and what sweetens and is weighed where a step puts in sugar; spice, leaves and peel go
    where something simmers or steeps, or are warmed with the juice and strained out, as is fruit
    that no step works on, or lie on the tray with what dries; and anything else is stirred in
    before the ends part.

    Args:
        steps: of a method.
        inputs: what goes in, in its order.

    Raises:
        DoesNotConnect: it is to join a step that the flow does not have.
    """
    taken = {lot for s in steps for lot in s.takes}
    kinds = {i.key: i.lot_kind for i in inputs}
    stirred: dict[str, list[str]] = {}
    scenting: list[str] = []
    off_heat: list[str] = []
    for given in (i for i in inputs if i.key not in taken):
        at = _takes_it(steps, given, kinds)
        if at is not None and given.lot_kind in WORKED_ON and given.amount.how != "amount":
            steps = _before(steps, at, of_role("join"), [given.key])
        elif at is not None:
            steps = _with(steps, at, given.key)
        elif (given.scents or given.lot_kind == "fruit") and not given.step:
            (off_heat if given.where == "off_heat" else scenting).append(given.key)
        else:
            called = None if given.step or given.where == "off_heat" else _called_for(steps, given)
            place = called.key if called else _place(steps, given.step)
            stirred.setdefault(place, []).append(given.key)
    steps = _scented(steps, scenting, of_role("scent"), kinds)
    steps = _scented(steps, off_heat, OFF_HEAT, kinds)
    stirs = of_role("join")
    for place, names in stirred.items():
        at = find(steps, place)
        if lot_kinds(steps, kinds).get(at.takes[0]) in kind(stirs).takes:
            steps = _before(steps, at, stirs, names)
        else:
            for name in names:
                steps = _with(steps, find(steps, place), name)
    return steps


OFF_HEAT = "infuse_off"
"""The kind of step in which something stands in what was taken off the heat."""


def _scented(steps: Steps, scenting: Sequence[str], scent: str, kinds: Mapping[str, str]) -> Steps:
    """The steps with what only scents: in a liquid, or in the jar with whole fruit."""
    if not scenting:
        return steps
    at = _before_jars(steps)
    raw = any(at.takes[0] in s.gives and kind(s.kind).packs_raw for s in steps)
    if kind(at.kind).role in DRIES:
        for name in scenting:
            steps = _with(steps, at, name)
        return steps
    if not raw and lot_kinds(steps, kinds).get(at.takes[0]) in kind(scent).takes:
        return _before(steps, at, scent, scenting)
    for name in scenting:
        steps = _with(steps, fills(steps)[0], name)
    return steps


def _takes_it(steps: Steps, given: Input, kinds: Mapping[str, str]) -> Step | None:
    """The step that an input joins as it is; None where it has to be stirred or warmed in."""
    if given.step:
        return None
    if given.where == "jar":
        return fills(steps)[0]
    if given.lot_kind in WORKED_ON:
        return _works_on(steps, given, kinds)
    called = _called_for(steps, given)
    if called is not None and given.lot_kind in kind(called.kind).joins:
        return called
    return _cooks(steps, given)


def _cooks(steps: Steps, given: Input) -> Step | None:
    """The first step that cooks such a thing. Water is what fruit is cooked in or covered with, and
    not what others have left of it, where nobody says when it goes in or how much it makes.
    """
    cooks = next((s for s in steps if kind(s.kind).cooks), None)
    covers = given.amount.target == "cover"
    later = given.where in {"strained", "off_heat"}
    if given.where in EARLY or covers or (given.scents and not later):
        return cooks
    if given.material != "water" or given.where or given.thins:
        return None
    wet = next((s for s in steps if (k := kind(s.kind)).cooks or k.covers or k.gets_juice), None)
    return wet if wet and (kind(wet.kind).cooks or kind(wet.kind).covers) else None


def _called_for(steps: Steps, given: Input) -> Step | None:
    """The first step that such a thing goes into, or before, where nothing else was said."""
    if given.where or given.scents or given.thins:
        return None
    weighed = given.amount.how == "amount"
    sweet = weighed and materials.kind_of(given.material) in materials.SWEET
    return next(
        (s for s in steps if given.lot_kind in (k := kind(s.kind)).calls_for
         or (sweet and k.sweetens)), None,
    )  # fmt: skip


def _works_on(steps: Steps, given: Input, kinds: Mapping[str, str]) -> Step | None:
    """The first step along the main line that works on such a thing."""
    if not _juiced_so(steps, given):
        return None
    known = lot_kinds(steps, kinds)
    for step in steps:
        what = kind(step.kind)
        works = what.cooks or (what.many and not what.into_jars and not what.joins)
        alike = known.get(step.takes[0] if step.takes else "") in {given.lot_kind, "fruit", "mash"}
        if works and alike and given.lot_kind in what.takes:
            return step
    return None


def _juiced_so(steps: Steps, given: Input) -> bool:
    """Whether the way of a flow gets juice out of such a thing, as far as anybody knows."""
    way = next((w for s in steps if (w := kind(s.kind).way)), "")
    if not way or given.fruit is None or given.lot_kind != "fruit":
        return True
    return yields.prior(way, given.fruit) is not None


def _with(steps: Steps, at: Step, name: str) -> Steps:
    """The steps, one of which takes something more."""
    return tuple(replace(s, takes=(*s.takes, name)) if s.key == at.key else s for s in steps)


def _place(steps: Steps, said: str) -> str:
    """The step before which something is stirred in: one that was said, or that of all ends."""
    if not said:
        return _before_jars(steps).key
    end = next((f for f in fills(steps) if f.key == said), None)
    return said if end is None else (*feeding(steps, end), end)[0].key


def _before_jars(steps: Steps) -> Step:
    """The step before which everything goes in: where ends part or drying begins, else what the
    jars are ready by.
    """
    first = next(iter(fills(steps)), None)
    if first is None:
        raise DoesNotConnect("A flow ends in a filling of jars or bottles.")
    parting = next((s for s in steps if kind(s.kind).role in CLOSES), None)
    return parting or (*feeding(steps, first), first)[0]


CLOSES = frozenset({"part", *DRIES})
"""Roles of steps that nothing is stirred in after, unless somebody says so."""


def _before(steps: Steps, step: Step, what: str, joining: Sequence[str]) -> Steps:
    """The steps with something put into what one of them takes."""
    given = {lot for s in steps for lot in s.gives}
    at, beside = steps.index(step), [n for n in step.takes[1:] if n not in given]
    row = {"kind": what, "takes": [*(t for t in step.takes if t not in beside), *joining]}
    new = made(row, step.takes[0] if step.takes else START, steps)
    later = replace(step, takes=(new.gives[0], *beside))
    return (*steps[:at], new, later, *steps[at + 1 :])
