"""A request with everything the core needs to plan it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from elderberry.core import plan as core
from elderberry.core import yields
from elderberry.core.flow.inputs import Brief
from elderberry.core.kitchen import Kitchen
from elderberry.core.method import Method
from elderberry.core.process import OwnProcess
from elderberry.services.planning.asked import PlanRequest


@dataclass(frozen=True)
class Prepared:
    """A request with everything the core needs to plan it."""

    request: PlanRequest
    """What was asked, with what is known of the lots that it is taken from."""
    chosen: Method
    own: bool
    brief: Brief
    kitchen: Kitchen
    observations: Mapping[str, Sequence[yields.Observation]]
    own_processes: Mapping[str, OwnProcess]
    runs_out: str = ""
    """What runs out first, by the name of the input, where it is as much as there is."""

    def plan(self) -> core.Plan:
        """The plan."""
        return self.of(self.brief, self.kitchen)

    def stands_for(self, place: int) -> str:
        """What the method puts in that a line takes the place of, by its name; empty for none."""
        name = self.brief.inputs[place].key
        return name if any(i.key == name for i in self.chosen.inputs) else ""

    def of(self, brief: Brief, kitchen: Kitchen) -> core.Plan:
        """The plan of another amount, in a kitchen with other jars."""
        return core.plan(self.chosen, brief, kitchen, self.observations, self.own_processes)
