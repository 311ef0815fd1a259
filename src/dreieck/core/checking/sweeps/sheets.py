"""What came out of a sweep on a new sheet: as values, or as formulas that give the same."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.checking.sweeps.inlining import cell_node, inlined
from dreieck.core.checking.sweeps.running import Outcome
from dreieck.core.exceptions import DreieckError, SheetError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import place_text
from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import AddSheet
from dreieck.core.sheet.sheet import Run
from dreieck.core.sheet.workbook import MAX_SHEET_NAME, Workbook, checked_sheet_name
from dreieck.core.values import Error, Place, Value
from dreieck.core.values.look import PLAIN, Look

MAX_ROWS = 100_000
_TITLE, _HEADING = Look(role="title"), Look(role="heading")
_TOP = 4
"""The row in which values begin; the headings stand above it."""
_CLOSE = 1e-9


def as_values(calculation: Calculation, outcome: Outcome, new_id: int) -> AddSheet:
    """A new sheet with what came out. Raises DreieckError where it has no room."""
    runs = list(_headings(calculation, outcome))
    for at, place, value in _values(outcome):
        runs.append(Run(at.column, at.row, at.row, _content(value), _look(calculation, place)))
    return _sheet(calculation.workbook, outcome, new_id, runs)


def as_formulas(calculation: Calculation, outcome: Outcome, new_id: int) -> AddSheet:
    """A new sheet with formulas that give the same: a block with mixed locks for each result.

    They are worked out and held against what came out before. Raises DreieckError where there
    are no such formulas.
    """
    asked = outcome.asked
    runs = list(_headings(calculation, outcome))
    first = Cell(2, _TOP)
    inputs = {asked.inputs[0].place: cell_node(f"$A{_TOP}", first)}
    if len(asked.inputs) == 2:
        inputs[asked.inputs[1].place] = cell_node(f"B${_TOP - 1}", first)
    shapes: dict[Place, Shape] = {}
    for at, place, _ in _values(outcome):
        if place not in shapes:
            shapes[place] = Shape.of(_open(inlined(calculation, place, inputs)))
        runs.append(Run(at.column, at.row, at.row, shapes[place], _look(calculation, place)))
    made = _sheet(calculation.workbook, outcome, new_id, runs)
    _prove(calculation, outcome, made)
    return made


def _open(node: tree.Node) -> tree.Node:
    """A formula without brackets around all of it."""
    return node.inner if isinstance(node, tree.Group) else node


def _prove(calculation: Calculation, outcome: Outcome, made: AddSheet) -> None:
    """Raise DreieckError where the formulas of a new sheet give something else."""
    tried = calculation.with_edits([made])
    for at, place, value in _values(outcome):
        found = tried.value(made.name, at)
        if not _same(found, value):
            raise DreieckError(
                f"A formula for {place_text(place)} would not give the same, so none is written."
            )


def _same(one: Value, other: Value) -> bool:
    if isinstance(one, Error) and isinstance(other, Error):
        return one.code == other.code
    if isinstance(one, float) and isinstance(other, float):
        return abs(one - other) <= _CLOSE * max(abs(one), abs(other), 1e-300)
    return type(one) is type(other) and one == other


def _headings(calculation: Calculation, outcome: Outcome) -> Iterator[Run]:
    """The title, the values of the inputs, and what stands above the results."""
    asked = outcome.asked
    first = asked.inputs[0]
    _check_room(outcome)
    title = " and ".join(each.label for each in asked.inputs)
    yield Run(1, 1, 1, f"Sweep of {title}", _TITLE)
    yield Run(1, _TOP - 1, _TOP - 1, first.label, _HEADING)
    look = _look(calculation, first.place)
    for row, value in enumerate(first.values.values(), _TOP):
        yield Run(1, row, row, _content(value), look)
    if len(asked.inputs) == 2:
        second = asked.inputs[1]
        yield Run(2, 1, 1, None, PLAIN)
        said = f"{second.label} →; inside: {asked.seen[0].label}"
        yield Run(1, 2, 2, said, PLAIN)
        look = replace(_look(calculation, second.place), role="heading")
        for column, value in enumerate(second.values.values(), 2):
            yield Run(column, _TOP - 1, _TOP - 1, _content(value), look)
        return
    column = 2
    for seen in asked.seen:
        for place in seen.places:
            one = len(seen.places) == 1
            label = seen.label if one else f"{seen.label} {place.cell.text}"
            yield Run(column, _TOP - 1, _TOP - 1, label, _HEADING)
            column += 1


def _values(outcome: Outcome) -> Iterator[tuple[Cell, Place, Value]]:
    """Where each value comes to stand; of a sweep of two inputs the first result is laid out."""
    asked = outcome.asked
    if len(asked.inputs) == 2:
        width = len(asked.inputs[1].values)
        place = asked.results[0]
        for number, value in enumerate(outcome.columns[0].values()):
            row, column = divmod(number, width)
            yield Cell(2 + column, _TOP + row), place, value
        return
    for column, (place, cells) in enumerate(zip(asked.results, outcome.columns, strict=True), 2):
        for row, value in enumerate(cells.values(), _TOP):
            yield Cell(column, row), place, value


def _check_room(outcome: Outcome) -> None:
    asked = outcome.asked
    rows = len(asked.inputs[0].values)
    columns = len(asked.inputs[1].values) if len(asked.inputs) == 2 else len(asked.results)
    if rows > MAX_ROWS or not Cell(columns + 1, rows + _TOP).on_sheet:
        last = column_letters(18_278)
        raise DreieckError(f"A sheet goes to column {last}; this sweep is wider.")


def _content(value: Value) -> Content | None:
    return value.code if isinstance(value, Error) else value


def _look(calculation: Calculation, place: Place) -> Look:
    sheet = calculation.workbook.sheet(place.sheet)
    look = look_of(sheet.content(place.cell), sheet.look(place.cell))
    return Look(look.form, look.decimals)


def _sheet(workbook: Workbook, outcome: Outcome, new_id: int, runs: list[Run]) -> AddSheet:
    label = outcome.asked.inputs[0].label
    plain = "".join(c for c in f"Sweep of {label}" if c not in "!:[]" and c.isprintable())
    name, number = plain[: MAX_SHEET_NAME - 4].strip(), 2
    while True:
        tried = name if number == 2 else f"{name} {number - 1}"
        try:
            checked_sheet_name(tried, (sheet.name for sheet in workbook.sheets))
        except SheetError:
            number += 1
            continue
        return AddSheet(new_id, tried, len(workbook.sheets), tuple(runs))


def area_of(outcome: Outcome) -> Area:
    """The area of the values on the new sheet."""
    asked = outcome.asked
    width = len(asked.inputs[1].values) if len(asked.inputs) == 2 else len(asked.results)
    return Area(2, _TOP, 1 + width, _TOP + len(asked.inputs[0].values) - 1)
