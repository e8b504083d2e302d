"""What goes into a flow and its ends as they are stored, and back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from elderberry.core.estimates import Estimate, Evidence
from elderberry.core.flow.inputs import Amount, Brief, End, Input


def row_of_input(given: Input) -> dict[str, Any]:
    """An input as it is stored: input_of(row_of_input(i)) == i."""
    return asdict(given)


def input_of(row: Mapping[str, Any]) -> Input:
    """An input from its stored form.

    Raises:
        Unknown: a material or form that is not listed.
        CoreError: an amount that says nothing.
    """
    amount = dict(row["amount"])
    if "spread" in amount:
        amount["spread"] = tuple(amount["spread"])
    return Input(
        **{
            **row,
            "amount": Amount(**{**amount, "grams": estimate_of(amount.get("grams"))}),
            "brix": estimate_of(row.get("brix")),
            "ph": estimate_of(row.get("ph")),
        }
    )


def row_of_end(end: End) -> dict[str, Any]:
    """An end as it is stored: end_of(row_of_end(e)) == e."""
    return {**asdict(end), "jar_kinds": list(end.jar_kinds)}


def end_of(row: Mapping[str, Any]) -> End:
    """An end from its stored form, or as a method names it."""
    return End(**{**row, "jar_kinds": tuple(row.get("jar_kinds", ()))})


def estimate_of(stored: Mapping[str, Any] | None) -> Estimate | None:
    """A stored estimate.

    >>> estimate_of({"lo": 1, "typ": 2, "hi": 3, "evidence": "typical"}).typ
    2
    """
    if stored is None:
        return None
    return Estimate(stored["lo"], stored["typ"], stored["hi"], Evidence(stored["evidence"]))


def row_of_brief(brief: Brief) -> dict[str, Any]:
    """A brief as it is stored: brief_of(row_of_brief(b)) == b."""
    return {
        "inputs": [row_of_input(i) for i in brief.inputs],
        "ends": [row_of_end(e) for e in brief.ends],
        "said": sorted(brief.said),
        "loads": brief.loads,
    }


def brief_of(row: Mapping[str, Any]) -> Brief:
    """A brief from its stored form.

    Raises:
        Unknown: a material or form that is not listed.
        CoreError: an amount that says nothing.
    """
    return Brief(
        inputs=tuple(input_of(i) for i in row["inputs"]),
        ends=tuple(map(end_of, row["ends"])),
        said=frozenset(row["said"]),
        loads=row["loads"],
    )
