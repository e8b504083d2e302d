"""Trying Elderberry hard: a private installation under load, killed, fuzzed, with a big cellar.

`./elderberry check` runs it. Each part measures figures against their limits; nothing is left
behind.
"""

from __future__ import annotations

from elderberry.trial.check import run

__all__ = ["run"]
