"""Working out one formula at one place."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

from dreieck.core.address import Area
from dreieck.core.budget import current
from dreieck.core.calculate.arguments import Operand, bound
from dreieck.core.calculate.elementwise import MINUS, PERCENT, combined_tables, operation
from dreieck.core.calculate.operators import binary, percent, signed
from dreieck.core.formula import Shape, tree
from dreieck.core.functions import Failure, Function, find
from dreieck.core.ranges import Array, Range, Reader, read_address
from dreieck.core.reference import CellReference, RangeReference
from dreieck.core.values import (
    LOOP,
    NAME,
    NUM,
    REF,
    VALUE,
    WORK,
    Error,
    Place,
    Value,
    from_number,
)

MAX_NAMES_DEEP = 64
"""So many names may stand for one another in a row."""


def result_at(shape: Shape, place: Place, reader: Reader) -> Value:
    """The result of a formula that stands at ``place``; an empty one is 0."""
    return finished(Evaluation(place, reader).value(shape.tree), place)


def finished(value: Value, place: Place) -> Value:
    """A value as the result of a formula; an error that began here says so."""
    if value is None:
        return 0.0
    if isinstance(value, Error) and value.origin is None:
        return replace(value, origin=place)
    return value


class Evaluation:
    """One formula at one place."""

    def __init__(self, place: Place, reader: Reader) -> None:
        self.place = place
        self.reader = reader
        self.budget = current()
        self.within: list[str] = []
        """The names that are being worked out, so that none stands for itself."""
        self.known: dict[str, Operand] = {}
        """What names stand for here, each worked out once."""

    def value(self, node: tree.Node) -> Value:
        """The single value of a node."""
        operand = self.operand(node)
        if isinstance(operand, Range):
            return operand.single(self.place.cell)
        return operand.at(0, 0) if isinstance(operand, Array) else operand

    def operand(self, node: tree.Node) -> Operand:
        """The value of a node, or the range that it refers to."""
        self.budget.spend(1)
        match node:
            case tree.Number() | tree.Text() | tree.Logical():
                return node.value
            case CellReference() | RangeReference():
                return self.range(node)
            case tree.Group():
                return self.operand(node.inner)
            case tree.Binary():
                return binary(node.operator, self.value(node.left), self.value(node.right))
            case tree.Between():
                return self.between(self.operand(node.first), self.operand(node.last))
            case tree.Call():
                return self.call(node)
            case tree.Prefix():
                return signed(node.sign, self.value(node.operand))
            case tree.Percent():
                return percent(self.value(node.operand))
            case tree.Missing():
                return None
            case tree.Inline():
                return Array.of([[self.value(each) for each in row] for row in node.rows])
            case tree.Name():
                return self.named(node.text)
            case tree.ErrorLiteral():
                return Error(node.code, "The formula itself says so.")
            case tree.Lost():
                return Error(REF, "A reference fell off the sheet, or its cell was deleted.")

    def range(self, reference: CellReference | RangeReference) -> Operand:
        """The range that a reference reads from here."""
        sheet = reference.sheet or self.place.sheet
        area = reference.area(self.place.cell)
        if area is None:
            return Error(REF, "A reference falls off the sheet here.")
        if reference.sheet and not self.reader.has_sheet(sheet):
            return Error(REF, f"There is no sheet “{sheet}”.")
        return Range(self.reader, sheet, area)

    def between(self, first: Operand, last: Operand) -> Operand:
        """The smallest range that holds two others (OpenFormula 6.4.11)."""
        for end in (first, last):
            if isinstance(end, Error):
                return end
        if not isinstance(first, Range) or not isinstance(last, Range):
            return Error(VALUE, "“:” stands between two references; one of these is a value.")
        if first.sheet.casefold() != last.sheet.casefold():
            return Error(VALUE, "The two ends of a range lie on different sheets.")
        return Range(self.reader, first.sheet, first.area.around(last.area))

    def named(self, name: str) -> Operand:
        """What a name stands for, seen from here."""
        key = name.casefold()
        if key in self.known:
            return self.known[key]
        shape = self.reader.named(name)
        if shape is None:
            return Error(NAME, f"Nothing in this workbook is called “{name}”.")
        if key in self.within:
            return Error(LOOP, f"The name “{name}” stands for itself.")
        if len(self.within) == MAX_NAMES_DEEP:
            return Error(WORK, f"More than {MAX_NAMES_DEEP} names stand for one another in a row.")
        self.within.append(key)
        try:
            found = self.known[key] = self.operand(shape.tree)
        finally:
            self.within.pop()
        return found

    def call(self, node: tree.Call) -> Operand:
        """The result of a function."""
        function = find(node.function)
        if function is None:
            return Error(NAME, f"There is no function {node.function}.")
        return called(function, lambda: bound(function, node.arguments, self))

    def array(self, node: tree.Node) -> Operand:
        """A node in which operators work on ranges cell by cell."""
        self.budget.spend(1)
        match node:
            case tree.Group():
                return self.array(node.inner)
            case tree.Binary():
                left, right = self.array(node.left), self.array(node.right)
                return combined_tables(operation(node.operator), left, right)
            case tree.Prefix(sign="+"):
                return self.array(node.operand)
            case tree.Prefix():
                return combined_tables(MINUS, self.array(node.operand), None)
            case tree.Percent():
                return combined_tables(PERCENT, self.array(node.operand), None)
            case _:
                return self.operand(node)

    def addressed(self, text: str) -> Range | Error:
        """The range that an address in a text names."""
        return read_address(text, self.reader, self.place.sheet)

    def here(self) -> Range:
        """The cell of the formula itself."""
        return Range(self.reader, self.place.sheet, Area.of(self.place.cell))


def called(function: Function, arguments: Callable[[], Sequence[Any]]) -> Operand:
    """The result of a function, or the error that it leads to."""
    try:
        result: Operand = function.compute(*arguments())
    except Failure as failure:
        return Error(failure.code, failure.why, failure.origin)
    except (ArithmeticError, ValueError):
        return Error(NUM, f"{function.name} leads to a number that is too large or undefined.")
    return from_number(result) if isinstance(result, float) else result
