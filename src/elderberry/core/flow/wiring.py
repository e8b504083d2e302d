"""How the steps of a method hang together: names, and checks.

A step takes lots by name and gives lots by name; what goes into the flow is there by its name from
the start (Inputs: the kind of lot by the name of each).
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from itertools import count
from typing import Any

from elderberry.core.errors import DoesNotConnect
from elderberry.core.flow.kinds import Kind, Number, kind, kinds
from elderberry.core.flow.steps import Step

Steps = tuple[Step, ...]
Inputs = Mapping[str, str]
"""What goes into a flow: the kind of lot by its name, the main one first."""
START = "fruit"
ONE_FRUIT: Inputs = {START: "fruit"}
MOST_STEPS = 40


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
        step = made(row, main, steps)
        steps.append(step)
        main = step.gives[0] if step.gives else main
    return tuple(steps)


def made(row: Mapping[str, Any], main: str, before: Sequence[Step]) -> Step:
    """A step from its row: what it does not say is as usual at this place of the flow.

    Raises:
        DoesNotConnect: a kind that does not exist.
    """
    name = str(row["kind"])
    if name not in kinds():
        raise DoesNotConnect(f"There is no step called {name}.")
    what = kind(name)
    taken = {START, *(lot for s in before for lot in s.gives)}
    gives = row.get("gives") or [own_name(lot, taken) for lot, _ in what.gives]
    takes = row.get("takes") or ([main] if what.takes else [])
    keys = {s.key for s in before}
    key = str(row.get("key") or own_name(name, keys))
    return Step(key, name, tuple(takes), tuple(gives), dict(row.get("params") or {}))


def own_name(name: str, taken: Iterable[str]) -> str:
    """The name itself, or with a number where it is taken.

    >>> own_name("honey", ()), own_name("honey", {"honey"})
    ('honey', 'honey_2')
    """
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


def lot_kinds(steps: Steps, inputs: Inputs = ONE_FRUIT) -> dict[str, str]:
    """The kind of every lot by its name, what came in first."""
    found = dict(inputs)
    for step in steps:
        found.update(_given(step, found))
    return found


def _given(step: Step, known: Mapping[str, str]) -> dict[str, str]:
    """The kind of each lot that a step gives; a blank one is of the kind of what it took first."""
    first = known.get(step.takes[0], "") if step.takes else ""
    what = kind(step.kind)
    return {name: what.given(place, first) for place, name in enumerate(step.gives)}


def fills(steps: Steps) -> Steps:
    """The fillings that a flow ends in.

    >>> [s.key for s in fills(wire([{"kind": "steam_juice"}, {"kind": "fill"}]))]
    ['fill']
    """
    return tuple(s for s in steps if kind(s.kind).role == "fill")


def check(steps: Steps, inputs: Inputs = ONE_FRUIT) -> Steps:
    """The steps, once they are known to hang together.

    Every lot is made before it is taken and taken once, each step takes kinds of lot that it can
    work with, choices and figures are possible, nothing comes between the heat and the jars, and
    it all ends in at least one filling.

    Raises:
        DoesNotConnect: the first place where it does not, in words.
    """
    if len(steps) > MOST_STEPS:
        raise DoesNotConnect(f"A flow has at most {MOST_STEPS} steps.")
    known, used, hot = dict(inputs), set[str](), set[str]()
    for step in steps:
        _check_place(step, hot)
        _check_takes(step, known, used)
        _check_params(step)
        used.update(step.takes)
        for name, what in _given(step, known).items():
            if name in known:
                raise DoesNotConnect(f"Two lots of the flow are called {name}.")
            known[name] = what
        if kind(step.kind).role == "heat":
            hot.update(step.gives)
    if not fills(steps):
        raise DoesNotConnect("A flow ends in a filling of jars or bottles.")
    return steps


def verb(step: Step) -> str:
    """What a step does, in a word that begins a sentence."""
    return kind(step.kind).words["verb"].capitalize()


def _check_place(step: Step, hot: Iterable[str]) -> None:
    """Only what a method holds, with all its lots, and nothing between the heat and the jars."""
    what, said = kind(step.kind), verb(step)
    if not what.does or what.follows or not (what.in_editor or what.into_jars):
        raise DoesNotConnect(f"“{said}” comes by itself and is not put into a flow.")
    if not what.into_jars and set(step.takes) & set(hot):
        raise DoesNotConnect(f"“{said}” would let it cool: hot juice goes straight into the jars.")
    if len(step.gives) != len(what.gives):
        raise DoesNotConnect(f"“{said}” gives {len(what.gives)} lots, not {len(step.gives)}.")


def _check_takes(step: Step, known: Mapping[str, str], used: Iterable[str]) -> None:
    what, said = kind(step.kind), verb(step)
    if what.takes and not step.takes:
        raise DoesNotConnect(f"“{said}” has nothing left to work on.")
    if what.takes and not what.many and len(step.takes) > 1:
        raise DoesNotConnect(f"“{said}” takes one thing at a time: pour together first.")
    for place, lot in enumerate(step.takes):
        if lot not in known:
            raise DoesNotConnect(f"“{said}” takes {lot}, which is not there yet.")
        _check_kind(what, said, known[lot], place)
        if lot in used or lot in step.takes[:place]:
            raise DoesNotConnect(f"{lot.capitalize()} is used up before “{said}”.")


def _check_kind(what: Kind, said: str, lot_kind: str, place: int) -> None:
    can = what.takes if place == 0 or not what.joins else what.joins
    if can and lot_kind not in can:
        raise DoesNotConnect(f"“{said}” takes {' or '.join(can)}, not {lot_kind}.")


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
    sound = isinstance(value, (int, float)) and not isinstance(value, bool)
    if not (sound and number.lo <= value <= number.hi):  # type: ignore[operator]
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


def feeding(steps: Steps, fill: Step) -> Steps:
    """The steps that only an end's filling is made ready by: its heating, in their order.

    >>> rows = wire([{"kind": "steam_juice"}, {"kind": "heat_to"}, {"kind": "fill"}])
    >>> [s.kind for s in feeding(rows, rows[-1])]
    ['heat_to']
    """
    found, wanted = [], set(fill.takes)
    for step in reversed(steps):
        if set(step.gives) & wanted and kind(step.kind).into_jars:
            found.append(step)
            wanted.update(step.takes)
    return tuple(reversed(found))
