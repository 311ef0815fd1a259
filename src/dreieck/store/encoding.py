"""Contents, looks and edits as rows and JSON, and back."""

from __future__ import annotations

import json
from base64 import b64decode, b64encode
from collections.abc import Sequence
from dataclasses import astuple
from typing import Any, NamedTuple

from dreieck.core.formula import Shape
from dreieck.core.grid import Cell, Lines
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.content import Content, Unreadable
from dreieck.core.sheet.edits import (
    AddSheet,
    ArrangeSheet,
    DeleteLines,
    Edit,
    InsertLines,
    LookRun,
    RemoveSheet,
    SetCells,
    SetCharts,
    SetFeed,
    SetLayout,
    SetLocale,
    SetLooks,
    SetName,
    SetRules,
    SetSeed,
    SetStated,
)
from dreieck.core.sheet.layout import PLAIN_LAYOUT
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.series import KINDS, Counted
from dreieck.core.sheet.sheet import ColumnRun, Run
from dreieck.core.sheet.stated import SORTS, STANDS
from dreieck.core.values.look import Look
from dreieck.core.values.look_words import look_of, look_text
from dreieck.store.feeds import feed_of, feed_said
from dreieck.store.layouts import (
    charts_of,
    charts_said,
    layout_of,
    layout_said,
    rules_of,
    rules_said,
)
from dreieck.store.shapes import NumberOf, ShapeOf
from dreieck.store.stretches import NUMBERS, TEXTS, packed, together, unpacked


class Stored(NamedTuple):
    """A content as it is stored."""

    kind: int
    number: float | None = None
    text: str | bytes | None = None
    shape: int | None = None


SERIES = 32
"""The kind of cells that count on: the number is the position of the first of them."""


def stored(content: Content | Counted | None, at: Cell, number_of: NumberOf) -> Stored:
    """A content in the form of the columns of a cell."""
    match content:
        case None:
            return Stored(Kind.EMPTY)
        case bool():
            return Stored(Kind.LOGICAL, number=float(content))
        case float():
            return Stored(Kind.NUMBER, number=content)
        case str():
            return Stored(Kind.TEXT, text=content)
        case Shape():
            return Stored(Kind.FORMULA, shape=number_of(content, at))
        case Unreadable():
            return Stored(Kind.UNREADABLE, text=content.text)
        case Counted():
            series = content.series
            told = [type(series).__name__, *astuple(series)]
            return Stored(SERIES, number=float(content.position), text=json.dumps(told))


def content_of(said: Stored, shape_of: ShapeOf) -> Content | Counted | Cells | None:
    """The content that ``stored`` stored."""
    match said.kind:
        case Kind.EMPTY:
            return None
        case Kind.LOGICAL:
            return bool(said.number)
        case Kind.NUMBER:
            return float(said.number or 0)
        case Kind.TEXT:
            return _text(said)
        case Kind.FORMULA:
            assert said.shape is not None
            return shape_of(said.shape)
        case k if k == SERIES:
            name, *told = json.loads(_text(said))
            return Counted(KINDS[name](*told), int(said.number or 0))
        case k if k == NUMBERS:
            data = said.text or b""
            return unpacked(NUMBERS, b64decode(data) if isinstance(data, str) else data)
        case k if k == TEXTS:
            return unpacked(TEXTS, _text(said))
        case _:
            return Unreadable(_text(said))


def _text(said: Stored) -> str:
    return said.text if isinstance(said.text, str) else ""


def stored_run(run: Run | ColumnRun, number_of: NumberOf) -> Stored:
    """What the cells of a run hold, in the form of the columns of a stored run."""
    if isinstance(run.content, Cells):
        kind, data = packed(run.content)
        return Stored(kind, text=data)
    return stored(run.content, Cell(run.column, run.top), number_of)


def _in_text(run: Run | ColumnRun, number_of: NumberOf) -> Stored:
    """The same, without bytes."""
    said = stored_run(run, number_of)
    if not isinstance(said.text, bytes):
        return said
    return said._replace(text=b64encode(said.text).decode())


def edits_text(edits: Sequence[Edit], number_of: NumberOf) -> str:
    """Edits as JSON."""
    return json.dumps([_edit(edit, number_of) for edit in edits], separators=(",", ":"))


def edits_of(text: str, shape_of: ShapeOf) -> list[Edit]:
    """The edits that ``edits_text`` wrote."""
    return [_edit_of(said, shape_of) for said in json.loads(text)]


def _edit(edit: Edit, number_of: NumberOf) -> dict[str, Any]:
    if isinstance(edit, SetName):
        named = edit.named
        stands_for = [named.name, number_of(named.shape, named.base)] if named else None
        return {"edit": "SetName", "key": edit.key, "named": stands_for}
    if isinstance(edit, SetFeed):
        return {"edit": "SetFeed", "key": edit.key, "feed": feed_said(edit.feed)}
    if isinstance(edit, SetStated):
        stated = [[each.number, number_of(each.shape, STANDS)] for each in edit.stated]
        return {"edit": "SetStated", "sort": edit.sort, "stated": stated}
    if isinstance(edit, SetSeed):
        return {"edit": "SetSeed", "seed": edit.seed}
    if isinstance(edit, SetLocale):
        return {"edit": "SetLocale", "locale": edit.locale}
    said: dict[str, Any] = {"edit": type(edit).__name__, "sheet": edit.sheet_id}
    if isinstance(edit, AddSheet | ArrangeSheet):
        said |= {"name": edit.name, "position": edit.position}
    if isinstance(edit, InsertLines | DeleteLines):
        said["lines"] = [edit.lines.axis, edit.lines.first, edit.lines.count]
    if isinstance(edit, AddSheet | InsertLines | DeleteLines | SetLayout) and edit.layout:
        said["layout"] = layout_said(edit.layout, number_of)
    if isinstance(edit, SetRules):
        said["rules"] = rules_said(edit.rules, number_of)
    if isinstance(edit, SetCharts):
        said["charts"] = charts_said(edit.charts)
    if isinstance(edit, SetLooks):
        said["looks"] = [[*run[:3], look_text(run.look)] for run in edit.runs]
    if isinstance(edit, SetCells | AddSheet | InsertLines):
        said["cells"] = [
            [run.column, run.top, run.bottom, look_text(run.look), *_in_text(run, number_of)]
            for run in together(edit.runs)
        ]
    return said


def _edit_of(said: dict[str, Any], shape_of: ShapeOf) -> Edit:
    runs = tuple(
        _run_of((column, top, bottom), content_of(Stored(*content), shape_of), look_of(look))
        for column, top, bottom, look, *content in said.get("cells", ())
    )
    layout = layout_of(said["layout"], shape_of) if "layout" in said else None
    match said["edit"]:
        case "SetName":
            named = said["named"]
            return SetName(said["key"], Named(named[0], shape_of(named[1])) if named else None)
        case "SetFeed":
            return SetFeed(said["key"], feed_of(said["feed"]))
        case "SetStated":
            made = SORTS[said["sort"]]
            kept = (made(number, shape_of(shape)) for number, shape in said["stated"])
            return SetStated(said["sort"], tuple(kept))
        case "SetSeed":
            return SetSeed(said["seed"])
        case "SetLocale":
            return SetLocale(said["locale"])
        case "SetRules":
            return SetRules(said["sheet"], rules_of(said["rules"], shape_of))
        case "SetCharts":
            return SetCharts(said["sheet"], charts_of(said["charts"]))
        case "SetLooks":
            looks = ((*place, look_of(look)) for *place, look in said["looks"])
            return SetLooks(said["sheet"], tuple(LookRun(*each) for each in looks))
        case "SetCells":
            return SetCells(said["sheet"], runs)
        case "InsertLines":
            return InsertLines(said["sheet"], Lines(*said["lines"]), runs, layout)
        case "DeleteLines":
            return DeleteLines(said["sheet"], Lines(*said["lines"]), layout)
        case "SetLayout":
            return SetLayout(said["sheet"], layout or PLAIN_LAYOUT)
        case "AddSheet":
            sheet, name, position = said["sheet"], said["name"], said["position"]
            return AddSheet(sheet, name, position, runs, layout or PLAIN_LAYOUT)
        case "RemoveSheet":
            return RemoveSheet(said["sheet"])
        case _:
            return ArrangeSheet(said["sheet"], said["name"], said["position"])


def _run_of(
    place: tuple[int, int, int], content: Content | Counted | Cells | None, look: Look
) -> Run | ColumnRun:
    if isinstance(content, Counted | Cells):
        return ColumnRun(*place, content, look)
    return Run(*place, content, look)
