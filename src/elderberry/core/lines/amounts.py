"""The amount of a line: a figure or a range, and what it was measured in."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from elderberry.core.estimates import Estimate
from elderberry.core.figures import FIGURE_WORDS, Token
from elderberry.core.lines import phrases
from elderberry.core.lines.loose import Loose, loose, measures
from elderberry.core.quantities import Customs, Quantity, Reader, Unit, in_base, is_unit, unit_of

Span = tuple[int, int]
Dimension = Literal["mass", "volume", "count", "loose"]
ABOUT_SHARE = 0.10
"""What "about" adds to a range on each side [-]."""
MOST_CUPS = 30.0
"""From here on a C is degrees."""
HEAPED_SHARE = 0.20
"""How far a heaped or scant measure may be off [-]."""
_RANGE = frozenset({"to", "-", "–", "—", "or"})
_BETWEEN = _RANGE | {"and"}
_MORE = frozenset({"and", "+", "plus", "&"})
_PIECES = frozenset({"piece", "pieces", "knob", "stick", "length", "of", "a"})


@dataclass(frozen=True)
class Measured:
    """How much was measured: a figure with its range, in grams, millilitres or pieces.

    times: lo, typ and hi of what was counted or measured, in base units for mass and volume.
    loose: what one of a loose measure holds. spread: what the measure may be off [-].
    size: of counted pieces against usual ones [-].
    """

    times: Estimate
    dimension: Dimension
    start: int
    end: int
    words: str
    amount_place: Span
    unit_place: Span | None = None
    loose: Loose | None = None
    spread: float = 0.0
    size: float = 1.0

    @property
    def cut(self) -> str:
        """The form that the measure itself gives: a slice is sliced."""
        return self.loose.cut if self.loose else ""

    @property
    def by_volume(self) -> bool:
        """Whether it was measured by its volume."""
        return self.dimension == "volume" or (self.loose is not None and self.loose.unit == "ml")


def is_measure(word: str, customs: Customs) -> bool:
    """Whether a word measures rather than names.

    >>> is_measure("sprigs", Customs()), is_measure("honey", Customs())
    (True, False)
    """
    own = {w for name in customs.containers for w in name.split()}
    known = measures() | own | set(phrases.SIZES) | set(phrases.FEW)
    known |= phrases.ABOUT | phrases.HEAPED | phrases.LEVEL | FIGURE_WORDS.keys() | {"between"}
    return word in known or word.removesuffix("s") in own or is_unit(word)


def measured_at(text: str, called: str, material: str, customs: Customs) -> Measured | None:
    """The amount in a text from which all else was blanked out; None where there is none.

    Args:
        text: what is left of a line.
        called: what the cook calls what it is of.
        material: its key.
        customs: the household's cup and containers.

    Raises:
        CannotRead: figures that are none, or two in a row.
    """
    reader = _Amounts(text, customs, called, material)
    return reader.measured()


class _Amounts(Reader):
    def __init__(self, text: str, customs: Customs, called: str, material: str) -> None:
        super().__init__(text, customs)
        self.called, self.material = called, material
        self.about = self.heaped = False
        self.size = 1.0

    def measured(self) -> Measured | None:
        """The whole of it."""
        while self.at < len(self.tokens) and not self._begins(self.tokens[self.at]):
            self.at += 1
        if self.at >= len(self.tokens):
            return None
        first = self.tokens[self.at]
        self._adjectives()
        lo, typ, hi = self._count(first)
        last = self.tokens[self.at - 1] if self.at else first
        self._adjectives()
        times = self.times()
        found = self._in_unit(
            Estimate(float(lo * times), float(typ * times), float(hi * times)), first, last
        )
        return self._with_more(found)

    def _begins(self, token: Token) -> bool:
        word = token.text.lower()
        return is_measure(word, self.customs) or token.kind not in {"other", "word"}

    def _adjectives(self) -> None:
        """Words that widen or scale what is measured, and those that change nothing."""
        while self.at < len(self.tokens) and self._own()[0] is None:
            word = self.ahead()
            if word in phrases.ABOUT:
                self.about = True
                if self.ahead(1) == ".":
                    self.at += 1
            elif word in phrases.HEAPED:
                self.heaped = True
            elif word in phrases.SIZES:
                self.size = phrases.SIZES[word]
            elif (
                word not in phrases.LEVEL | (phrases.NOISE - {"a", "an", "piece", "pieces"})
                or is_unit(word)
                or word in self.customs.containers
            ):
                return
            self.at += 1

    def _count(self, first: Token) -> tuple[Fraction, Fraction, Fraction]:
        if self.ahead() == "a" and self.ahead(1) in phrases.FEW:
            self.at += 1
        if self.ahead() in phrases.FEW:
            lo, typ, hi = phrases.FEW[self.ahead()]
            self.at += 1
            self.skip("of")
            return Fraction(lo), Fraction(typ), Fraction(hi)
        between = self.ahead() == "between"
        self.at += between
        low = self.number()
        if low is None:
            one = Fraction(1)
            return one, one, one
        if self.ahead() in (_BETWEEN if between else _RANGE) and self._figure_ahead(1):
            self.at += 1
            high = self.number()
            if high is not None:
                if high < low:
                    self.fail("A range goes from the smaller to the larger.", first)
                return low, (low + high) / 2, high
        return low, low, low

    def _figure_ahead(self, by: int) -> bool:
        at = self.at + by
        return at < len(self.tokens) and self.figure(self.tokens[at]) is not None

    def _in_unit(self, times: Estimate, first: Token, last: Token) -> Measured:
        """In what it was measured: the household's own, a unit, a loose measure, or pieces."""
        self.skip("of", "a", "an")
        place = (first.start, last.end)
        start = self.at
        own, length = self._own()
        if own is not None:
            self.at += length
            return self._made(times.scaled(own.amount), _dimension(own), place, start, 0.1)
        loosely = self._loosely(times, place, start)
        if loosely is not None:
            return loosely
        system = self.system()
        unit, token = self._cups(times) or self.unit()
        if unit is None or token is None:
            held = loose("", self.called, self.material)
            what: Dimension = "count" if held is None else "loose"
            return self._made(times, what, place, start, held=held)
        if unit[0] in {"temperature", "length"}:
            self.fail(f"{self.called.capitalize()} is weighed, counted or measured out.", token)
        base, part = in_base(unit, 1.0, system), self._and_a_half()
        times = Estimate(times.lo + part, times.typ + part, times.hi + part)
        return self._made(times.scaled(base), unit[0], place, start)  # type: ignore[arg-type]

    def _cups(self, times: Estimate) -> tuple[Unit, Token] | None:
        """ "2 c": cups, since what goes in has no temperature; but nobody takes a hundred cups."""
        if self.ahead() != "c" or times.hi > MOST_CUPS:
            return None
        token = self.tokens[self.at]
        self.at += 1
        self.skip_dot()
        return unit_of("cup"), token

    def _and_a_half(self) -> float:
        """ "a cup and a half": the part of a unit that follows it."""
        here = self.at
        if self.ahead() == "and" and self._figure_ahead(1):
            self.at += 1
            part = self.number()
            if part is not None and part < 1 and not is_unit(self.ahead()):
                return float(part)
        self.at = here
        return 0.0

    def _own(self) -> tuple[Quantity | None, int]:
        """A container of the household's own ahead, and its length in words."""
        for length in (2, 1):
            tokens = self.tokens[self.at : self.at + length]
            words = " ".join(t.text.lower() for t in tokens)
            if len(tokens) < length:
                continue
            for name in (words, words.removesuffix("s"), words.removesuffix("es")):
                if name and name in self.customs.containers:
                    return self.customs.containers[name], length
        return None, 0

    def _loosely(self, times: Estimate, place: Span, start: int) -> Measured | None:
        """In handfuls, slices or pieces of a length; these go before units of the same name."""
        for length in (2, 1):
            tokens = self.tokens[self.at : self.at + length]
            held = loose(" ".join(t.text.lower() for t in tokens), self.called, self.material)
            if held is not None and len(tokens) == length:
                self.at += length
                while self.ahead() in _PIECES:
                    self.at += 1
                return self._made(times, "loose", place, start, held=held)
        return None

    def _made(
        self,
        times: Estimate,
        dimension: Dimension,
        place: Span,
        start: int,
        spread: float = 0.0,
        held: Loose | None = None,
    ) -> Measured:
        words_end = self.tokens[self.at - 1].end
        self._adjectives()
        if self.about:
            times = Estimate((1 - ABOUT_SHARE) * times.lo, times.typ, (1 + ABOUT_SHARE) * times.hi)
        last = self.tokens[self.at - 1]
        unit = (self.tokens[start].start, last.end) if start < self.at else None
        return Measured(
            times=times, dimension=dimension, start=place[0], end=last.end,
            words=" ".join(self.text[place[0] : words_end].split()).removesuffix(" of"),
            amount_place=place,
            unit_place=unit, loose=held, spread=HEAPED_SHARE if self.heaped else spread,
            size=self.size,
        )  # fmt: skip

    def _with_more(self, found: Measured) -> Measured:
        """ "2 lb 3 oz": what is added in a smaller unit."""
        while found.dimension in {"mass", "volume"}:
            joined = self.ahead() in _MORE
            if not self._figure_ahead(int(joined)):
                break
            self.at += joined
            first = self.tokens[self.at]
            number = self.number()
            system = self.system()
            unit, token = self.unit()
            if number is None or unit is None or token is None or unit[0] != found.dimension:
                self.fail("These two do not add up.", first)
            more = in_base(unit, float(number), system)
            last = self.tokens[self.at - 1]
            times = Estimate(found.times.lo + more, found.times.typ + more, found.times.hi + more)
            found = Measured(
                times, found.dimension, found.start, last.end,
                " ".join(self.text[found.start : last.end].split()),
                (found.start, last.end), None, None, found.spread, found.size,
            )  # fmt: skip
        return found


def _dimension(held: Quantity) -> Dimension:
    return "mass" if held.dimension == "mass" else "volume"
