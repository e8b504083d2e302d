"""Batches and what happens at their steps."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Depends
from sqlalchemy.orm import Session as Orm

from elderberry.api.deps import Now, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.batches import (
    AcidAdded,
    Correction,
    Ending,
    FilledNow,
    MishapSaid,
    MoreTime,
    Note,
    ReadingCreate,
    SealSeen,
    StepFinish,
    TraceFile,
    WaterBack,
)
from elderberry.api.sent.plans import PlanCreate
from elderberry.services.cooking import (
    batch_list,
    batch_view,
    batches,
    beside,
    endings,
    mishaps,
    steps,
    traces,
    undo,
)
from elderberry.services.cooking.folder import find
from elderberry.services.cooking.shown import BatchLine, BatchView, BesideView
from elderberry.services.shelf import lives
from elderberry.services.who import Who

router = APIRouter(prefix="/api/batches", tags=["batches"], route_class=ChangeRoute)


@router.get("")
def list_batches(orm: Transaction, who: Person, before: int | None = None) -> list[BatchLine]:
    """Batches under way, then finished ones from the newest on; or finished ones before one."""
    return batch_list.lines(orm, who, before)


@router.post("", status_code=201)
def start_batch(sent: PlanCreate, orm: Transaction, who: Person, now: Now) -> BatchView:
    """Start a batch from a plan; jars that go into it leave their shelf."""
    begun = batches.start(orm, who, sent.request(), now)
    if sent.from_jars:
        jars, told = lives.Which(sent.from_jars), lives.Told(to=begun.code)
        lives.do(orm, who, now, jars, "went_in", told)
    return batch_view.view(orm, who, begun)


@router.get("/{batch_id}")
def batch(batch_id: int, orm: Transaction, who: Person) -> BatchView:
    """A batch as Cook shows it."""
    return batch_view.view(orm, who, find(orm, who, batch_id))


@router.get("/{batch_id}/beside/{other_id}")
def beside_another(batch_id: int, other_id: int, orm: Transaction, who: Person) -> BesideView:
    """What a batch is otherwise than another, ranked by what it explains."""
    return beside.beside(orm, who, batch_id, other_id)


@router.post("/{batch_id}/ending")
def ending(batch_id: int, sent: Ending, orm: Transaction, who: Person, now: Now) -> BatchView:
    """Chill or freeze what was meant for the shelf."""
    folder = endings.divert(orm, who, batch_id, sent.keep, now)
    return batch_view.of(folder)


@router.post("/{batch_id}/give-up")
def give_up(batch_id: int, orm: Transaction, who: Person, now: Now) -> BatchView:
    """Give a mistaken batch up before its jars are filled."""
    folder = endings.give_up(orm, who, batch_id, now)
    return batch_view.of(folder)


@router.post("/{batch_id}/take-back")
def take_back(batch_id: int, orm: Transaction, who: Person, now: Now) -> BatchView:
    """Take the newest press back, within ten seconds of it."""
    return batch_view.of(undo.take_back(orm, who, batch_id, now))


@dataclass
class AtStep:
    """A step that a change is about, with everything the change needs."""

    orm: Orm
    who: Who
    now: datetime
    batch_id: int
    step_id: int

    def make(self, act: Callable[[steps.Change], None]) -> BatchView:
        """Make the change and answer with the batch as it is then."""
        folder = steps.change(self.orm, self.who, self.batch_id, self.step_id, self.now, act)
        return batch_view.of(folder)


def at_step(batch_id: int, step_id: int, orm: Transaction, who: Person, now: Now) -> AtStep:
    """The step of the path."""
    return AtStep(orm, who, now, batch_id, step_id)


Step = Annotated[AtStep, Depends(at_step, scope="function")]
STEP = "/{batch_id}/steps/{step_id}"


@router.post(f"{STEP}/start")
def start_step(step: Step) -> BatchView:
    """Start a step; its timer runs from now, or from the boil where it counts from there."""
    return step.make(steps.start)


@router.post(f"{STEP}/finish")
def finish_step(sent: StepFinish, step: Step) -> BatchView:
    """Finish a step with what was read and done."""
    return step.make(lambda made: steps.finish(made, sent.finish()))


@router.post(f"{STEP}/more-time")
def more_time(sent: MoreTime, step: Step) -> BatchView:
    """Add minutes to a timer, with the reason."""
    return step.make(lambda made: steps.lengthen(made, sent.minutes, sent.reason))


@router.post(f"{STEP}/boil-reached")
def boil_reached(step: Step) -> BatchView:
    """A full boil: the time starts, from zero."""
    return step.make(lambda made: steps.boil(made, reached=True))


@router.post(f"{STEP}/boil-lost")
def boil_lost(step: Step) -> BatchView:
    """The boil was lost: the time so far does not count."""
    return step.make(lambda made: steps.boil(made, reached=False))


@router.post(f"{STEP}/again")
def again(step: Step) -> BatchView:
    """Heat once more what has cooled since; it is not in its jars yet."""
    return step.make(steps.repeat)


@router.post(f"{STEP}/put-cold")
def put_cold(step: Step) -> BatchView:
    """What the step gave goes into the refrigerator now."""
    return step.make(steps.put_cold)


@router.post(f"{STEP}/acid")
def acid(sent: AcidAdded, step: Step) -> BatchView:
    """Acid stirred in beyond the plan, as a reading over the limit asks for."""
    return step.make(lambda made: steps.acid(made, sent.line))


@router.post(f"{STEP}/water-back")
def water_back(sent: WaterBack, step: Step) -> BatchView:
    """Water stirred back into a pot that was boiled too far."""
    return step.make(lambda made: steps.water_back(made, sent.line))


@router.post(f"{STEP}/mishaps")
def mishap(sent: MishapSaid, step: Step) -> BatchView:
    """Something went wrong at the step; its figures follow."""
    return step.make(lambda made: mishaps.happened(made, sent.what, sent.said()))


@router.post(f"{STEP}/filled-now")
def filled_now(sent: FilledNow, step: Step) -> BatchView:
    """A canner load is filled only now, from the pot that was kept hot."""
    return step.make(lambda made: steps.filled_now(made, sent.temp_c))


@router.post(f"{STEP}/notes")
def note(sent: Note, step: Step) -> BatchView:
    """The pan refilled, or a problem."""
    return step.make(lambda made: steps.note(made, sent.what, sent.words))


@router.post(f"{STEP}/readings")
def reading(sent: ReadingCreate, step: Step) -> BatchView:
    """A reading at a running step."""
    return step.make(lambda made: steps.take_reading(made, sent.entry()))


@router.post(f"{STEP}/trace")
def trace(sent: TraceFile, step: Step) -> BatchView:
    """A probe's file at a step: its curve, and whether a bath kept its boil."""
    return step.make(lambda made: traces.take(made, sent.text, sent.probe))


@router.post(f"{STEP}/readings/{{reading_id}}/correct")
def correct(reading_id: int, sent: Correction, step: Step) -> BatchView:
    """Put a mistaken reading right; the old one stays on record."""
    return step.make(lambda made: steps.correct(made, reading_id, sent.value))


@router.post(f"{STEP}/jars/{{jar_id}}/seal")
def seal(jar_id: int, sent: SealSeen, step: Step) -> BatchView:
    """A jar of a seal check, looked at."""
    return step.make(lambda made: steps.look_at_seal(made, jar_id, sent.held, sent.way_on))
