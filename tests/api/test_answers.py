"""Nothing is found out twice while nothing has happened, and nothing old is ever told."""

from __future__ import annotations

import pytest

from elderberry.api import answers as module
from elderberry.api.answers import Answers, Question
from elderberry.services.once import Answered
from tests.api.conftest import Kitchen

ASKED = Question(1, "GET /api/today? ", 7)
TOLD = Answered(200, b"{}")


class Clock:
    """A clock that a test moves."""

    now = 100.0

    def __call__(self) -> float:
        """The seconds it shows."""
        return self.now


def test_an_answer_holds_for_a_moment() -> None:
    clock = Clock()
    kept = Answers(clock)
    assert kept.find(ASKED) is None
    kept.keep(ASKED, TOLD)
    clock.now += module.FOR_S
    assert kept.find(ASKED) == TOLD
    clock.now += 0.1
    assert kept.find(ASKED) is None


@pytest.mark.parametrize(
    "other",
    [Question(2, ASKED.what, 7), Question(1, "GET /api/hob? ", 7), Question(1, ASKED.what, 8)],
)
def test_it_is_of_one_person_one_question_and_what_had_happened(other: Question) -> None:
    kept = Answers()
    kept.keep(ASKED, TOLD)
    assert kept.find(other) is None


def test_there_is_an_end_to_what_is_kept(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(module, "MOST_BYTES", 250)
    kept = Answers()
    asked = [Question(n, "GET /", 1) for n in range(4)]
    for one in asked:
        kept.keep(one, Answered(200, b"x" * 100))
        kept.keep(one, Answered(200, b"x" * 100))
    assert [kept.find(one) is not None for one in asked] == [False, False, True, True]


def test_a_change_is_seen_at_once(here: Kitchen) -> None:
    assert here.client.get("/api/lots").json() == []
    assert here.client.get("/api/lots").json() == []
    here.client.post("/api/lots", json={"line": "3 kg damsons"})
    assert len(here.client.get("/api/lots").json()) == 1
    place = {"kind": "shelf", "name": "Attic", "temp_c": 12}
    before = len(here.client.get("/api/kitchen").json()["places"])
    here.client.post("/api/kitchen/places", json=place)
    assert len(here.client.get("/api/kitchen").json()["places"]) == before + 1


def test_what_is_asked_with_other_words_is_another_question(here: Kitchen) -> None:
    said = [
        here.client.post("/api/lines", json={"lines": [line]}).json()
        for line in ("3 kg damsons", "4 kg damsons", "3 kg damsons")
    ]
    assert said[0] == said[2] != said[1]


def test_another_household_hears_nothing_of_it(here: Kitchen, elsewhere: Kitchen) -> None:
    here.client.post("/api/lots", json={"line": "3 kg damsons"})
    assert len(here.client.get("/api/lots").json()) == 1
    assert elsewhere.client.get("/api/lots").json() == []
