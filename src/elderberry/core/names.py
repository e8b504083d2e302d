"""The names that materials go by: one or several, in other countries, and misspelt."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from rapidfuzz import process
from rapidfuzz.distance import OSA

from elderberry.core import materials, tables

LEAST_GUESSED = 5
"""Letters from which on a slip of the pen is guessed at; shorter words are too alike."""
LETTERS_A_SLIP = 5
"""Letters of a word for each slip that is let pass."""


@dataclass(frozen=True)
class Called:
    """A name and what it may mean: one material, or several that a cook has to choose from."""

    name: str
    keys: tuple[str, ...]


@cache
def called() -> dict[str, Called]:
    """Every name, singular and plural, written small and without spaces.

    >>> called()["gooseberries"].keys
    ('gooseberry',)
    >>> called()["lemonjuice"].keys
    ('lemon_bottled', 'lemon_fresh')
    """
    found: dict[str, Called] = {}
    for key, item in _listed().items():
        words = key.split("_")
        own, shown = _plain(item), _shown(item)
        by_key = (" ".join(words), " ".join(reversed(words)))
        for name in (own, *item.also, *by_key):
            for form in (name, plural(name)):
                before = found.get(squeeze(form), Called("", ()))
                said = before.name or (name if name in item.also else shown)
                found[squeeze(form)] = Called(said, tuple(dict.fromkeys((*before.keys, key))))
    return found


Listed = materials.Ingredient | materials.Fruit


def _listed() -> dict[str, Listed]:
    return {**materials.ingredients(), **materials.fruits()}


def _plain(item: Listed) -> str:
    """Its name without what only a label says: "lemon juice", "cider vinegar"."""
    return re.sub(r" (?:\(|\d+ %).*", "", item.name).lower()


def _shown(item: Listed) -> str:
    """Its plain name, or the first other one where things share that."""
    shared = sum(_plain(other) == _plain(item) for other in _listed().values()) > 1
    return item.also[0] if shared and item.also else _plain(item)


def told(key: str, ending: str = "") -> str:
    """A name of a material that means it and no other, with an ending where one has it.

    >>> told("lemon_fresh"), told("quince"), told("lime", "juice")
    ('fresh lemon juice', 'quince', 'fresh lime juice')
    """
    item = _listed()[key]
    alone = [n for n in (_plain(item), *item.also) if called()[squeeze(n)].keys == (key,)]
    return next((n for n in alone if n.endswith(ending)), [*alone, item.name.lower()][0])


LONGEST = 5
"""Words of the longest name that is listed."""


def most_words(own: Iterable[str]) -> int:
    """Words of the longest name that is listed, or that a household has given itself.

    >>> most_words(["grape", "aunt Tilda's very dark winter mix"])
    6
    """
    return max([LONGEST, *(len(name.split()) for name in own)])


def squeeze(words: str) -> str:
    """Words as they are looked up: small, without spaces and hyphens.

    >>> squeeze("Sea-Buckthorn")
    'seabuckthorn'
    """
    return words.lower().replace(" ", "").replace("-", "").replace("’", "'")


def plural(word: str) -> str:
    """Several of it.

    >>> plural("quince"), plural("cherry"), plural("peach"), plural("bay leaf")
    ('quinces', 'cherries', 'peaches', 'bay leaves')
    """
    if word.endswith("leaf"):
        return word[:-1] + "ves"
    if word.endswith("y") and word[-2:] not in {"ay", "ey", "oy"}:
        return word[:-1] + "ies"
    return word + ("es" if word.endswith(("s", "x", "ch", "sh", "to", "go")) else "s")


def letters(name: str) -> str:
    """Two letters by which codes tell what they are of.

    >>> letters("damson"), letters("apple")
    ('DM', 'AP')
    """
    consonants = [c for c in name[1:] if c.isalpha() and c not in "aeiou"]
    return (name[0] + (consonants[0] if consonants else name[1:2] or name[0])).upper()


def nearest(words: str) -> Called | None:
    """What a misspelt name most likely means; None where nothing is near or two are equally so.

    A slip is a letter too many, too few, another one, or two swapped; one is let pass, or two in a
    long word, but not in the first letter. What is known to be something else is never guessed at.

    Source: optimal string alignment distance, by rapidfuzz.

    >>> nearest("gooseberrys").name, nearest("blakcurrants").name, nearest("carrots")
    ('gooseberry', 'blackcurrant', None)
    """
    word = squeeze(words)
    if len(word) < LEAST_GUESSED or word in unlisted():
        return None
    telling = re.sub(r"(?:berr(?:y|ies)|currants?|cherr(?:y|ies)|sugar|vinegar|juice)$", "", word)
    slips = 2 if len(telling) >= 2 * LETTERS_A_SLIP else 1
    alike = [name for name in called() if name[0] == word[0]]
    found = process.extract(word, alike, scorer=OSA.distance, score_cutoff=slips, limit=6)
    near = [called()[name] for name, slip, _ in found if slip == found[0][1]]
    return near[0] if near and len({n.keys for n in near}) == 1 else None


@cache
def unlisted() -> dict[str, str]:
    """What each thing that is known not to be listed counts as, by its squeezed name.

    >>> unlisted()["bananas"]
    'unlisted_sweet'
    """
    return {
        squeeze(form): row["counts_as"]
        for row in tables.rows("unlisted")
        for name in tables.words(row["names"])
        for form in (name, plural(name))
    }
