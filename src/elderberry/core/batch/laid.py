"""The flow of a batch as it was laid out last: anew only where something is otherwise by now."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeAlias

from elderberry.core import plan as plans
from elderberry.core.errors import CoreError
from elderberry.core.flow.draft import Forecasts
from elderberry.core.flow.inputs import Brief
from elderberry.core.flow.seen import Seen, StepSeen
from elderberry.core.kitchen import Kitchen
from elderberry.core.lately import Lately
from elderberry.core.method import Method
from elderberry.core.process import OwnProcess


@dataclass(frozen=True)
class ToLay:
    """All that the layout of a batch hangs on: how it was planned, where, and what was read."""

    method: Method
    brief: Brief
    kitchen: Kitchen
    own: Mapping[str, OwnProcess]
    seen: Mapping[str, Seen]
    done: Mapping[str, StepSeen]
    forecasts: Forecasts

    def plan(self) -> plans.Plan | None:
        """The flow laid out with it; None where it cannot be."""
        try:
            return plans.plan(
                self.method, self.brief, self.kitchen, own=self.own, seen=self.seen,
                done=self.done, forecasts=self.forecasts,
            )  # fmt: skip
        except CoreError:
            return None


LaidOut: TypeAlias = Lately[ToLay, plans.Plan | None]
"""What a batch was laid out with last, and what came of it: most presses change neither."""
