"""Sheets of paper: a heading, tables and lists, and a line at the foot, as a PDF.

Source: ISO 216 for the size of the sheet; reportlab lays it out, in a typeface that it brings.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from xml.sax.saxutils import escape

import reportlab
from reportlab.lib.colors import HexColor
from reportlab.lib.enums import TA_LEFT
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

FACES = {"Plain": "Vera.ttf", "Strong": "VeraBd.ttf"}
MARGIN = 16 * mm
INK, LINE = HexColor("#261f2b"), HexColor("#b9ad97")


@dataclass(frozen=True)
class Block:
    """A part of a sheet: its heading, and rows of cells; rows of one cell are a list.

    widths: share of the sheet that each column takes [-]; even where there are none.
    """

    heading: str
    rows: Sequence[Sequence[str]]
    widths: Sequence[float] = ()


@dataclass(frozen=True)
class Sheet:
    """What is printed: a title with a line under it, its blocks, and the line at every foot."""

    title: str
    lead: str
    blocks: Sequence[Block]
    foot: str


def pdf(sheet: Sheet, paper: str = "a4") -> bytes:
    """A sheet as a PDF.

    Args:
        sheet: what is printed.
        paper: a4 or letter.

    >>> pdf(Sheet("Quince", "", (), "Chill when in doubt."))[:5]
    b'%PDF-'
    """
    faces()
    held = BytesIO()
    size = LETTER if paper == "letter" else A4
    document = SimpleDocTemplate(
        held, pagesize=size, leftMargin=MARGIN, rightMargin=MARGIN, topMargin=MARGIN,
        bottomMargin=MARGIN + 8 * mm, title=sheet.title, author="Elderberry", invariant=1,
    )  # fmt: skip

    def foot(canvas: Canvas, _: object) -> None:
        canvas.setFont("Plain", 8.5)
        canvas.drawString(MARGIN, MARGIN, sheet.foot)
        canvas.drawRightString(size[0] - MARGIN, MARGIN, str(canvas.getPageNumber()))

    document.build(_story(sheet, document.width), onFirstPage=foot, onLaterPages=foot)
    return held.getvalue()


def faces() -> None:
    """The typefaces that sheets are set in, known to whoever draws."""
    if "Plain" not in pdfmetrics.getRegisteredFontNames():
        folder = Path(reportlab.__file__).parent / "fonts"
        for name, file in FACES.items():
            pdfmetrics.registerFont(TTFont(name, str(folder / file)))


def _style(size: float, face: str = "Plain", before: float = 0.0) -> ParagraphStyle:
    return ParagraphStyle(
        face + str(size), fontName=face, fontSize=size, leading=1.35 * size, textColor=INK,
        alignment=TA_LEFT, spaceBefore=before,
    )  # fmt: skip


def _story(sheet: Sheet, width: float) -> list[Flowable]:
    story: list[Flowable] = [
        Paragraph(escape(sheet.title), _style(20, "Strong")),
        Paragraph(escape(sheet.lead), _style(9.5)),
    ]
    for block in sheet.blocks:
        story += [Paragraph(escape(block.heading), _style(12, "Strong", 12)), Spacer(1, 2 * mm)]
        story += [_table(block, width)] if block.rows else []
    return story


def _table(block: Block, width: float) -> Table:
    style = _style(9.5)
    cells = [[Paragraph(escape(cell), style) for cell in row] for row in block.rows]
    columns = len(block.rows[0])
    shares = block.widths or [1.0 / columns] * columns
    table = Table(cells, colWidths=[width * s for s in shares], hAlign="LEFT")
    table.setStyle(
        TableStyle([
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, LINE),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("TOPPADDING", (0, 0), (-1, -1), 2),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
        ])
    )  # fmt: skip
    return table
