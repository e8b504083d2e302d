"""What every body that clients send has in common."""

from __future__ import annotations

import unicodedata
from datetime import date
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, field_validator

Words = Annotated[str, Field(max_length=120)]
Key = Annotated[str, Field(min_length=1, max_length=40)]
Day = Annotated[date, Field(strict=False, ge=date(1990, 1, 1), le=date(2199, 12, 31))]
"""A day somebody may have picked on; what it is really taken for is up to whoever asks."""
Id = Annotated[int, Field(ge=0, le=2**63 - 1)]


def written(value: Any) -> Any:
    """What was sent, once every word of it is known to be one.

    Raises:
        ValueError: a control code or half a letter in it.
    """
    if isinstance(value, str):
        kinds = {unicodedata.category(letter) for letter in value if letter not in "\n\r\t"}
        if kinds & {"Cc", "Cs"}:
            raise ValueError("There are letters in it that nobody can write or read")
        return value if kinds - {"Cf", "Zs"} else ""
    if isinstance(value, list):
        return [written(v) for v in value]
    if isinstance(value, dict):
        return {written(k): written(v) for k, v in value.items()}
    return value


class Sent(BaseModel):
    """Unknown fields, numbers that are no numbers, and words that are no words are refused.

    Strict, so that no true or false passes for a figure.
    """

    model_config = ConfigDict(
        extra="forbid", allow_inf_nan=False, str_strip_whitespace=True, strict=True
    )

    _words = field_validator("*", mode="before")(written)
