"""Numbers that head a list, as years do, and are none of it."""

from __future__ import annotations

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.grid import CROSSING, Axis, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import names_number
from dreieck.core.tables.labels import MOST, first_text
from dreieck.core.tables.series import ascends


def is_heading(
    calculation: Calculation,
    sheet: Sheet,
    cell: Cell,
    inside: Cell,
    axis: Axis,
    *,
    sure: bool = False,
) -> bool:
    """Whether a number before a list is a heading of it, such as a year above it.

    ``inside`` is the first cell of the list on the axis along which it goes. To be ``sure``
    takes more than a number that looks like a year: others of its line have to, too.
    """
    number = calculation.value(sheet.name, cell)
    within = calculation.value(sheet.name, inside)
    if not isinstance(number, float):
        return False
    year = _is_year(number) and not (isinstance(within, float) and _is_year(within))
    crossing = CROSSING[axis]
    headed = _is_headed(calculation, sheet, cell, axis)
    if year and not sure and not headed:
        return True
    if names_number(first_text(calculation, sheet, cell, axis)):
        return True
    beside = _run(calculation, sheet, cell, crossing)
    below = _run(calculation, sheet, inside, crossing)
    if not headed and not _has_text(below[1]) and _heads_number(beside[1], below[1]):
        return True
    if year and any(_is_year(each) for side in beside for each in _numbers(side)):
        return True
    if any(_is_broken_off(each) for each in below):
        return False
    line = [*_numbers(beside[0])[::-1], number, *_numbers(beside[1])]
    other = [*_numbers(below[0])[::-1], within, *_numbers(below[1])]
    return len(line) > 2 and ascends(line) and not ascends(other)


def _is_headed(calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis) -> bool:
    """Whether a cell stands right below a heading, in a line with a label of its own as others."""
    above = cell.step(axis, -1)
    if not above.on_sheet or not isinstance(calculation.value(sheet.name, above), str):
        return False
    lines = (_run(calculation, sheet, each, CROSSING[axis])[0] for each in (cell, above))
    return all(map(_has_text, lines))


def _heads_number(line: list[object], below: list[object]) -> bool:
    """Whether a text behind the numbers of a line stands above a number, as *Total* does."""
    pairs = zip(line, below, strict=False)
    return any(isinstance(one, str) and isinstance(other, float) for one, other in pairs)


def _has_text(values: list[object]) -> bool:
    return any(isinstance(value, str) for value in values)


def _numbers(values: list[object]) -> list[float]:
    return [value for value in values if isinstance(value, float)]


def _is_broken_off(values: list[object]) -> bool:
    """Whether something else stands among the numbers of a line, so that no step is sure."""
    numbers = [index for index, value in enumerate(values) if isinstance(value, float)]
    return bool(numbers) and numbers[-1] >= len(numbers)


def _is_year(number: float) -> bool:
    return number == int(number) and 1900 <= number <= 2100


def _run(
    calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis
) -> tuple[list[object], list[object]]:
    """The values before and behind a cell, up to the first empty one."""
    sides: tuple[list[object], list[object]] = ([], [])
    for side, step in zip(sides, (-1, 1), strict=True):
        at = cell.step(axis, step)
        while at.on_sheet and len(side) < MOST:
            value = calculation.value(sheet.name, at)
            if value is None:
                break
            side.append(value)
            at = at.step(axis, step)
    return sides
