"""Figures as people write them: digits, fractions, words, and their places in a text."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from typing import NoReturn

from elderberry.core.errors import CoreError

_VULGAR = {"¼": "1/4", "½": "1/2", "¾": "3/4", "⅓": "1/3", "⅔": "2/3"} | {
    "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8", "⅙": "1/6", "⅚": "5/6", "⅕": "1/5",
}  # fmt: skip
_COUNTED = (
    "one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen "
    "sixteen seventeen eighteen nineteen twenty"
)
_NUMBER_WORDS: dict[str, Fraction] = {
    **{word: Fraction(n) for n, word in enumerate(_COUNTED.split(), start=1)},
    **dict.fromkeys(("a", "an"), Fraction(1)),
    "couple": Fraction(2),
    "dozen": Fraction(12),
}
_PART_WORDS: dict[str, Fraction] = {
    **dict.fromkeys(("half", "halves"), Fraction(1, 2)),
    **dict.fromkeys(("third", "thirds"), Fraction(1, 3)),
    **dict.fromkeys(("quarter", "quarters"), Fraction(1, 4)),
    **dict.fromkeys(("fifth", "fifths"), Fraction(1, 5)),
    **dict.fromkeys(("sixth", "sixths"), Fraction(1, 6)),
    **dict.fromkeys(("eighth", "eighths"), Fraction(1, 8)),
    **dict.fromkeys(("tenth", "tenths"), Fraction(1, 10)),
}
FIGURE_WORDS = _NUMBER_WORDS | _PART_WORDS
_DIGITS = frozenset({"vulgar", "mixed", "fraction", "number"})
_TOKEN = re.compile(
    r"\s*(?:(?P<vulgar>[¼½¾⅓⅔⅛⅜⅝⅞⅙⅚⅕])|(?P<mixed>\d+(?:\s+|-)\d+\s*[/⁄]\s*\d+)|(?P<fraction>\d+\s*[/⁄]\s*\d+)"
    r"|(?P<number>\d+(?:[.,]\d+)*)|(?P<word>[^\W\d_]+(?:['’][^\W\d_]+)*|°\s*[CF]|[\"'″′])"
    r"|(?P<other>\S))"
)


class CannotRead(CoreError):
    """Text that is no quantity, or could be two; start and end point at the place."""

    def __init__(self, message: str, text: str, start: int, end: int) -> None:
        self.text, self.start, self.end = text, start, max(end, start + 1)
        super().__init__(message)

    def pointed(self) -> str:
        """The text with carets under the place."""
        return f"{self.text}\n{' ' * self.start}{'^' * (self.end - self.start)}"


@dataclass(frozen=True)
class Token:
    """A figure, a word or a sign, and where it stands."""

    kind: str
    text: str
    start: int
    end: int


class Cursor:
    """Goes through a text token by token and reads its figures."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.tokens = list(tokens_of(text))
        self.at = 0

    def ahead(self, by: int = 0) -> str:
        """The word or sign ahead in small letters; empty at the end."""
        at = self.at + by
        return self.tokens[at].text.lower() if at < len(self.tokens) else ""

    def times(self) -> Fraction:
        """The second figure of "3 x 500 g"; 1 where nothing is multiplied."""
        if self.ahead() not in {"x", "×"}:
            return Fraction(1)
        sign = self.tokens[self.at]
        self.at += 1
        found = self.number()
        if found is None:
            self.fail("A figure was expected after this.", sign)
        return found

    def number_ahead(self) -> bool:
        """Whether another figure follows, perhaps after "and"."""
        at = self.at + (self.ahead() == "and")
        found = at < len(self.tokens) and self.tokens[at].kind in _DIGITS
        self.at = at if found else self.at
        return found

    def number(self) -> Fraction | None:
        """A figure in digits or words, perhaps with a part ("two and a half"); None without one."""
        value, here = self._figures(), self.at
        if value is None or self.ahead() != "and":
            return value
        self.at += 1
        part = self._figures()
        if part is None or part >= 1:
            self.at = here
            return value
        return value + part

    def _figures(self) -> Fraction | None:
        value: Fraction | None = None
        while self.at < len(self.tokens):
            if value is not None and self.ahead() == "-" and self.ahead(1) in _PART_WORDS:
                self.at += 1
            token = self.tokens[self.at]
            more = self.figure(token)
            if more is None:
                break
            if value is not None and token.kind != "word" and not 0 < more < 1:
                self.fail("Two figures in a row: which of them?", token)
            value = _joined(value, more, token)
            self.at += 1
            if token.text.lower() in {*_PART_WORDS, "couple", "dozen"}:
                self.skip("of", "a", "an")
        return value

    def figure(self, token: Token) -> Fraction | None:
        """What a token alone is as a figure; None where it is none."""
        if token.kind == "vulgar":
            return Fraction(_VULGAR[token.text])
        if token.kind in {"mixed", "fraction"}:
            *whole, numerator, denominator = (int(n) for n in re.findall(r"\d+", token.text))
            if denominator == 0:
                self.fail("Nothing can be divided by nought.", token)
            return sum(whole) + Fraction(numerator, denominator)
        if token.kind == "number":
            return self._decimal(token)
        return FIGURE_WORDS.get(token.text.lower())

    def _decimal(self, token: Token) -> Fraction:
        text = token.text
        if re.fullmatch(r"\d{1,3}(,\d{3})+(\.\d+)?", text):
            if text.count(",") == 1 and "." not in text:
                plain, point = text.replace(",", ""), text.replace(",", ".")
                self.fail(f"This could be {plain} or {point}: write it one way.", token)
            return Fraction(text.replace(",", ""))
        if text.count(",") + text.count(".") > 1:
            self.fail("This is no figure.", token)
        return Fraction(text.replace(",", "."))

    def skip(self, *words: str) -> None:
        """Go past any of these words."""
        while self.ahead() in words:
            self.at += 1

    def skip_dot(self) -> None:
        """Go past the point of a shortened word."""
        if self.ahead() == ".":
            self.at += 1

    def fail(self, message: str, token: Token, last: Token | None = None) -> NoReturn:
        """Raise CannotRead at a token, or from it to another."""
        raise CannotRead(message, self.text, token.start, (last or token).end)


def _joined(value: Fraction | None, more: Fraction, token: Token) -> Fraction:
    """Figures in a row: "2 dozen" multiplies, "half a", "two and" follow, "2 ½" adds."""
    if value is None:
        return more
    if token.kind == "word":
        return value * more
    return value + more


def tokens_of(text: str) -> Iterator[Token]:
    """Figures, words and signs with their places."""
    position = 0
    while (match := _TOKEN.match(text, position)) is not None:
        kind = str(match.lastgroup)
        yield Token(kind, match.group(kind), match.start(kind), match.end(kind))
        position = match.end()
