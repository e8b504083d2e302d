"""What a person asks of Plan, and what that is to the core."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from elderberry.core.errors import CoreError, Unknown
from elderberry.core.estimates import Estimate, measured
from elderberry.core.flow.inputs import Amount, Brief, End, Input, lot_kind
from elderberry.core.flow.seen import BRIX_ERROR, PH_ERROR
from elderberry.core.flow.wiring import START, own_name
from elderberry.core.lines.line import Per, Where
from elderberry.core.scaling import Goal
from elderberry.services.errors import FieldError

BEGINS = ("fruit", "mash", "pomace", "juice", "water", "added")
"""Kinds of input in the order in which one of them is what a flow begins with."""


@dataclass(frozen=True)
class GoesIn:
    """Something that is to go in: how much by weight, as a share of something, or to a target.

    line: as it was written; what it says is put into the other fields (services/planning/lines.py).
    grams: weighed [g]; known: the amount that its line says. share: g of it to a gram of what it
    joins or of another input (of); to the litre or jar where per says so. target: brix, ph or
    volume_ml, solved to value; cover or fill. said: as it was said. lot_id: what came in that it is
    taken from. ph_by: the instrument that read the pH.
    """

    material: str = ""
    grams: float | None = None
    key: str = ""
    form: str = ""
    brix: float | None = None
    ph: float | None = None
    ph_by: str = "ph_meter"
    source: str = ""
    picked_on: date | None = None
    lot_id: int | None = None
    step: str = ""
    share: float = 0.0
    of: str = ""
    per: Per = "g/g"
    target: str = ""
    value: float = 0.0
    said: str = ""
    line: str = ""
    known: Amount | None = None
    called: str = ""
    where: Where = ""
    leaves: bool = False

    @property
    def lot_kind(self) -> str:
        """The kind of lot that it is."""
        return lot_kind(self.material, self.form)

    @property
    def weighed(self) -> bool:
        """Whether how much it is hangs on nothing that it joins."""
        return self.grams is not None or (self.known is not None and self.known.how == "amount")

    def amount(self) -> Amount:
        """How much of it, as the core takes it.

        Raises:
            CoreError: nothing is said of how much.
        """
        if self.known is not None:
            return self.known
        if self.grams is not None:
            return Amount("amount", measured(self.grams), said=self.said)
        if self.share > 0:
            return Amount("share", share=self.share, of=self.of, per=self.per, said=self.said)
        if self.target:
            return Amount("target", target=self.target, value=self.value, said=self.said)
        name = self.material.replace("_", " ")
        raise CoreError(f"how much {name} goes in has to be a number above zero")

    def input(self, key: str, temp_c: float | None) -> Input:
        """As the core takes it."""
        return Input(
            key=key,
            material=self.material,
            amount=self.amount(),
            form=self.form,
            brix=_read(self.brix, BRIX_ERROR),
            ph=_read(self.ph, PH_ERROR),
            ph_by_meter=self.ph_by == "ph_meter",
            temp_c=temp_c,
            source=self.source,
            step=self.step,
            called=self.called,
            where=self.where,
            leaves=self.leaves,
        )


def _read(value: float | None, half_width: float) -> Estimate | None:
    return None if value is None else measured(value, half_width)


@dataclass(frozen=True)
class PlanRequest:
    """What goes in, the ends it is for, and how it is to be done."""

    inputs: tuple[GoesIn, ...]
    ends: tuple[End, ...] = ()
    """What is asked of its ends; one without a way of keeping is kept as its method says."""
    loads: int | None = None
    method_key: str = ""
    """The plainest that suits when not said."""
    steps: tuple[Mapping[str, Any], ...] = ()
    """The flow as it was edited; the method's own where there is none."""
    said: tuple[str, ...] = ()
    goal: Goal | None = None
    """What it is worked back from; as much as goes in where nothing is wanted."""
    all_there_is: bool = False
    """Whether it is as much as what came in gives."""
    without: tuple[str, ...] = ()
    """What the method puts in and this time does not, by its name."""

    @property
    def main_at(self) -> int:
        """Which of the inputs the flow begins with: its first fruit, else juice, else water."""
        return self.begins_at()

    def begins_at(self, wanted: str = "") -> int:
        """Which of the inputs a flow that wants some kind of lot begins with."""
        named = [i.key for i in self.inputs]
        if START in named:
            return named.index(START)
        kinds, weighed = [i.lot_kind for i in self.inputs], [i.weighed for i in self.inputs]
        return begins_with(kinds, weighed, wanted)

    @property
    def main(self) -> GoesIn:
        """What the flow begins with."""
        return self.inputs[self.main_at]

    def brief(self, freezer_c: float) -> Brief:
        """As the core takes it; what is frozen comes as cold as the freezer is."""
        taken: list[Input] = []
        for number, given in enumerate(self.inputs):
            begins = number == self.main_at
            names = {START, *(i.key for i in taken)}
            key = given.key or (START if begins else own_name(given.material, names))
            cold = freezer_c if given.form == "frozen" else None
            try:
                taken.append(given.input(key, cold))
            except Unknown:
                raise
            except CoreError as wrong:
                words = f"{str(wrong).capitalize()}. Nothing was recorded."
                raise FieldError(f"/inputs/{number}/grams", words) from wrong
        return Brief(tuple(taken), self.ends, frozenset(self.said), self.loads)


def begins_with(kinds: Sequence[str], weighed: Sequence[bool], wanted: str = "") -> int:
    """Which of some kinds of input a flow begins with: of those whose amount hangs on no other, the
    kind that its method wants.

    >>> begins_with(["added", "juice", "fruit"], [True, True, True])
    2
    >>> begins_with(["added", "water"], [True, False])
    0
    >>> begins_with(["water", "added"], [True, True], "added")
    1
    """

    def rank(n: int) -> tuple[bool, bool, int, int]:
        return not weighed[n], kinds[n] != wanted, BEGINS.index(kinds[n]), n

    return min(range(len(kinds)), key=rank)


def of_fruit(
    fruit_key: str,
    kg: float,
    *,
    form: str = "whole",
    keep: str = "shelf",
    jar_kinds: tuple[str, ...] = (),
    citric_acid_g: float = 0.0,
    brix: float | None = None,
    ph: float | None = None,
    source: str = "",
    lot_id: int | None = None,
    picked_on: date | None = None,
    **rest: Any,
) -> PlanRequest:
    """One fruit, perhaps with citric acid, for one end: what most cooks begin with."""
    fruit = GoesIn(
        fruit_key, 1000 * kg, form=form, brix=brix, ph=ph, source=source, lot_id=lot_id,
        picked_on=picked_on,
    )  # fmt: skip
    acid = (GoesIn("citric_acid", citric_acid_g),) if citric_acid_g else ()
    return PlanRequest((fruit, *acid), (End("fill", keep, jar_kinds),), **rest)
