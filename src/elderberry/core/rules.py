"""The rule book, data/rules.toml: one row a rule, judged by the facts of a flow."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import cache, cached_property

from elderberry.core import materials, tables
from elderberry.core.errors import Refusal, Unknown
from elderberry.core.findings import Finding, Level


@dataclass(frozen=True)
class Facts:
    """What a flow consists of, as far as rules ask; ingredients in grams a litre of product."""

    operations: frozenset[str] = frozenset()
    fruits: frozenset[str] = frozenset()
    closures: frozenset[str] = frozenset()
    keep: str = ""
    ingredients: Mapping[str, float] = field(default_factory=dict)
    said: frozenset[str] = frozenset()
    heater: frozenset[str] = frozenset()


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
    keep: tuple[str, ...] = ()
    ingredients: tuple[str, ...] = ()
    ingredient_kinds: tuple[str, ...] = ()
    said: tuple[str, ...] = ()
    heater: tuple[str, ...] = ()

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
            of_case=self.kind == "plan",
        )

    def standing(self, facts: Facts) -> Iterator[Finding]:
        """The rule at each of its places."""
        return (_finding(self.id, place) for place in self._places(facts))

    def holds(self, facts: Facts) -> bool:
        """Whether every named condition holds; a condition that is not named always does."""
        for name, wanted in self._named:
            if getattr(facts, name).isdisjoint(wanted):
                return False
        if self.keep and facts.keep not in self.keep:
            return False
        return not self._asks_of_ingredients or self._grams(facts) > 0.0

    @cached_property
    def _named(self) -> tuple[tuple[str, tuple[str, ...]], ...]:
        """The sets of facts that it names something of, with what it names."""
        asked = (
            (name, getattr(self, name))
            for name in ("operations", "fruits", "closures", "said", "heater")
        )
        return tuple((name, wanted) for name, wanted in asked if wanted)

    @property
    def _asks_of_ingredients(self) -> bool:
        return bool(self.ingredients or self.ingredient_kinds)

    def _grams(self, facts: Facts) -> float:
        """Grams a litre of the ingredients that the rule speaks of."""
        return sum(grams for key, grams in facts.ingredients.items() if self._means(key))

    def _means(self, key: str) -> bool:
        return key in self.ingredients or materials.kind_of(key) in self.ingredient_kinds

    def _places(self, facts: Facts) -> Iterator[str]:
        """Where it stands: at its operations, with the fruit, at filling, or on the whole flow."""
        if self.operations:
            yield from (kind for kind in self.operations if kind in facts.operations)
        elif self.fruits:
            yield "fruit"
        else:
            yield "fill" if self.closures else ""


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


def standing(facts: Facts) -> list[Finding]:
    """Every standing rule's findings on the facts of a flow, in the rule book's order.

    >>> [f.id for f in standing(Facts(said=frozenset({"peel_waxed"})))]
    ['waxed-or-sprayed-peel', 'own-authority']
    """
    return [f for one in _standing_rules() if one.holds(facts) for f in one.standing(facts)]


@cache
def _finding(rule_id: str, place: str) -> Finding:
    """A rule without figures as a finding at a place."""
    return rule(rule_id).finding(place)


@cache
def _standing_rules() -> tuple[Rule, ...]:
    return tuple(one for one in rules().values() if one.kind == "standing")


def refuse(rule_id: str, place: str = "", **figures: object) -> Refusal:
    """A refusal that carries a rule's stop, ready to be raised."""
    return Refusal(rule(rule_id).finding(place, **figures))


def _rule(row: dict[str, object]) -> Rule:
    lists = {k: tuple(v) for k, v in row.items() if isinstance(v, list)}
    return Rule(**{**row, **lists, "level": Level(str(row["level"]))})  # type: ignore[arg-type]
