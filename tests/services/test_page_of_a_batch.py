"""What the page of a batch shows of its lots and its steps."""

from __future__ import annotations

from sqlalchemy.orm import Session as Orm

from elderberry.services.cooking import batch_view, steps
from tests.factories import Work, household, reading, request


def test_how_the_figures_of_a_lot_are_known(orm: Orm) -> None:
    """The fruit was weighed; what comes of it is predicted until it is read."""
    work = Work(orm, household(orm), request())

    def known() -> dict[str, str]:
        lots = batch_view.view(orm, work.who, work.folder.batch).lots
        return {lot.key: lot.known for lot in lots}

    assert known()["fruit"] == "measured"
    assert known()["juice-1"] == "predicted"
    work.do("steam_juice-1", 1)
    work.finish("steam_juice-1", 60, readings=(reading("volume_ml", 1900, "jug"),))
    assert known()["juice-1"] == "measured"
    assert known()["pomace-1"] == "predicted"


def test_acid_goes_in_where_something_is_on_whose_acid_can_be_read(orm: Orm) -> None:
    work = Work(orm, household(orm), request())

    def may() -> set[str]:
        steps_ = batch_view.view(orm, work.who, work.folder.batch).steps
        return {s.key for s in steps_ if s.may_acidify}

    assert may() == set()
    work.do("steam_juice-1", 1)
    assert may() == {"steam_juice-1"}
    work.finish("steam_juice-1", 60)
    assert may() == set()
    work.do("heat_to", 66)
    assert may() == {"heat_to"}
    work.finish("heat_to", 80, readings=(reading("temp_c", 89, "thermometer"),))
    work.finish("fill", 90, jars=(steps.JarEntry("pint", 4),))
    work.do("process-1", 92)
    assert may() == set(), "what is in a jar is in it"
