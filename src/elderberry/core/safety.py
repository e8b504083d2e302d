"""Judging: every stop, caution and note that stands on a flow in a kitchen."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import TYPE_CHECKING

from elderberry.core import jars
from elderberry.core.findings import Finding, Verdict, verdict
from elderberry.core.rules import Rule, rules

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
    found = [f for rule in rules().values() for f in APPLIES[rule.kind](rule, flow, kitchen)]
    return verdict([*stops, *found])


def _at_operations(rule: Rule, flow: Draft, _: Kitchen) -> Iterator[Finding]:
    for operation in flow.operations:
        if operation.kind in rule.operations:
            yield rule.finding(operation.kind)


def _of_fruit(rule: Rule, flow: Draft, _: Kitchen) -> Iterator[Finding]:
    if flow.load.fruit_key in rule.fruits:
        yield rule.finding("fruit")


def _of_closure(rule: Rule, flow: Draft, _: Kitchen) -> Iterator[Finding]:
    if flow.packing is None or flow.process_time is None:
        return
    used = {jars.kind(k).closure for k in flow.packing.jars}
    if used & set(rule.closures):
        yield rule.finding("fill")


def _everywhere(rule: Rule, _flow: Draft, _kitchen: Kitchen) -> Iterator[Finding]:
    yield rule.finding()


def _elsewhere(_rule: Rule, _flow: Draft, _kitchen: Kitchen) -> Iterator[Finding]:
    """Rules that the time tables or the steps of a batch raise themselves."""
    return iter(())


APPLIES: Mapping[str, Callable[[Rule, Draft, Kitchen], Iterator[Finding]]] = {
    "operation": _at_operations,
    "fruit": _of_fruit,
    "closure": _of_closure,
    "always": _everywhere,
    "process": _elsewhere,
    "cook": _elsewhere,
}
"""How each kind of rule finds its places in a flow."""
