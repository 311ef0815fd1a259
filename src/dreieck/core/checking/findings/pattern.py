"""Cells that break the pattern of the formulas around them.

A break is a cell between formulas of one shape, above and below or left and right, that holds
something else. It is an exception there: with many such cells they are a pattern of their own.
The cells at the ends of a run of formulas are looked at in ``run_ends``.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.analysis.totalling import is_total
from dreieck.core.calculate.blocks import Patch, patches
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.awaiting import Break, awaits, holds
from dreieck.core.checking.findings.finding import Finding, Mend, State
from dreieck.core.checking.findings.meant import (
    goes_further,
    is_exception,
    leaves_texts_out,
    note_on,
)
from dreieck.core.checking.findings.mends import restored
from dreieck.core.checking.findings.restarts import begins_anew
from dreieck.core.checking.findings.rules import sheet_rule
from dreieck.core.checking.findings.run_ends import dents, is_slip, run_ends
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Part
from dreieck.core.functions import Trait, calls
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell, Lines
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import shown_text
from dreieck.core.words.counting import listed, quoted

_LONGEST_GAP = 3
_MAX_ROWS = 2_000
_MAX_EMPTY = 2
"""With more empty gaps in a column they are meant so."""


def breaks(sheet: Sheet) -> list[Break]:
    """All breaks of a sheet, from left to right and down."""
    found: dict[Cell, Break] = {}
    for each in (*_down(sheet), *_across(sheet), *_empty_across(sheet)):
        for cell in each.area.cells():
            found.setdefault(cell, each)
    unique = dict.fromkeys(found.values())
    joined: list[Break] = []
    for each in sorted(unique, key=lambda each: (each.area.top, each.area.left)):
        if joined and _are_one(sheet, joined[-1], each):
            joined[-1] = Break(joined[-1].area.around(each.area), each.shape)
        else:
            joined.append(each)
    return joined


def _are_one(sheet: Sheet, left: Break, right: Break) -> bool:
    """Whether two breaks are nothing but one gap over several columns."""
    return (
        left.shape.plain is right.shape.plain
        and left.area.right + 1 == right.area.left
        and (left.area.top, left.area.bottom) == (right.area.top, right.area.bottom)
        and not any(sheet.count(each.area) for each in (left, right))
    )


@sheet_rule("shape-break", "typed-over")
def pattern_findings(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """What stands in each break, and what should."""
    between = breaks(sheet)
    known = [each.area for each in between]
    others = [*run_ends(calculation, sheet), *dents(sheet)]
    for each in others:
        if not any(each.area.common(area) for area in known):
            known.append(each.area)
            between.append(each)
    empty = [each for each in between if not sheet.count(each.area)]
    for axis in AXES:
        for line in _in_lines(empty, axis):
            empty = [each for each in empty if each not in line]
            between = [each for each in between if each not in line]
            yield _new_line(sheet, line, axis)
    for each in between:
        yield _finding(calculation, sheet, each)


def _in_lines(gaps: list[Break], axis: Axis) -> list[list[Break]]:
    """The empty gaps that lie in the same lines, where there are several of them."""
    lines: dict[tuple[int, int], list[Break]] = {}
    for each in gaps:
        lines.setdefault(each.area.on(axis), []).append(each)
    return [line for line in lines.values() if len(line) > 1]


def _new_line(sheet: Sheet, line: list[Break], axis: Axis) -> Finding:
    """The gaps of several blocks in a line that came later, which are one mistake."""
    areas = tuple(each.area for each in line)
    each_restored = (SetCells.with_content(sheet, (each.area,), each.shape) for each in line)
    edit = SetCells(sheet.id, tuple(run for made in each_restored for run in made.runs))
    formula = line[0].shape.text(areas[0].first)
    lines = Lines.between(axis, *areas[0].on(axis)).text
    return Finding(
        "doubt",
        sheet.name,
        areas,
        f"In {lines} {listed(areas)} are empty where the blocks have formulas, such as {formula}.",
        f"{lines[0].upper()}{lines[1:]} came later: results are missing.",
        None,
        (Mend(f"take the formulas along into {lines}", "", formula, (edit,)),),
        ("the lines before and behind hold one formula each, and numbers to read are there",),
    )


def _finding(calculation: Calculation, sheet: Sheet, each: Break) -> Finding:
    first = each.area.first
    content = sheet.content(first)
    mends = (restored(sheet, (each.area,), each.shape),)
    where, formula = each.area.text, each.shape.text(first)
    rule = ""
    if content is None:
        empty = first.text if sheet.count(each.area) else where
        says = f"{empty} is empty where the block has {formula}."
        why = "Its row was inserted later, or its formula was cleared: a result is missing."
    elif isinstance(content, Shape) and content.references:
        says = f"{where} holds {content.text(first)} where its neighbours have {formula}."
        why = "One formula differs from all around it: changed by hand, or filled halfway."
    else:
        held = calculation.value(sheet.name, first)
        value = shown_text(held, sheet.look(first), locale=calculation.workbook.locale)
        typed = value or typed_text(content, first)
        thing = f"The text {quoted(typed)}" if isinstance(held, str) else f"The number {typed}"
        says = f"{thing} stands in {where} where the block has {formula}."
        why = "It was typed over the formula, and answers to no input any more."
        rule = "typed-over"
    note = note_on(calculation, sheet, first)
    agreed = is_exception(calculation, sheet, first, each.shape) or goes_further(
        content, each.shape
    )
    state: State = "note" if agreed else "doubt"
    because = (
        (f"a note says of it: {quoted(note)}",)
        if note
        else ("its neighbours hold one formula, and it would read numbers here too",)
    )
    return Finding(state, sheet.name, (each.area,), says, why, None, mends, because, rule=rule)


def _down(sheet: Sheet) -> Iterator[Break]:
    """Breaks between runs of one shape above and below."""
    columns: dict[int, list[Patch]] = {}
    for patch in patches(sheet):
        for number in range(patch.area.left, min(patch.area.right, patch.area.left + 400) + 1):
            columns.setdefault(number, []).append(patch)
    for number, each in columns.items():
        found = list(_in_column(sheet, number, sorted(each, key=lambda patch: patch.area.top)))
        empty = [each for each in found if sheet.content(each.area.first) is None]
        yield from (each for each in found if each not in empty)
        if len(empty) <= _MAX_EMPTY:
            yield from _with_total(sheet, empty, "row")


def _in_column(sheet: Sheet, number: int, runs: list[Patch]) -> Iterator[Break]:
    found: list[Break] = []
    short: list[Break] = []
    for index, run in enumerate(runs):
        for later in runs[index + 1 : index + 1 + _LONGEST_GAP + 1]:
            gap = Area(number, run.area.bottom + 1, number, later.area.top - 1)
            if later.shape.plain is run.shape.plain:
                long = max(run.area.height, later.area.height) >= 2
                if not long and not _is_filled(sheet, gap, run, "row"):
                    break
                if 1 <= gap.height <= _LONGEST_GAP and _is_break(sheet, gap, run):
                    (found if long else short).append(Break(gap, run.shape))
                break
    yield from found
    # Where one follows the other they are a pattern of their own.
    yield from short if len(short) <= max(1, len(runs) // 4) else ()


def _across(sheet: Sheet) -> Iterator[Break]:
    """Breaks between runs of one shape to the left and to the right."""
    short: dict[int, list[Break]] = {}
    for patch in patches(sheet):
        beside, beyond = patch.area.right + 1, patch.area.right + 2
        held, other = sheet.columns.get(beside), sheet.columns.get(beyond)
        if not held or not other:
            continue
        top, bottom = patch.area.top, patch.area.bottom
        far = other.cells(top, bottom)
        if not (far.kinds == Kind.FORMULA).any():
            continue
        number = float(other.pool.number(patch.shape))
        filled = held.cells(top, bottom).kinds != Kind.EMPTY
        rows = np.flatnonzero(filled & (far.kinds == Kind.FORMULA) & (far.payload == number))
        if not len(rows) or len(rows) > max(1, patch.area.height // 4):
            continue
        for index in rows.tolist():
            row = top + index
            gap = Area(beside, row, beside, row)
            further = sheet.content(Cell(beyond + 1, row))
            long = patch.area.width >= 2 or further is patch.shape or patch.area.height >= 3
            content = sheet.content(gap.first)
            # Beside each other formulas often differ; what is told is a slip of the same.
            if isinstance(content, Shape) and not is_slip(patch.shape, content):
                continue
            if not _is_break(sheet, gap, patch, "column"):
                continue
            if long:
                yield Break(gap, patch.shape)
            elif _is_filled(sheet, gap, patch, "column") and not _is_input(sheet, gap.first):
                short.setdefault(row, []).append(Break(gap, patch.shape))
    # Where one follows the other they are a pattern of their own.
    yield from (each for found in short.values() if len(found) == 1 for each in found)


def _empty_across(sheet: Sheet) -> Iterator[Break]:
    """Empty cells between formulas of one shape to the left and right, as in a new column."""
    found: dict[int, list[Break]] = {}
    for patch in patches(sheet):
        for width in range(1, _LONGEST_GAP + 1):
            beyond = patch.area.right + width + 1
            other = sheet.columns.get(beyond)
            if not other or patch.area.height > _MAX_ROWS:
                continue
            far = other.cells(patch.area.top, patch.area.bottom)
            number = float(other.pool.number(patch.shape))
            rows = np.flatnonzero((far.kinds == Kind.FORMULA) & (far.payload == number))
            for row in (rows + patch.area.top).tolist():
                gap = Area(patch.area.right + 1, row, beyond - 1, row)
                further = sheet.content(Cell(beyond + 1, row))
                long = patch.area.width >= 2 or further is patch.shape
                if long and not sheet.count(gap) and _is_break(sheet, gap, patch, "column"):
                    found.setdefault(row, []).append(Break(gap, patch.shape))
    few = [each for row in found.values() if len(row) <= _MAX_EMPTY for each in row]
    yield from _with_total(sheet, few, "column")


def _with_total(sheet: Sheet, gaps: list[Break], axis: Axis) -> Iterator[Break]:
    """The gaps among totals whose line is added up with those before and behind it.

    Of a line that is no part of what is added up, such as one of dates or of prices, there is
    no total.
    """
    summed = _summed(sheet, axis) if gaps else []
    for each in gaps:
        low, high = each.area.on(axis)
        apart = is_total(each.shape, each.area.first) and not any(
            area.on(axis)[0] < low and high < area.on(axis)[1] for area in summed
        )
        if not apart:
            yield each


def _summed(sheet: Sheet, axis: Axis) -> list[Area]:
    """What formulas of a sheet add up over several lines of an axis."""
    return [
        area
        for patch in patches(sheet)
        if calls(patch.shape.tree, Trait.ADDS_UP) and not calls(patch.shape.tree, Trait.SEARCHES)
        for reference in patch.shape.references
        if not reference.sheet
        and (area := reference.area(patch.area.first))
        and area.length(axis) > 2
    ]


def _is_break(sheet: Sheet, gap: Area, patch: Patch, axis: Axis = "row") -> bool:
    """Whether cells of a gap hold what does not belong there, or nothing where it should."""
    totals = is_total(patch.shape, patch.area.first)
    for cell in gap.cells():
        content = sheet.content(cell)
        if content is None and _awaits_line(sheet, patch.shape, cell, axis):
            continue
        if isinstance(content, str) and awaits(sheet, patch.shape, cell, patch.area.first, None):
            continue
        if not isinstance(content, float | Shape):
            return False
        if isinstance(content, float) and begins_anew(sheet, patch.shape, cell, content, axis):
            return False
        if isinstance(content, Shape) and (
            content.plain is patch.shape.plain
            or leaves_texts_out(sheet, content, patch.shape, cell)
            or (is_total(content, cell) and not totals)
            or (totals and not is_slip(patch.shape, content))
            or _goes_on_across(sheet, cell, content, patch.shape, axis)
        ):
            return False
    return True


def _goes_on_across(sheet: Sheet, cell: Cell, content: Shape, shape: Shape, axis: Axis) -> bool:
    """Whether a cell is filled with its own line, where the other lines are filled otherwise."""
    for step in (-1, 1):
        beside = cell.step(CROSSING[axis], step)
        if not holds(sheet, beside, content):
            continue
        if not any(holds(sheet, beside.step(axis, n), shape) for n in (-1, 1)):
            return True
    return False


def _is_input(sheet: Sheet, cell: Cell) -> bool:
    """Whether a number stands among others in its column, and the formula beside it reads it."""
    beside = cell.step("column", 1)
    content = sheet.content(beside)
    reads = isinstance(content, Shape) and any(
        each.area(beside) == Area.of(cell) for each in content.references
    )
    around = [cell.step("row", step) for step in (-1, 1)]
    return reads and any(
        each.on_sheet and isinstance(sheet.content(each), float) for each in around
    )


def _is_filled(sheet: Sheet, gap: Area, patch: Patch, axis: Axis) -> bool:
    """Whether a gap of one cell holds a number, or a slip, where all inputs are there.

    One of them at least has to stand beside the line of the formulas.
    """
    cell, crossing = gap.first, CROSSING[axis]
    content = sheet.content(cell)
    held = isinstance(content, float) or (
        isinstance(content, Shape) and is_slip(patch.shape, content)
    )
    if gap.size > 1 or not held:
        return False
    read = (each.area(cell) for each in patch.shape.references if not each.sheet)
    beside = any(area and area.on(crossing)[0] != cell.on(crossing) for area in read)
    return beside and awaits(sheet, patch.shape, cell, patch.area.first, None)


def _awaits_line(sheet: Sheet, shape: Shape, cell: Cell, axis: Axis) -> bool:
    """Whether the numbers of its row, or column, that a formula would work with are there."""
    line = [
        area
        for reference in shape.references
        if reference.sheet is None
        and set(reference.on(axis)) == {Part(False, 0)}
        and (area := reference.area(cell))
    ]
    return bool(line) and all(_has_numbers(sheet, area) for area in line)


def _has_numbers(sheet: Sheet, area: Area) -> bool:
    """Whether a cell holds a number or formula, or most cells of a range do."""
    if area.size == 1:
        return isinstance(sheet.content(area.first), float | Shape)
    held = sum(isinstance(content, float | Shape) for _, content in sheet.filled(area))
    return 2 * held > area.size
