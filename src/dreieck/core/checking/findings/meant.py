"""Whether cells that differ from their neighbours are meant so, by what stands beside them."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterator

from dreieck.core.analysis.slots import slots
from dreieck.core.budget import spend
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.awaiting import holds
from dreieck.core.checking.findings.restarts import restarts
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, Part
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import LONGEST, says
from dreieck.core.tables.labels import FAR, label
from dreieck.core.tables.lines import is_closing
from dreieck.core.tables.lists import akin
from dreieck.core.tables.notes import remark_on
from dreieck.core.values.formats import read_number
from dreieck.core.words.headings import list_heading

_NOTE_REACH = 4
_COLUMN_REACH = 12
_OWN = Part(False, 0)
_PEERS = 12
"""So many neighbours on either side tell what is usual."""
_BASES = (1.0, 100.0)
_IN_BRACKETS = re.compile(r".*\w.*\([^\d()]+\)\s*")
_WITH_REMARK = re.compile(r"(.*\w)\s*[,;:–]\s*(.*\w.*)")


def is_exception(
    calculation: Calculation, sheet: Sheet, cell: Cell, shape: Shape | None = None
) -> bool:
    """Whether a label, a note, a typed 0 or the entries of its line say why a cell is no rule.

    ``shape`` is the formula of the neighbours, as far as there is one.
    """
    if sheet.content(cell) == 0.0:
        # Nothing is due here: what is typed by mistake is a result, as a rule.
        return True
    if note_on(calculation, sheet, cell):
        return True
    if says(label(calculation, sheet, cell, "row"), "agreed"):
        return True
    if shape is None:
        return False
    if _is_base(sheet, shape, cell) or restarts(sheet, shape, cell):
        return True
    return any(_is_of_another_kind(sheet, cell, shape, axis) for axis in AXES)


def _is_base(sheet: Sheet, shape: Shape, cell: Cell) -> bool:
    """Whether a formula would compare a cell with itself: the base of an index is typed."""
    node = tree.bare(shape.tree)
    divides = isinstance(node, tree.Binary) and node.operator == "/"
    if not divides or sheet.content(cell) not in _BASES:
        return False
    read = [each.area(cell) for each in shape.references if not each.sheet]
    return len(read) == len(shape.references) > 1 and len(set(read)) == 1


def _is_of_another_kind(sheet: Sheet, cell: Cell, shape: Shape, axis: Axis) -> bool:
    """Whether the line of a cell has no numbers to read, or is labelled as another sort."""
    peers = list(_peers(sheet, cell, shape, axis))
    aside = (cell.step(CROSSING[axis], n) for n in (-1, 1))
    if len(peers) < 2 or any(holds(sheet, each, shape) for each in aside):
        # What its line says would hold for the other formulas of the line, too.
        return False
    beside = list(_beside(shape, axis))
    if any(_cannot_be_read(sheet, cell, peers, *each) for each in beside):
        return True
    read = (area.first for each, _ in beside if (area := each.area(cell)))
    if beside and all(sheet.content(each) is None for each in read):
        return True
    held = sheet.content(cell)
    if isinstance(held, Shape) and _differ_in_numbers(held, shape) and _closes(sheet, cell, axis):
        return True
    for before, others in _labels(sheet, cell, peers, axis):
        own = _text(sheet, before)
        if own and (
            _has_remark(own, others)
            or _is_of_a_sort(sheet, cell, shape, before, others, axis)
            or _shares_remark(sheet, cell, before, others, axis)
        ):
            return True
    return False


def _peers(sheet: Sheet, cell: Cell, shape: Shape, axis: Axis) -> Iterator[Cell]:
    """The neighbours of a cell along an axis that hold a formula."""
    for n in range(-_PEERS, _PEERS + 1):
        at = cell.step(axis, n)
        if n and holds(sheet, at, shape):
            yield at


def _beside(shape: Shape, axis: Axis) -> Iterator[tuple[CellReference, bool]]:
    """What a formula reads in its own line, and whether it works with it as a factor."""
    for number, each in enumerate(shape.references):
        if isinstance(each, CellReference) and not each.sheet and each.on(axis) == (_OWN,):
            yield each, other_operand(shape.tree, number, "*/") is not None


def _cannot_be_read(
    sheet: Sheet, cell: Cell, peers: list[Cell], reference: CellReference, is_factor: bool
) -> bool:
    """Whether a text, or nothing, stands where the neighbours find a number."""
    area = reference.area(cell)
    held = sheet.content(area.first) if area else None
    others = (there.first for each in peers if (there := reference.area(each)))
    if not all(isinstance(sheet.content(each), float | Shape) for each in others):
        return False
    if isinstance(held, str):
        return read_number(held) is None
    return held is None and (is_factor or isinstance(sheet.content(cell), str))


def _labels(
    sheet: Sheet, cell: Cell, peers: list[Cell], axis: Axis
) -> Iterator[tuple[Cell, list[str]]]:
    """The cells beside one in its line, and the texts of its neighbours beside each of them."""
    crossing = CROSSING[axis]
    for steps in (*range(-1, -min(cell.on(crossing), FAR), -1), *range(1, _NOTE_REACH)):
        spend(len(peers))
        at = cell.step(crossing, steps)
        found = (sheet.content(each.step(crossing, steps)) for each in peers)
        texts = [each for each in found if isinstance(each, str) and len(each) <= LONGEST]
        if at.on_sheet and 2 * len(texts) > len(peers):
            yield at, texts


def _has_remark(own: str, others: list[str]) -> bool:
    """Whether a label has a remark to it that others lack.

    *Scree (closed)* has one, and *Wednesday, wedding* among other days: *Rope, 40 m* does not.
    """
    if _IN_BRACKETS.fullmatch(own) and not any(map(_IN_BRACKETS.fullmatch, others)):
        return True
    remark = _WITH_REMARK.fullmatch(own)
    return bool(
        remark and not any(map(_WITH_REMARK.fullmatch, others)) and akin(others, remark[1])
    )


def _is_of_a_sort(
    sheet: Sheet, cell: Cell, shape: Shape, label: Cell, others: list[str], axis: Axis
) -> bool:
    """Whether the lines of a sort, which is not that of the others, are all filled so.

    They are all typed, or have one formula that differs from the usual one in a number alone.
    """
    own, sorts = _text(sheet, label), Counter(map(str.casefold, others))
    if min(sorts.values()) < 2 or own in sorts:
        return False
    alike = _labelled(sheet, cell, label, axis, lambda text: text == own)
    held = sheet.content(cell)
    if isinstance(held, Shape) and not _differ_in_numbers(held, shape):
        return False
    return bool(alike) and all(_is_filled_so(sheet, each, held) for each in alike)


def _differ_in_numbers(one: Shape, other: Shape) -> bool:
    """Whether two formulas are the same but for numbers in them."""
    same = slots(one)._replace(numbers=()) == slots(other)._replace(numbers=())
    return same and one.references == other.references


def _closes(sheet: Sheet, cell: Cell, axis: Axis) -> bool:
    """Whether the line of a cell sums up the others."""
    crossing = CROSSING[axis]
    low = max(cell.on(crossing) - _PEERS, 1)
    line = Area.of(cell).spanning(crossing, low, cell.on(crossing))
    return is_closing(sheet, line, axis)


def _shares_remark(sheet: Sheet, cell: Cell, label: Cell, others: list[str], axis: Axis) -> bool:
    """Whether all lines with the remark of a label, which no others have, hold one formula.

    *Cleo, pupil* and *Eve, pupil* read the price for pupils.
    """
    remark, held = _remark(_text(sheet, label)), sheet.content(cell)
    theirs = {_remark(text.casefold()) for text in others}
    if not isinstance(held, Shape) or remark in theirs:
        return False
    if not remark:
        # It lacks what all of them have.
        return len(theirs) == 1
    alike = _labelled(sheet, cell, label, axis, lambda text: _remark(text) == remark)
    return bool(alike) and all(_is_filled_so(sheet, each, held) for each in alike)


def _labelled(
    sheet: Sheet, cell: Cell, label: Cell, axis: Axis, fits: Callable[[str], bool]
) -> list[Cell]:
    """The cells near one along an axis whose labels fit, where ``label`` is its own."""
    steps = (n for n in range(-_PEERS, _PEERS + 1) if n)
    return [cell.step(axis, n) for n in steps if fits(_text(sheet, label.step(axis, n)))]


def _is_filled_so(sheet: Sheet, cell: Cell, held: Content | None) -> bool:
    """Whether a cell holds the formula that another one holds, or a typed number as it does."""
    if isinstance(held, Shape):
        return holds(sheet, cell, held)
    return isinstance(held, float) and isinstance(sheet.content(cell), float)


def _remark(text: str) -> str:
    """What a label says behind a comma or the like."""
    found = _WITH_REMARK.fullmatch(text)
    return found[2] if found else ""


def _text(sheet: Sheet, cell: Cell) -> str:
    content = sheet.content(cell) if cell.on_sheet else None
    return content.casefold() if isinstance(content, str) and len(content) <= LONGEST else ""


def goes_further(content: Content | None, shape: Shape) -> bool:
    """Whether a formula takes a part of what its neighbours give, or a bound of it, on purpose."""
    if not isinstance(content, Shape):
        return False
    node, inner = content.tree, shape.tree
    for each in tree.walk(node):
        if isinstance(each, tree.Call) and inner in each.arguments:
            return True
        if isinstance(each, tree.Binary) and each.operator in "*/":
            sides = [tree.bare(each.left), tree.bare(each.right)]
            if tree.bare(inner) in sides and any(isinstance(s, tree.Number) for s in sides):
                return True
    return False


def leaves_texts_out(sheet: Sheet, own: Shape, usual: Shape, cell: Cell) -> bool:
    """Whether a formula reads as its neighbours do, but for cells that hold a text."""
    if slots(own) != slots(usual):
        return False
    left: list[Content] = []
    for one, two in zip(own.references, usual.references, strict=True):
        areas = one.area(cell), two.area(cell)
        if areas[0] == areas[1] and one.sheet == two.sheet:
            continue
        if one.sheet or two.sheet or not areas[0] or not areas[1] or not areas[0].within(areas[1]):
            return False
        held = (each for part in areas[1].without(areas[0]) for _, each in sheet.filled(part))
        left += held
    return bool(left) and all(isinstance(each, str) for each in left)


def note_on(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    """What is noted beside a cell, or in a remark elsewhere that names it or its line."""
    return _note_beside(sheet, cell) or remark_on(calculation, sheet, cell)


def _note_beside(sheet: Sheet, cell: Cell) -> str:
    """A text to the right of a cell, in a column that holds hardly any others."""
    for steps in range(1, _NOTE_REACH + 1):
        at = cell.step("column", steps)
        if not at.on_sheet:
            break
        content = sheet.content(at)
        if not isinstance(content, str) or not content.strip():
            continue
        around = Area(at.column, max(at.row - _COLUMN_REACH, 1), at.column, at.row + _COLUMN_REACH)
        texts = [content for _, content in sheet.filled(around) if isinstance(content, str)]
        rows = sheet.count(around._replace(left=cell.column, right=cell.column))
        remarks = says(list_heading(sheet, at) or "", "remark")
        if remarks and (says(content, "agreed") or 2 * len(texts) <= rows + 1):
            return content.strip()
        if len(texts) <= max(2, rows // 3):
            return content.strip()
    return ""
