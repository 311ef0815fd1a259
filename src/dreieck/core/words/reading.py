"""A formula in words, with the sheet's own headings."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import CellReference, Part, RangeReference, Reference, Span
from dreieck.core.formula.shift import tag
from dreieck.core.functions import find
from dreieck.core.grid import Cell, column_letters
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place, number_text
from dreieck.core.words.headings import heading_of

_OPERATORS = {
    "*": "×",
    "/": "÷",
    "-": "−",
    "^": "to the power of",
    "&": "joined with",
    "=": "equals",
    "<>": "differs from",
    "<": "is less than",
    ">": "is more than",
    "<=": "is at most",
    ">=": "is at least",
}
_LINKS = {
    ":": ("all from", "to"),
    "!": ("what is both in", "and in"),
    " ": ("what is both in", "and in"),
    "~": ("", "together with"),
}
"""Words before and between two references with an operator."""


@dataclass(frozen=True, slots=True)
class Phrase:
    """A piece of a reading: a thing of the sheet, where it is found, or words between."""

    kind: Literal["thing", "where", "words"]
    text: str
    tag: str = ""


def reading(workbook: Workbook, place: Place, shape: Shape) -> list[Phrase]:
    """Say the formula that stands at ``place`` in words."""
    reader = _Reading(workbook, place)
    return list(reader.node(shape.tree))


def by_position(workbook: Workbook, shape: Shape, at: Cell) -> str:
    """A formula in words that hold for every cell: ``the cell above ÷ the cell 2 up − 1``."""
    sheet = workbook.sheets[0].name
    phrases = _Reading(workbook, Place(sheet, at)).node(shape.tree)
    words = [phrase.text.strip("()") if phrase.kind == "where" else phrase.text
             for phrase in phrases if phrase.kind != "thing" or not phrase.tag]  # fmt: skip
    return " ".join(words)


def where(reference: Reference, at: Cell) -> str:
    """What of a reference moves and what stays: ``always column B, this row``."""
    if isinstance(reference, RangeReference):
        return ", ".join(
            said
            for said in (
                _span("column", reference.columns, at.column),
                _span("row", reference.rows, at.row),
            )
            if said
        )
    return _cell_where(reference)


class _Reading:
    def __init__(self, workbook: Workbook, place: Place) -> None:
        self.workbook = workbook
        self.place = place
        self.count = 0

    def node(self, node: tree.Node) -> Iterator[Phrase]:
        match node:
            case CellReference() | RangeReference():
                yield from self.reference(node)
            case tree.Binary():
                yield from self.node(node.left)
                yield Phrase("words", _OPERATORS.get(node.operator, node.operator))
                yield from self.node(node.right)
            case tree.Linked():
                before, between = _LINKS[node.operator]
                if before:
                    yield Phrase("words", before)
                yield from self.node(node.first)
                yield Phrase("words", between)
                yield from self.node(node.last)
            case tree.Group():
                yield Phrase("words", "(")
                yield from self.node(node.inner)
                yield Phrase("words", ")")
            case tree.Prefix():
                yield Phrase("words", "minus" if node.sign == "-" else "plus")
                yield from self.node(node.operand)
            case tree.Percent():
                yield from self.node(node.operand)
                yield Phrase("words", "percent")
            case tree.Call():
                yield from self.call(node)
            case tree.Number():
                yield Phrase("words", node.spelled or number_text(node.value))
            case tree.Text():
                yield Phrase("words", f"“{node.value}”" if node.value else "no text")
            case tree.Logical():
                yield Phrase("words", "true" if node.value else "false")
            case tree.Inline():
                yield Phrase("words", Shape.of(node).text(self.place.cell)[1:])
            case tree.Name():
                yield Phrase("thing", node.text)
            case tree.Missing():
                yield Phrase("words", "nothing")
            case tree.Lost():
                yield Phrase("words", "a lost reference")
            case tree.ErrorLiteral():
                yield Phrase("words", f"the error {node.code}")

    def reference(self, reference: Reference) -> Iterator[Phrase]:
        letter = tag(self.count)
        self.count += 1
        area = reference.area(self.place.cell)
        sheet = reference.sheet or self.place.sheet
        if area is None or not self.workbook.has_sheet(sheet):
            yield Phrase("words", "a lost reference")
            return
        name = heading_of(self.workbook.sheet(sheet), area)
        yield Phrase("thing", name or reference_text(reference, self.place.cell), letter)
        elsewhere = f" on {sheet}" if reference.sheet else ""
        yield Phrase("where", f"({where(reference, self.place.cell)}{elsewhere})", letter)

    def call(self, node: tree.Call) -> Iterator[Phrase]:
        function = find(node.function)
        words = function.words if function else f"{node.function} of {{*}}"
        for piece in re.split(r"(\{\*?\d?\})", words):
            if piece.startswith("{*"):
                yield from self.listed(node.arguments[int(piece[2:-1] or 0) :])
            elif piece.startswith("{"):
                index = int(piece[1])
                if index < len(node.arguments):
                    yield from self.node(node.arguments[index])
                else:
                    assert function is not None  # its own words have a place for the argument
                    yield Phrase("words", function.parameter(index).left_out)
            elif piece.strip():
                yield Phrase("words", piece.strip())

    def listed(self, arguments: tuple[tree.Node, ...]) -> Iterator[Phrase]:
        for index, argument in enumerate(arguments):
            if index:
                yield Phrase("words", "and" if index == len(arguments) - 1 else ",")
            yield from self.node(argument)


def _cell_where(reference: CellReference) -> str:
    column, row = reference.column, reference.row
    if column.locked and row.locked:
        return f"always {column_letters(column.at)}{row.at}"
    if not column.locked and not row.locked:
        steps = [_steps(row.at, "up", "down"), _steps(column.at, "left", "right")]
        said = " and ".join(step for step in steps if step)
        return {
            "": "this cell itself",
            "1 left": "the cell to the left",
            "1 right": "the cell to the right",
            "1 up": "the cell above",
            "1 down": "the cell below",
        }.get(said, f"the cell {said}")
    return f"{_axis('column', column)}, {_axis('row', row)}"


def _axis(axis: str, part: Part) -> str:
    if part.locked:
        return f"always {_place(axis, part)}"
    if part.at == 0:
        return f"this {axis}"
    if abs(part.at) == 1:
        return _NEXT[axis, part.at]
    direction = ("left", "right") if axis == "column" else ("up", "down")
    return f"the {axis} {_steps(part.at, *direction)}"


def _place(axis: str, part: Part) -> str:
    return f"{axis} {column_letters(part.at) if axis == 'column' else part.at}"


_NEXT = {
    ("column", -1): "the column to the left",
    ("column", 1): "the column to the right",
    ("row", -1): "the row above",
    ("row", 1): "the row below",
}


def _span(axis: str, span: Span | None, base: int) -> str:
    if span is None:
        return "the whole column" if axis == "row" else "the whole row"
    first, second = span.ordered(base)
    if first == second:
        return _axis(axis, first)
    if first.locked and second.locked:
        ends = [column_letters(p.at) if axis == "column" else str(p.at) for p in (first, second)]
        return f"always {axis}s {ends[0]} to {ends[1]}"
    if not first.locked and not second.locked:
        return f"{axis}s that move along"
    if first.locked:
        return f"always from {_place(axis, first)} to {_axis(axis, second)}"
    return f"from {_axis(axis, first)} to {_place(axis, second)}, always"


def _steps(distance: int, back: str, forth: str) -> str:
    return f"{abs(distance)} {back if distance < 0 else forth}" if distance else ""
