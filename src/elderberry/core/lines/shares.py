"""Amounts that hang on another: equal weight, half its weight, a tenth, so much to the litre."""

from __future__ import annotations

import re

from elderberry.core import names
from elderberry.core.figures import CannotRead, Cursor
from elderberry.core.lines import phrases
from elderberry.core.lines.blanked import Blanked
from elderberry.core.lines.targets import has_amount, quantity_at

TIMES = {"twice": 2.0, "double": 2.0, "thrice": 3.0}
WHOLE_BATCH = frozenset({"fruit", "base", "pot", "batch", "berries", "liquid"})
"""Words for what it joins anyway."""


def share(line: Blanked, kind: str) -> None:
    """Take out what the line is a share of, if it says so.

    Args:
        line: the line, its material taken out.
        kind: the kind of its material, since a per cent of vinegar or spirit is its strength.

    Raises:
        CannotRead: an amount and a share at once.
    """
    if line.said.target or line.said.to_taste:
        return
    if not (_per_cent(line, kind) or _times_weight(line) or _equal(line) or _part_of(line)):
        _per(line)


def _equal(line: Blanked) -> bool:
    match = line.found(phrases.EQUAL, "amount")
    if match is None:
        return False
    what, by = match["what"] or "", match["by"] or ""
    line.said.share = 1.0
    line.said.by_volume = "volume" in (by or what) or (what.startswith("part") and by != "weight")
    _of_what(line)
    return True


def _of_what(line: Blanked) -> None:
    """Take out of what it is a share, and keep it where it is not simply what it joins."""
    match = line.found(phrases.OF_WHAT)
    if match is None:
        return
    line.said.of = _whose(match["of"])


def _whose(word: str) -> str:
    """Of which material or lot a share is; empty for what it joins anyway."""
    known = names.called().get(word)
    if known is not None:
        return known.keys[0]
    return "" if word in WHOLE_BATCH else word


def _times_weight(line: Blanked) -> bool:
    match = phrases.TIMES_WEIGHT.search(line.rest)
    if match is None:
        return False
    word = match["n"].strip(" ,")
    times = TIMES.get(word) or _figure(word)
    if times is None:
        return False
    line.take(match.span(), "amount")
    line.said.share = times
    _of_what(line)
    return True


def _per_cent(line: Blanked, kind: str) -> bool:
    match = line.found(phrases.PER_CENT)
    if match is None:
        return False
    if has_amount(line.rest):
        if kind not in {"vinegar", "spirit"}:
            line.fail("An amount and a share at once: which of them?", match.span())
        return True
    line.places["amount"] = match.span()
    line.said.share = float(match[1].replace(",", ".")) / 100.0
    _of_what(line)
    return True


def _part_of(line: Blanked) -> bool:
    """ "peel, a tenth of the water": a part of another line."""
    match = phrases.PART_OF.search(line.rest)
    part = _figure(match["n"]) if match else None
    if match is None or part is None:
        return False
    if match["of"] not in names.called() and match["of"] not in WHOLE_BATCH | {"juice", "pulp"}:
        return False
    line.take(match.span(), "amount")
    if has_amount(line.rest):
        line.fail("An amount and a share at once: which of them?", match.span())
    line.said.share = part
    line.said.of = _whose(match["of"])
    return True


def _per(line: Blanked) -> None:
    """ "500 g sugar to the litre": what one measure of another thing takes."""
    for match in phrases.PER.finditer(line.rest):
        before = line.rest[: match.start()]
        if not has_amount(before) or re.search(r"[\d½¼¾]\s?$", before):
            continue
        figure = re.match(r"[\d½¼¾]|an? |half |one |two |three ", line.rest[match.end() :])
        there = quantity_at(line, match.end(), "" if figure else "1 ")
        if there is None or there[0].dimension not in {"mass", "volume"}:
            continue
        line.said.per, end = there
        role = phrases.ROLE.search(line.rest[match.end() : end])
        named = role[1] if role and role[1] not in WHOLE_BATCH else ""
        line.said.of = line.said.per.of or named
        line.take((match.start(), end), "per")
        return


def _figure(words: str) -> float | None:
    """Words as one figure; None where they are more or none."""
    cursor = Cursor(words.strip(" ,"))
    try:
        found = cursor.number()
    except CannotRead:
        return None
    return None if found is None or cursor.at < len(cursor.tokens) else float(found)
