"""Proofs that could be made of what stands in a workbook; none is kept by itself."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import reduce
from itertools import chain, islice

from dreieck.core.analysis.totalling import added, summed
from dreieck.core.analysis.uses import uses
from dreieck.core.calculate import Block, Calculation
from dreieck.core.calculate.blocks import blocks
from dreieck.core.checking.proofs.judging import judged
from dreieck.core.checking.proofs.tolerance import ROUNDING
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import area_text
from dreieck.core.functions import Trait, calls, has
from dreieck.core.functions.statements import ADDS_UP, NONE_TWICE, written
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.ranges.operands import Range
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import STANDS, Proof
from dreieck.core.tables.lines import is_closing
from dreieck.core.words.headings import list_around

MAX_PROPOSALS = 12
"""So many proofs are proposed at the most."""
_MAX_BLOCKS = 400
_MAX_SHARES = 100_000
_LONGEST_LIST = 5_000
_KEYS = 3
"""A list of so many entries can be one of keys."""


@dataclass(frozen=True, slots=True)
class Proposal:
    """A proof that could be made, and what speaks for it."""

    shape: Shape
    because: str

    @property
    def text(self) -> str:
        """The statement, as it is written."""
        return self.shape.text(STANDS)


def proposals(calculation: Calculation) -> list[Proposal]:
    """Proofs that could be made and are not kept yet; all of them hold now."""
    workbook = calculation.workbook
    kept = {proof.shape for proof in workbook.proofs}
    found: dict[Shape, Proposal] = {}
    for sheet in workbook.sheets:
        of_sheet = blocks(sheet)[:_MAX_BLOCKS]
        for each in chain(
            _shares(calculation, sheet, of_sheet),
            _crossing(sheet, of_sheet),
            _running(sheet, of_sheet),
            _keys(calculation, sheet, of_sheet),
        ):
            if each.shape not in kept and each.shape not in found:
                if judged(calculation, Proof(0, each.shape)).state == "holds":
                    found[each.shape] = each
                if len(found) == MAX_PROPOSALS:
                    return list(found.values())
    return list(found.values())


def _proposal(because: str, statement: str, *arguments: str) -> Proposal:
    return Proposal(Shape.parse(written(statement, *arguments), STANDS), because)


def _lines(parts: Iterable[Area]) -> Iterator[tuple[Area, Axis]]:
    """The parts of a block that are one line, and the axis along which they go."""
    for part in parts:
        if part.size > 1 and part.width == 1:
            yield part, "row"
        elif part.size > 1 and part.height == 1:
            yield part, "column"


def _shares(calculation: Calculation, sheet: Sheet, found: Iterable[Block]) -> Iterator[Proposal]:
    """Quotients that come to the whole, the share of the total itself left out."""
    for block in found:
        node = block.shape.tree
        while isinstance(node, tree.Group):
            node = node.inner
        if not isinstance(node, tree.Binary) or node.operator != "/":
            continue
        for part, axis in _lines(block.parts):
            if part.size > _MAX_SHARES:
                continue
            first, last = part.on(axis)
            for line in (part, part.spanning(axis, first, last - 1)):
                cells = Range(calculation, sheet.name, line).all_cells()
                whole = line.size > 1 and bool((cells.kinds == Kind.NUMBER).all())
                if whole and abs(float(cells.payload.sum()) - 1) <= ROUNDING * line.size:
                    place = area_text(line, sheet.name)
                    yield _proposal("they are shares of a whole", ADDS_UP, place, "100%")
                    break


def _crossing(sheet: Sheet, found: Iterable[Block]) -> Iterator[Proposal]:
    """Totals of the rows of a table, against those of its columns."""
    across = list(_totals(sheet, found, "row"))
    down = list(_totals(sheet, found, "column"))
    for rows, table in across:
        for columns, other in down:
            common = table.common(other)
            if common is None or min(common.shape) < 2 or not _is_all(common, table, other):
                continue
            one = rows.spanning("row", common.top, common.bottom)
            two = columns.spanning("column", common.left, common.right)
            yield _proposal(
                "the totals of rows and columns come to the same",
                ADDS_UP,
                area_text(one, sheet.name),
                area_text(two, sheet.name),
            )


def _is_all(common: Area, table: Area, other: Area) -> bool:
    """Whether what both add up is all the rows of the columns, and all the columns of the rows."""
    columns = (common.left, common.right) == (table.left, table.right)
    return columns and (common.top, common.bottom) == (other.top, other.bottom)


def _totals(sheet: Sheet, found: Iterable[Block], axis: Axis) -> Iterator[tuple[Area, Area]]:
    """Lines of totals of what stands beside each of them, and the table that they add up."""
    crossing = CROSSING[axis]
    for block in found:
        for part, along in _lines(block.parts):
            areas = summed(block.shape, part.first)
            if along != axis or not areas:
                continue
            around = reduce(Area.around, areas)
            first = part.on(axis)[0]
            of_own_line = around.on(axis) == (first, first)
            before = around.on(crossing)[1] < part.on(crossing)[0]
            if of_own_line and before and around.size == sum(each.size for each in areas):
                yield part, around.spanning(axis, *part.on(axis))


def _running(sheet: Sheet, found: Iterable[Block]) -> Iterator[Proposal]:
    """The end of a running total, against the sum of what it runs over."""
    for block in found:
        for part, axis in _lines(block.parts):
            over = _grown(block.shape, part, axis) or _stepwise(block.shape, part, axis)
            if over:
                yield _proposal(
                    "a running total ends with the sum",
                    ADDS_UP,
                    area_text(over, sheet.name),
                    area_text(Area.of(part.last), sheet.name),
                )


def _grown(shape: Shape, part: Area, axis: Axis) -> Area | None:
    """What a total has grown over at its end that grows from landing to landing."""
    first, last = summed(shape, part.first), summed(shape, part.last)
    if len(first) != 1 or len(last) != 1 or not isinstance(shape.tree, tree.Call):
        return None
    grows = first[0].on(axis)[0] == last[0].on(axis)[0]
    return last[0] if grows and first[0] != last[0] else None


def _stepwise(shape: Shape, part: Area, axis: Axis) -> Area | None:
    """What a total runs over that adds to the landing before it; with the one it begins with."""
    found = [area for each in added(shape) if not each.sheet and (area := each.area(part.first))]
    before = Area.of(part.first.step(axis, -1))
    others = [area for area in found if area != before]
    if len(found) != 2 or len(others) != 1:
        return None
    first, last = part.on(axis)
    begins = first if others[0].on(axis)[0] == first else 0
    return others[0].spanning(axis, begins - 1, last) if begins > 1 else None


def _keys(calculation: Calculation, sheet: Sheet, found: Iterable[Block]) -> Iterator[Proposal]:
    """Lists in which something is looked up, and those that begin the rows of a table."""
    because: dict[tuple[str, Area], str] = {}
    for block in found:
        if calls(block.shape.tree, Trait.SEARCHES):
            for name, area in _searched(sheet, block):
                because.setdefault((name, area), "something is looked up there")
    used = sheet.used()
    for area in _labels(sheet, used) if used else ():
        because.setdefault((sheet.name, area), "they tell the rows of the table apart")
    for (name, area), why in because.items():
        if area.size >= _KEYS and calculation.workbook.has_sheet(name):
            yield _proposal(why, NONE_TWICE, area_text(area, name))


def _searched(sheet: Sheet, block: Block) -> Iterator[tuple[str, Area]]:
    """The lists of one column in which the formulas of a block look something up."""
    for use in uses(block.shape):
        area = use.reference.area(block.start)
        is_fixed = area == use.reference.area(block.cells()[-1])
        if use.how == "list" and has(use.function, Trait.SEARCHES) and area and is_fixed:
            yield use.reference.sheet or sheet.name, area._replace(right=area.left)


def _labels(sheet: Sheet, used: Area) -> Iterator[Area]:
    """The lists of texts in the first column that have numbers or formulas beside them."""
    column = used._replace(right=used.left)
    row = 0
    for cell, content in islice(sheet.filled(column), 2_000):
        if cell.row <= row or not isinstance(content, str):
            continue
        # Seen from its end a list has no heading.
        area = list_around(sheet, list_around(sheet, cell).last)
        row = area.bottom
        if area.height > _LONGEST_LIST:
            continue
        kept = [each for each in area.cells() if _heads_row(sheet, each, used)]
        if len(kept) >= _KEYS and kept[-1].row - kept[0].row + 1 == len(kept):
            yield Area.spanned(kept[0], kept[-1])


def _heads_row(sheet: Sheet, cell: Cell, used: Area) -> bool:
    """Whether a text stands before the numbers of a row that is no row of totals."""
    row = Area(cell.column + 1, cell.row, min(used.right, cell.column + 12), cell.row)
    if row.left > row.right:
        return False
    holds_numbers = any(isinstance(each, float | Shape) for _, each in sheet.filled(row))
    return holds_numbers and not is_closing(sheet, row._replace(left=cell.column), "row")
