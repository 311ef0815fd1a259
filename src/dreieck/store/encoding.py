"""Contents, looks and edits as rows and JSON, and back."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Sequence
from enum import IntEnum
from typing import Any, NamedTuple

from dreieck.core.address import Cell
from dreieck.core.content import Content, Unreadable
from dreieck.core.edits import AddSheet, ArrangeSheet, Cells, Edit, RemoveSheet, SetCells
from dreieck.core.formula import Shape
from dreieck.core.look import PLAIN, Look


class Kind(IntEnum):
    """What a stored cell holds."""

    EMPTY = 0
    NUMBER = 1
    TEXT = 2
    LOGICAL = 3
    FORMULA = 4
    UNREADABLE = 5


class Stored(NamedTuple):
    """A content as it is stored."""

    kind: int
    number: float | None = None
    text: str | None = None
    shape: int | None = None


NumberOf = Callable[[Shape, Cell], int]
ShapeOf = Callable[[int], Shape]


def stored(content: Content | None, at: Cell, number_of: NumberOf) -> Stored:
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


def content_of(said: Stored, shape_of: ShapeOf) -> Content | None:
    """The content that ``stored`` stored."""
    match Kind(said.kind):
        case Kind.EMPTY:
            return None
        case Kind.LOGICAL:
            return bool(said.number)
        case Kind.NUMBER:
            return float(said.number or 0)
        case Kind.TEXT:
            return said.text or ""
        case Kind.FORMULA:
            assert said.shape is not None
            return shape_of(said.shape)
        case Kind.UNREADABLE:
            return Unreadable(said.text or "")


def look_text(look: Look) -> str | None:
    """A look as text; None for the plain one."""
    if look == PLAIN:
        return None
    decimals = "" if look.decimals is None else str(look.decimals)
    return f"{look.form} {decimals} {look.role}"


def look_of(text: str | None) -> Look:
    """The look that ``look_text`` wrote."""
    if text is None:
        return PLAIN
    form, decimals, role = text.split(" ")
    return Look(form, int(decimals) if decimals else None, role)  # type: ignore[arg-type]


class Run(NamedTuple):
    """Cells below each other that hold the same and look the same."""

    column: int
    top: int
    bottom: int
    look: str | None
    content: Stored


def runs(cells: Cells, number_of: NumberOf) -> Iterator[Run]:
    """The cells as runs, in their order; what a fill writes down a column is one run."""
    column = top = bottom = 0
    content: Content | None = None
    look = PLAIN
    for cell, (own, own_look) in cells.items():
        # Compared as objects first: a fill hands the same ones to all its landings.
        if (
            cell[1] == bottom + 1
            and cell[0] == column
            and own is content
            and (own_look is look or own_look == look)
        ):
            bottom += 1
            continue
        if top:
            yield _run(column, top, bottom, content, look, number_of)
        column, top = cell
        bottom, content, look = top, own, own_look
    if top:
        yield _run(column, top, bottom, content, look, number_of)


def _run(
    column: int, top: int, bottom: int, content: Content | None, look: Look, number_of: NumberOf
) -> Run:
    encoded = stored(content, Cell(column, top), number_of)
    return Run(column, top, bottom, look_text(look), encoded)


def edits_text(edits: Sequence[Edit], number_of: NumberOf) -> str:
    """Edits as JSON."""
    return json.dumps([_edit(edit, number_of) for edit in edits], separators=(",", ":"))


def edits_of(text: str, shape_of: ShapeOf) -> list[Edit]:
    """The edits that ``edits_text`` wrote."""
    return [_edit_of(said, shape_of) for said in json.loads(text)]


def _edit(edit: Edit, number_of: NumberOf) -> dict[str, Any]:
    said: dict[str, Any] = {"edit": type(edit).__name__, "sheet": edit.sheet_id}
    if isinstance(edit, AddSheet | ArrangeSheet):
        said |= {"name": edit.name, "position": edit.position}
    if isinstance(edit, AddSheet):
        said["widths"] = list(edit.widths.items())
    if isinstance(edit, SetCells | AddSheet):
        said["cells"] = [
            [run.column, run.top, run.bottom, run.look, *run.content]
            for run in runs(edit.cells, number_of)
        ]
    return said


def _edit_of(said: dict[str, Any], shape_of: ShapeOf) -> Edit:
    cells: Cells = {}
    for column, top, bottom, look, *content in said.get("cells", ()):
        holds = (content_of(Stored(*content), shape_of), look_of(look))
        for row in range(top, bottom + 1):
            cells[Cell(column, row)] = holds
    match said["edit"]:
        case "SetCells":
            return SetCells(said["sheet"], cells)
        case "AddSheet":
            widths = dict(said["widths"])
            return AddSheet(said["sheet"], said["name"], said["position"], cells, widths)
        case "RemoveSheet":
            return RemoveSheet(said["sheet"])
        case _:
            return ArrangeSheet(said["sheet"], said["name"], said["position"])
