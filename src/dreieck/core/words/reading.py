"""A formula in words, with the sheet's own headings."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from dreieck.core.analysis.binding import without_names
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.over_sheets import sheets_of
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import (
    CellReference,
    Part,
    RangeReference,
    Reference,
    Span,
    ends_apart,
    lettered,
)
from dreieck.core.formula.shift import tag
from dreieck.core.functions import Function, Speech, find, speech_of
from dreieck.core.functions.families.subtotals import told_kind
from dreieck.core.grid import AXES, Area, Axis, Cell, column_letters
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place, number_text
from dreieck.core.values.locales import typed_again
from dreieck.core.words.choices import choice_said
from dreieck.core.words.conditions import COMPARED, conditions, number_of
from dreieck.core.words.filtered import filtered_said
from dreieck.core.words.headings import heading_of
from dreieck.core.words.lookups import lookup_said
from dreieck.core.words.phrases import Phrase, joined, words

_OPERATORS = {
    **COMPARED,
    "*": "×",
    "/": "÷",
    "-": "−",
    "^": "to the power of",
    "&": "joined with",
}
_LINKS = {
    ":": ("all from", "to"),
    "!": ("what is both in", "and in"),
    " ": ("what is both in", "and in"),
    "~": ("", "together with"),
}
"""Words before and between two references with an operator."""


def reading(workbook: Workbook, place: Place, shape: Shape) -> list[Phrase]:
    """Say the formula that stands at ``place`` in words."""
    reader = Spoken(workbook, place, shape.tree)
    return list(reader.node(shape.tree))


def by_position(workbook: Workbook, shape: Shape, at: Cell) -> str:
    """A formula in words that hold for every cell: ``the cell above ÷ the cell 2 up − 1``."""
    sheet = workbook.sheets[0].name
    reader = Spoken(workbook, Place(sheet, at), shape.tree, by_position=True)
    return joined(reader.node(shape.tree))


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


class Spoken:
    """Says one formula, node by node; ``by_position`` as it holds for every cell."""

    def __init__(
        self, workbook: Workbook, place: Place, root: tree.Node, *, by_position: bool = False
    ) -> None:
        self.by_position = by_position
        self.workbook = workbook
        self.place = place
        self.count = 0
        references = [
            node for node in tree.walk(root) if isinstance(node, CellReference | RangeReference)
        ]
        letters = lettered(references)
        self.numbers = {id(each): n for each, n in zip(references, letters, strict=True)}

    def node(self, node: tree.Node) -> Iterator[Phrase]:
        """A node in words."""
        match node:
            case CellReference() | RangeReference():
                yield from self.reference(node)
            case tree.Binary(operator="=" | "<>", right=tree.Text(value="")):
                yield from self.node(node.left)
                yield words("is empty" if node.operator == "=" else "is not empty")
            case tree.Binary():
                taken_apart = _ends_open(node.left) or _is_apart(node, node.left)
                yield from self.bracketed(node.left, taken_apart)
                yield words(_OPERATORS.get(node.operator, node.operator))
                yield from self.bracketed(node.right, _is_apart(node, node.right))
            case tree.Linked():
                yield from self.linked(node)
            case tree.Group():
                yield words("(")
                yield from self.node(node.inner)
                yield words(")")
            case tree.Prefix():
                yield words("minus" if node.sign == "-" else "plus")
                yield from self.node(node.operand)
            case tree.Percent():
                yield from self.node(node.operand)
                yield words("percent")
            case tree.Call():
                yield from self.call(node)
            case tree.Number():
                written = node.spelled or number_text(node.value)
                locale = self.workbook.locale
                yield words(typed_again(written, "general", locale) if locale else written)
            case tree.Text():
                yield words(f"“{node.value}”" if node.value else "no text")
            case tree.Logical():
                yield words("true" if node.value else "false")
            case tree.Inline():
                yield words(Shape.of(node).text(self.place.cell)[1:])
            case tree.Name():
                yield Phrase("thing", node.text)
            case tree.Missing():
                yield words("nothing")
            case tree.Lost():
                yield words("a lost reference")
            case tree.ErrorLiteral():
                yield words(f"the error {node.code}")

    def linked(self, node: tree.Linked) -> Iterator[Phrase]:
        """Two references with an operator between; cells of several sheets as on the first one."""
        sheets = sheets_of(node)
        before, between = ("", "to") if sheets else _LINKS[node.operator]
        if before:
            yield words(before)
        yield from self.node(node.first)
        first, last = node.first, node.last
        if sheets and isinstance(last, CellReference) and last.on_sheet(sheets[0]) == first:
            self.numbered(last)
        else:
            yield words(between)
            yield from self.node(last)
        if sheets:
            yield words(f"on each sheet from {sheets[0]} to {sheets[1]}")

    def reference(self, reference: Reference) -> Iterator[Phrase]:
        """A reference by the headings of what it reads."""
        read = self.read(reference)
        if read is None:
            self.numbered(reference)
            yield words("a lost reference")
            return
        yield from self.thing(reference, heading_of(*read, grows=ends_apart(reference)))

    def thing(self, reference: Reference, name: str | None) -> Iterator[Phrase]:
        """A reference by a name, or else as it is written, and where it is found."""
        letter = tag(self.numbered(reference))
        at = self.place.cell
        elsewhere = f" on {reference.sheet}" if reference.sheet else ""
        if self.by_position:
            yield words(_by_position(reference, at) + elsewhere)
            return
        yield Phrase("thing", name or reference_text(reference, at), letter)
        yield Phrase("where", f"({where(reference, at)}{elsewhere})", letter)

    def called(self, reference: Reference, name: str) -> Iterator[Phrase]:
        """A reference by what its cell is called: *the code in A5*."""
        if not self.by_position:
            yield words("the")
        yield from self.thing(reference, name)

    def read(self, node: tree.Node) -> tuple[Sheet, Area] | None:
        """What a node refers to, if it is a reference, or a name, of cells that are there."""
        if isinstance(node, tree.Name):
            named = self.workbook.names.get(node.text.casefold())
            place = named.place if named else None
            known = place is not None and self.workbook.has_sheet(place[0])
            return (self.workbook.sheet(place[0]), place[1]) if place and known else None
        if not isinstance(node, CellReference | RangeReference):
            return None
        area = node.area(self.place.cell)
        sheet = node.sheet or self.place.sheet
        if area is None or not self.workbook.has_sheet(sheet):
            return None
        return self.workbook.sheet(sheet), area

    def numbered(self, reference: Reference) -> int:
        """The number of a reference's letter in its formula, whichever is said first."""
        known = self.numbers.get(id(reference))
        if known is None:
            known = self.count
            self.count += 1
        return known

    def bracketed(self, node: tree.Node, wanted: bool) -> Iterator[Phrase]:
        """A node in brackets where what follows would be taken for a part of it."""
        if wanted:
            yield words("(")
        yield from self.node(node)
        if wanted:
            yield words(")")

    def function(self, name: str) -> Function | None:
        """The function of this name in capitals."""
        return find(name)

    def call(self, node: tree.Call) -> Iterator[Phrase]:
        """A call, by the words of its function."""
        if plain := without_names(node):
            yield from self.node(plain)
            return
        said = lookup_said(self, node) or choice_said(self, node) or self.filtered(node)
        if said is not None:
            yield from said
            return
        is_subtotal = speech_of(node.function) is Speech.SUBTOTAL
        if is_subtotal and (total := self.subtotal(node)):
            yield from total
            return
        function = self.function(node.function)
        template = function.words if function else f"{node.function} of {{*}}"
        alone = "{?0}" in template and "{2}" in template and len(node.arguments) == 2
        if alone:
            # What is tested is added up itself.
            template = template.replace("{2}", "{0}")
        template = _in_figures(template, node.arguments)
        begins = template.startswith("{0} ")
        for piece in re.split(r"(\{[*?]?\d?\})", template):
            if piece.startswith("{?"):
                yield from conditions(self, node.arguments[int(piece[2]) :], same=alone)
            elif piece.startswith("{*"):
                yield from self.listed(node.arguments[int(piece[2:-1] or 0) :])
            elif piece.startswith("{"):
                index = int(piece[1])
                if index < len(node.arguments):
                    argument = node.arguments[index]
                    inner = begins and index == 0 and isinstance(argument, tree.Binary)
                    yield from self.bracketed(argument, inner)
                else:
                    assert function is not None  # its own words have a place for the argument
                    missing = function.parameter(index)
                    yield words(missing.left_out if missing.optional else "…")
            elif piece.strip():
                yield words(piece.strip())

    def filtered(self, node: tree.Call) -> list[Phrase] | None:
        """A total of what fits conditions; None for any other call."""
        return filtered_said(self, node)

    def subtotal(self, node: tree.Call) -> list[Phrase] | None:
        """A subtotal by the total that its number tells; None where none is told."""
        kind = number_of(node.arguments[0]) if len(node.arguments) > 1 else None
        known, seen_only = told_kind(int(kind or 0))
        if known is None:
            return None
        left_out = "subtotals and hidden rows" if seen_only else "subtotals"
        total = tree.Call(known.name, node.arguments[1:])
        return [*self.call(total), words(f", {left_out} left out")]

    def listed(self, arguments: tuple[tree.Node, ...]) -> Iterator[Phrase]:
        for index, argument in enumerate(arguments):
            if index:
                yield words("and" if index == len(arguments) - 1 else ",")
            yield from self.node(argument)


def _ends_open(node: tree.Node) -> bool:
    """Whether a call ends with one of its arguments, to which more could seem to belong."""
    if not isinstance(node, tree.Call) or not node.arguments:
        return False
    function = find(node.function)
    return function is None or function.words.endswith("}") or function.speech in _LONG


def _is_apart(node: tree.Binary, operand: tree.Node) -> bool:
    """Whether an operand, which has no brackets of its own, would be heard as something else.

    Who hears *minus 3 to the power of 2* takes the minus last, and of two powers the second first.
    """
    if node.operator == "^":
        if isinstance(operand, tree.Percent):
            return operand is node.left and isinstance(operand.operand, tree.Prefix)
        is_signed = isinstance(operand, tree.Prefix) and operand is node.left
        return is_signed or isinstance(operand, tree.Binary)
    if not isinstance(operand, tree.Binary) or operand.operator == node.operator == "&":
        return False
    return node.operator == "&" or (node.operator in COMPARED and operand.operator in COMPARED)


_LONG = (
    Speech.TABLE_DOWN,
    Speech.TABLE_ACROSS,
    Speech.ENTRY,
    Speech.NEAREST,
    Speech.CASES,
    Speech.IF_ERROR,
    Speech.IF_MISSING,
)


def _in_figures(template: str, arguments: tuple[tree.Node, ...]) -> str:
    """The words of a call with numbers that are written out: one character, no decimals."""
    number = number_of(arguments[1]) if len(arguments) > 1 else None
    if number == 0:
        return template.replace(" to {1} decimals", " to a whole number").replace(
            "the end of the month {1} months after", "the end of the month of"
        )
    if number == 1:
        template = re.sub(r"the (first|last) \{1\} (\w+)s\b", r"the \1 \2", template)
    for index, each in enumerate(arguments):
        if number_of(each) == 1:
            template = re.sub(rf"(\{{{index}\}} \w+)s\b", r"\1", template)
    return template


def _by_position(reference: Reference, at: Cell) -> str:
    """What a reference reads, in words that hold for every cell."""
    if isinstance(reference, CellReference):
        return _cell_where(reference)
    parts = [part for axis in AXES for part in reference.on(axis)]
    if all(part.locked for part in parts):
        text = reference_text(replace(reference, sheet=None), at).replace("$", "")
        return f"always {text}"
    said = [
        _span_by_position(axis, span, at.on(axis))
        for axis, span in zip(AXES, (reference.columns, reference.rows), strict=True)
    ]
    told = ", ".join(each for each in said if each)
    return f"all {told}" if told.startswith("from") else told


def _span_by_position(axis: Axis, span: Span | None, base: int) -> str:
    if span is None or span.one.locked or span.two.locked or span.one == span.two:
        return _span(axis, span, base)
    first, last = span.ordered(base)
    return f"from {_axis(axis, first)} to {_axis(axis, last)}"


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
