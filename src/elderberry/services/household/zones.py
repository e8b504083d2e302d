"""Time zones by their name."""

from __future__ import annotations

from functools import cache
from zoneinfo import ZoneInfo, available_timezones

from elderberry.services.errors import FieldError


def zone(name: str) -> ZoneInfo:
    """The time zone of a name, which is one of those that the tz database lists.

    Raises:
        FieldError: there is none of that name.

    >>> zone("Europe/Vienna").key
    'Europe/Vienna'
    """
    if name not in _names():
        raise FieldError("/time_zone", f"There is no time zone {name}. Nothing was changed.")
    return ZoneInfo(name)


@cache
def _names() -> frozenset[str]:
    return frozenset(available_timezones())
