"""The stove: what could begin says where its station is busy, and is not pressed there."""

from __future__ import annotations

import pytest
from sqlalchemy.orm import Session as Orm

from elderberry.services.day import stove
from elderberry.services.errors import Conflict
from elderberry.store import Station, queries
from tests.factories import Work, household, minutes, request


def test_a_step_whose_only_station_is_busy_says_so(orm: Orm) -> None:
    who = household(orm)
    first, second = Work(orm, who, request()), Work(orm, who, request("aronia", 3, ph=3.4))
    for juicer in queries.all_of(orm, who.household_id, Station):
        if juicer.kind == "juicer" and juicer.id != first.folder.operations[0].station_id:
            orm.delete(juicer)
    orm.flush()
    before = {i.batch_id: i for i in stove.view(orm, who, minutes(0)).ready}
    assert before[second.batch.id].press == "start"
    first.do("steam_juice-1", 1)
    waits = {i.batch_id: i for i in stove.view(orm, who, minutes(2)).ready}[second.batch.id]
    assert waits.press == ""
    assert "is still busy with: Steam load 1" in waits.words
    with pytest.raises(Conflict, match="is still busy with: Steam load 1"):
        second.do("steam_juice-1", 3)
    first.finish("steam_juice-1", 70)
    after = {i.batch_id: i for i in stove.view(orm, who, minutes(71)).ready}
    assert after[second.batch.id].press == "start"
