"""How the steps of a method hang together: names, checks, and edits of a flow.

A step takes lots by name and gives lots by name. An edit returns new steps, or says why the flow
would come apart.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from itertools import count
from typing import Any

from elderberry.core.errors import DoesNotConnect
from elderberry.core.flow.draft import Step
from elderberry.core.flow.kinds import Number, kind, kinds

Steps = tuple[Step, ...]
START = "fruit"
MOST_STEPS = 40
INTO_JARS = frozenset({"heat_to", "sterilise", "fill"})
"""Kinds of step that every method ends in; what comes after them follows by itself."""


def wire(rows: Iterable[Mapping[str, Any]]) -> Steps:
    """Steps from rows that name a kind and, where it is not the usual, keys, takes and gives.

    A step takes what the one before it gives, unless it says otherwise.

    Raises:
        DoesNotConnect: a kind that does not exist.

    >>> [s.takes for s in wire([{"kind": "mash"}, {"kind": "drain"}])]
    [('fruit',), ('mash',)]
    """
    steps: list[Step] = []
    main = START
    for row in rows:
        step = _step(row, main, steps)
        steps.append(step)
        main = step.gives[0] if step.gives else main
    return tuple(steps)


def _step(row: Mapping[str, Any], main: str, before: Sequence[Step]) -> Step:
    name = str(row["kind"])
    if name not in kinds():
        raise DoesNotConnect(f"There is no step called {name}.")
    what = kind(name)
    taken = {START, *(lot for s in before for lot in s.gives)}
    gives = row.get("gives") or [_fresh(lot, taken) for lot, _ in what.gives]
    takes = row.get("takes") or ([main] if what.takes else [])
    keys = {s.key for s in before}
    key = str(row.get("key") or _fresh(name, keys))
    return Step(key, name, tuple(takes), tuple(gives), dict(row.get("params") or {}))


def _fresh(name: str, taken: Iterable[str]) -> str:
    """The name itself, or with a number where it is taken."""
    if name not in taken:
        return name
    return next(f"{name}_{n}" for n in count(2) if f"{name}_{n}" not in taken)


def rows_of(steps: Steps) -> list[dict[str, Any]]:
    """Steps as they are stored: wire(rows_of(steps)) == steps.

    >>> rows_of(wire([{"kind": "mash"}]))[0]["gives"]
    ['mash']
    """
    return [
        {
            "key": s.key, "kind": s.kind, "takes": list(s.takes), "gives": list(s.gives),
            "params": dict(s.params),
        }
        for s in steps
    ]  # fmt: skip


def lot_kinds(steps: Steps, start: str = "fruit") -> dict[str, str]:
    """The kind of every lot by its name, what came in first."""
    found = {START: start}
    for step in steps:
        for name, (_, what) in zip(step.gives, kind(step.kind).gives, strict=True):
            found[name] = what
    return found


def check(steps: Steps, start: str = "fruit") -> Steps:
    """The steps, once they are known to hang together.

    Every lot is made before it is taken and taken once, each step takes kinds of lot that it can
    work with, choices and figures are possible, nothing comes between the heat and the jars, and
    it all ends in one filling.

    Raises:
        DoesNotConnect: the first place where it does not, in words.
    """
    if len(steps) > MOST_STEPS:
        raise DoesNotConnect(f"A flow has at most {MOST_STEPS} steps.")
    known, used = {START: start}, set[str]()
    heated = False
    for step in steps:
        _check_place(step, heated)
        heated = heated or step.kind == "heat_to"
        _check_takes(step, known, used)
        _check_params(step)
        used.update(step.takes)
        for name, (_, what) in zip(step.gives, kind(step.kind).gives, strict=True):
            if name in known:
                raise DoesNotConnect(f"Two lots of the flow are called {name}.")
            known[name] = what
    if sum(s.kind == "fill" for s in steps) != 1:
        raise DoesNotConnect("A flow ends in one filling of jars or bottles.")
    return steps


def _verb(step: Step) -> str:
    return kind(step.kind).words["verb"].capitalize()


def _check_place(step: Step, heated: bool) -> None:
    """Only what a method holds, with all its lots, and nothing between the heat and the jars."""
    what, verb = kind(step.kind), _verb(step)
    if not what.in_editor and step.kind not in INTO_JARS:
        raise DoesNotConnect(f"“{verb}” comes by itself and is not put into a flow.")
    if heated and step.kind not in INTO_JARS:
        raise DoesNotConnect(f"“{verb}” would let it cool: hot juice goes straight into the jars.")
    if len(step.gives) != len(what.gives):
        raise DoesNotConnect(f"“{verb}” gives {len(what.gives)} lots, not {len(step.gives)}.")


def _check_takes(step: Step, known: Mapping[str, str], used: Iterable[str]) -> None:
    what, verb = kind(step.kind), _verb(step)
    if what.takes and not step.takes:
        raise DoesNotConnect(f"“{verb}” has nothing left to work on.")
    if what.takes and not what.many and len(step.takes) > 1:
        raise DoesNotConnect(f"“{verb}” takes one thing at a time: pour together first.")
    for lot in step.takes:
        if lot not in known:
            raise DoesNotConnect(f"“{verb}” takes {lot}, which is not there yet.")
        if what.takes and known[lot] not in what.takes:
            can = " or ".join(what.takes)
            raise DoesNotConnect(f"“{verb}” takes {can}, not {known[lot]}.")
        if lot in used:
            raise DoesNotConnect(f"{lot.capitalize()} is used up before “{verb}”.")


def _check_params(step: Step) -> None:
    what = kind(step.kind)
    for name, value in step.params.items():
        option = what.options.get(name)
        if option is None:
            raise DoesNotConnect(f"“{what.words['verb']}” has no {name}.")
        if isinstance(option, Number):
            _check_number(option, value)
        elif value not in {o.value for o in option.options}:
            raise DoesNotConnect(f"{option.label} cannot be {value}.")


def _check_number(number: Number, value: object) -> None:
    if number.word and value == number.word:
        return
    sound = isinstance(value, (int, float)) and number.lo <= value <= number.hi
    if not sound:
        raise DoesNotConnect(
            f"{number.label} lies between {number.lo:g} and {number.hi:g} {number.unit}."
        )


def find(steps: Steps, key: str) -> Step:
    """The step with this key.

    Raises:
        DoesNotConnect: the flow has none.
    """
    found = next((s for s in steps if s.key == key), None)
    if found is None:
        raise DoesNotConnect(f"The flow has no step called {key}.")
    return found


def may_follow(steps: Steps, lot: str, start: str = "fruit") -> list[str]:
    """Kinds of step that could be done to a lot, so that the flow still hangs together."""
    possible = []
    for key, what in kinds().items():
        if what.in_editor and what.takes:
            try:
                insert(steps, lot, key, start)
            except DoesNotConnect:
                continue
            possible.append(key)
    return possible


def insert(steps: Steps, lot: str, kind_key: str, start: str = "fruit") -> Steps:
    """The steps with one more after a lot; what used the lot now uses what the new step gives.

    Where nothing used the lot, a branch begins: its juice joins what goes into the jars.

    Raises:
        DoesNotConnect: there is no such lot, or the flow would come apart.
    """
    at = _made_at(steps, lot)
    before, after = steps[: at + 1], steps[at + 1 :]
    new = _step({"kind": kind_key, "takes": [lot]}, lot, steps)
    if any(lot in s.takes for s in steps):
        main = new.gives[0]
        after = tuple(_taking(s, lot, (main,)) for s in after)
    elif kind(kind_key).gives[0][1] == "juice":
        joint = next((i for i, s in enumerate(after) if kind(s.kind).many), None)
        if joint is not None:
            joins = after[joint]
            joined = replace(joins, takes=(*joins.takes, new.gives[0]))
            return check((*before, *after[:joint], new, joined, *after[joint + 1 :]), start)
    return check((*before, new, *after), start)


def remove(steps: Steps, key: str, start: str = "fruit") -> Steps:
    """The steps without one: what used its lots uses what it took, or goes without.

    Raises:
        DoesNotConnect: there is no such step, or the flow would come apart.
    """
    step = find(steps, key)
    if not kind(step.kind).in_editor:
        raise DoesNotConnect(f"“{_verb(step)}” has to stay.")
    rest = tuple(s for s in steps if s.key != key)
    if step.gives:
        main, known = step.gives[0], lot_kinds(steps, start)
        joint = next((s for s in rest if main in s.takes and len(s.takes) > 1), None)
        fits = joint is None or all(known[lot] in kind(joint.kind).takes for lot in step.takes)
        rest = tuple(_taking(s, main, step.takes if fits else ()) for s in rest)
        for side in step.gives[1:]:
            rest = _without(rest, side)
    return check(rest, start)


def move(steps: Steps, key: str, later: bool, start: str = "fruit") -> Steps:
    """The steps with one a place later or earlier along its own line.

    Raises:
        DoesNotConnect: it is the first or last that could be there, or the flow would come apart.
    """
    step = find(steps, key)
    if not later:
        maker = next(
            (s for s in steps if step.takes and step.takes[0] == (s.gives or ("",))[0]), None
        )
        if maker is None:
            raise DoesNotConnect("Nothing comes before it.")
        return move(steps, maker.key, later=True, start=start)
    following = next((s for s in steps if step.gives and step.gives[0] in s.takes), None)
    if following is None or not following.gives or following.kind == "fill":
        raise DoesNotConnect("Nothing can come before the jars.")
    first = _taking(following, step.gives[0], step.takes)
    second = replace(step, takes=(following.gives[0],))
    swapped = []
    for s in steps:
        if s.key == step.key:
            swapped.append(first)
        elif s.key == following.key:
            swapped.append(second)
        else:
            swapped.append(_taking(s, following.gives[0], (step.gives[0],)))
    return check(tuple(swapped), start)


def choose(steps: Steps, key: str, params: Mapping[str, Any], start: str = "fruit") -> Steps:
    """The steps with other choices and figures at one of them.

    Raises:
        DoesNotConnect: there is no such step, choice or figure.
    """
    step = find(steps, key)
    changed = replace(step, params={**step.params, **params})
    return check(tuple(changed if s.key == key else s for s in steps), start)


def _made_at(steps: Steps, lot: str) -> int:
    """Position of the step that gives a lot; −1 for what came in."""
    if lot == START:
        return -1
    for position, step in enumerate(steps):
        if lot in step.gives:
            return position
    raise DoesNotConnect(f"The flow has no lot called {lot}.")


def _taking(step: Step, old: str, new: tuple[str, ...]) -> Step:
    """A step that takes other lots in the place of one."""
    if old not in step.takes:
        return step
    takes = tuple(t for lot in step.takes for t in (new if lot == old else (lot,)))
    return replace(step, takes=takes)


def _without(steps: Steps, lot: str) -> Steps:
    """The steps without a lot, and without those that had nothing else to work on."""
    rest: list[Step] = []
    gone = {lot}
    for step in steps:
        takes = tuple(t for t in step.takes if t not in gone)
        if step.takes and not takes:
            gone.update(step.gives)
        else:
            rest.append(replace(step, takes=takes))
    return tuple(rest)
