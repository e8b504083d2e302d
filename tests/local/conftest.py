"""Servers and programs are killed here, and what is killed closes nothing."""

from __future__ import annotations

import gc
import warnings
from collections.abc import Iterator

import pytest


@pytest.fixture(autouse=True)
def _swept() -> Iterator[None]:
    """What a kill left open is swept up by the test that left it."""
    yield
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", ResourceWarning)
        gc.collect()
