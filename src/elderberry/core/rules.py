"""The rule book, data/rules.toml: one row a rule, one small function a kind of rule."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from functools import cache

from elderberry.core import tables
from elderberry.core.errors import Refusal, Unknown
from elderberry.core.findings import Finding, Level


@dataclass(frozen=True)
class Rule:
    """One row of the rule book; message and remedy may hold {figures} of the case."""

    id: str
    level: Level
    kind: str
    message: str
    remedy: str
    source: str
    change: str = ""
    in_cook: bool = False
    operations: tuple[str, ...] = ()
    fruits: tuple[str, ...] = ()
    closures: tuple[str, ...] = ()

    def finding(self, place: str = "", **figures: object) -> Finding:
        """The rule as a finding at a place in the flow."""
        return Finding(
            id=self.id,
            level=self.level,
            message=self.message.format(**figures),
            remedy=self.remedy.format(**figures),
            source=self.source,
            place=place,
            change=self.change,
            in_cook=self.in_cook,
        )

    def standing(self, operations: Collection[str], fruit_key: str) -> Iterator[Finding]:
        """Where the rule stands by itself: at its operations, with its fruits, or always."""
        if self.kind == "operation":
            yield from (self.finding(kind) for kind in self.operations if kind in operations)
        elif self.kind == "fruit" and fruit_key in self.fruits:
            yield self.finding("fruit")
        elif self.kind == "always":
            yield self.finding()


@cache
def rules() -> dict[str, Rule]:
    """Every rule by id."""
    return {row["id"]: _rule(row) for row in tables.document("rules")["rule"]}


def rule(rule_id: str) -> Rule:
    """The rule with this id.

    Raises:
        Unknown: there is no such rule.

    >>> rule("fill-too-cold").level
    <Level.STOP: 'stop'>
    """
    try:
        return rules()[rule_id]
    except KeyError:
        raise Unknown("rule", rule_id) from None


def refuse(rule_id: str, place: str = "", **figures: object) -> Refusal:
    """A refusal that carries a rule's stop, ready to be raised."""
    return Refusal(rule(rule_id).finding(place, **figures))


def _rule(row: dict[str, object]) -> Rule:
    lists = {k: tuple(v) for k, v in row.items() if isinstance(v, list)}
    return Rule(**{**row, **lists, "level": Level(str(row["level"]))})  # type: ignore[arg-type]
