"""Lines that speak of jars which were there already: "12 pints plum, cellar, August 2025".

As with every line (core/lines), what is understood is taken out of the text; what is left names
what is in the jars.
"""

from __future__ import annotations

import re
from calendar import monthrange
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta

from elderberry.core import jars, materials, names
from elderberry.core.containers import JarKind, vessel_types
from elderberry.core.figures import FIGURE_WORDS, CannotRead
from elderberry.core.lines.blanked import Blanked
from elderberry.core.quantities import Customs
from elderberry.core.shelf.found import MOST, Filled, FoundJars, products

MONTHS = ("january", "february", "march", "april", "may", "june", "july", "august", "september",
          "october", "november", "december")  # fmt: skip
SEASONS = {"spring": (3, 5), "summer": (6, 8), "autumn": (9, 11), "fall": (9, 11),
           "winter": (12, 2)}  # fmt: skip
OLDEST_D, OLDEST_YEARS = 1095, 20
"""What nobody knows the day of was filled within so many days; over 20 years ago is a slip."""
KIND_WORDS = {
    "cellar": "cellar", "basement": "cellar", "shelf": "shelf", "shelves": "shelf",
    "pantry": "shelf", "larder": "shelf", "cupboard": "shelf", "fridge": "refrigerator",
    "refrigerator": "refrigerator", "freezer": "freezer", "deep freeze": "freezer",
}  # fmt: skip
NEAR = 0.12
"""How far a size may be off one that is listed [-]."""
ML = {"ml": 1.0, "cl": 10.0, "dl": 100.0, "l": 1000.0, "oz": 29.57, "pint": 473.2, "quart": 946.4,
      "gallon": 3785.4}  # fmt: skip
VESSEL_ML = {"bag": 1000.0, "barrier": 500.0, "box": 500.0, "squeeze": 500.0, "can": 1000.0,
             "cubes": 500.0}  # fmt: skip
"""What a vessel holds whose size is not said [mL]."""
NOISE = frozenset({"of", "with", "the", "a", "an", "in", "on", "at", "from", "jar", "jars",
                   "bottle", "bottles", "in the", "full", "about", "x", "×"})  # fmt: skip
_MONTH = "|".join(f"{m}|{m[:3]}" for m in MONTHS) + "|sept"
_YEAR = r"(\d{4}|['’]\d\d)"
_SHARE = {"half": 0.5, "quarter": 0.25, "½": 0.5, "¼": 0.25, "1/2": 0.5, "1/4": 0.25}
_UNITS = "ml|cl|dl|l|oz|litres?|liters?|ounces?"
_SIZE = re.compile(
    r"(?<![\w])(?:(?P<mixed>pints? and a half)"
    r"|(?:(?P<part>half|quarter|1/2|1/4|[½¼])[ -]*)?(?P<unit>pint|quart|gallon)s?\b"
    rf"|(?P<figure>\d+(?:[.,]\d+)?|twelve)[ -]*(?P<metric>{_UNITS})\b"
    r"|(?P<alone>litre|liter)s?\b)"
)


@dataclass(frozen=True)
class Stands:
    """A place of the household that a line may name: number, name and kind."""

    id: int
    name: str
    kind: str


@dataclass(frozen=True)
class Around:
    """What a line is read by.

    places: the household's, the one that most stands on in front. today: the kitchen's day.
    customs: its units and own ingredients. stock: kinds of jar that it has, most of them first.
    vessels: keys of its own vessels by their names.
    """

    places: tuple[Stands, ...]
    today: date
    customs: Customs = field(default_factory=Customs)
    stock: tuple[str, ...] = ()
    vessels: Mapping[str, str] = field(default_factory=dict)


def read(text: str, around: Around) -> FoundJars:
    """What a line says of jars that were there already.

    Args:
        text: such as "3 bottles rosehip syrup, fridge".
        around: the household's places, jars and day.

    Raises:
        CannotRead: it does not say how many or of what, or a day that has not come; with the place.

    >>> there = Around((Stands(1, "Cellar", "cellar"),), date(2026, 3, 1))
    >>> found = read("12 pints plum, cellar, August 2025", there)
    >>> found.count, found.jar_kind, found.label, found.filled.first
    (12, 'pint', 'Plum', datetime.date(2025, 8, 1))
    """
    line = Blanked(text, around.customs)
    if not line.rest.strip():
        line.fail("There is nothing to read.", (0, max(1, len(text))))
    doubts: set[str] = set()
    filled = _filled(line, around)
    if filled is None:
        doubts.add("filled")
        filled = Filled(oldest(around.today), around.today)
    place = _place(line, around.places)
    count = _count(line)
    kind = _kind(line, around, doubts)
    label, product = _label(line)
    if place is None:
        doubts.add("place")
        place = _usual_place(around.places, product, f"{kind.key} {label}")
    material = _material(label, around.customs)
    if not material:
        doubts.add("material")
    return FoundJars(
        text, count, label, material, product, kind.key, place.id, filled, frozenset(doubts)
    )


def oldest(today: date) -> date:
    """The first day on which what nobody knows the day of may have been filled.

    >>> oldest(date(2026, 11, 28))
    datetime.date(2023, 11, 29)
    """
    return today - timedelta(days=OLDEST_D)


def read_label(label: str, customs: Customs | None = None) -> tuple[str, str]:
    """What a label speaks of: the material it is judged by, and the word of what it holds.

    >>> read_label("Damson juice"), read_label("Chutney")
    (('damson', 'juice'), ('', ''))
    """
    return _material(label, customs or Customs()), _product(label)


COLD = {"frozen": "freezer", "cubes": "freezer", "chilled": "refrigerator"}
"""Words for what stands in the cold, wherever else most jars do."""


def _usual_place(places: Iterable[Stands], product: str, called: str) -> Stands:
    """Where it most likely stands: what is called frozen in the freezer, what is dry or canned on
    a shelf, as most jars do.
    """
    there = list(places)
    words = set(re.findall(r"[a-z]+", called.lower()))
    cold = [p for word, kind in COLD.items() if word in words for p in there if p.kind == kind]
    warm = [p for p in there if p.kind in {"cellar", "shelf"}]
    if cold:
        return cold[0]
    return next(iter(warm if "shelf" in products()[product].clocks or warm else there))


def _filled(line: Blanked, around: Around) -> Filled | None:
    """The day, month, season or year that it says, taken out of the text."""
    for pattern, read_it in _DAYS:
        match = pattern.search(line.rest)
        if match is None:
            continue
        try:
            found = read_it(match, around)
        except ValueError:
            line.fail("There is no such day.", match.span())
        if found is None:
            continue
        if found.first > around.today:
            line.fail("That day has not come yet.", match.span())
        if found.last.year < around.today.year - OLDEST_YEARS:
            line.fail("That is more than 20 years ago.", match.span())
        line.take(match.span(), "filled")
        return Filled(found.first, min(found.last, around.today))
    return None


def _iso(match: re.Match[str], _: Around) -> Filled:
    year, month = int(match[1]), int(match[2])
    return _month(year, month) if match[3] is None else _day(year, month, int(match[3]))


def _with_points(match: re.Match[str], around: Around) -> Filled:
    """Day first, as most of the world writes; month first in a kitchen that measures in cups."""
    one, two, year = int(match[1]), int(match[2]), _year(match[3])
    slashes = "/" in match[0]
    month, day = (one, two) if slashes and around.customs.system == "us" else (two, one)
    return _day(year, month, day)


def _named(match: re.Match[str], around: Around) -> Filled:
    month = 1 + next(n for n, m in enumerate(MONTHS) if m.startswith(match["month"][:3]))
    before = match["before"] or match["after"]
    if match["year"]:
        year = _year(match["year"])
    else:
        year = around.today.year - (month > around.today.month)
    return _day(year, month, int(before)) if before else _month(year, month)


def _season(match: re.Match[str], around: Around) -> Filled:
    first, last = SEASONS[match["season"]]
    if match["year"]:
        year = _year(match["year"])
    else:
        year = around.today.year - (date(around.today.year, first, 1) > around.today)
        not_over = _season_of(year, first, last).last >= around.today
        year -= bool(match["last"]) and not_over
    return _season_of(year, first, last)


def _season_of(year: int, first: int, last: int) -> Filled:
    end = year + (last < first)
    return Filled(date(year, first, 1), date(end, last, monthrange(end, last)[1]))


def _words(match: re.Match[str], around: Around) -> Filled:
    year = around.today.year - (match[1] == "last")
    return Filled(date(year, 1, 1), date(year, 12, 31))


def _only_year(match: re.Match[str], around: Around) -> Filled | None:
    year = _year(match[1])
    if year < around.today.year - 60:
        return None
    return Filled(date(year, 1, 1), date(year, 12, 31))


def _year(said: str) -> int:
    figure = int(said.lstrip("'’"))
    return figure + 2000 if figure < 100 else figure


def _month(year: int, month: int) -> Filled:
    return Filled(date(year, month, 1), date(year, month, monthrange(year, month)[1]))


def _day(year: int, month: int, day: int) -> Filled:
    return Filled(date(year, month, day), date(year, month, day))


_DAYS = (
    (re.compile(r"\b(\d{4})-(\d{1,2})(?:-(\d{1,2}))?\b"), _iso),
    (re.compile(r"\b(\d{1,2})[./](\d{1,2})[./](\d{4}|\d\d)\b"), _with_points),
    (re.compile(
        rf"\b(?:(?P<before>\d{{1,2}})(?:st|nd|rd|th)?\.?\s+)?(?P<month>{_MONTH})\b\.?"
        rf"(?:\s+(?P<after>\d{{1,2}})(?:st|nd|rd|th)?(?=\s*,\s*\d{{4}}))?(?:,?\s*(?:of\s+)?"
        rf"(?P<year>\d{{4}}|['’]\d\d))?(?!\w)"), _named),
    (re.compile(
        rf"\b(?P<last>last\s+)?(?P<season>{'|'.join(SEASONS)})\b(?:\s+(?:of\s+)?"
        rf"(?P<year>\d{{4}}|['’]\d\d))?"), _season),
    (re.compile(r"\b(this|last) year('s)?\b"), _words),
    (re.compile(rf"(?<!\w){_YEAR}(?!\w)"), _only_year),
)  # fmt: skip


def _place(line: Blanked, places: Iterable[Stands]) -> Stands | None:
    """The place that it names, by its name or by what kind of place it is."""
    there = list(places)
    for place in sorted(there, key=lambda p: -len(p.name)):
        said = re.compile(rf"\b(?:(?:in|on|at)\s+)?(?:the\s+)?{re.escape(place.name.lower())}\b")
        if line.found(said, "place"):
            return place
    for word, kind in sorted(KIND_WORDS.items(), key=lambda w: -len(w[0])):
        said = re.compile(rf"\b(?:(?:in|on|at)\s+)?(?:the\s+)?{word}(?:\s+shel(?:f|ves))?\b")
        match = said.search(line.rest)
        if match is None:
            continue
        found = next((p for p in there if p.kind == kind), None)
        if found is None and kind in {"cellar", "shelf"}:
            found = next((p for p in there if p.kind in {"cellar", "shelf"}), None)
        if found is None:
            line.fail(f"There is no {kind} here yet: add it under Kitchen.", match.span())
        line.take(match.span(), "place")
        return found
    return None


_COUNT = re.compile(
    rf"\W*(?:(?P<figure>\d+)(?!\s*(?:{_UNITS})\b|[/.,]\d)|(?P<word>[a-z]+))"
    r"(?:\s+(?P<dozen>dozen))?\s*(?:x|×)?(?=\s|\d|$)"
)


def _count(line: Blanked) -> int:
    """How many jars; one where its size stands in front."""
    match = _COUNT.match(line.rest)
    word = match["word"] if match else None
    said = FIGURE_WORDS.get(word or "") if word else None
    if match is None or (word and (said is None or said < 1)):
        if (size := _SIZE.search(line.rest)) and not line.rest[: size.start()].strip():
            return 1
        line.fail("How many? Begin with a figure.", (0, min(3, len(line.text))))
    count = int(said if said is not None else match["figure"]) * (12 if match["dozen"] else 1)
    line.take(match.span(), "amount")
    if not 0 < count <= MOST:
        line.fail(f"Between 1 and {MOST} jars in a line.", match.span())
    return count


def _kind(line: Blanked, around: Around, doubts: set[str]) -> JarKind:
    """What they are in, by its size and its word; guessed at where it is not said."""
    for name, key in sorted(around.vessels.items(), key=lambda v: -len(v[0])):
        if line.found(re.compile(rf"\b{re.escape(name)}s?\b"), "unit"):
            return jars.kind(key)
    size_ml = _size_ml(line)
    bottle = bool(re.search(r"\bbottles?\b", line.rest))
    for key, what in vessel_types().items():
        if key in VESSEL_ML and line.found(re.compile(rf"\b{what.name}(?:s|es)?\b"), "unit"):
            doubts.update({"jar_kind"} - ({"jar_kind"} if size_ml else set()))
            return jars.kind(f"{key}-{size_ml or VESSEL_ML[key]:.0f}")
    if size_ml is not None:
        near = _nearest(size_ml, bottle=bottle)
        doubts.update(() if abs(near.nominal_ml / size_ml - 1.0) <= NEAR else {"jar_kind"})
        return near
    doubts.add("jar_kind")
    stock = [jars.kind(k) for k in around.stock]
    alike = [k for k in stock if ("bottle" in k.name) == bottle]
    usual = "m500" if around.customs.system == "metric" else "pint"
    return next(iter(alike), jars.kind("m700" if bottle else usual))


def _nearest(size_ml: float, *, bottle: bool) -> JarKind:
    """The listed jar whose size is nearest; of two as near, a bottle where one is said."""
    return min(
        jars.kinds().values(),
        key=lambda k: (round(abs(k.nominal_ml - size_ml)), ("bottle" in k.name) != bottle),
    )


def _size_ml(line: Blanked) -> float | None:
    """The size that it says [mL], taken out of the text."""
    match = _SIZE.search(line.rest)
    if match is None:
        return None
    line.take(match.span(), "unit")
    if match["mixed"]:
        return 1.5 * ML["pint"]
    if match["alone"]:
        return ML["l"]
    if match["unit"]:
        return _SHARE.get(match["part"] or "", 1.0) * ML[match["unit"]]
    unit = {"litre": "l", "liter": "l", "ounce": "oz"}.get(match["metric"].rstrip("s"))
    figure = match["figure"].replace("twelve", "12").replace(",", ".")
    return float(figure) * ML[unit or match["metric"].rstrip("s")]


def _label(line: Blanked) -> tuple[str, str]:
    """What stands on them, and the word of it that says what they hold."""
    kept = re.sub(r"[()\[\]]", " ", line.kept())
    parts = [" ".join(p.split()) for p in re.split(r"[,;:–—]", kept)]
    said = ", ".join(filter(None, (_without_noise(p) for p in parts)))
    if not re.search(r"[^\W\d_]", said):
        line.fail("Jars of what? Name it after the amount.", (0, len(line.text)))
    return said[:1].upper() + said[1:][:119], _product(said)


def _product(label: str) -> str:
    """The first product of which a label has a word."""
    small = label.lower()
    return next(
        (p.word for p in products().values() for w in p.words
         if re.search(rf"\b{re.escape(w)}\b", small)), ""
    )  # fmt: skip


def _without_noise(part: str) -> str:
    words = part.split()
    while words and words[0].lower() in NOISE:
        words = words[1:]
    while words and words[-1].lower() in NOISE:
        words = words[:-1]
    return " ".join(words).strip(" -./")


RISKS = ("low", "watch", "never")


def _material(label: str, customs: Customs) -> str:
    """What it is judged by: of the fruits that it names the least sour, else the longest name.

    Nothing where it names something that no list knows.
    """
    own = {names.squeeze(name): key for name, key in customs.own.items()}
    words = re.findall(r"[^\W\d_]+(?:['’-][^\W\d_]+)*", label)
    longest = names.most_words(customs.own)
    found: list[tuple[int, int, str]] = []
    for first in range(len(words)):
        for last in range(first + 1, min(len(words), first + longest) + 1):
            squeezed = names.squeeze(" ".join(words[first:last]))
            strange = squeezed in names.unlisted() and squeezed not in own
            if strange and not _says_how(words[first:last]):
                return ""
            key = own.get(squeezed) or _one(squeezed)
            fruit = materials.fruits().get(key)
            if key:
                found.append((1 + RISKS.index(fruit.ph_risk) if fruit else 0, last - first, key))
    return max(found, key=lambda f: f[:2])[2] if found else ""


def _says_how(words: Iterable[str]) -> bool:
    """Whether one of some words says what was made of something, and not of what."""
    known = {w for p in products().values() for w in p.words}
    return any(word.lower() in known for word in words)


def _one(squeezed: str) -> str:
    """The material of a name; a fruit where others share it."""
    known = names.called().get(squeezed)
    keys = known.keys if known else ()
    fruits = [k for k in keys if k in materials.fruits()]
    return next(iter(fruits or keys), "")


__all__ = ("Around", "CannotRead", "Stands", "read")
