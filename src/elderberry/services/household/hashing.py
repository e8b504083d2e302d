"""Passwords: hashed and checked with Argon2id, a few at a time."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cached_property

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from elderberry.services.errors import Busy

AT_ONCE = 2
"""Hashes made at a time: each takes 64 MiB and four threads."""
MOST_WAITING = 6
"""How many may wait for theirs; whoever comes then is asked to come again."""
COME_AGAIN_S = 2


class Hashing:
    """Argon2id, bounded in memory and number.

    hasher: what it is done with; Argon2's own figures where nothing is said.
    """

    def __init__(self, hasher: PasswordHasher | None = None) -> None:
        self._hasher = hasher or PasswordHasher()
        self._turns = threading.BoundedSemaphore(AT_ONCE)
        self._here = threading.BoundedSemaphore(AT_ONCE + MOST_WAITING)

    @cached_property
    def _nobodys(self) -> str:
        """What is verified against where nobody has the name; made when it is first needed."""
        return self._hasher.hash("nobody")

    def hash(self, password: str) -> str:
        """A password as it is kept.

        Raises:
            Busy: too many wait already.
        """
        with self._turn():
            return self._hasher.hash(password)

    def matches(self, stored: str | None, password: str) -> bool:
        """Whether a password is the one that was kept; where none was, it takes as long.

        Raises:
            Busy: too many wait already.
        """
        with self._turn():
            nobodys = self._nobodys  # for whoever comes first, so that no name is told from none
            try:
                self._hasher.verify(stored or nobodys, password)
            except (VerificationError, InvalidHashError):
                return False
            return stored is not None

    @contextmanager
    def _turn(self) -> Iterator[None]:
        if not self._here.acquire(blocking=False):
            raise Busy("Many sign in at this moment. Try again in a few seconds.", COME_AGAIN_S)
        try:
            with self._turns:
                yield
        finally:
            self._here.release()
