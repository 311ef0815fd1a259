"""How a proof is begun: what is likely claimed of a selection, and the text to go on from."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from dreieck.core.calculate import Calculation
from dreieck.core.formula import Shape, mentions, tree
from dreieck.core.functions.statements import (
    ADDS_UP,
    AGREES,
    BETWEEN,
    INPUTS,
    KNOWN_CASE,
    NEVER_FALLS,
    NONE_TWICE,
    RESULTS,
    STATEMENTS,
    written,
)
from dreieck.core.grid import Area
from dreieck.core.ranges.operands import Range
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.content import read_entry
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import STANDS
from dreieck.core.values import Value

_LOOKED_AT = 10_000
_CLOSE = 1e-6


def likely_statement(calculation: Calculation, sheet: Sheet, area: Area) -> str:
    """The name of the statement that one would likely make of the cells of an area."""
    if area.size == 1:
        is_formula = isinstance(sheet.content(area.first), Shape)
        return AGREES if is_formula else BETWEEN
    numbers, kinds = _values(calculation, sheet, area)
    if (kinds == Kind.TEXT).sum() > len(numbers):
        return NONE_TWICE
    climbs = len(numbers) > 2 and bool((np.diff(numbers) > 0).all())
    if climbs and not _is_whole(numbers):
        return NEVER_FALLS
    return ADDS_UP


def begun(calculation: Calculation, sheet: Sheet, area: Area, statement: str) -> tuple[str, int]:
    """The text of a statement about an area, and where the caret is to go on."""
    return _about(calculation, sheet, area.text, area, statement)


def restated(calculation: Calculation, sheet: Sheet, text: str, statement: str) -> tuple[str, int]:
    """The text of another statement about the same cells, and where the caret is to go on.

    What was written behind the cells is taken along where the other statement takes it.
    """
    entry = read_entry(text, STANDS)
    node = entry.content.tree if isinstance(entry.content, Shape) else None
    known = node.function if isinstance(node, tree.Call) and node.function in STATEMENTS else ""
    both = known and KNOWN_CASE not in (known, statement)
    if both and isinstance(node, tree.Call) and len(node.arguments) > 1:
        form = STATEMENTS[statement]
        said = [Shape.of(each).text(STANDS)[1:] for each in node.arguments[: form.most]]
        whole = written(statement, *said)
        return (whole, len(whole)) if len(said) >= form.least else _open(statement, *said)
    found = mentions(text, STANDS)
    if not found:
        return _open(statement)
    first = found[-1] if known == KNOWN_CASE else found[0]
    area = first.reference.area(STANDS)
    subject = text[first.start : first.end]
    home = sheet
    if first.reference.sheet and calculation.workbook.has_sheet(first.reference.sheet):
        home = calculation.workbook.sheet(first.reference.sheet)
    return _about(calculation, home, subject, area or Area.of(STANDS), statement)


def _about(
    calculation: Calculation, sheet: Sheet, subject: str, area: Area, statement: str
) -> tuple[str, int]:
    if statement == KNOWN_CASE:
        value = calculation.value(sheet.name, area.first)
        text = written(statement, f"{INPUTS}()", f"{RESULTS}({subject}={_constant(value)})")
        return text, text.index("()") + 1
    if statement == ADDS_UP and _is_whole(_values(calculation, sheet, area)[0]):
        text = written(statement, subject, "100%")
        return text, len(text)
    return _open(statement, subject)


def _constant(value: Value) -> str:
    """A value as it is written in a formula, but for what is lost by rounding."""
    node: tree.Node
    match value:
        case bool():
            node = tree.Logical(value)
        case float():
            node = tree.Number(float(f"{value:.12g}"))
        case str():
            node = tree.Text(value)
        case _:
            return ""
    return Shape.of(node).text(STANDS)[1:]


def _open(statement: str, *arguments: str) -> tuple[str, int]:
    """A statement that goes on behind its arguments, closed where it needs no more."""
    text = written(statement, *arguments)
    if len(arguments) >= STATEMENTS[statement].least:
        return text, len(text)
    text = text[:-1] + "," * bool(arguments)
    return text, len(text)


def _values(
    calculation: Calculation, sheet: Sheet, area: Area
) -> tuple[NDArray[np.float64], NDArray[np.uint8]]:
    """The first numbers of an area, and the kinds of its first cells."""
    bottom = min(area.bottom, area.top + _LOOKED_AT // area.width)
    cells = Range(calculation, sheet.name, area._replace(bottom=bottom)).all_cells()
    return cells.payload[cells.kinds == Kind.NUMBER], cells.kinds


def _is_whole(numbers: NDArray[np.float64]) -> bool:
    """Whether numbers come to 100 %."""
    return len(numbers) > 1 and abs(float(numbers.sum()) - 1) <= _CLOSE
