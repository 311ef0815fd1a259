"""Layouts of sheets as JSON, and back."""

from __future__ import annotations

import json
from typing import Any

from dreieck.core.sheet.layout import Headings, Layout, LineLook, LineLooks


def layout_text(layout: Layout) -> str:
    """A layout as the text of a column."""
    return json.dumps(layout_said(layout), separators=(",", ":"))


def layout_said(layout: Layout) -> dict[str, Any]:
    """A layout as JSON; what is as usual is left out."""
    headings = layout.headings
    said = {
        "columns": _lines_said(layout.columns),
        "rows": _lines_said(layout.rows),
        "headings": None if headings == Headings() else [headings.columns, headings.rows],
    }
    return {key: value for key, value in said.items() if value}


def layout_of(said: dict[str, Any]) -> Layout:
    """The layout that ``layout_said`` said."""
    return Layout(
        _lines_of(said.get("columns", ())),
        _lines_of(said.get("rows", ())),
        Headings(*said.get("headings", ())),
    )


def _lines_said(looks: LineLooks) -> list[list[Any]]:
    return [[run.first, run.last, run.look.size, run.look.hidden] for run in looks.runs]


def _lines_of(said: list[list[Any]]) -> LineLooks:
    return LineLooks.of(
        (first, last, LineLook(size, hidden)) for first, last, size, hidden in said
    )
