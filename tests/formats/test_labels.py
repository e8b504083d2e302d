"""Labels on paper: drawn, looked at, and their squares read back."""

from __future__ import annotations

from io import BytesIO

import pypdfium2
import pytest
import zxingcpp
from pypdf import PdfReader

from elderberry.core.errors import OutOfRange, Unknown
from elderberry.formats.labels import Label, Sheet, pdf, sheet, sheets

DPI = 300


def label(number: int) -> Label:
    return Label(
        "Quince and blackcurrant syrup, with cinnamon", f"QU-26-01-{number:02d}",
        "made 3 Oct 2026, best by Oct 2027",
        ("Honey: not for children under one year.", "470 ml, 520 g", "Thin 1 part with 4."),
        f"http://127.0.0.1:8000/shelf/{number}", "#d9a441",
    )  # fmt: skip


def squares(held: bytes, on: Sheet, number: int) -> list[str]:
    """What the squares of the first sheet say, each held before a camera by itself."""
    document = pypdfium2.PdfDocument(held)
    found = []
    for n in range(number):
        x, y = on.left + n % on.columns * on.across, on.top + n // on.columns * on.down
        box = (x, on.page_h - y - on.height, on.page_w - x - on.width, y)
        picture = document[n // on.count].render(
            scale=DPI / 72, crop=tuple(72 / 25.4 * max(0.0, edge) for edge in box)
        )
        found += [code.text for code in zxingcpp.read_barcodes(picture.to_numpy())]
    document.close()
    return found


@pytest.mark.parametrize("key", list(sheets()))
def test_every_label_of_every_sheet_is_read_back(key: str) -> None:
    on = sheet(key)
    number = min(on.count, 12)
    held = pdf([label(n) for n in range(1, number + 1)], on)
    assert squares(held, on, number) == [label(n).url for n in range(1, number + 1)]


def test_a_sheet_that_was_begun_begins_where_it_is_free() -> None:
    on = sheet("a4_21")
    held = pdf([label(n) for n in range(1, 4)], on, start=20)
    pages = [page.extract_text() for page in PdfReader(BytesIO(held)).pages]
    assert len(pages) == 2
    assert "QU-26-01-02" in pages[0]
    assert "QU-26-01-03" in pages[1]
    with pytest.raises(OutOfRange):
        pdf([label(1)], on, start=22)
    with pytest.raises(Unknown):
        sheet("a5_3")


@pytest.mark.parametrize("on", list(sheets().values()), ids=lambda s: s.key)
def test_every_label_lies_on_its_sheet(on: Sheet) -> None:
    right = on.left + (on.columns - 1) * on.across + on.width
    bottom = on.top + (on.rows - 1) * on.down + on.height
    assert right <= on.page_w + 0.5
    assert bottom <= on.page_h + 0.5
    assert on.across >= on.width
    assert on.down >= on.height
