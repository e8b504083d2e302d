"""How long this kitchen takes, against what was planned: read by the next plan."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from sqlalchemy.orm import Session as Orm

from elderberry.core import pace
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.standing import Standing
from elderberry.core.flow.kinds import kind
from elderberry.core.pace import PRIOR_SIGMA, Pace
from elderberry.services.who import Who
from elderberry.store import Operation, PaceSeen, furniture, queries

MOST = 40
"""Of so many of the newest finished steps of a role a plan learns."""
TICKED_OFF_MIN = 1.0
"""What took less was only ticked off [min]."""
BY_THE_CLOCK = "minutes"
"""A goal of boiling down whose time nobody can be slower than."""


def here(orm: Orm, who: Who) -> dict[str, Pace]:
    """The pace of each role in this kitchen."""

    def learned() -> dict[str, Pace]:
        seen = queries.paces_seen(orm, who.household_id, PRIOR_SIGMA, MOST)
        return {role: pace.learn(role, ratios) for role, ratios in seen.items()}

    return furniture.reckoned(orm, (PaceSeen,), (who.household_id, "paces"), learned)


def seen_in(
    operations: Sequence[Operation], standing: Standing, chosen: Mapping[str, str]
) -> Iterator[tuple[str, float]]:
    """What a batch teaches: how long each step took over what it was planned with before anything
    had been learned.

    chosen: what each step of its method boils down to, by its key.
    """
    for operation in operations:
        what, state = kind(operation.kind), standing.states[operation.id]
        if what.role not in PRIOR_SIGMA or state.phase is not Phase.DONE or operation.minutes <= 0:
            continue
        if chosen.get(str(operation.params.get("step"))) == BY_THE_CLOCK:
            continue
        since = state.clock_from if what.boil else state.started_at
        if since is None or state.finished_at is None:
            continue
        took = (state.finished_at - since).total_seconds() / 60.0
        if took >= TICKED_OFF_MIN:
            planned = operation.minutes / float(operation.params.get("pace", 1.0))
            yield what.role, took / planned
