"""What a selection would be as a chart: its headings tell which way its series run."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

from dreieck.core.calculate import Calculation
from dreieck.core.charts.strands import SheetArea, Strand, Strands
from dreieck.core.grid import AXES, CROSSING, MAX_ROW, Area, Axis, Cell
from dreieck.core.sheet.chart import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Place, Value
from dreieck.core.values.look import Look

_LOOKED_AT = 400
_COMPARED = 8
_DATES = ("date", "datetime")
_MOST_ROUNDS = 200


class Proposal(NamedTuple):
    """How the cells of a chart are read; see ``Chart``."""

    kind: Kind
    series: Axis
    names: bool
    labels: bool


def proposed(calculation: Calculation, parts: Sequence[SheetArea]) -> Proposal:
    """How some places would be read as a chart. Raises DreieckError."""
    first = {axis: Strands(parts, axis)[:_COMPARED] for axis in AXES}
    heads = {axis: _is_heading(calculation, first[axis]) for axis in AXES}
    rows, columns = (len(first[axis][0]) for axis in AXES)
    body = {"row": rows - heads["row"], "column": columns - heads["column"]}
    ordered = {axis: heads[axis] and _is_ordered(calculation, first[axis][0]) for axis in AXES}
    if ordered["row"] != ordered["column"]:
        series: Axis = "row" if ordered["row"] else "column"
    else:
        series = "column" if body["column"] <= body["row"] else "row"
    kind: Kind = "lines" if ordered[series] else "columns"
    return Proposal(kind, series, names=heads[CROSSING[series]], labels=heads[series])


def is_headed(calculation: Calculation, parts: Sequence[SheetArea], axis: Axis) -> bool:
    """Whether the first row, or column, of some places holds headings. Raises DreieckError."""
    return _is_heading(calculation, Strands(parts, axis)[:_COMPARED])


def around(sheet: Sheet, cell: Cell) -> Area:
    """The filled cells that hang together with a cell, as one area."""
    area = Area.of(cell)
    for _ in range(_MOST_ROUNDS):
        wider = area
        for left, top, right, bottom in (
            (area.left - 1, area.top, area.left - 1, area.bottom),
            (area.left, area.top - 1, area.right, area.top - 1),
            (area.right + 1, area.top, area.right + 1, area.bottom),
            (area.left, area.bottom + 1, area.right, area.bottom + 1),
        ):
            edge = Area(left, top, right, bottom)
            if edge.first.on_sheet and edge.last.on_sheet and sheet.count(edge):
                wider = wider.around(_as_far(sheet, edge))
        if wider == area:
            break
        area = wider
    return area


def _as_far(sheet: Sheet, edge: Area) -> Area:
    """A filled line next to an area; a column goes down with its data at once."""
    bottom = edge.bottom
    if edge.width == 1:
        rows = set(sheet.columns[edge.left].rows(bottom, MAX_ROW))
        while bottom + 1 in rows:
            bottom += 1
    return edge._replace(bottom=bottom)


def _is_heading(calculation: Calculation, first: Sequence[Strand]) -> bool:
    """Whether the first strand is one of headings for those that follow."""
    if len(first) < 2:
        return False
    strand, behind = first[:2]
    cells = _some(calculation, strand)
    corner, others = cells[0][0], cells[1:]
    if not others:
        return isinstance(corner, str) and isinstance(_some(calculation, behind)[0][0], float)
    filled = [(value, look) for value, look in others if value is not None]
    if not filled:
        return False
    if all(_is_told(*each) for each in filled):
        return _stands_out(calculation, first)
    follows = isinstance(_some(calculation, behind)[-1][0], float)
    numbers = [value for value, _ in filled if isinstance(value, float)]
    if not follows or len(numbers) != len(filled) or len(numbers) < 2:
        return False
    # Numbers that are counted on, such as years, under a word or beside an empty corner.
    counted = all(one + 1 == next for one, next in pairwise(numbers))
    return counted and not isinstance(corner, float)


def _stands_out(calculation: Calculation, first: Sequence[Strand]) -> bool:
    """Whether a strand of texts is more than one more of them: it says so, or measures follow."""
    cells = _some(calculation, first[0])
    if any(look.role == "heading" for _, look in cells):
        return True
    following = (each for strand in first[1:] for each in _some(calculation, strand)[1:])
    return any(value is not None and not _is_told(value, look) for value, look in following)


def _is_told(value: Value, look: Look) -> bool:
    """Whether a cell is more of a heading than a measure: a text, a date, one that says so."""
    return isinstance(value, str) or look.role == "heading" or look.form in _DATES


def _is_ordered(calculation: Calculation, strand: Strand) -> bool:
    """Whether headings follow each other in time, or are counted."""
    cells = _some(calculation, strand)[1:]
    values = [value for value, _ in cells if value is not None]
    return len(values) > 1 and all(isinstance(value, float) for value in values)


def _some(calculation: Calculation, strand: Strand) -> list[tuple[Value, Look]]:
    """What the first cells of a strand show, and how."""
    places = [strand.place(index) for index in range(min(len(strand), _LOOKED_AT))]
    return [(calculation.value(*place), _look(calculation, place)) for place in places]


def _look(calculation: Calculation, place: Place) -> Look:
    return calculation.workbook.sheet(place.sheet).look(place.cell)
