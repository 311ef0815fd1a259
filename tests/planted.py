"""Mistakes planted into sound tables: one at a time, each of a kind that people make."""

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.blocks import blocks
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.locks import axes, lock_of, with_lock
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.grid import AXES

_OTHER = {"*": "+", "+": "-", "-": "+", "/": "*"}


def planted(made):
    """The kind of each mistake, the number of its sheet, and what its cells hold with it."""
    for number, sheet in enumerate(made.sheets):
        for block in blocks(sheet):
            for kind, changed in (
                *_relocked(block),
                *_shortened(block),
                *_one(made, sheet, block),
            ):
                yield kind, number, changed


def _filled(block, shape):
    return {cell: shape.landed(cell) for cell in block.cells()}


def _relocked(block):
    """A reference to a single cell, or a list that is held, with another lock."""
    for number, reference in enumerate(block.shape.references):
        for axis in AXES:
            long = block.size >= 3 and block.area.length(axis) > 1 and axis in axes(reference)
            held = lock_of(reference, block.start, axis) if long else ""
            if held == "stays":
                changed = with_lock(reference, block.start, axis, "moves")
                yield "unlocked", _filled(block, block.shape.with_reference(number, changed))
            elif held and isinstance(reference, CellReference):
                changed = with_lock(reference, block.start, axis, "stays")
                yield "locked", _filled(block, block.shape.with_reference(number, changed))


def _shortened(block):
    """A range that leaves out its first or its last line."""
    for number, reference in enumerate(block.shape.references):
        if (
            not isinstance(reference, RangeReference)
            or not reference.rows
            or not reference.columns
        ):
            continue
        area = reference.area(block.start)
        for axis in AXES:
            low, high = area.on(axis)
            for ends in ((low, high - 1), (low + 1, high)) if high - low > 1 else ():
                part = area.spanning(axis, *ends)
                changed = reference.reading(part, block.start, block.start)
                yield "short", _filled(block, block.shape.with_reference(number, changed))


def _one(made, sheet, block):
    """The first, a middle and the last cell of a block: typed over, or slipped."""
    cells, shape = block.cells(), block.shape
    if block.size < 3 or not shape.references:
        return
    calculation = Calculation(made)
    for cell in (cells[0], cells[len(cells) // 2], cells[-1]):
        value = calculation.value(sheet.name, cell)
        if isinstance(value, float):
            yield "typed over", {cell: round(value * 1.07 + 1, 1)}
        first = shape.references[0]
        area = first.area(cell)
        if isinstance(first, CellReference) and area.top > 1:
            yield (
                "slipped",
                {cell: shape.with_reference(0, first.reading(area.offset(0, -1), cell, cell))},
            )
    if isinstance(shape.tree, tree.Binary) and shape.tree.operator in _OTHER:
        node = shape.tree
        other = tree.Binary(_OTHER[node.operator], node.left, node.right)
        yield "slipped", {cells[len(cells) // 2]: Shape.of(other)}
