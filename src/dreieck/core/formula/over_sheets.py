"""Ranges over sheets: ``Jan!B4:Mar!C9`` reads these cells on all sheets from Jan to Mar.

So the standard writes them (OpenFormula 5.8); ``Jan:Mar!B4:C9`` says the same where it is typed,
and in Office Open XML.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference, Reference, Span
from dreieck.core.grid import Cell, column_letters


def sheets_of(node: tree.Node) -> tuple[str, str] | None:
    """The first and the last sheet of a range over sheets; None for any other node."""
    if not isinstance(node, tree.Linked) or node.operator != ":":
        return None
    ends = [getattr(end, "sheet", None) for end in (node.first, node.last)]
    first, last = ends
    if not first or not last or first.casefold() == last.casefold():
        return None
    return first, last


def read_over_sheets(node: tree.Node, at: Cell, named: Callable[[str], str | None]) -> tree.Node:
    """A tree in which ``Jan:Mar!B4`` is a range over sheets, where there are such sheets.

    ``named`` spells a sheet as it is called, and gives None where there is none of that name. If
    there are none, letters of columns are meant that cross something: ``B:C!B4``.
    """
    found = _typed(node, at)
    first, last = map(named, found[:2]) if found else (None, None)
    if found and first and last:
        return _between(first, last, found[2])
    return tree.with_children(node, lambda each: read_over_sheets(each, at, named))


def _typed(node: tree.Node, at: Cell) -> tuple[str, str, Reference] | None:
    """The two sheets and the reference of what may be typed as a range over sheets."""
    match node:
        case CellReference() | RangeReference():
            first, colon, last = (node.sheet or "").partition(":")
            return (first, last, node) if colon else None
        case tree.Linked(
            operator=":",
            first=tree.Name() as name,
            last=CellReference() | RangeReference() as last,
        ):
            return (name.text, last.sheet, last) if last.sheet else None
        case tree.Linked(
            operator="!",
            first=RangeReference(rows=None, sheet=None) as columns,
            last=CellReference(sheet=None) | RangeReference(sheet=None) as last,
        ):
            if area := columns.area(at):
                return column_letters(area.left), column_letters(area.right), last
    return None


def _between(first: str, last: str, read: Reference) -> tree.Node:
    if isinstance(read, RangeReference) and read.columns and read.rows:
        (left, right), (top, bottom) = read.columns.typed(), read.rows.typed()
        ends = CellReference(left, top, first), CellReference(right, bottom, last)
        return tree.Linked(":", *ends)
    return tree.Linked(":", read.on_sheet(first), read.on_sheet(last))


def written_over_sheets(node: tree.Node) -> tree.Node:
    """A tree in which ranges over sheets are references to a sheet that is called ``Jan:Mar``."""
    sheets = sheets_of(node)
    if sheets is None or not isinstance(node, tree.Linked):
        return tree.with_children(node, written_over_sheets)
    first, last = node.first, node.last
    both = ":".join(sheets)
    if isinstance(first, CellReference) and isinstance(last, CellReference):
        if (first.column, first.row) == (last.column, last.row):
            return first.on_sheet(both)
        columns, rows = Span.of(first.column, last.column), Span.of(first.row, last.row)
        return RangeReference(columns, rows, both)
    return first.on_sheet(both) if isinstance(first, CellReference | RangeReference) else node


def with_references(
    node: tree.Node,
    change: Callable[[Reference], tree.Node],
    change_end: Callable[[Reference], tree.Node],
) -> tree.Node:
    """The tree with every reference changed; those at the ends of ranges over sheets otherwise."""
    if isinstance(node, CellReference | RangeReference):
        return change(node)
    if sheets_of(node):
        return tree.with_children(node, change_end)  # type: ignore[arg-type]  # references
    return tree.with_children(node, lambda each: with_references(each, change, change_end))


def without_sheet(node: tree.Node, gone: str, order: Sequence[str]) -> tree.Node:
    """A tree in which ranges over sheets that end with one that goes end with its neighbour."""
    sheets = sheets_of(node)
    if sheets is None or not isinstance(node, tree.Linked):
        return tree.with_children(node, lambda each: without_sheet(each, gone, order))
    places = [_place(order, sheet) for sheet in sheets]
    if _place(order, gone) not in places or -1 in places:
        return node
    inwards = 1 if places[0] < places[1] else -1
    steps = (inwards, -inwards)
    ends = [
        order[place + step] if order[place].casefold() == gone.casefold() else order[place]
        for place, step in zip(places, steps, strict=True)
    ]
    first, last = node.first, node.last
    assert isinstance(first, CellReference | RangeReference)
    assert isinstance(last, CellReference | RangeReference)
    return tree.Linked(":", first.on_sheet(ends[0]), last.on_sheet(ends[1]))


def _place(order: Sequence[str], sheet: str) -> int:
    names = [each.casefold() for each in order]
    return names.index(sheet.casefold()) if sheet.casefold() in names else -1
