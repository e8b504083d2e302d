"""Judging: every stop, caution and note that stands on a flow in a kitchen."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING

from elderberry.core import jars
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.rules import rules

if TYPE_CHECKING:
    from elderberry.core.kitchen import Kitchen
    from elderberry.core.operations import Draft


def judge(flow: Draft, kitchen: Kitchen, stops: Iterable[Finding] = ()) -> Verdict:
    """Every finding on a flow, each with its place in it, stops first.

    Args:
        flow: the flow as laid out.
        kitchen: where it happens.
        stops: what looking up the tested time has already refused.

    Source: data/rules.toml.
    """
    kinds = {operation.kind for operation in flow.operations}
    standing = [f for rule in rules().values() for f in rule.standing(kinds, flow.load.fruit_key)]
    return verdict([*stops, *standing, *_closures(flow, kitchen)])


def _closures(flow: Draft, kitchen: Kitchen) -> Iterator[Finding]:
    """What stands on jars whose lids are not those the times were tested with."""
    if flow.packing is None or flow.process_time is None:
        return
    used = {jars.kind(k).closure for k in flow.packing.jars if k in kitchen.jar_stock}
    for rule in rules().values():
        if rule.kind == "closure" and used & set(rule.closures):
            yield rule.finding("fill")
