"""What a line is brought to: a Brix, a pH, a mark, a volume, covered, filled, the rest."""

from __future__ import annotations

import re
from collections.abc import Mapping

from elderberry.core import jars, names
from elderberry.core.errors import CannotTell
from elderberry.core.figures import CannotRead
from elderberry.core.lines import phrases
from elderberry.core.lines.blanked import Blanked
from elderberry.core.lines.line import Target
from elderberry.core.quantities import Quantity, parse

LIMITS: Mapping[Target, tuple[str, float, float]] = {
    "brix": ("Brix", 1.0, 85.0),
    "ph": ("pH", 1.5, 7.0),
    "acid_g_l": ("Acidity", 0.5, 80.0),
}
_ORDINALS = [
    "first",
    "second",
    "third",
    "fourth",
    "fifth",
    "sixth",
    "seventh",
    "eighth",
    "ninth",
    "tenth",
]
_LOWEST, _HIGHEST = {"bottom", "lowest"}, {"top", "last", "highest"}
_TO_THE_BRIM = {"brim", "rim", "neck", "shoulder"}


def target(line: Blanked) -> None:
    """Take out what the line is brought to, if it says so.

    Raises:
        CannotRead: a Brix or pH that nothing has, or a mark that nobody measured.
    """
    _figures(line)
    _mark(line)
    _as_last_time(line)
    for name, pattern in _PLAIN:
        if not line.said.target and line.found(pattern, "target"):
            line.said.target = name
    _made_up(line)
    if not line.said.target and line.found(phrases.REST, "amount"):
        line.said.target = "rest"


_PLAIN: tuple[tuple[Target, re.Pattern[str]], ...] = (
    ("cover", phrases.COVER),
    ("fill", phrases.FILL),
)


def _figures(line: Blanked) -> None:
    patterns: tuple[tuple[Target, re.Pattern[str]], ...] = (
        ("brix", phrases.BRIX),
        ("ph", phrases.PH),
        ("acid_g_l", phrases.ACID),
    )
    for what, pattern in patterns:
        match = line.found(pattern, "target")
        if match is None:
            continue
        value = float(next(g for g in match.groups() if g).replace(",", "."))
        name, lo, hi = LIMITS[what]
        if not lo <= value <= hi:
            line.fail(f"{name} goes from {lo:g} to {hi:g} here.", match.span())
        line.said.target, line.said.value = what, value


def _as_last_time(line: Blanked) -> None:
    """ "sugar, sweeter than last time": as the household's last batch, or more or less so."""
    if line.said.target:
        return
    match = line.found(phrases.LAST, "target")
    if match is not None:
        line.said.target = "last"
        line.said.value = 1.0 if match["more"] else -1.0 if match["less"] else 0.0


def _mark(line: Blanked) -> None:
    """ "to the second ring of the jar": what the household's vessel holds there."""
    match = phrases.MARK.search(line.rest)
    if match is None or line.said.target:
        return
    line.take(match.span(), "target")
    mark, vessel = match["mark"].strip(), (match["vessel"] or "").strip()
    value = _marked(line, mark, vessel)
    if value is None:
        where = f"the {mark} of the {vessel}" if vessel else f"the {mark}"
        line.fail(
            f"How much {where} holds is not known: fill it with water to there once, measure "
            "that, and keep it under Kitchen.",
            match.span(),
        )
    line.said.target, line.said.value = "volume_ml", value


def _marked(line: Blanked, mark: str, vessel: str) -> float | None:
    """What a vessel holds at a mark [mL]: "2 l", "second", "top" or its brim."""
    *before, last = mark.split()
    try:
        return parse(" ".join(before), line.customs).amount
    except CannotRead:
        pass
    marks, word = _marks_of(line, vessel), before[0] if before else last
    if word in _ORDINALS[: len(marks)]:
        return marks[_ORDINALS.index(word)]
    if marks and word in _LOWEST:
        return marks[0]
    if marks and (word in _HIGHEST or last in _TO_THE_BRIM):
        return marks[-1]
    return None


def _marks_of(line: Blanked, vessel: str) -> tuple[float, ...]:
    """What is known of a vessel's marks [mL], from the lowest; a kind of jar knows its brim."""
    own = {names.squeeze(name): marks for name, marks in line.customs.marks.items()}
    if names.squeeze(vessel) in own:
        return own[names.squeeze(vessel)]
    if not vessel and len(own) == 1:
        return next(iter(own.values()))
    plain = vessel.removesuffix(" jar").removesuffix(" bottle")
    return tuple(k.brim_ml for k in jars.kinds().values() if k.name == plain)


def _made_up(line: Blanked) -> None:
    """ "to make 5 litres", "up to 2 quarts": a volume that is reached."""
    if line.said.target:
        return
    for match in phrases.MADE_UP.finditer(line.rest):
        if has_amount(line.rest[: match.start()]):
            continue
        there = quantity_at(line, match.end())
        if there and there[0].dimension == "volume":
            line.said.target, line.said.value = "volume_ml", there[0].amount
            line.take((match.start(), there[1]), "target")
            return


def quantity_at(line: Blanked, start: int, of_one: str = "") -> tuple[Quantity, int] | None:
    """The longest amount that begins at a place, and where it ends; None where none does."""
    ends = [start + m.end() for m in re.finditer(r"\S+", line.rest[start:])][:6]
    for end in reversed(ends):
        words = phrases.ROLE.sub("", line.rest[start:end]).strip(" ,;")
        try:
            return parse(of_one + words, line.customs), end
        except (CannotRead, CannotTell):
            continue
    return None


def has_amount(text: str) -> bool:
    """Whether a figure stands in a text, in digits or words.

    >>> has_amount("half a cup"), has_amount("sugar")
    (True, False)
    """
    words = r"\b(?:an?|half|one|two|three|four|five|six|seven|eight|nine|ten|few|several|dozen)\b"
    return bool(re.search(rf"[\d½¼¾⅓⅔⅛]|{words}", text))
