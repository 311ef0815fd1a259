"""What came out of a sweep on a new sheet: as values, or as formulas that give the same."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from dreieck.core.calculate import Calculation
from dreieck.core.checking.comparing import alike
from dreieck.core.checking.sweeps.asked import Asked, Swept, number_format
from dreieck.core.checking.sweeps.inlining import cell_node, inlined
from dreieck.core.checking.sweeps.running import Outcome
from dreieck.core.editing.sheets import free_sheet_name
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import place_text
from dreieck.core.grid import Cell, column_letters
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import AddSheet
from dreieck.core.sheet.sheet import Run
from dreieck.core.sheet.workbook import MAX_SHEET_NAME, Workbook
from dreieck.core.values import Error, Place, Value
from dreieck.core.values.look import PLAIN, Look

MAX_ROWS = 100_000
_TITLE, _HEADING = Look(role="title"), Look(role="heading")
_TOP = 4
"""The row in which values begin; the headings stand above it."""
_GAP = 3
_CLOSE = 1e-9


def as_values(calculation: Calculation, outcome: Outcome, new_id: int) -> AddSheet:
    """A new sheet with what came out. Raises DreieckError where it has no room."""
    runs = list(_headings(calculation, outcome))
    looks = {place: number_format(calculation, place) for place in outcome.asked.results}
    for at, place, value in _values(outcome):
        runs.append(Run(at.column, at.row, at.row, _content(value), looks[place]))
    return _sheet(calculation.workbook, outcome, new_id, runs)


def as_formulas(calculation: Calculation, outcome: Outcome, new_id: int) -> AddSheet:
    """A new sheet with formulas that give the same: a block with mixed locks for each result.

    They are worked out and held against what came out before. Raises DreieckError where there
    are no such formulas.
    """
    runs = list(_headings(calculation, outcome))
    looks = {place: number_format(calculation, place) for place in outcome.asked.results}
    shapes: dict[Cell, Shape] = {}
    for at, place, _ in _values(outcome):
        first = _first_of(outcome, at)
        if first not in shapes:
            shapes[first] = inlined(calculation, place, _stand_ins(outcome, first), first)
        runs.append(Run(at.column, at.row, at.row, shapes[first], looks[place]))
    made = _sheet(calculation.workbook, outcome, new_id, runs)
    _prove(calculation, outcome, made)
    return made


def _first_of(outcome: Outcome, at: Cell) -> Cell:
    """The first cell of the block in which a value stands."""
    if len(outcome.asked.inputs) == 1:
        return Cell(at.column, _TOP)
    number = (at.row - _TOP) // _height(outcome)
    return Cell(2, _TOP + number * _height(outcome))


def _height(outcome: Outcome) -> int:
    """So many rows the grid of one result takes, with what stands above it."""
    return len(outcome.asked.inputs[0].values) + _GAP


def _stand_ins(outcome: Outcome, first: Cell) -> dict[Place, tree.Node]:
    """What stands for the inputs in the formula of a block: its row's value, its column's."""
    inputs = outcome.asked.inputs
    found = {inputs[0].place: cell_node(f"$A{first.row}", first)}
    if len(inputs) == 2:
        column = column_letters(first.column)
        found[inputs[1].place] = cell_node(f"{column}${first.row - 1}", first)
    return found


def _prove(calculation: Calculation, outcome: Outcome, made: AddSheet) -> None:
    """Raise DreieckError where the formulas of a new sheet give something else."""
    tried = calculation.with_edits([made])
    for at, place, value in _values(outcome):
        found = tried.value(made.name, at)
        if not alike(found, value, _CLOSE):
            raise DreieckError(
                f"A formula for {place_text(place)} would not give the same, so none is written."
            )


def _headings(calculation: Calculation, outcome: Outcome) -> Iterator[Run]:
    """The title, the values of the inputs, and what stands above the results."""
    asked = outcome.asked
    _check_room(outcome)
    title = " and ".join(each.label for each in asked.inputs)
    yield Run(1, 1, 1, f"Sweep of {title}", _TITLE)
    if len(asked.inputs) == 2:
        for number, label in enumerate(asked.labels):
            yield from _grid_headings(calculation, asked, label, number * _height(outcome))
        return
    yield from _down(calculation, asked.inputs[0], _TOP)
    for column, label in enumerate(asked.labels, 2):
        yield Run(column, _TOP - 1, _TOP - 1, label, _HEADING)


def _grid_headings(calculation: Calculation, asked: Asked, label: str, down: int) -> Iterator[Run]:
    """What stands above and beside the grid of a result, so many rows further down."""
    first, second = asked.inputs
    top = _TOP + down
    yield Run(1, top - 2, top - 2, f"{second.label} →; inside: {label}", PLAIN)
    yield from _down(calculation, first, top)
    look = replace(number_format(calculation, second.place), role="heading")
    for column, value in enumerate(second.values.values(), 2):
        yield Run(column, top - 1, top - 1, _content(value), look)


def _down(calculation: Calculation, swept: Swept, top: int) -> Iterator[Run]:
    """The values of an input below each other, with what it is called above them."""
    yield Run(1, top - 1, top - 1, swept.label, _HEADING)
    look = number_format(calculation, swept.place)
    for row, value in enumerate(swept.values.values(), top):
        yield Run(1, row, row, _content(value), look)


def _values(outcome: Outcome) -> Iterator[tuple[Cell, Place, Value]]:
    """Where each value comes to stand: results beside each other, or grids below each other."""
    asked = outcome.asked
    two = len(asked.inputs) == 2
    width = len(asked.inputs[1].values) if two else 1
    for number, (place, cells) in enumerate(zip(asked.results, outcome.columns, strict=True)):
        left, top = (2, _TOP + number * _height(outcome)) if two else (2 + number, _TOP)
        for at, value in enumerate(cells.values()):
            row, column = divmod(at, width)
            yield Cell(left + column, top + row), place, value


def _check_room(outcome: Outcome) -> None:
    asked = outcome.asked
    two = len(asked.inputs) == 2
    rows = _height(outcome) * len(asked.results) if two else len(asked.inputs[0].values)
    columns = len(asked.inputs[1].values) if two else len(asked.results)
    if rows > MAX_ROWS or not Cell(columns + 1, rows + _TOP).on_sheet:
        raise DreieckError("There is no room for this sweep on one sheet: let it have fewer runs.")


def _content(value: Value) -> Content | None:
    return value.code if isinstance(value, Error) else value


def _sheet(workbook: Workbook, outcome: Outcome, new_id: int, runs: list[Run]) -> AddSheet:
    label = outcome.asked.inputs[0].label
    plain = "".join(c for c in f"Sweep of {label}" if c not in "!:[]" and c.isprintable())
    name = free_sheet_name(workbook, plain[: MAX_SHEET_NAME - 4].strip(), first="")
    return AddSheet(new_id, name, len(workbook.sheets), tuple(runs))
