"""Steps of a method, and the operations that they become when they are laid out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from elderberry.core.errors import CoreError
from elderberry.core.estimates import Estimate
from elderberry.core.flow.kinds import kind
from elderberry.core.quantities import System
from elderberry.core.wording import worded


@dataclass(frozen=True)
class Step:
    """One step of a method: its kind, what it takes and gives by name, and what was chosen."""

    key: str
    kind: str
    takes: tuple[str, ...]
    gives: tuple[str, ...]
    params: Mapping[str, Any] = field(default_factory=dict)

    def chosen(self, name: str) -> Any:
        """The value of a choice or number: what was said, else the kind's default.

        Raises:
            CoreError: this kind of step has no such choice.
        """
        if name in self.params:
            return self.params[name]
        what = kind(self.kind)
        if name in what.options:
            return what.options[name].default
        raise CoreError(f"{self.kind} has no choice called {name}")

    def effect(self, name: str, usual: float) -> float:
        """What the choices of this step make of a figure: factors multiply, sums start at usual.

        A name that ends in _sum adds up; every other one multiplies.
        """
        total = usual
        for choice in kind(self.kind).choices:
            option = choice.option(str(self.chosen(choice.key)))
            if name in option.effects:
                total = (
                    total + option.effects[name]
                    if name.endswith("_sum")
                    else (total * option.effects[name])
                )
        return total


@dataclass(frozen=True)
class Operation:
    """One step of a flow: lots in, lots out, minutes, station and its own figures."""

    key: str
    kind: str
    minutes: Estimate
    takes: tuple[str, ...]
    gives: tuple[str, ...]
    params: Mapping[str, Any] = field(default_factory=dict)
    step: str = ""
    """The step of the method that it belongs to."""
    holds_l: Estimate | None = None
    """What stands in its vessel at once [L]."""

    @property
    def text(self) -> Mapping[str, str]:
        """Title, look_for, before and then, in plain words with this step's figures."""
        return self.told()

    def told(self, system: System = "metric") -> Mapping[str, str]:
        """The same in the units of a kitchen."""
        what = kind(self.kind)
        figures = {**what.usual, **self.params}
        return {k: worded(v, figures, system) for k, v in what.words.items()}


def about(minutes: float, lo: float = 0.7, hi: float = 1.5) -> Estimate:
    """Minutes of work with the range that hands and heat make of them.

    >>> about(10).hi
    15.0
    """
    return Estimate(lo * minutes, minutes, hi * minutes)


def wait_minutes(hours: float) -> Estimate:
    """A wait of so many hours [min]: it may be a little shorter, and longer does little harm.

    >>> wait_minutes(1.0).typ
    60.0
    """
    return Estimate(54.0 * hours, 60.0 * hours, 84.0 * hours)
