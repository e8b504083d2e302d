"""Clocks across midnight, the change to summer time and back, and the turn of the year."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.errors import Refusal
from elderberry.services.cooking import batch_view, batches, steps
from elderberry.services.cooking.folder import Folder, folder_of
from elderberry.services.cooking.step_shown import StepView
from elderberry.services.day import stove, today
from elderberry.services.notes import notes
from elderberry.services.who import Who
from tests.factories import forget, household, reading, request

VIENNA = ZoneInfo("Europe/Vienna")
NIGHTS = {
    "the clocks go forward": datetime(2026, 3, 29, 0, 20, tzinfo=UTC),
    "the clocks go back": datetime(2026, 10, 25, 0, 20, tzinfo=UTC),
    "midnight": datetime(2026, 9, 30, 21, 40, tzinfo=UTC),
    "the year turns": datetime(2026, 12, 31, 22, 40, tzinfo=UTC),
}


class Night:
    """A batch that is worked on from a moment on."""

    def __init__(self, orm: Orm, who: Who, began: datetime) -> None:
        self.orm, self.who, self.began = orm, who, began
        self.batch = batches.start(orm, who, request(), began)

    def at(self, minutes: float) -> datetime:
        """So many minutes after it began."""
        return self.began + timedelta(minutes=minutes)

    @property
    def folder(self) -> Folder:
        """The batch as it stands."""
        forget(self.orm)
        return folder_of(self.orm, self.who, self.batch.id)

    def step(self, key: str) -> StepView:
        """A step as Cook shows it."""
        return next(s for s in batch_view.of(self.folder).steps if s.key == key)

    def do(
        self, key: str, minutes: float, act: Callable[[steps.Change], None] = steps.start
    ) -> None:
        """Do something at a step."""
        steps.change(self.orm, self.who, self.batch.id, self.step(key).id, self.at(minutes), act)

    def finish(self, key: str, minutes: float, **said: object) -> None:
        """Finish a step with what was said."""
        done = steps.Finish(**said)  # type: ignore[arg-type]
        self.do(key, minutes, lambda made: steps.finish(made, done))


@pytest.fixture(params=NIGHTS)
def night(orm: Orm, request: pytest.FixtureRequest) -> Night:
    """A batch on a night whose clock does something."""
    return Night(orm, household(orm), NIGHTS[str(request.param)])


def to_the_canner(night: Night) -> None:
    """Steam, heat, fill, and the full boil in minute 60."""
    night.do("steam_juice-1", 0)
    night.finish("steam_juice-1", 30, readings=(reading("volume_ml", 2000, "jug"),))
    night.finish("heat_to", 40, readings=(reading("temp_c", 89, "thermometer"),))
    night.finish("fill", 48, jars=(steps.JarEntry("pint", 4),))
    night.do("process-1", 50)
    night.do("process-1", 60, lambda made: steps.boil(made, reached=True))


def test_a_timer_takes_its_minutes_whatever_the_clock_on_the_wall_does(night: Night) -> None:
    night.do("steam_juice-1", 0)
    step = night.step("steam_juice-1")
    assert step.due_at == night.at(step.minutes.typ)
    slot = next(iter(today.hob(night.orm, night.who, night.at(10))))
    assert slot.due_at == step.due_at


def test_no_clock_shortens_a_tested_time(night: Night) -> None:
    to_the_canner(night)
    minutes = night.step("process-1").minutes.typ
    with pytest.raises(Refusal, match="minutes"):
        night.finish("process-1", 60 + minutes - 1)
    night.finish("process-1", 60 + minutes)
    assert night.step("process-1").phase == "done"


def test_seals_are_looked_at_twelve_true_hours_later(night: Night) -> None:
    to_the_canner(night)
    night.finish("process-1", 80)
    assert night.step("seal_check").opens_at == night.at(80 + 12 * 60)
    early = stove.view(night.orm, night.who, night.at(80 + 12 * 60 - 1))
    assert not [i for i in early.ready if i.role == "check"]
    open_ = stove.view(night.orm, night.who, night.at(80 + 12 * 60 + 1))
    assert [i for i in open_.ready if i.role == "check"]


@pytest.mark.parametrize(
    ("early", "left"), [(0.5, "0 h 01 min"), (60, "1 h 01 min"), (121, "2 h 02 min")]
)
def test_too_early_a_look_says_how_long_is_left(night: Night, early: float, left: str) -> None:
    to_the_canner(night)
    night.finish("process-1", 80)
    with pytest.raises(Refusal, match=left):
        night.finish("seal_check", 80 + 12 * 60 - early, others_held=True)


def test_what_is_due_first_stands_in_front(orm: Orm) -> None:
    who, began = household(orm), NIGHTS["the clocks go back"]
    long, short = Night(orm, who, began), Night(orm, who, began)
    long.do("steam_juice-1", 0)
    long.finish("steam_juice-1", 61, readings=(reading("volume_ml", 2000, "jug"),))
    long.do("heat_to", 62)
    short.do("steam_juice-1", 63)
    shown = stove.view(orm, who, began + timedelta(minutes=64)).on
    assert [i.batch_id for i in shown] == [long.batch.id, short.batch.id]


def test_a_season_is_that_of_the_kitchens_own_calendar(orm: Orm) -> None:
    night = Night(orm, household(orm), datetime(2026, 12, 31, 23, 10, tzinfo=UTC))
    to_the_canner(night)
    night.finish("process-1", 80)
    night.finish("seal_check", 80 + 13 * 60, others_held=True)
    assert [s.name for s in notes.view(orm, night.who).seasons] == ["2027"]
    assert night.began.astimezone(VIENNA).year == 2027
