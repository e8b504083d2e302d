"""Finding what a line is of: the longest name in it, one of several of that name, or a guess."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import NoReturn

from elderberry.core import materials, names
from elderberry.core.lines import phrases
from elderberry.core.lines.amounts import is_measure
from elderberry.core.lines.blanked import Blanked, Span
from elderberry.core.lines.line import CouldBe, Meaning, NotListed
from elderberry.core.lines.loose import loose

_WORD = re.compile(r"[^\W\d_½¼¾⅓⅔⅛⅜⅝⅞⅙⅚⅕]+(?:['-][^\W\d_½¼¾⅓⅔⅛⅜⅝⅞⅙⅚⅕]+)*")
_BEFORE_ANOTHER = re.compile(r"(?:\b(?:of|to|as|per|in|for|with|the)\b|/)[^,]*$")
_NAMES_A_FORM = {"juice": "juice", "sauce": "puree", "purée": "puree", "puree": "puree"}


@dataclass(frozen=True)
class _Found:
    """A name, where it stands, and how many words long it is."""

    known: names.Called
    span: Span
    words: int

    def over(self, other: _Found) -> bool:
        return self.span[0] < other.span[1] and other.span[0] < self.span[1]

    def measures(self, other: _Found) -> bool:
        """Whether it is a measure of the other: cloves of garlic, a stick of butter."""
        words = (self.known.name, names.plural(self.known.name))
        held = (loose(w, other.known.name, k) for w in words for k in other.known.keys)
        return any(h is not None and h.unit == "g" for h in held)


def material(line: Blanked) -> tuple[str, str, bool]:
    """The material of a line, what the cook calls it, and whether it was guessed at.

    Raises:
        CannotRead: none is named, or two are.
        CouldBe: several go by that name.
        NotListed: it is not known here.
    """
    found = _longest(line)
    if found is None:
        if line.named:
            return line.named, names.told(line.named), False
        return _unnamed(line)
    if not found.known.keys:
        _not_listed(line, found.span)
    key = found.known.keys[0] if len(found.known.keys) == 1 else _which(line, found)
    line.take(found.span, "material")
    if line.named and key != line.named:
        line.fail(
            f"That is {names.told(key)}, and {names.told(line.named)} is spoken of.", found.span
        )
    if key in materials.fruits():
        ends = next((e for e in _NAMES_A_FORM if found.known.name.endswith(e)), "")
        line.said.form = _NAMES_A_FORM.get(ends, "")
    several = len(found.known.keys) > 1
    called = names.told(key, found.known.name.split()[-1]) if several else found.known.name
    return key, called, False


def _longest(line: Blanked) -> _Found | None:
    """The longest run of words that is a name; of names as long, the one that others measure."""
    found = list(_named(line))
    if not found:
        return None
    strange = [f for f in found if not f.known.keys]
    if strange:
        return _Found(strange[0].known, (min(f.span[0] for f in found), strange[0].span[1]), 1)
    best = found[0]
    for other in found[1:]:
        if other.over(best):
            best = other if other.words > best.words else best
        elif best.measures(other):
            best = other
    for other in found:
        apart = not other.over(best) and not other.measures(best)
        between = line.rest[min(best.span[1], other.span[1]) : other.span[0]]
        if apart and not _BEFORE_ANOTHER.search(between):
            line.fail("That is a second thing: give it a line of its own.", other.span)
    return best


def _named(line: Blanked) -> list[_Found]:
    """Every name in a line, each as long as it can be."""
    words = list(_WORD.finditer(line.rest))
    longest = names.most_words(line.customs.own)
    found: list[_Found] = []
    for first in range(len(words)):
        for last in range(min(len(words), first + longest) - 1, first - 1, -1):
            span = (words[first].start(), words[last].end())
            between = line.rest[slice(*span)]
            known = None if re.search(r"[^\w\s'-]", between) else _known(line, between)
            if known is not None:
                new = _Found(known, span, last - first + 1)
                if not any(f.over(new) and f.words >= new.words for f in found):
                    found.append(new)
                break
    return found


def _known(line: Blanked, words: str) -> names.Called | None:
    squeezed = names.squeeze(words)
    own = {names.squeeze(name): (name, key) for name, key in line.customs.own.items()}
    if squeezed in own:
        name, key = own[squeezed]
        return names.Called(name, (key,))
    known = names.called().get(squeezed)
    if known is None and squeezed in names.unlisted():
        return names.Called(words, ())
    return known


def _which(line: Blanked, found: _Found) -> str:
    """One of several of a name, by another word of the line; asked where there is none."""
    keys = found.known.keys
    if line.named in keys:
        return line.named
    around = {w[0]: w.span() for w in _WORD.finditer(line.rest)}
    hints = around.keys() | line.said.hints
    said = [k for k in keys if hints & _telling(k, keys)]
    if len(said) == 1:
        for word in around.keys() & _telling(said[0], keys):
            line.take(around[word])
        return said[0]
    before, after = line.text[: found.span[0]], line.text[found.span[1] :]
    ending = next((e for e in _NAMES_A_FORM if found.known.name.endswith(e)), "")
    words = [names.told(k, ending) for k in keys]
    choices = tuple(Meaning(w, before + w + after) for w in words)
    could = " or ".join(c.words for c in choices)
    message = f"This could be {could}: say which."
    raise CouldBe(message, line.text, *found.span, choices)


def _telling(key: str, keys: tuple[str, ...]) -> set[str]:
    """Words of a key that tell it from the others of its name."""
    others = {w for k in keys if k != key for w in k.split("_")}
    return {*key.split("_"), *({"whole"} if key == "lime" else ())} - others - {"lemon", "lime"}


def _unnamed(line: Blanked) -> tuple[str, str, bool]:
    """A misspelt name, something that is not listed, or nothing at all."""
    words = _WORD.finditer(line.rest)
    left = [w for w in words if w[0] not in phrases.NOISE and not is_measure(w[0], line.customs)]
    if not left:
        line.fail("Of what? Name it after the amount.", (0, len(line.text.rstrip())))
    start = left[0].start()
    whole = line.rest[start : left[-1].end()].split(",")[0].strip()
    span = (start, start + len(whole))
    near = names.nearest(whole)
    if near is None or len(near.keys) > 1:
        _not_listed(line, span)
    line.take(span, "material")
    return near.keys[0], near.name, True


def _not_listed(line: Blanked, span: Span) -> NoReturn:
    raise NotListed(line.text[slice(*span)], line.text, *span)
