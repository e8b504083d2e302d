"""Edits of a flow: each returns new steps, or says why the flow would come apart."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any

from elderberry.core.errors import DoesNotConnect
from elderberry.core.flow.kinds import Kind, kind, kinds, of_role
from elderberry.core.flow.steps import Step
from elderberry.core.flow.wiring import (
    ONE_FRUIT,
    Inputs,
    Steps,
    check,
    feeding,
    fills,
    find,
    lot_kinds,
    made,
    verb,
)


def may_follow(steps: Steps, lot: str, inputs: Inputs = ONE_FRUIT) -> list[str]:
    """Kinds of step that could be done to a lot, so that the flow still hangs together."""
    possible = []
    for key, what in kinds().items():
        if what.in_editor and what.takes and what.role not in {"join", "scent"}:
            try:
                insert(steps, lot, key, inputs)
            except DoesNotConnect:
                continue
            possible.append(key)
    return possible


def insert(steps: Steps, lot: str, kind_key: str, inputs: Inputs = ONE_FRUIT) -> Steps:
    """The steps with one more after a lot; what used the lot now uses what the new step gives.

    Where nothing used the lot, a branch begins: its juice joins what goes into the jars.

    Raises:
        DoesNotConnect: there is no such lot, or the flow would come apart.
    """
    at = _made_at(steps, lot, inputs)
    before, after = steps[: at + 1], steps[at + 1 :]
    new = made({"kind": kind_key, "takes": [lot]}, lot, steps)
    if any(lot in s.takes for s in steps):
        main = new.gives[0]
        after = tuple(_taking(s, lot, (main,)) for s in after)
    elif kind(kind_key).gives[0][1] == "juice":
        joint = next((i for i, s in enumerate(after) if _pours_together(s)), None)
        if joint is not None:
            joins = after[joint]
            joined = replace(joins, takes=(*joins.takes, new.gives[0]))
            return check((*before, *after[:joint], new, joined, *after[joint + 1 :]), inputs)
    return check((*before, new, *after), inputs)


HALF = {"share": 50.0}
"""How much of it is taken off where a lot is parted, until somebody says otherwise [%]."""


def part(steps: Steps, lot: str, inputs: Inputs = ONE_FRUIT) -> Steps:
    """The steps with half of a lot taken off for an end of its own, heated and filled as the first.

    Raises:
        DoesNotConnect: there is no such lot, or it is nothing that is poured apart.
    """
    before = insert(steps, lot, of_role("part"), inputs)
    split = next(s for s in before if s not in steps and kind(s.kind).role == "part")
    found = [replace(s, params=HALF) if s is split else s for s in before]
    first, on = fills(steps)[0], split.gives[1]
    for like in (*feeding(steps, first), first):
        found.append(made({"kind": like.kind, "takes": [on], "params": like.params}, on, found))
        on = found[-1].gives[0]
    return check(tuple(found), inputs)


WAYS: Mapping[str, tuple[str, ...]] = {
    "steam_juice": ("steam_juice",),
    "simmer": ("simmer", "drain"),
    "press": ("mash", "press"),
    "squeeze": ("squeeze",),
    "drain_cold": ("mash", "drain_cold"),
    "steep": ("steep",),
    "blend": ("blend", "drain"),
}
"""Steps that each way of juicing takes from fruit to juice, by the one that it is called after."""
LIKE = frozenset({"extracting", "clearing"})
"""Families of steps that stand for each other where they take and give the same."""


def may_replace(
    steps: Steps, key: str, inputs: Inputs = ONE_FRUIT
) -> dict[str, tuple[str, ...]]:  # fmt: skip
    """What could be done instead of a step, so that the flow still hangs together.

    The steps that it takes by the one it is called after: another of its kind, or another way
    from the fruit to the juice in the place of all steps of this one.
    """
    found, step = {}, find(steps, key)
    for other in kinds():
        try:
            found[other], _ = _in_its_place(steps, step, other, inputs)
        except DoesNotConnect:
            continue
    return found


def swap(steps: Steps, key: str, kind_key: str, inputs: Inputs = ONE_FRUIT) -> Steps:
    """The steps with one of them done otherwise, and with what that needs before and after it.

    Raises:
        DoesNotConnect: there is no such step, or nothing hangs together with the other kind.
    """
    _, swapped = _in_its_place(steps, find(steps, key), kind_key, inputs)
    return swapped


def _in_its_place(
    steps: Steps, step: Step, other: str, inputs: Inputs
) -> tuple[tuple[str, ...], Steps]:
    """The first chain of steps by which another kind can stand for a step, and the steps with it.

    Raises:
        DoesNotConnect: none hangs together.
    """
    why = None
    for chain, place in _instead(steps, step, other, inputs):
        try:
            return chain, _swapped(steps, place, chain, inputs)
        except DoesNotConnect as wrong:
            why = wrong
    words = f"“{kind(other).words['verb']}” cannot stand for “{verb(step)}”."
    raise why or DoesNotConnect(words)


def _instead(
    steps: Steps, step: Step, other: str, inputs: Inputs
) -> Iterator[tuple[tuple[str, ...], Steps]]:
    """How another kind could stand for a step: a chain of kinds, and the steps it replaces."""
    known, what = lot_kinds(steps, inputs), kind(other)
    if not (step.takes and step.gives and kind(step.kind).in_editor) or other == step.kind:
        return
    came, gives = known[step.takes[0]], known[step.gives[0]]
    whole = came == "fruit" and len(WAYS.get(other, ())) > 1
    if (
        not whole
        and _alike(what, kind(step.kind))
        and came in what.takes
        and what.given(0, came) == gives
    ):
        yield (other,), (step,)
    run = _run(steps, step, known)
    if run and other in WAYS and tuple(s.kind for s in run) != WAYS[other]:
        yield WAYS[other], run


def _alike(one: Kind, other: Kind) -> bool:
    """Whether two kinds are of one family, and leave the same things over."""
    family, of_other = (k.does.partition(".")[0] for k in (one, other))
    sides, of_others = ([what for _, what in k.gives[1:]] for k in (one, other))
    return one.in_editor and family in LIKE and family == of_other and sides == of_others


def _run(steps: Steps, step: Step, known: Mapping[str, str]) -> Steps:
    """The steps from fruit to juice that a step is one of; none where it is none of such."""
    run = [step]
    while known[run[0].takes[0]] == "mash":
        before = next((s for s in steps if s.gives and s.gives[0] == run[0].takes[0]), None)
        if before is None or not before.takes:
            return ()
        run.insert(0, before)
    while known[run[-1].gives[0]] == "mash":
        after = next((s for s in steps if run[-1].gives[0] in s.takes), None)
        if after is None or not after.gives or not kind(after.kind).in_editor:
            return ()
        run.append(after)
    ends = known[run[0].takes[0]], known[run[-1].gives[0]]
    return tuple(run) if ends == ("fruit", "juice") else ()


def _swapped(steps: Steps, gone: Steps, chain: tuple[str, ...], inputs: Inputs) -> Steps:
    """The steps with a chain in the place of some that follow each other."""
    others = tuple(s for s in steps if s not in gone)
    new: list[Step] = []
    takes, joined = gone[0].takes, [lot for s in gone[1:] for lot in s.takes[1:]]
    if joined:
        raise DoesNotConnect("What joins on the way would be left over.")
    for what in chain:
        one = made({"kind": what, "takes": list(takes)}, takes[0], (*others, *new))
        new.append(one)
        takes = one.gives[:1]
    at, last = steps.index(gone[0]), gone[-1].gives[0]
    before = [s for s in steps[:at] if s not in gone]
    after = [_taking(s, last, takes) for s in steps[at:] if s not in gone]
    rest = (*before, *new, *after)
    given = {lot for s in new for lot in s.gives}
    for side in (lot for s in gone for lot in s.gives[1:] if lot not in given):
        rest = _without(rest, side)
    return check(tuple(rest), inputs)


def remove(steps: Steps, key: str, inputs: Inputs = ONE_FRUIT) -> Steps:
    """The steps without one: what used its lots uses what it took, or goes without.

    Raises:
        DoesNotConnect: there is no such step, or the flow would come apart.
    """
    step = find(steps, key)
    if not kind(step.kind).in_editor:
        raise DoesNotConnect(f"“{verb(step)}” has to stay.")
    rest = tuple(s for s in steps if s.key != key)
    if step.gives:
        main, known = step.gives[0], lot_kinds(steps, inputs)
        joint = next((s for s in rest if main in s.takes and len(s.takes) > 1), None)
        fits = joint is None or all(known[lot] in kind(joint.kind).takes for lot in step.takes)
        rest = tuple(_taking(s, main, step.takes if fits else ()) for s in rest)
        for side in step.gives[1:]:
            rest = _without(rest, side)
    return check(rest, inputs)


def move(steps: Steps, key: str, later: bool, inputs: Inputs = ONE_FRUIT) -> Steps:
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
        return move(steps, maker.key, later=True, inputs=inputs)
    following = next((s for s in steps if step.gives and step.gives[0] in s.takes), None)
    if following is None or not following.gives or kind(following.kind).role == "fill":
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
    return check(tuple(swapped), inputs)


def choose(steps: Steps, key: str, params: Mapping[str, Any], inputs: Inputs = ONE_FRUIT) -> Steps:
    """The steps with other choices and figures at one of them.

    Raises:
        DoesNotConnect: there is no such step, choice or figure.
    """
    step = find(steps, key)
    changed = replace(step, params={**step.params, **params})
    return check(tuple(changed if s.key == key else s for s in steps), inputs)


def _pours_together(step: Step) -> bool:
    """Whether a step takes several juices."""
    what = kind(step.kind)
    return what.many and "juice" in what.takes


def _made_at(steps: Steps, lot: str, inputs: Inputs) -> int:
    """Position of the step that gives a lot; −1 for what came in."""
    if lot in inputs:
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
