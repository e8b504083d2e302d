"""What was said of something that goes in, as an amount and an input of the flow."""

from __future__ import annotations

import re
from collections.abc import Collection

from elderberry.core.errors import CannotTell
from elderberry.core.estimates import Estimate
from elderberry.core.flow.inputs import Amount, Input
from elderberry.core.flow.wiring import own_name
from elderberry.core.lines import Line, to_taste_g_per_l

LEAST_SHARE = 1e-6
"""What stands for nothing at all, since a share is of something [g/L]."""
AS_SOLD = "as_sold"


def amount_of(line: Line) -> Amount:
    """How much a line says.

    Raises:
        CannotTell: it is as last time, which the line alone does not know.

    To taste is what is usual, with its range, to the litre of what it joins; the rest is what is
    left to fill the jars, where nobody knows how much there was.

    >>> from elderberry.core.lines import read
    >>> amount_of(read("500 g sugar to the litre")).share
    500.0
    """
    match line.how:
        case "amount":
            return Amount("amount", line.mass_g, said=line.said)
        case "share":
            return Amount("share", share=line.share, of=line.of, per=line.per, said=line.said,
                          spread=_spread(line.mass_g))  # fmt: skip
        case "to_taste":
            usual = to_taste_g_per_l(line.material)
            share = max(usual.typ, LEAST_SHARE)
            return Amount("share", share=share, per="g/l", said=line.said,
                          spread=(usual.lo / share, usual.hi / share))  # fmt: skip
    if line.target == "last":
        raise CannotTell("only a household knows what its last batch was like")
    target = "fill" if line.target == "rest" else line.target
    return Amount("target", target=target, value=line.value, said=line.said)


def input_of_line(line: Line, key: str = "") -> Input:
    """What a line says goes in, by a name of its own or that of its material."""
    return Input(
        key or line.material, line.material, amount_of(line), form_of(line), called=line.called,
        where=line.where, leaves=line.leaves,
    )  # fmt: skip


def own_key(called: str, taken: Collection[str]) -> str:
    """A name of its own for something that goes in, by what it is called.

    >>> own_key("bay leaf", ()), own_key("honey", {"honey"})
    ('bay_leaf', 'honey_2')
    """
    plain = re.sub(r"[^a-z0-9]+", "_", called.lower()).strip("_")[:30]
    return own_name(plain if plain[:1].isalpha() else f"input_{plain}".strip("_"), taken)


def form_of(line: Line) -> str:
    """The form in which it joins; empty for what is as it is sold."""
    return "" if line.form == AS_SOLD else line.form


def _spread(mass: Estimate | None) -> tuple[float, float]:
    if mass is None or mass.typ <= 0:
        return 1.0, 1.0
    return mass.lo / mass.typ, mass.hi / mass.typ
