"""What the application is started with."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import IO, Protocol

from sqlalchemy import Engine

from elderberry.services.household.archiving import Came
from elderberry.services.household.hashing import Hashing


class CannotKeep(Exception):
    """No backup could be made; the message says why and what to do."""


class Backups(Protocol):
    """Where backups are made, and whether every night."""

    folder: Path

    @property
    def nightly(self) -> bool:
        """Whether one is made every night."""

    def every_night(self, *, on: bool) -> None:
        """Make one every night, or no longer."""

    def newest(self) -> datetime | None:
        """When the newest was made."""

    def make(self, now: datetime) -> None:
        """Make one; raises CannotKeep."""

    def take_in(self, file: IO[bytes], now: datetime, hashing: Hashing) -> Came:
        """Put the household of an archive where there is none yet.

        Raises:
            CannotKeep: the file is no archive that can be taken in, or there is a household here.
        """


LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})


@dataclass(frozen=True)
class Settings:
    """engine: the database; demo: sign-in by one button; web: the built page, if there is one;
    hosts: names under which it may be asked; backups: where they are made, None where another
    looks after the database.
    """

    engine: Engine
    demo: bool = False
    web: Path | None = None
    hashing: Hashing = field(default_factory=Hashing)
    secure_cookie: bool = False
    hosts: frozenset[str] = LOOPBACK
    backups: Backups | None = None
