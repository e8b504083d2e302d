"""What clients send about how everything is kept safe."""

from __future__ import annotations

from elderberry.api.sent.base import Sent


class NightlyPut(Sent):
    """Whether a backup is made every night."""

    nightly: bool
