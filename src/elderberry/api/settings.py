"""What the application is started with."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

from sqlalchemy import Engine

from elderberry.services.household.hashing import Hashing

LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})


@dataclass(frozen=True)
class Settings:
    """engine: the database; demo: sign-in by one button; web: the built page, if there is one;
    hosts: names under which it may be asked.
    """

    engine: Engine
    demo: bool = False
    web: Path | None = None
    hashing: Hashing = field(default_factory=Hashing)
    secure_cookie: bool = False
    hosts: frozenset[str] = LOOPBACK
