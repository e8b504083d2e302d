"""Sheets of paper as answers."""

from __future__ import annotations

from typing import Any

from fastapi import Response

from elderberry.core.quantities import System
from elderberry.formats import paper

A_SHEET: dict[int | str, dict[str, Any]] = {
    200: {"content": {"application/pdf": {}}, "description": "The sheet."}
}


def as_pdf(printed: paper.Sheet, units: System, name: str) -> Response:
    """A sheet as a PDF, on the paper that is usual where a kitchen measures so."""
    held = paper.pdf(printed, "letter" if units == "us" else "a4")
    headers = {"Content-Disposition": f'inline; filename="{name}.pdf"'}
    return Response(held, media_type="application/pdf", headers=headers)
