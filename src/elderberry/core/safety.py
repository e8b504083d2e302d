"""Judging: every stop, caution and note that stands on a flow in a kitchen."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from elderberry.core import jars
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.rules import Facts, standing

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
    return verdict([*stops, *standing(facts_of(flow, kitchen))])


def facts_of(flow: Draft, kitchen: Kitchen) -> Facts:
    """What the rules ask of a flow; jars count that are packed and in stock."""
    load, packed = flow.load, flow.packing.jars if flow.packing else {}
    litres = max(float(flow.lots[k].volume_ml.typ) for k in flow.current) / 1000.0
    return Facts(
        operations=frozenset(operation.kind for operation in flow.operations),
        fruits=frozenset({load.fruit_key}),
        closures=frozenset(jars.kind(k).closure for k in packed if k in kitchen.jar_stock),
        keep=load.keep,
        ingredients={k: grams / litres for k, grams in load.ingredients_g.items()},
        said=load.said,
    )
