"""Working out one formula at one place.

Operators and their conversions follow OpenFormula (OpenDocument part 4), 6.4.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

from dreieck.core.address import Area
from dreieck.core.calculate.arguments import Operand, bound
from dreieck.core.formula import Shape, tree
from dreieck.core.functions import Failure, Function, find
from dreieck.core.ranges import Array, Range, Reader, read_address
from dreieck.core.reference import CellReference, RangeReference
from dreieck.core.values import (
    DIV0,
    LOOP,
    NAME,
    NUM,
    REF,
    VALUE,
    Error,
    Place,
    Value,
    compared,
    from_number,
    to_number,
    to_text,
)


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

    def __init__(self, place: Place, reader: Reader, within: frozenset[str] = frozenset()) -> None:
        self.place = place
        self.reader = reader
        self.within = within
        """The names that are being worked out, so that none stands for itself."""

    def value(self, node: tree.Node) -> Value:
        """The single value of a node."""
        operand = self.operand(node)
        if isinstance(operand, Range):
            return operand.single(self.place.cell)
        return operand.at(0, 0) if isinstance(operand, Array) else operand

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
                return Array([[self.value(each) for each in row] for row in node.rows])
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
        shape = self.reader.named(name)
        if shape is None:
            return Error(NAME, f"Nothing in this workbook is called “{name}”.")
        if name.casefold() in self.within:
            return Error(LOOP, f"The name “{name}” stands for itself.")
        within = self.within | {name.casefold()}
        return Evaluation(self.place, self.reader, within).operand(shape.tree)

    def call(self, node: tree.Call) -> Operand:
        """The result of a function."""
        function = find(node.function)
        if function is None:
            return Error(NAME, f"There is no function {node.function}.")
        return called(function, lambda: bound(function, node.arguments, self))

    def array(self, node: tree.Node) -> Operand:
        """A node in which operators work on ranges cell by cell."""
        match node:
            case tree.Group():
                return self.array(node.inner)
            case tree.Binary():
                left, right = self.array(node.left), self.array(node.right)
                return _each(lambda one, two: binary(node.operator, one, two), left, right)
            case tree.Prefix():
                return _each(lambda one, _: signed(node.sign, one), self.array(node.operand), 0.0)
            case tree.Percent():
                return _each(lambda one, _: percent(one), self.array(node.operand), 0.0)
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
    except (OverflowError, ZeroDivisionError, ValueError):
        return Error(NUM, f"{function.name} leads to a number that is too large or undefined.")
    return from_number(result) if isinstance(result, float) else result


_MAX_ARRAY = 1_000_000
_LAST_BITS = 2.0**-48
_COMPARISONS = {
    "=": (0,),
    "<>": (-1, 1),
    "<": (-1,),
    ">": (1,),
    "<=": (-1, 0),
    ">=": (0, 1),
}


def binary(operator: str, left: Value, right: Value) -> Value:
    """Two values and an operator; the first error of the two passes through."""
    if operator == "&":
        return _joined(left, right)
    if operator in _COMPARISONS:
        order = 0 if _alike(left, right) else compared(left, right)
        return order if isinstance(order, Error) else order in _COMPARISONS[operator]
    one = to_number(left)
    if isinstance(one, Error):
        return one
    two = to_number(right)
    if isinstance(two, Error):
        return two
    return _arithmetic(operator, one, two)


def _alike(left: Value, right: Value) -> bool:
    """Whether two numbers are the same but for the last bits, as 0.1 * 3 and 0.3 are.

    OpenFormula 6.4.7 lets a comparison ignore what a number cannot hold exactly.
    """
    if type(left) is not float or type(right) is not float:
        return False
    return abs(left - right) <= _LAST_BITS * max(abs(left), abs(right))


def signed(sign: str, value: Value) -> Value:
    """A value with a sign in front; a plus changes nothing (OpenFormula 6.4.14)."""
    if sign == "+":
        return value
    number = to_number(value)
    if isinstance(number, Error):
        return number
    return -number


def percent(value: Value) -> Value:
    """A value with a percent sign behind it."""
    number = to_number(value)
    return number if isinstance(number, Error) else number / 100


def _each(combine: Callable[[Value, Value], Value], one: Operand, two: Operand) -> Operand:
    """Combine two operands cell by cell; a single value, row or column is repeated."""
    if not isinstance(one, Range | Array) and not isinstance(two, Range | Array):
        return combine(one, two)
    tables = [part for part in (one, two) if isinstance(part, Range | Array)]
    width, height = max(t.width for t in tables), max(t.height for t in tables)
    if width * height > _MAX_ARRAY:
        return Error(VALUE, f"A calculation with ranges can have {_MAX_ARRAY:,} cells.")
    if any(t.width not in (1, width) or t.height not in (1, height) for t in tables):
        return Error(VALUE, "The ranges differ in size.")
    return Array(
        [
            [combine(_cell(one, column, row), _cell(two, column, row)) for column in range(width)]
            for row in range(height)
        ]
    )


def _cell(operand: Operand, column: int, row: int) -> Value:
    if not isinstance(operand, Range | Array):
        return operand
    return operand.at(column % operand.width, row % operand.height)


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
