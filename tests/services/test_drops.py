"""What a drop on a cold plate tells of a pot: its strength, as long as nobody has read it."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.core.flow.inputs import End
from elderberry.core.texture import POURS
from elderberry.services.cooking import batch_view, steps
from elderberry.services.planning.asked import GoesIn, PlanRequest
from tests.factories import Work, household, reading


def cooked(orm: Orm, name: str, *read: steps.ReadingEntry) -> float:
    """How strong a syrup counts as that was cooked, and read so when it was done."""
    ends = (End("fill", "chill", ("half_pint",)),)
    asked = PlanRequest((GoesIn(line="400 ml water"),), ends, method_key="strong_syrup")
    work = Work(orm, household(orm, name), asked)
    work.do("stir_in", 1)
    work.finish("stir_in", 5)
    work.do("cook_syrup", 6)
    work.do("cook_syrup", 10, lambda made: steps.boil(made, reached=True))
    work.finish("cook_syrup", 24, readings=read)
    shown = batch_view.of(work.folder)
    syrup = next(s for s in shown.steps if s.key == "cook_syrup").gives[0]
    found = next(lot for lot in shown.lots if lot.key == syrup).now.brix
    assert found is not None
    return found.typ


def drop(does: str) -> steps.ReadingEntry:
    """What a drop did on the plate."""
    return reading("drop", next(n for n, (_, words) in enumerate(POURS) if does in words), "plate")


def test_a_thicker_drop_is_a_stronger_syrup(orm: Orm) -> None:
    thin, thick = drop("cream"), drop("set honey")
    assert cooked(orm, "Here", thin) < cooked(orm, "There", thick) - 1


@pytest.mark.parametrize(
    "read", [reading("volume_ml", 800, "jug"), reading("brix", 70, "refractometer")]
)
def test_what_was_read_tells_more_than_a_drop(orm: Orm, read: steps.ReadingEntry) -> None:
    assert cooked(orm, "Here", read) == cooked(orm, "There", read, drop("cream"))
