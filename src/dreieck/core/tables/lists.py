"""Whether a cell next to a list belongs to it, as the labels of both tell."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

import numpy as np
from numpy.typing import NDArray

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import LONGEST, says
from dreieck.core.tables.labels import FAR, MOST
from dreieck.core.tables.measures import measured_in
from dreieck.core.tables.series import ascends, order_of
from dreieck.core.values import Value

_LINES = 3
"""So many lines of labels are asked."""
_SEVERAL = 3
"""What so many labels have in common is no chance."""


def akin(labels: Sequence[str], other: str) -> bool | None:
    """Whether a label is of the sort that all labels of a list are; None where they are of none.

    They are of one sort that name months or days, count on by the same pattern (*R-301*, *R-302*)
    or share a word (*Hours to 10*, *Hours to 20*).
    """
    told = [each.casefold() for each in labels if each]
    text = other.casefold()
    if len(told) < 2 or not text:
        return None
    orders = frozenset.intersection(*map(order_of, told))
    if orders:
        return bool(orders & order_of(text))
    units = {measured_in(each) for each in labels if each}
    if len(units) == 1 and None not in units:
        return measured_in(other) in units
    if says(text, "lone") and not any(says(each, "lone") for each in told):
        return False
    if len(told) < _SEVERAL:
        return None
    patterns = {_pattern(each) for each in told}
    if len(patterns) == 1 and "0" in next(iter(patterns)):
        return _pattern(text) in patterns
    shared = set.intersection(*({*_long_words(each)} for each in told))
    return bool(shared & {*_long_words(text)}) if shared else None


def _pattern(text: str) -> str:
    return re.sub(r"\d+", "0", text.strip())


def _long_words(text: str) -> Iterator[str]:
    return (each for each in re.findall(r"\w+", text) if len(each) > 2 and not each.isdigit())


def belongs(
    calculation: Calculation, sheet: Sheet, area: Area, cell: Cell, axis: Axis
) -> bool | None:
    """Whether a cell next to a list along an axis is one of it, by its labels.

    None where the labels do not tell.
    """
    found: bool | None = None
    for labels, other in _labels(calculation, sheet, area, cell, axis):
        told = akin(labels, other)
        if told is False:
            return False
        found = found or told
    return found


def _labels(
    calculation: Calculation, sheet: Sheet, area: Area, cell: Cell, axis: Axis
) -> Iterator[tuple[list[str], str]]:
    """The labels of a list, a line of them at a time, and that of the cell in the same line."""
    crossing = CROSSING[axis]
    low, high = area.on(axis)
    at, start = cell.on(axis), area.on(crossing)[0]
    near = range(low, min(high, low + MOST) + 1)
    if at > high:
        near = range(max(low, high - MOST), high + 1)
    if start == 1:
        return
    before = Area.of(cell).spanning(crossing, max(start - FAR, 1), start - 1)
    texts = _texts(calculation, sheet, before.spanning(axis, near[0], near[-1]), axis)
    own = _texts(calculation, sheet, before, axis)[:, 0]
    told = 0
    for index in range(len(own) - 1, -1, -1):
        several = 2 * int(texts[index].sum()) > len(near)
        if not several and not own[index]:
            continue
        line = before.spanning(crossing, before.on(crossing)[0] + index,
                               before.on(crossing)[0] + index)  # fmt: skip
        values = [calculation.value(sheet.name, line.spanning(axis, n, n).first) for n in near]
        label = _label(calculation.value(sheet.name, line.first))
        if several:
            told += 1
            yield [_label(each) for each in values], label
        elif len(values) > 1 and ascends(values):
            # Years or weeks are numbers: a text beside them heads another list.
            yield ["0"] * len(values), label
        if told >= _LINES:
            break


def _label(value: Value) -> str:
    return value.strip()[:LONGEST] if isinstance(value, str) else ""


def _texts(calculation: Calculation, sheet: Sheet, area: Area, axis: Axis) -> NDArray[np.bool_]:
    """Which cells of an area hold text, by lines across an axis."""
    columns = range(area.left, area.right + 1)
    cells = (calculation.cells(sheet.name, n, area.top, area.bottom) for n in columns)
    found = np.array([each.kinds == Kind.TEXT for each in cells])
    return found if axis == "row" else found.T
