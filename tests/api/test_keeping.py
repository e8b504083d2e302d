"""Backups, archive and calendar over the API: who may, and what comes."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from zipfile import ZipFile

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient

from elderberry.api.settings import CannotKeep
from elderberry.formats import archive
from tests.api.conftest import Kitchen, Many

MADE = datetime(2026, 11, 28, 3, tzinfo=UTC)


class Cupboard:
    """A place for backups that a test fills."""

    def __init__(self) -> None:
        self.folder = Path("/srv/backups")
        self.nightly, self.full = False, False
        self.there: list[datetime] = []

    def every_night(self, *, on: bool) -> None:
        self.nightly = on

    def newest(self) -> datetime | None:
        return max(self.there, default=None)

    def make(self, now: datetime) -> None:
        if self.full:
            raise CannotKeep("No backup was made: the disk is full.")
        self.there.append(MADE)


@pytest.fixture
def cupboard(app: FastAPI) -> Iterator[Cupboard]:
    """The application keeps backups there."""
    there, usual = Cupboard(), app.state.settings
    app.state.settings = replace(usual, backups=there)
    yield there
    app.state.settings = usual


def test_the_page_says_when_the_last_backup_was_made(here: Kitchen, cupboard: Cupboard) -> None:
    first = here.client.get("/api/keeping").json()
    assert first == {
        "backups": True, "newest": None, "nightly": False, "folder": "/srv/backups",
        "feed_since": None,
    }  # fmt: skip
    made = here.client.post("/api/keeping/backup").json()
    assert datetime.fromisoformat(made["newest"]) == MADE
    assert here.client.put("/api/keeping/nightly", json={"nightly": True}).json()["nightly"]
    cupboard.full = True
    refused = here.client.post("/api/keeping/backup")
    assert refused.status_code == 409
    assert "the disk is full" in refused.text


def test_without_a_place_for_backups_it_says_so(here: Kitchen) -> None:
    assert here.client.get("/api/keeping").json()["backups"] is False
    refused = here.client.post("/api/keeping/backup")
    assert refused.status_code == 409
    assert "looked after elsewhere" in refused.text


def test_an_archive_is_the_whole_household(many: Many) -> None:
    with many.client() as client:
        answer = client.get("/api/keeping/archive.zip")
    assert answer.status_code == 200
    found = archive.read(io.BytesIO(answer.content))
    assert found.counts["household"] == 1
    assert found.counts["place"] > 0
    assert "readme.txt" in ZipFile(io.BytesIO(answer.content)).namelist()


def test_a_calendar_is_fetched_from_its_address_until_it_is_withdrawn(
    here: Kitchen, app: FastAPI
) -> None:
    file = here.client.get("/api/keeping/calendar.ics")
    assert file.headers["content-type"].startswith("text/calendar")
    address = here.client.post("/api/keeping/feed").json()["path"]
    program = TestClient(app, base_url=str(here.client.base_url))
    assert program.get(address).text.startswith("BEGIN:VCALENDAR")
    assert program.get("/api/feeds/guessed.ics").status_code == 404
    assert here.client.get("/api/keeping").json()["feed_since"]
    assert here.client.delete("/api/keeping/feed").status_code == 204
    assert program.get(address).status_code == 404


@pytest.mark.parametrize("at", ["/api/keeping/calendar.ics", "/api/keeping"])
def test_asked_at_once_again_it_is_the_same_kind_of_file(here: Kitchen, at: str) -> None:
    first, second = (here.client.get(at) for _ in range(2))
    assert first.headers["content-type"] == second.headers["content-type"]
