"""Writing a workbook as JSON."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import asdict
from typing import Any

from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.chart import Chart
from dreieck.core.sheet.content import Content, Unreadable
from dreieck.core.sheet.edits import joined_runs
from dreieck.core.sheet.layout import LineLooks, Rule
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.stated import SORTS, Stated
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look_words import look_text
from dreieck.files.document.models import FORMAT, VERSION
from dreieck.files.progress import Progress


def write(workbook: Workbook, progress: Progress, history: dict[str, Any] | None = None) -> bytes:
    """All that a workbook holds, and its history if it is given."""
    said: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "name": workbook.name,
        "locale": workbook.locale,
        "seed": workbook.seed,
        "names": {
            each.name: _formula_at(each.shape, each.base) for each in workbook.names.values()
        },
        "feeds": [asdict(feed) for feed in workbook.feeds.values()],
        **{sort: _stated(workbook.stated(sort)) for sort in SORTS},
        "sheets": [_sheet(sheet, progress) for sheet in workbook.sheets],
    }
    if history is not None:
        said["history"] = history
    return (json.dumps(said, ensure_ascii=False, indent=1, allow_nan=False) + "\n").encode(
        "utf-8", "surrogatepass"
    )


def _stated(stated: Iterable[Stated]) -> list[dict[str, Any]]:
    return [{"number": each.number, "states": each.text} for each in stated]


def _formula_at(shape: Shape, at: Cell) -> dict[str, str]:
    return {"formula": shape.text(at), "at": at.text}


def _sheet(sheet: Sheet, progress: Progress) -> dict[str, Any]:
    layout = sheet.layout
    said: dict[str, Any] = {"name": sheet.name, "cells": {}}
    for count, run in enumerate(joined_runs(sheet.all_runs(), _alike)):
        said["cells"][run.area.text if run.area.size > 1 else run.area.first.text] = _cell(run)
        if count % 1024 == 0:
            progress.watch()
    said["columns"], said["rows"] = _lines(layout.columns), _lines(layout.rows)
    said["headings"] = {"columns": layout.headings.columns, "rows": layout.headings.rows}
    said["rules"] = [_rule(rule) for rule in layout.rules]
    said["charts"] = [_chart(chart) for chart in layout.charts]
    return {key: value for key, value in said.items() if value}


def _alike(one: Run, other: Run) -> bool:
    same = one.content == other.content and type(one.content) is type(other.content)
    return same and one.look == other.look


def _cell(run: Run) -> dict[str, Any]:
    said = _content(run.content, Cell(run.column, run.top))
    look = look_text(run.look)
    return said if look is None else said | {"look": look}


def _content(content: Content | None, at: Cell) -> dict[str, Any]:
    match content:
        case None:
            return {}
        case bool():
            return {"logical": content}
        case float():
            return {"number": content}
        case str():
            return {"text": content}
        case Unreadable():
            return {"unreadable": content.text}
        case Shape():
            return {"formula": content.text(at)}


def _lines(looks: LineLooks) -> list[dict[str, Any]]:
    return [
        {"first": run.first, "last": run.last, "size": run.look.size, "hidden": run.look.hidden}
        for run in looks.runs
    ]


def _rule(rule: Rule) -> dict[str, Any]:
    first = rule.area.first
    home = rule.shape.home
    at = first if home is None or home.holds(first) else home.first
    return {"area": rule.area.text, "tone": rule.tone} | _formula_at(rule.shape, at)


def _chart(chart: Chart) -> dict[str, Any]:
    plain = {name: getattr(chart, name) for name in chart.__slots__}
    return plain | {"sources": list(_sources(chart.sources)), "place": chart.place.text}


def _sources(sources: Iterable[tuple[str | None, Area]]) -> Iterable[dict[str, Any]]:
    return ({"sheet": sheet, "area": area.text} for sheet, area in sources)
