"""Methods: named flows, with where they come from."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import cache
from importlib import resources
from typing import Any

from elderberry.core import materials, tables, yields
from elderberry.core.errors import CannotTell, Unknown
from elderberry.core.flow import wiring
from elderberry.core.flow.inputs import End, Input, forms, lot_kind
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.rows import end_of, input_of, row_of_end, row_of_input
from elderberry.core.flow.said import input_of_line, own_key
from elderberry.core.flow.steps import Step
from elderberry.core.lines import read
from elderberry.core.quantities import System

EXAMPLES = ("damson", "gooseberry", "apple", "grapefruit", "hibiscus_dried")
"""Fruits by which a method is shown that was made for none in particular."""
AMOUNTS = {"dried": ("4 oz", "100 g"), "peel": ("1 lb", "500 g"), "powder": ("4 oz", "100 g")}
"""What a method is shown with whose fruit does not come by the basket."""
NO_FRUIT = "as_sold"
"""The form that a method without fruit begins with."""


@dataclass(frozen=True)
class Method:
    """A named flow into jars: its steps, for which fruit, and where it comes from."""

    key: str
    version: int
    name: str
    school: str
    evidence: str
    source: str
    steps: tuple[Step, ...]
    fruits: tuple[str, ...] = ()
    """Fruits it was made for; any fruit that can be juiced so where there are none."""
    natures: tuple[str, ...] = ()
    """What kind of fruit it asks for, where it is made for none in particular; any if none."""
    forms: tuple[str, ...] = ("whole", "frozen")
    begins: str = ""
    """The kind of lot that it begins with, where its forms do not say: added, such as sugar."""
    of: str = "sugar_white"
    """What it is shown by, where it begins with an ingredient."""
    inputs: tuple[Input, ...] = ()
    """What goes in besides what it begins with: shares of it, and targets."""
    ends: tuple[End, ...] = ()
    """Ends that are kept otherwise than on the shelf, or have a name, where nobody says else."""
    adapted_from: str = ""
    note: str = ""
    rank: int = 50
    """How plain it is: the lowest is what is usually done."""

    @property
    def begins_with(self) -> wiring.Inputs:
        """The kind of lot by the name of everything that goes in, the main one first."""
        first = self.forms[0]
        usual = "water" if first == NO_FRUIT else forms()[first].lot_kind
        return {wiring.START: self.begins or usual, **{i.key: i.lot_kind for i in self.inputs}}

    @property
    def way(self) -> str:
        """Its way of juicing, by which yields are learned; empty where it has none."""
        return next((w for s in self.steps if (w := kind(s.kind).way)), "")

    @property
    def stations(self) -> frozenset[str]:
        """Kinds of station that it cannot do without; empty jars are boiled on any ring."""
        kinds = (kind(s.kind) for s in self.steps)
        return frozenset(what.station for what in kinds if what.role != "sterilise")

    @property
    def shown_by(self) -> materials.Fruit | None:
        """The fruit that it is shown by: one it was made for or suits; None where it has none."""
        if self.forms[0] == NO_FRUIT:
            return None
        fruits = materials.fruits()
        keys = (*self.fruits, *EXAMPLES, *fruits)
        return next(fruits[key] for key in keys if self.suits(fruits[key]))

    def example(self, system: System = "metric") -> str:
        """What it could begin with, as a line says it: a usual amount of a fruit it suits.

        >>> method("steamed_quince").example(), method("without_fruit").example()
        ('5 kg quince', '1 l water')
        """
        form, imperial, fruit = self.forms[0], system != "metric", self.shown_by
        if fruit is None and self.begins:
            name = materials.ingredient(self.of).name.lower()
            return f"{'1 lb' if imperial else '500 g'} {name}"
        if fruit is None:
            return "1 quart water" if imperial else "1 l water"
        name = fruit.name.lower()
        if form == "juice":
            return f"{'5 quarts' if imperial else '5 l'} {name} juice"
        plain = form in {"whole", "frozen"} or fruit.comes_dried
        amount = AMOUNTS.get(form, ("10 lb", "5 kg"))
        return f"{amount[not imperial]} {name}{'' if plain else f', {form}'}"

    def goes_in(self, asked: Sequence[Input], without: Collection[str] = ()) -> tuple[Input, ...]:
        """What goes in: what was asked for, then what the method puts in besides.

        What was asked for under a name of the method's own takes its place. So does what is the
        same thing, and nobody has said when it goes in: it takes on the name.

        Args:
            asked: what goes in, the main thing among it.
            without: names of what the method puts in and this time does not.
        """
        called = {i.key for i in asked}
        own = [i for i in self.inputs if i.key not in called]
        spoken_of = {lot for s in self.steps for lot in s.takes} | {i.amount.of for i in asked}
        found = []
        for given in asked:
            free = given.key not in spoken_of and not given.step and not given.where
            place = next((i for i in own if free and _same(i, given)), None)
            if place is None:
                found.append(given)
                continue
            own.remove(place)
            found.append(replace(given, key=place.key, step=place.step, where=place.where))
        return (*found, *(i for i in own if i.key not in without))

    def ends_for(self, asked: Collection[End]) -> tuple[End, ...]:
        """The ends that were asked for, and its own; what is not said of one is as it says.

        An end that nobody says anything of is kept on the shelf.
        """
        own = {e.key: e for e in self.ends}
        said = {e.key: _over(own.get(e.key, End(e.key)), e) for e in asked}
        return tuple((own | said).values()) or (End(),)

    def suits(self, fruit: materials.Fruit) -> bool:
        """Whether this fruit can be done so: it was made for it, or the figures are known."""
        if self.fruits:
            return fruit.key in self.fruits
        if self.natures and fruit.nature not in self.natures:
            return False
        if self.way == "steam" and fruit.steam_min is None:
            return False
        return not self.way or yields.prior(self.way, fruit) is not None


def _same(own: Input, given: Input) -> bool:
    """Whether two inputs are the same thing; of spice and leaves, by what they are called."""
    return _sort(own) == _sort(given) and (own.called == given.called or not given.scents)


def _sort(given: Input) -> tuple[str, str, bool]:
    """What sort of thing an input is: water to thin with is none to cook in."""
    return given.material, given.lot_kind, given.thins


def fits(chosen: Method, material: str, form: str) -> bool:
    """Whether a method can begin with a material in a form.

    >>> fits(method("steam_juiced"), "damson", "whole"), fits(method("caramel_syrup"), "damson", "")
    (True, False)
    """
    fruit = materials.fruits().get(material)
    if fruit is None:
        begins = chosen.begins_with[wiring.START]
        return NO_FRUIT in chosen.forms and begins == lot_kind(material)
    return form in chosen.forms and chosen.suits(fruit)


WITHOUT_FRUIT = "without_fruit"
"""The method of what no other begins with and is no fruit."""


def plainest(
    offered: Iterable[Method], material: str, form: str, lacks: frozenset[str] = frozenset()
) -> Method:
    """The plainest method that can begin with a material, and does with a kitchen's lacks if any.

    Args:
        offered: methods, the plainest first.
        material: of what a plan begins with.
        form: that it is in.
        lacks: stations that the kitchen has none of.

    Raises:
        CannotTell: none can.
        Unknown: the fruit is not listed.

    >>> plainest(methods().values(), "damson", "whole").key
    'steam_juiced'
    """
    suited = (m for m in offered if fits(m, material, form))
    found = min(suited, key=lambda m: bool(m.stations & lacks), default=None)
    if found is not None:
        return found
    if material in materials.ingredients():
        return method(WITHOUT_FRUIT)
    name = materials.fruit(material).name
    raise CannotTell(f"there is no method for {name} that is {form}")


def _over(own: End, asked: End) -> End:
    """An end with what is asked of it over what a method says of it."""
    said = {f.name: value for f in fields(End) if (value := getattr(asked, f.name))}
    return replace(own, **said)


@cache
def methods() -> dict[str, Method]:
    """The methods that ship with Elderberry, by key, the plainest first."""
    folder = resources.files("elderberry.core") / "data" / "methods"
    names = sorted(
        f.name.removesuffix(".toml") for f in folder.iterdir() if f.name.endswith(".toml")
    )
    made = [of_row(tables.document(f"methods/{name}")) for name in names]
    return {m.key: m for m in sorted(made, key=lambda m: (m.rank, len(m.inputs), m.name))}


def method(key: str) -> Method:
    """The method with this key.

    Raises:
        Unknown: there is no such method.

    >>> method("steam_juiced").way
    'steam'
    """
    try:
        return methods()[key]
    except KeyError:
        raise Unknown("method", key) from None


def unnamed(steps: wiring.Steps) -> Method:
    """Steps that nobody has given a name."""
    return Method("", 1, "Steps of your own", "as they are laid out", "yours", "this household",
                  steps)  # fmt: skip


def of_row(row: Mapping[str, Any]) -> Method:
    """A method from its stored form: lists become tuples and steps are wired.

    They are checked when a plan is laid out, and what is no longer said of a method is passed
    over, so that what was kept under older rules still opens.

    Raises:
        DoesNotConnect: a kind of step that does not exist.
    """
    known = {f.name for f in fields(Method)} - {"steps", "inputs", "ends"}
    plain: dict[str, Any] = {
        k: tuple(v) if isinstance(v, list) else v for k, v in row.items() if k in known
    }
    inputs: list[Input] = []
    for given in row.get("inputs", ()):
        inputs.append(_input(given, {i.key for i in inputs}))
    ends = tuple(map(end_of, row.get("ends", ())))
    return Method(**plain, steps=wiring.wire(row["steps"]), inputs=tuple(inputs), ends=ends)


def _input(row: Mapping[str, Any], taken: Collection[str]) -> Input:
    """Something that goes in besides: a line as one says it, or as it was stored."""
    if "line" not in row:
        return input_of(row)
    line = read(row["line"])
    return input_of_line(line, row.get("key") or own_key(line.called, taken))


def row_of(method: Method) -> dict[str, Any]:
    """A method as it is stored: of_row(row_of(method)) == method."""
    row = {f.name: getattr(method, f.name) for f in fields(Method)}
    lists = {k: list(v) for k, v in row.items() if isinstance(v, tuple)}
    return {
        **row, **lists, "steps": wiring.rows_of(method.steps),
        "inputs": [row_of_input(i) for i in method.inputs],
        "ends": [row_of_end(e) for e in method.ends],
    }  # fmt: skip
