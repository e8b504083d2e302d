"""Labels for jars: sheets and rolls as PDF, each with its code, its words and a square to scan.

Source: ISO 18004 for the squares; reportlab lays out and draws.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from io import BytesIO

import segno
from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from elderberry.core import tables
from elderberry.core.errors import Unknown, check_range
from elderberry.formats.paper import INK, faces

PAD = 2.0 * mm
QUIET = 4
"""Cells of paper around a square."""
SMALL_MM = 24.0
"""A label lower than this carries its name, code, day and square, and nothing else."""
FINE_PT, USUAL_PT, NAME_PT = 6.0, 6.6, 10.0
NAME_LINES = 2


@dataclass(frozen=True)
class Sheet:
    """A sheet or roll of labels; all lengths in mm."""

    key: str
    name: str
    paper: str
    page_w: float
    page_h: float
    columns: int
    rows: int
    width: float
    height: float
    left: float
    top: float
    across: float
    down: float

    @property
    def count(self) -> int:
        """Labels on a page."""
        return self.columns * self.rows


@dataclass(frozen=True)
class Label:
    """What stands on a label.

    name; code; days: made and best by; lines: contents, sugar, how to thin and cautions, those that
    matter most first; url: what the square says; colour: of what is in it, as a hex figure.
    """

    name: str
    code: str
    days: str
    lines: Sequence[str]
    url: str
    colour: str


@cache
def sheets() -> dict[str, Sheet]:
    """Every sheet and roll of data/label_sheets.csv."""
    return {
        row["key"]: Sheet(
            row["key"], row["name"], row["paper"], float(row["page_w"]), float(row["page_h"]),
            int(row["columns"]), int(row["rows"]), *(float(row[k]) for k in LENGTHS),
        )
        for row in tables.rows("label_sheets")
    }  # fmt: skip


LENGTHS = ("width", "height", "left", "top", "across", "down")


def sheet(key: str) -> Sheet:
    """A sheet by its key.

    Raises:
        Unknown: there is none such.

    >>> sheet("a4_21").count
    21
    """
    try:
        return sheets()[key]
    except KeyError:
        raise Unknown("sheet of labels", key) from None


def square(text: str) -> list[str]:
    """The square that says a text, as rows of "1" and "0".

    >>> len(square("http://127.0.0.1:8000/shelf/1"))
    29
    """
    matrix = segno.make(text, error="m", micro=False).matrix
    return ["".join("1" if cell else "0" for cell in row) for row in matrix]


def pdf(labels: Sequence[Label], on: Sheet, start: int = 1) -> bytes:
    """Labels on sheets as a PDF.

    Args:
        labels: in the order in which they are laid out, row by row.
        on: the sheet or roll.
        start: where on the first page the first label goes, from 1: a sheet of which some were
            used before.

    Raises:
        OutOfRange: a place that the sheet does not have.

    >>> one = Label("Quince", "QU-26-01-01", "made 3 Oct 2026", ("cold",), "http://a/1", "#d9a441")
    >>> pdf([one], sheet("roll_62_29"))[:5]
    b'%PDF-'
    """
    check_range("the first label", start, "", 1, on.count)
    faces()
    held = BytesIO()
    canvas = Canvas(held, pagesize=(on.page_w * mm, on.page_h * mm), invariant=1)
    canvas.setTitle("Labels")
    for n, label in enumerate(labels, start=start - 1):
        if n % on.count == 0 and n > start - 1:
            canvas.showPage()
        place = n % on.count
        x = (on.left + (place % on.columns) * on.across) * mm
        y = (on.page_h - on.top - (place // on.columns) * on.down - on.height) * mm
        _draw(canvas, label, x, y, on)
    canvas.showPage()
    canvas.save()
    return held.getvalue()


def _draw(canvas: Canvas, label: Label, x: float, y: float, on: Sheet) -> None:
    width, height = on.width * mm, on.height * mm
    side = min(height - PAD, 0.42 * width)
    canvas.setFillColor(HexColor(label.colour))
    canvas.rect(x + PAD, y + PAD, 1.4 * mm, height - 2 * PAD, stroke=0, fill=1)
    _square(canvas, label.url, x + width - side, y + height - PAD / 2 - side, side)
    left, line = x + PAD + 2.6 * mm, y + height - PAD
    canvas.setFillColor(INK)
    for face, text, size in _lines(label, width - side - PAD - 3.0 * mm, on):
        line -= 1.25 * size
        if line < y + PAD / 2:
            return
        canvas.setFont(face, size)
        canvas.drawString(left, line, text)


def _lines(label: Label, room: float, on: Sheet) -> list[tuple[str, str, float]]:
    """What is written on a label, line by line: typeface, words and size [pt]."""
    size = NAME_PT
    while size > FINE_PT and len(_broken(label.name, "Strong", size, room)) > NAME_LINES:
        size -= 0.5
    days = label.days.replace(", ", ",\n").split("\n") if on.height < SMALL_MM else [label.days]
    named = _broken(label.name, "Strong", size, room)[:NAME_LINES]
    said = [*(("Strong", part, size) for part in named), ("Strong", label.code, USUAL_PT)]
    said += [("Plain", text, FINE_PT) for text in days]
    said += [("Plain", text, FINE_PT) for text in label.lines if on.height >= SMALL_MM]
    return [(face, part, pt) for face, text, pt in said for part in _broken(text, face, pt, room)]


def _square(canvas: Canvas, text: str, x: float, y: float, side: float) -> None:
    rows = square(text)
    cell = side / (len(rows) + 2 * QUIET)
    canvas.setFillColor(INK)
    for n, row in enumerate(rows):
        for m, dark in enumerate(row):
            if dark == "1":
                at = y + side - (n + 1 + QUIET) * cell
                canvas.rect(x + (m + QUIET) * cell, at, cell * 1.01, cell * 1.01, stroke=0, fill=1)


def _broken(text: str, face: str, size: float, room: float) -> list[str]:
    """A text in lines that have room; a word that has none is cut."""
    lines = [""]
    for word in text.split():
        longer = f"{lines[-1]} {word}".strip()
        if stringWidth(longer, face, size) <= room or not lines[-1]:
            lines[-1] = longer
        else:
            lines.append(word)
    return [_cut(line, face, size, room) for line in lines]


def _cut(line: str, face: str, size: float, room: float) -> str:
    while len(line) > 1 and stringWidth(line, face, size) > room:
        line = line[:-1]
    return line
