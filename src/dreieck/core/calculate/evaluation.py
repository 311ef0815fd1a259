"""Working out one formula at one place."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

from dreieck.core.analysis.binding import without_names
from dreieck.core.analysis.fanning import fans
from dreieck.core.budget import current
from dreieck.core.calculate.arguments import Operand, bound
from dreieck.core.calculate.chance import drawn
from dreieck.core.calculate.elementwise import (
    MINUS,
    PERCENT,
    combined_tables,
    operation,
)
from dreieck.core.calculate.operators import binary, percent, signed
from dreieck.core.calculate.whole_columns import filled_part, is_whole
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Failure, Function, Trait, find
from dreieck.core.functions.unknown import no_function
from dreieck.core.grid import Area
from dreieck.core.ranges.operands import (
    Array,
    CellValues,
    Range,
    Several,
    Table,
    parts,
    read_address,
    shared,
    single,
)
from dreieck.core.values import (
    LOOP,
    NAME,
    NULL,
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


def result_at(shape: Shape, place: Place, reader: CellValues) -> Value:
    """The result of a formula that stands at ``place``, the first of many; an empty one is 0."""
    if fans(shape, reader.named):
        found = all_at(shape, place, reader)
        return finished(
            found.at(0, 0) if isinstance(found, Table) else single(found, place.cell), place
        )
    return finished(Evaluation(place, reader, shape.tree).value(shape.tree), place)


def all_at(shape: Shape, place: Place, reader: CellValues) -> Operand:
    """All that a formula gives at ``place`` where ranges are taken whole.

    Whole columns end in the last row that holds something itself, on any sheet.
    """
    evaluation = Evaluation(place, reader, shape.tree)
    if any(map(is_whole, tree.walk(shape.tree))):
        used = [area.bottom for sheet in reader.workbook.sheets if (area := sheet.used())]
        evaluation = evaluation.within_rows(max(used, default=1))
    return evaluation.array(shape.tree)


def finished(value: Value, place: Place) -> Value:
    """A value as the result of a formula; an error that began here says so."""
    if value is None:
        return 0.0
    if isinstance(value, Error) and value.origin is None:
        return replace(value, origin=place)
    return value


class Evaluation:
    """One formula at one place."""

    def __init__(self, place: Place, reader: CellValues, root: tree.Node) -> None:
        self.place = place
        self.reader = reader
        self.root = root
        """The whole formula, or what the name stands for that is being worked out."""
        self.budget = current()
        self.within: list[str] = []
        """The names that are being worked out, so that none stands for itself."""
        self.known: dict[tuple[str, bool], Operand] = {}
        """What names stand for here, with ranges taken whole and without, each worked out once."""

    def value(self, node: tree.Node) -> Value:
        """The single value of a node."""
        return single(self.operand(node), self.place.cell)

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
            case tree.Linked():
                first, last = self.operand(node.first), self.operand(node.last)
                return self.linked(node.operator, first, last)
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

    def linked(self, operator: str, first: Operand, last: Operand) -> Operand:
        """The reference that an operator makes of two others."""
        for end in (first, last):
            if isinstance(end, Error):
                return end
        if not isinstance(first, Range | Several) or not isinstance(last, Range | Several):
            return Error(
                VALUE,
                f"“{operator.strip() or '!'}” stands between two references; one is a value.",
            )
        if operator == "~":
            return Several((*parts(first), *parts(last)))
        if operator == ":":
            return self.between(first, last)
        common = [each for a in parts(first) for b in parts(last) if (each := shared(a, b))]
        if not common:
            return Error(NULL, f"{_said(first)} and {_said(last)} share no cell.")
        return common[0] if len(common) == 1 else Several(common)

    def between(self, first: Range | Several, last: Range | Several) -> Operand:
        """The smallest range that holds two others (OpenFormula 6.4.11).

        On two sheets these are the same cells of all sheets from one to the other.
        """
        if isinstance(first, Several) or isinstance(last, Several):
            return Error(VALUE, "“:” stands between two ranges; one of these is several.")
        area = first.area.around(last.area)
        if first.sheet.casefold() == last.sheet.casefold():
            return Range(self.reader, first.sheet, area)
        sheets = self.reader.workbook.sheets
        one, two = sorted(
            sheets.index(self.reader.workbook.sheet(end.sheet)) for end in (first, last)
        )
        return Several([Range(self.reader, each.name, area) for each in sheets[one : two + 1]])

    def named(self, name: str, *, whole: bool = False) -> Operand:
        """What a name stands for, seen from here; ``whole`` where ranges are taken whole."""
        key = name.casefold()
        if (key, whole) in self.known:
            return self.known[key, whole]
        shape = self.reader.named(name)
        if shape is None:
            if find(name.upper()):
                return Error(NAME, f"{name.upper()} is a function: its brackets are missing.")
            return Error(NAME, f"Nothing in this workbook is called “{name}”.")
        if key in self.within:
            return Error(LOOP, f"The name “{name}” stands for itself.")
        if len(self.within) == MAX_NAMES_DEEP:
            return Error(WORK, f"More than {MAX_NAMES_DEEP} names stand for one another in a row.")
        self.within.append(key)
        outside, self.root = self.root, shape.tree
        try:
            found = self.array(shape.tree) if whole else self.operand(shape.tree)
            self.known[key, whole] = found
        finally:
            self.within.pop()
            self.root = outside
        return found

    def call(self, node: tree.Call) -> Operand:
        """The result of a function."""
        function = find(node.function)
        if function is None:
            return Error(NAME, no_function(node.function))
        if plain := without_names(node):
            return self.operand(plain)
        return called(function, lambda: self.bound(function, node))

    def bound(self, function: Function, node: tree.Call) -> list[Any]:
        """The arguments of a call, behind what it gets of its own: a number drawn, its cell."""
        if Trait.SKIPS_ZEROS in function.traits:
            filled = filled_part(node, self.reader, self.within_rows)
            if filled:
                return filled
        given = bound(function, node.arguments, self)
        if Trait.DRAWS in function.traits:
            return [self.drawn(node), *given]
        if Trait.FEEDS in function.traits:
            return [self.reader.workbook.feeds, *given]
        return [self.here(), *given] if Trait.HERE in function.traits else given

    def within_rows(self, last: int) -> Evaluation:
        """The same formula, where whole columns end in a row."""
        return _Within(self, last)

    def drawn(self, node: tree.Call) -> float:
        """The number by chance, from 0 to below 1, that belongs to a call of this formula."""
        calls = (each for each in tree.walk(self.root) if isinstance(each, tree.Call))
        # One that holds a name of the formula itself is told by how it is written.
        number = next(
            (str(number) for number, each in enumerate(calls) if each is node),
            Shape.of(node).text(self.place.cell),
        )
        workbook = self.reader.workbook
        name = self.within[-1] if self.within else ""
        sheet = workbook.sheet(self.place.sheet)
        return drawn(workbook.seed, sheet.id, self.place.cell, f"{name} {number}")

    def array(self, node: tree.Node) -> Operand:
        """A node where ranges are taken whole: operators and single values go through them."""
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
            case tree.Call():
                # The elements of arrays are worked out as rows of a column are, which builds on
                # what one formula gives.
                from dreieck.core.calculate.elements import each  # noqa: PLC0415

                return each(self, node)
            case tree.Name():
                return self.named(node.text, whole=True)
            case _:
                return self.operand(node)

    def addressed(self, text: str, *, by_number: bool) -> Operand:
        """What an address in a text names, or a name."""
        if not by_number and self.reader.named(text) is not None:
            return self.named(text)
        return read_address(text, self.reader, self.place, by_number=by_number)

    def here(self) -> Range:
        """The cell of the formula itself."""
        return Range(self.reader, self.place.sheet, Area.of(self.place.cell))


class Statement(Evaluation):
    """A formula about many cells: operators and functions of single values take each of them."""

    def operand(self, node: tree.Node) -> Operand:
        """The value of a node, or one for each cell that it is about."""
        if isinstance(node, tree.Binary | tree.Prefix | tree.Percent | tree.Call):
            return self.array(node)
        return super().operand(node)


class _Within(Evaluation):
    """The same formula, where whole columns end in a row."""

    def __init__(self, whole: Evaluation, last: int) -> None:
        super().__init__(whole.place, whole.reader, whole.root)
        self.last, self.within = last, whole.within

    def range(self, reference: CellReference | RangeReference) -> Operand:
        found = super().range(reference)
        if isinstance(found, Range) and is_whole(reference):
            return Range(self.reader, found.sheet, found.area._replace(bottom=self.last))
        return found


def _said(reference: Range | Several) -> str:
    """A reference as an error names it."""
    return "~".join(each.area.text for each in parts(reference))


def called(function: Function, arguments: Callable[[], Sequence[Any]]) -> Operand:
    """The result of a function, or the error that it leads to."""
    try:
        result: Operand = function.compute(*arguments())
    except Failure as failure:
        return Error(failure.code, failure.why, failure.origin)
    except (ArithmeticError, ValueError):
        return Error(NUM, f"{function.name} leads to a number that is too large, or to none.")
    if isinstance(result, float | int) and not isinstance(result, bool):
        # Numbers of other kinds, as those of whole products or arrays are, count as ours.
        return from_number(float(result))
    if not isinstance(result, str | bool | Error | Table | Several | None):
        raise TypeError(f"{function.name} gave what is no value: {type(result).__name__}")
    return result
