"""Breaks at the ends of a run of formulas, where the inputs go on, and inside small blocks."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from dreieck.core.analysis.totalling import is_total
from dreieck.core.calculate.blocks import Patch, blocks, patches
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.awaiting import Break, awaits, holds
from dreieck.core.checking.findings.restarts import begins_anew, reads_line_before
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, Reference
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.tables.heads import is_heading
from dreieck.core.tables.labels import label
from dreieck.core.tables.lists import belongs

_SHORTEST = 2
_LONG = 3
"""From so many formulas on a text or an empty cell behind them counts too."""
_MOST_WORDS = 3
"""A longer text is a note, and was not typed over a formula."""
_LONGEST_END = 3
_MOST_LINES = 400


def run_ends(calculation: Calculation, sheet: Sheet) -> Iterator[Break]:
    """What stands before and behind a run of formulas where one of them should."""
    for patch in patches(sheet):
        for axis in AXES:
            length, across = patch.area.length(axis), patch.area.length(CROSSING[axis])
            if length < _SHORTEST or across > _MOST_LINES:
                continue
            for line in patch.area.lines(CROSSING[axis]):
                for step in (-1, 1):
                    found = _end(calculation, sheet, patch, line, axis, step)
                    if found:
                        yield Break(found, patch.shape)


def _end(
    calculation: Calculation, sheet: Sheet, patch: Patch, line: Area, axis: Axis, step: int
) -> Area | None:
    """The cells at one end of a line of formulas that should go on."""
    cell = line.last if step > 0 else line.first
    most = max(min(_LONGEST_END, line.length(axis) // 3), 1)
    found: list[Cell] = []
    for _ in range(most + 1):
        cell = cell.step(axis, step)
        if not cell.on_sheet or not _should_go_on(calculation, sheet, patch, cell, axis):
            break
        found.append(cell)
    if not found or len(found) > most:
        return None
    return Area.spanned(found[0], found[-1])


def _should_go_on(
    calculation: Calculation, sheet: Sheet, patch: Patch, cell: Cell, axis: Axis
) -> bool:
    """Whether a cell at the end of a run holds what does not belong there."""
    shape, content = patch.shape, sheet.content(cell)
    like = patch.area.first
    if not awaits(sheet, shape, cell, like, axis):
        return False
    if not _is_there_elsewhere(calculation, shape, cell):
        return False
    typed = isinstance(content, float)
    if _is_named_so(calculation, sheet, cell, axis, typed=typed):
        return False
    if _among_headings(calculation, sheet, patch, cell, axis):
        return False
    along = patch.area.spanning(CROSSING[axis], *[cell.on(CROSSING[axis])] * 2)
    if belongs(calculation, sheet, along, cell, axis) is False:
        return False
    long = patch.area.length(axis) >= _LONG
    if content is None:
        behind = axis == "row" and cell.row > like.row and patch.area.width == 1
        return long and behind and _typed_inputs(sheet, shape, cell)
    if isinstance(content, str) and (not long or len(content.split()) > _MOST_WORDS):
        return False
    if isinstance(content, str) and cell.on(axis) < like.on(axis):
        # The first text is the heading, a second one below it stands among the formulas.
        above = cell.step(axis, -1)
        return above.on_sheet and isinstance(sheet.content(above), str)
    if (
        isinstance(content, float)
        and cell.on(axis) < like.on(axis)
        and reads_line_before(shape, axis)
    ):
        # The first line of what goes on from line to line is typed, if it is the first.
        return isinstance(sheet.content(cell.step(axis, -1)), Shape)
    if isinstance(content, float) and begins_anew(sheet, shape, cell, content, axis):
        return False
    if isinstance(content, float | str):
        return True
    if not isinstance(content, Shape) or content.plain is shape.plain:
        return False
    if any(holds(sheet, cell.step(CROSSING[axis], step), content) for step in (-1, 1)):
        return False
    if is_total(content, cell) and not is_total(shape, like):
        return False
    return is_slip(shape, content)


def _is_there_elsewhere(calculation: Calculation, shape: Shape, cell: Cell) -> bool:
    """Whether the cells of other sheets that a formula would read hold something."""
    return all(
        calculation.sheet(each.sheet).content(area.first) is not None
        for each in shape.references
        if isinstance(each, CellReference) and each.sheet
        and calculation.has_sheet(each.sheet) and (area := each.area(cell))
    )  # fmt: skip


def _is_named_so(
    calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis, *, typed: bool
) -> bool:
    """Whether the line of a cell is labelled as one of another kind: a total, a memo.

    The total of a row of totals is one of them, so that a number there was typed.
    """
    told = label(calculation, sheet, cell, axis)
    if axis == "column":
        return says(told, "total", "statistic") and not (typed and says(told, "total"))
    return bool(told) and says(told, "total", "memo")


def _among_headings(
    calculation: Calculation, sheet: Sheet, patch: Patch, cell: Cell, axis: Axis
) -> bool:
    """Whether the numbers that a formula would read in a cell before its run are headings."""
    first = patch.area.first
    if cell.on(axis) > first.on(axis):
        return False
    for reference in patch.shape.references:
        there, inside = reference.area(cell), reference.area(cell.step(axis, 1))
        if reference.sheet or there is None or inside is None or there == inside:
            continue
        if is_heading(calculation, sheet, there.first, inside.first, axis):
            return True
    return False


def _typed_inputs(sheet: Sheet, shape: Shape, cell: Cell) -> bool:
    """Whether a formula would read typed numbers of its own row, two at least."""
    found = 0
    for reference in shape.references:
        area = reference.area(cell)
        if not isinstance(reference, CellReference) or area is None or reference.sheet:
            return False
        if not reference.row.locked:
            if not isinstance(sheet.content(area.first), float) or area.top != cell.row:
                return False
            found += 1
    return found > 1


def is_slip(shape: Shape, other: Shape) -> bool:
    """Whether two formulas differ by a slip: a reference or an operator, not by what they do."""
    if lacks(other.tree, shape.tree):
        return True
    if Counter(shape.references) == Counter(other.references):
        numbers = Counter(_numbers(shape)) - Counter(_numbers(other))
        alike = len(list(tree.walk(shape.tree))) == len(list(tree.walk(other.tree)))
        return alike and sum(numbers.values()) <= 1
    if len(shape.references) != len(other.references):
        return False
    pairs = list(zip(shape.references, other.references, strict=True))
    differ = sum(one != two for one, two in pairs)
    same = Shape.of(tree.with_references(shape.tree, _nothing)) is Shape.of(
        tree.with_references(other.tree, _nothing)
    )
    moved = len({_shift(one, two) for one, two in pairs}) == 1
    return same and (moved or differ == 1 or 2 * differ <= len(pairs))


def lacks(short: tree.Node, long: tree.Node) -> bool:
    """Whether a formula is another one without its last term or factor, or its rounding."""
    match long:
        case tree.Group():
            return lacks(short, long.inner)
        case tree.Binary(operator="+" | "-") if len(_signed(short)) > 1 and (
            _signed(short) < _signed(long)
        ):
            return True
        case tree.Binary(operator="+" | "-" | "*" | "/"):
            sides = [long.left] if long.operator in "-/" else [long.left, long.right]
            return any(_same(short, side) or lacks(short, side) for side in sides)
        case _:
            return False


def _signed(node: tree.Node) -> frozenset[tuple[str, tree.Node]]:
    """What a formula adds and takes away, with the signs."""
    match node:
        case tree.Group():
            return _signed(node.inner)
        case tree.Binary(operator="+"):
            return _signed(node.left) | _signed(node.right)
        case tree.Binary(operator="-"):
            turned = {("+-"[sign == "+"], each) for sign, each in _signed(node.right)}
            return _signed(node.left) | turned
        case _:
            return frozenset([("+", node)])


def _same(one: tree.Node, other: tree.Node) -> bool:
    one = tree.bare(one)
    return one == tree.bare(other) and not isinstance(one, CellReference | tree.Number)


def _numbers(shape: Shape) -> list[float]:
    return [node.value for node in tree.walk(shape.tree) if isinstance(node, tree.Number)]


def _shift(one: Reference, other: Reference) -> tuple[int, int] | None:
    """How far a free reference was moved, if it was moved as a whole."""
    steps: list[int] = []
    for axis in AXES:
        parts = list(zip(one.on(axis), other.on(axis), strict=False))
        found = {b.at - a.at for a, b in parts if not a.locked}
        if len(one.on(axis)) != len(other.on(axis)) or len(found) > 1:
            return None
        steps.append(found.pop() if found else 0)
    return steps[0], steps[1]


def _nothing(_: object) -> tree.Node:
    return tree.Lost()


def dents(sheet: Sheet) -> Iterator[Break]:
    """Cells inside the rectangle of a small block that do not belong to it."""
    for block in blocks(sheet):
        area = block.area
        if len(block.parts) < 2 or min(area.width, area.height) < 2 or area.size > 10_000:
            continue
        missing = area.size - block.size
        if 4 * missing > area.size:
            continue
        for cell in area.cells():
            if block.holds(cell):
                continue
            beside = all(
                any(block.holds(cell.step(axis, step)) for step in (-1, 1)) for axis in AXES
            )
            content = sheet.content(cell)
            if (
                beside
                and isinstance(content, float | Shape)
                and awaits(sheet, block.shape, cell, block.start, None)
            ) and (not isinstance(content, Shape) or is_slip(block.shape, content)):
                yield Break(Area.of(cell), block.shape)
