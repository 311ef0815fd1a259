"""Working out formulas that may give more than one value, each with all that it gives."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from dreieck.core.analysis.reads import reach
from dreieck.core.calculate.evaluation import all_at, finished
from dreieck.core.calculate.fans import Fan
from dreieck.core.calculate.tasks import KnownValues, Task
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.operands import MAX_TABLE, Table, single
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import LOOP, VALUE, Error, Place


def fan_out(task: Task, values: KnownValues) -> None:
    """Work out the formulas of a task that are pending, and lay what they give."""
    results = values.results(task.sheet)
    for number in range(task.area.left, task.area.right + 1):
        pending = results.column(number).rows(task.area.top, task.area.bottom, Kind.PENDING)
        for row in pending:
            start = Cell(number, row)
            found = _given(task, Place(task.sheet, start), values)
            if isinstance(found, Fan):
                results.fans.open(found)
            else:
                results.put(start, found)
                results.fans.close(start)


def _given(task: Task, place: Place, values: KnownValues) -> Fan | float | str | bool | Error:
    """What a formula gives: a fan, or one value."""
    operand = all_at(task.shape, place, values)
    if not isinstance(operand, Table) or operand.size == 1:
        value = operand.at(0, 0) if isinstance(operand, Table) else single(operand, place.cell)
        one = finished(value, place)
        assert one is not None
        return one
    if operand.size > MAX_TABLE:
        return Error(VALUE, f"A formula can fill {MAX_TABLE:,} cells.", place)
    fan = Fan(place.cell, _finished(operand.all_cells(), place), operand.width, operand.height)
    if _reads(task, place, fan.area, values):
        return Error(LOOP, f"This formula reads cells of {fan.area.text}, which it would fill.",
                     place)  # fmt: skip
    return fan


def _reads(task: Task, place: Place, area: Area, values: KnownValues) -> bool:
    """Whether a formula reads some of an area of its own sheet."""
    for reference in values.references(task.shape):
        read, sheet = reach(reference, Area.of(place.cell)), reference.sheet or place.sheet
        touches = read and read.common(area) and values.has_sheet(sheet)
        if touches and values.results(sheet).sheet.name == place.sheet:
            return True
    return False


def _finished(cells: Cells, place: Place) -> Cells:
    """Values as those of cells: empty ones are 0, and errors that began here say so."""
    if cells.all_numbers:
        return cells
    kinds = np.where(cells.kinds == Kind.EMPTY, np.uint8(Kind.NUMBER), cells.kinds)
    whole = Cells(kinds, np.where(cells.kinds == Kind.EMPTY, 0.0, cells.payload), cells.pool)
    begun = [
        at
        for at in np.flatnonzero(kinds == Kind.ERROR).tolist()
        if isinstance(error := whole.value(at), Error) and error.origin is None
    ]
    if not begun:
        return whole
    which = np.zeros(len(kinds), np.bool_)
    which[begun] = True
    errors = [replace(error, origin=place) for at in begun
              if isinstance(error := whole.value(at), Error)]  # fmt: skip
    return whole.replaced([(which, Cells.of(errors))])
