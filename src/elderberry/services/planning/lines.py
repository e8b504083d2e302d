"""Lines of what goes in as a household writes them, and what each was understood to be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials, names
from elderberry.core.estimates import Estimate
from elderberry.core.figures import CannotRead
from elderberry.core.flow.inputs import grams
from elderberry.core.flow.said import amount_of, form_of
from elderberry.core.lines import CouldBe, Line, Meaning, NotListed, read
from elderberry.core.lines.weights import litre_kg
from elderberry.core.quantities import Customs
from elderberry.services.errors import FieldError
from elderberry.services.household import kitchens
from elderberry.services.planning import intake
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.planning.last_time import LAST, resolved
from elderberry.services.who import Who

Quantity = Literal["volume_ml", "mass_g"]


@dataclass(frozen=True)
class Place:
    """A part of a line, where it stands in the text."""

    part: str
    start: int
    end: int


@dataclass(frozen=True)
class NotUnderstood:
    """Why a line cannot be read, where, and what can be done: choose, or say what a thing is."""

    message: str
    start: int
    end: int
    choices: list[Meaning] = field(default_factory=list)
    new_name: str = ""
    """Something that no list knows, which can become the household's own."""
    counts_as: str = ""
    """What it probably counts as."""


@dataclass(frozen=True)
class LineView:
    """A line as it was understood; or why it was not."""

    line: str
    material: str = ""
    called: str = ""
    colour: str = ""
    form: str = ""
    measured_as: str = ""
    how: str = ""
    amount: str = ""
    mass_g: Estimate | None = None
    share: float = 0.0
    per: str = ""
    of: str = ""
    target: str = ""
    value: float = 0.0
    where: str = ""
    leaves: bool = False
    guessed: bool = False
    """Whether its name was misspelt, so that it was guessed at."""
    differs: bool = False
    """Whether a volume of it weighs otherwise from kind to kind, so that a scale is better."""
    sweetens: bool = False
    """Whether it is a sweetener, so that another could sweeten instead."""
    places: list[Place] = field(default_factory=list)
    wrong: NotUnderstood | None = None


@dataclass(frozen=True)
class AmountView:
    """An amount as one says it, in millilitres or grams; or why it is none."""

    value: float | None = None
    wrong: NotUnderstood | None = None


DIFFERS_BY_VOLUME = frozenset({"sugar_raw", "sugar_brown", "sugar_palm", "stevia_spoon"})


def views(orm: Orm, who: Who, texts: Sequence[str]) -> list[LineView]:
    """What each line was understood to be."""
    customs = kitchens.customs(orm, who)
    return [_view(text, customs) for text in texts]


def _view(text: str, customs: Customs) -> LineView:
    try:
        line = read(text, customs)
    except CannotRead as wrong:
        return LineView(text, wrong=_why(wrong))
    fruit = materials.fruits().get(line.material)
    places = [Place(part, *span) for part, span in line.places.items()]
    return LineView(
        line=text, material=line.material, called=line.called,
        colour=fruit.colour if fruit else "", form=line.form, measured_as=line.measured_as,
        how=line.how, amount=line.amount, mass_g=line.mass_g, share=line.share, per=line.per,
        of=line.of, target=line.target, value=line.value, where=line.where, leaves=line.leaves,
        guessed=line.guessed,
        differs=line.by_volume and line.material in DIFFERS_BY_VOLUME,
        sweetens=materials.kind_of(line.material) in materials.SWEET and line.how != "to_taste",
        places=places,
    )  # fmt: skip


def _why(wrong: CannotRead) -> NotUnderstood:
    choices = list(wrong.choices) if isinstance(wrong, CouldBe) else []
    name = wrong.name if isinstance(wrong, NotListed) else ""
    likely = names.unlisted().get(names.squeeze(name), "") if name else ""
    return NotUnderstood(str(wrong), wrong.start, wrong.end, choices, name, likely)


def amount(orm: Orm, who: Who, text: str, quantity: Quantity) -> AmountView:
    """What an amount that is poured or weighed comes to: "5 cups", "to the second ring of the jug".

    Args:
        orm: a session.
        who: whose cup, containers and marks count.
        text: as it is said.
        quantity: volume_ml or mass_g.
    """
    try:
        line = read(text, kitchens.customs(orm, who), of="water")
    except CannotRead as wrong:
        return AmountView(wrong=_why(wrong))
    if quantity == "volume_ml" and line.target == "volume_ml":
        return AmountView(line.value)
    if (
        line.how == "amount"
        and line.mass_g is not None
        and (line.by_volume == (quantity == "volume_ml"))
    ):
        grams = line.mass_g.typ
        return AmountView(grams / litre_kg("water", "as_sold") if line.by_volume else grams)
    words = "Say how much was poured" if quantity == "volume_ml" else "Say how much it weighs"
    return AmountView(wrong=NotUnderstood(f"{words}.", 0, len(text)))


def understood(orm: Orm, who: Who, asked: PlanRequest) -> PlanRequest:
    """A request whose lines have been read.

    Raises:
        FieldError: a line that cannot be read, with the reason.
    """
    if not any(i.line for i in asked.inputs):
        return asked
    customs = kitchens.customs(orm, who)
    read_so = (
        _understood(orm, who, number, given, customs) if given.line else given
        for number, given in enumerate(asked.inputs)
    )
    return resolved(orm, who, replace(asked, inputs=tuple(read_so)))


def _understood(orm: Orm, who: Who, number: int, given: GoesIn, customs: Customs) -> GoesIn:
    lot = intake.find(orm, who, given.lot_id) if given.lot_id else None
    spoken_of = lot.fruit_key if lot else given.material
    line = intake.read_at(f"/inputs/{number}/line", given.line, customs, spoken_of)
    if line.target == "rest" and lot is None and line.material != "water":
        words = "The rest of how much? Only what came in has a rest. Nothing was recorded."
        raise FieldError(f"/inputs/{number}/line", words)
    left = 1000.0 * lot.left_kg if lot and line.target == "rest" else None
    return _said(given, line, left)


def _said(given: GoesIn, line: Line, left_g: float | None) -> GoesIn:
    """What goes in, as its line says."""
    as_last = line.target == LAST
    amount = None if as_last else amount_of(line) if left_g is None else grams(left_g, line.said)
    return replace(
        given,
        target=line.target if as_last else given.target,
        value=line.value if as_last else given.value,
        material=line.material,
        form=form_of(line),
        called=line.called,
        where=line.where,
        leaves=line.leaves,
        known=amount,
    )
