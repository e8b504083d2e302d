"""What the application is started with."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

from argon2 import PasswordHasher
from sqlalchemy import Engine


@dataclass(frozen=True)
class Settings:
    """engine: the database; demo: sign-in by one button; web: the built page, if there is one."""

    engine: Engine
    demo: bool = False
    web: Path | None = None
    hasher: PasswordHasher = field(default_factory=PasswordHasher)
    secure_cookie: bool = False
