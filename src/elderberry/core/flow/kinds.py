"""Kinds of operation: their words, what they take and give, and what cooks do differently."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, cached_property
from typing import Any

from elderberry.core import tables
from elderberry.core.errors import CoreError


@dataclass(frozen=True)
class Option:
    """One way of doing it: its words, what it is good for, and its effects as figures."""

    value: str
    label: str
    note: str
    effects: Mapping[str, float]


@dataclass(frozen=True)
class Choice:
    """Something about a step that cooks do differently; the first option is the default."""

    key: str
    label: str
    options: tuple[Option, ...]

    @property
    def default(self) -> str:
        """The way it is done when nothing was said."""
        return self.options[0].value

    def option(self, value: str) -> Option:
        """The option with this value.

        Raises:
            CoreError: there is none.
        """
        for option in self.options:
            if option.value == value:
                return option
        raise CoreError(f"{self.label} cannot be {value!r}")


@dataclass(frozen=True)
class Number:
    """A figure of a step with its unit and limits; `word` may stand for "nobody measured it"."""

    key: str
    label: str
    unit: str
    lo: float
    hi: float
    default: float | str
    word: str = ""
    says: str = ""
    """The word as a cook says it; itself where it is not given."""
    note: str = ""


@dataclass(frozen=True)
class Kind:
    """A kind of operation: its words, station, what it takes and gives, and its choices."""

    key: str
    words: Mapping[str, str]
    usual: Mapping[str, str]
    """Figures of its words where an operation brings none of its own."""
    variants: Mapping[str, Mapping[str, str]]
    """The same where it is done with something else, such as a steam canner."""
    station: str
    takes: tuple[str, ...]
    """Kinds of lot it can take."""
    gives: tuple[tuple[str, str], ...]
    """Name and kind of the lots it gives, the main one first."""
    many: bool
    """Whether it takes several lots together."""
    asks: tuple[str, ...]
    vessel: str
    choices: tuple[Choice, ...]
    numbers: tuple[Number, ...]
    way: str
    """The way of juicing whose yields it learns from; empty where it gets no juice out."""
    learns: str
    """What it learns from beside a way of juicing: "peel", by the weight that is read of it."""
    pulp_pct: float
    """Undissolved matter in the juice it gets out [g/100 g]."""
    in_editor: bool
    timed: bool
    """Whether a timer runs, so that a press starts it."""
    does: str = ""
    """The function of core/operations that lays it out; empty where another kind's does."""
    role: str = ""
    """What the work does with it beyond laying it out: steam, heat, fill, process and so on."""
    drawing: str = ""
    form: str = ""
    """What its fruit is afterwards; as it was where it does not say."""
    joins: tuple[str, ...] = ()
    """Kinds of lot that it takes besides the first."""
    calls_for: tuple[str, ...] = ()
    """Kinds of lot that go in here, or right before it, where nobody says when they do."""
    boil: str = ""
    """Whether its time "counts" from a boil, or "holds" one that may not end before it is over."""
    short: str = "boil-not-held"
    """The stop that stands where a boil that has to be held ends early."""
    cooks: bool = False
    """Whether what has to be drawn out, or softened, can join it: a simmer, a steep."""
    sweetens: bool = False
    """Whether it puts in sugar of its own, so that what sweetens joins it."""
    covers: bool = False
    """Whether it covers fruit with water of its own, so that water joins it."""
    heats: bool = False
    waits: bool = False
    gets_juice: bool = False
    keeps_acidity: bool = False
    into_jars: bool = False
    follows: bool = False
    endings: tuple[str, ...] = ()
    place: str = ""
    leaves_c: float | None = None
    raw: bool = False
    packs_raw: bool = False
    wet: bool = False
    peel: bool = False
    """Whether raw peel goes into it with the fruit."""
    anew: bool = False
    """Whether its amounts follow what was read before it, until it begins."""
    becomes: str = ""
    """The kind that a second turn of it is, or that it is where what is raw is toxic."""
    reasons: tuple[str, ...] = ()
    checks: tuple[str, ...] = ()
    """What is looked at before one press says that it is done."""
    sums: tuple[str, ...] = ()
    """Sums of the kitchen that it opens, with the figures of its pot."""
    tau_h: float = 0.0

    def given(self, place: int, first: str) -> str:
        """The kind of the lot that it gives at a place, where its first lot is of a kind.

        What it does not say stays as it was; water with something in it is a liquid like juice.
        """
        what = self.gives[place][1]
        return what or ("juice" if first == "water" else first)

    @property
    def sort(self) -> str:
        """What it does to what it gives, as readings speak of it: steam, juice, reduce, or none.

        >>> kind("steam_juice").sort, kind("press").sort, kind("cook_syrup").sort, kind("mash").sort
        ('steam', 'juice', 'reduce', '')
        """
        if self.role in {"steam", "reduce"}:
            return self.role
        return "juice" if self.gets_juice else ""

    @cached_property
    def options(self) -> dict[str, Choice | Number]:
        """Its choices and numbers by key."""
        both: list[Choice | Number] = [*self.choices, *self.numbers]
        return {one.key: one for one in both}


DRIES = frozenset({"freeze_dry", "air_dry"})
LOSES_WATER = frozenset({"reduce", *DRIES})
"""Roles of steps that dry, and of all those out of which only water goes."""
WORDS = ("title", "verb", "hands", "look_for", "before", "then")
PLAIN = ("does", "role", "drawing", "form", "boil", "short", "heats", "cooks",
         "sweetens", "covers", "waits",
         "gets_juice", "keeps_acidity", "into_jars", "follows", "place", "leaves_c", "raw",
         "packs_raw", "wet", "becomes", "peel", "tau_h", "anew")  # fmt: skip
LISTS = ("joins", "endings", "reasons", "sums", "calls_for", "checks")


@cache
def kinds() -> dict[str, Kind]:
    """Every kind of operation by key."""
    rows = tables.document("operations")
    return {key: _kind(key, _whole(row, rows)) for key, row in rows.items()}


def _whole(row: Mapping[str, Any], rows: Mapping[str, Any]) -> Mapping[str, Any]:
    """A row with everything of the kind that it is like; choices of its own come besides."""
    like = rows.get(row.get("like", ""), {})
    choices = [*like.get("choices", ()), *row.get("choices", ())]
    return {**like, **row, "choices": choices}


def kind(key: str) -> Kind:
    """The kind of operation with this key.

    Raises:
        CoreError: there is none.

    >>> kind("steam_juice").station
    'juicer'
    """
    try:
        return kinds()[key]
    except KeyError:
        raise CoreError(f"there is no operation called {key}") from None


@cache
def of_role(role: str) -> str:
    """The first kind of operation with a role.

    >>> of_role("fill")
    'fill'
    """
    return next(key for key, what in kinds().items() if what.role == role)


@cache
def after_filling(keep: str) -> tuple[str, ...]:
    """Kinds of operation that follow a filling by themselves, by how the jars are kept.

    >>> after_filling("shelf"), after_filling("freeze")
    (('process', 'seal_check'), ('freeze',))
    """
    return tuple(
        key for key, what in kinds().items() if what.follows and what.does and keep in what.endings
    )


def _kind(key: str, row: Mapping[str, Any]) -> Kind:
    plain: dict[str, Any] = {name: row[name] for name in PLAIN if name in row}
    plain |= {name: tuple(row[name]) for name in LISTS if name in row}
    return Kind(
        key=key,
        words={name: row[name] for name in WORDS},
        usual=row.get("usual", {}),
        variants=row.get("variants", {}),
        station=row["station"],
        takes=tuple(row.get("takes", ())),
        gives=tuple((name, what) for name, _, what in (g.partition(":") for g in row["gives"]))
        if "gives" in row
        else (),
        many=row.get("many", False),
        asks=tuple(row.get("asks", ())),
        vessel=row.get("vessel", ""),
        choices=tuple(_choice(c) for c in row.get("choices", ())),
        numbers=tuple(Number(**n) for n in row.get("numbers", ())),
        way=row.get("way", ""),
        learns=row.get("learns", row.get("way", "")),
        pulp_pct=row.get("pulp_pct", 0.0),
        in_editor=row.get("in_editor", True),
        timed=row.get("timed", False),
        **plain,
    )


def _choice(row: Mapping[str, Any]) -> Choice:
    options = []
    for option in row["options"]:
        effects = {k: float(v) for k, v in option.items() if k not in {"value", "label", "note"}}
        options.append(Option(option["value"], option["label"], option.get("note", ""), effects))
    return Choice(row["key"], row["label"], tuple(options))
