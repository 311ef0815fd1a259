"""Working out one formula at one place.

Operators and their conversions follow OpenFormula (OpenDocument part 4), 6.4.
"""

from __future__ import annotations

from typing import Protocol

from dreieck.core.calculate.arguments import bound
from dreieck.core.formula import tree
from dreieck.core.functions import Failure, find
from dreieck.core.ranges import Range, Reader
from dreieck.core.reference import CellReference, RangeReference
from dreieck.core.values import (
    DIV0,
    NAME,
    NUM,
    REF,
    Error,
    Place,
    Value,
    compared,
    from_number,
    to_number,
    to_text,
)

Operand = Value | Range


class SheetReader(Reader, Protocol):
    """A reader that also knows which sheets there are."""

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""


def evaluate(node: tree.Node, place: Place, reader: SheetReader) -> Value:
    """The value of a formula that stands at ``place``; an empty result is 0."""
    value = Evaluation(place, reader).value(node)
    return 0.0 if value is None else value


class Evaluation:
    """One formula at one place."""

    def __init__(self, place: Place, reader: SheetReader) -> None:
        self.place = place
        self.reader = reader

    def value(self, node: tree.Node) -> Value:
        """The single value of a node."""
        operand = self.operand(node)
        return operand.single(self.place.cell) if isinstance(operand, Range) else operand

    def operand(self, node: tree.Node) -> Operand:
        """The value of a node, or the range that it refers to."""
        match node:
            case tree.Number() | tree.Text() | tree.Logical():
                return node.value
            case CellReference() | RangeReference():
                return self.range(node)
            case tree.Group():
                return self.operand(node.inner)
            case tree.Binary():
                return self.binary(node)
            case tree.Call():
                return self.call(node)
            case tree.Prefix():
                number = to_number(self.value(node.operand))
                if isinstance(number, Error):
                    return number
                return -number if node.sign == "-" else number
            case tree.Percent():
                number = to_number(self.value(node.operand))
                return number if isinstance(number, Error) else number / 100
            case tree.Missing():
                return None
            case tree.Name():
                return Error(NAME, f"Nothing in this workbook is called “{node.text}”.")
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

    def call(self, node: tree.Call) -> Operand:
        """The result of a function."""
        function = find(node.function)
        if function is None:
            return Error(NAME, f"There is no function {node.function}.")
        try:
            return _checked(function.compute(*bound(function, node.arguments, self)))
        except Failure as failure:
            return Error(failure.code, failure.why, failure.origin)
        except (OverflowError, ZeroDivisionError):
            return Error(NUM, f"{node.function} leads to a number that is too large or undefined.")

    def binary(self, node: tree.Binary) -> Value:
        """Two values and an operator; the first error of the two passes through."""
        left, right = self.value(node.left), self.value(node.right)
        if node.operator == "&":
            return _joined(left, right)
        if node.operator in _COMPARISONS:
            order = compared(left, right)
            return order if isinstance(order, Error) else order in _COMPARISONS[node.operator]
        one = to_number(left)
        if isinstance(one, Error):
            return one
        two = to_number(right)
        if isinstance(two, Error):
            return two
        return _arithmetic(node.operator, one, two)


_COMPARISONS = {
    "=": (0,),
    "<>": (-1, 1),
    "<": (-1,),
    ">": (1,),
    "<=": (-1, 0),
    ">=": (0, 1),
}


def _arithmetic(operator: str, one: float, two: float) -> Value:
    match operator:
        case "+":
            return from_number(one + two)
        case "-":
            return from_number(one - two)
        case "*":
            return from_number(one * two)
        case "/":
            if two == 0:
                return Error(DIV0, "The divisor is 0 or empty.")
            return from_number(one / two)
        case _:
            return _power(one, two)


def _power(base: float, exponent: float) -> Value:
    if base == 0 and exponent < 0:
        return Error(DIV0, "0 to a power below 0 divides by 0.")
    try:
        result = base**exponent
    except OverflowError:
        return from_number(float("inf"))
    if isinstance(result, complex):
        return Error(NUM, "A number below 0 has no such power.")
    return from_number(result)


def _joined(left: Value, right: Value) -> Value:
    one = to_text(left)
    if isinstance(one, Error):
        return one
    two = to_text(right)
    return two if isinstance(two, Error) else one + two


def _checked(result: Operand) -> Operand:
    return from_number(result) if isinstance(result, float) else result
