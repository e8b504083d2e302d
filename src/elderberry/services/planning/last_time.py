"""What this household made last of a fruit: the strength that "as last time" means."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy.orm import Session as Orm

from elderberry.core import materials
from elderberry.core.flow.inputs import Amount
from elderberry.core.lines.targets import LIMITS
from elderberry.services.errors import FieldError
from elderberry.services.planning.asked import GoesIn, PlanRequest
from elderberry.services.who import Who
from elderberry.store import Jar, furniture, queries

STRONGER = 1.12
"""How much more sugar to the weight tastes sweeter to most [-]; sweetness is told apart from about
a tenth on (Weber fractions of 0.1 to 0.2: Schutz and Pilgrim, 1957)."""
SHARPER_PH = 0.12
"""How much lower a pH tastes sharper to most; an estimate of ours."""


@dataclass(frozen=True)
class LastTime:
    """What a batch came out as: its sweetness [°Bx] and pH as filled, and what is a bit more."""

    code: str
    label: str
    filled_at: datetime
    brix: float | None
    ph: float | None
    sweeter: float | None
    less_sweet: float | None


def last_time(orm: Orm, who: Who, material: str) -> LastTime | None:
    """What the newest jars came out as of batches that began with this; None where none are."""
    whose = (who.household_id, "last time", material)
    found = furniture.reckoned(orm, (Jar,), whose, lambda: (_last_time(orm, who, material),))
    return found[0]


def _last_time(orm: Orm, who: Who, material: str) -> LastTime | None:
    found = queries.newest_jar_of(orm, who.household_id, material)
    if found is None:
        return None
    jar, code = found
    brix, ph = jar.contents.get("brix"), jar.contents.get("ph")
    more, less = (None if brix is None else _sweetened(brix, by) for by in (1.0, -1.0))
    return LastTime(code, jar.label, jar.filled_at, brix, ph, more, less)


def _sweetened(brix: float, more: float) -> float:
    """A bit more of a sweetness (1), or a bit less (-1); no more than a line can be brought to."""
    _, _, most = LIMITS["brix"]
    return min(brix * float(STRONGER**more), most)


def resolved(orm: Orm, who: Who, request: PlanRequest) -> PlanRequest:
    """A request in which "as last time" has become the figure of the household's last batch.

    Raises:
        FieldError: there is no earlier batch of it, or nobody knows that figure of it.
    """
    if not any(i.target == LAST for i in request.inputs):
        return request
    last = last_time(orm, who, request.main.material)
    inputs = (_resolved(last, n, given) for n, given in enumerate(request.inputs))
    return replace(request, inputs=tuple(inputs))


LAST = "last"


def _resolved(last: LastTime | None, number: int, given: GoesIn) -> GoesIn:
    if given.target != LAST:
        return given
    sour = materials.kind_of(given.material) in materials.SOUR
    value = _value(last, given.value, sour)
    if value is None:
        words = (
            "No jars of this fruit are known here yet to take it from: say how much, or to what "
            "Brix or pH. Nothing was recorded."
        )
        raise FieldError(f"/inputs/{number}/line", words)
    target = "ph" if sour else "brix"
    figure = f"pH {value:.2f}" if sour else f"{value:.1f} °Bx"
    amount = Amount("target", target=target, value=value, said=f"{given.line}: {figure}")
    return replace(given, known=amount, target="", value=0.0)


def _value(last: LastTime | None, more: float, sour: bool) -> float | None:
    """The figure that is meant: as it was, more of it (1) or less (−1)."""
    if last is None:
        return None
    if sour:
        return None if last.ph is None else last.ph - more * SHARPER_PH
    return None if last.brix is None else _sweetened(last.brix, more)
