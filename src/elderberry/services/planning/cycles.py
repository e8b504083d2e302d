"""What this household's freeze dryer has run, for the hours of its next load."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.standing import Standing
from elderberry.core.drying.freeze_dry import Cycle
from elderberry.core.flow.kinds import kind
from elderberry.services.who import Who
from elderberry.store import CycleSeen, Operation, furniture, queries

MOST = 40
"""Of so many of the newest loads a plan learns."""
LEAST_H, MOST_H = 2.0, 120.0
"""What took less was only ticked off, and what took more was forgotten in the machine [h]."""


def here(orm: Orm, who: Who) -> tuple[Cycle, ...]:
    """The newest loads of this machine, the oldest first."""

    def read() -> tuple[Cycle, ...]:
        seen = queries.cycles_seen(orm, who.household_id, MOST)
        return tuple(
            Cycle(r.water_kg, r.thickness_mm, r.sugar_share, r.frozen, r.hours) for r in seen
        )

    return furniture.reckoned(orm, (CycleSeen,), (who.household_id, "cycles"), read)


def seen_in(operations: Sequence[Operation], standing: Standing) -> Iterator[Cycle]:
    """The loads of a batch that are over, as long as each took."""
    for operation in operations:
        state = standing.states[operation.id]
        done = kind(operation.kind).role == "freeze_dry" and state.phase is Phase.DONE
        if not done or state.started_at is None or state.finished_at is None:
            continue
        hours = (state.finished_at - state.started_at).total_seconds() / 3600.0
        if LEAST_H <= hours <= MOST_H:
            told = operation.params
            yield Cycle(
                float(told["tray_water_kg"]), float(told["mm"]), float(told["sugar_share"]),
                bool(told["frozen"]), hours,
            )  # fmt: skip
