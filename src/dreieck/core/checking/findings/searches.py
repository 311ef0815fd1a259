"""Rules about searches: a list that is not sorted, a column of another heading."""

from __future__ import annotations

import re
from collections.abc import Iterator

from dreieck.core.calculate.evaluation import result_at
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Takes, Trait, find, has
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.labels import nearest_text
from dreieck.core.values import Error, Place, Value, compared
from dreieck.core.words.counting import quoted

_MOST = 5_000
_MOST_LINES = 200


@rule("not-sorted")
def not_sorted(subject: Subject) -> Iterator[Finding]:
    """A list is taken as sorted, and is not."""
    for call in _calls(subject.shape.tree):
        if not has(call.function, Trait.NEAREST) or len(call.arguments) < 2:
            continue
        reference = call.arguments[1]
        if not isinstance(reference, RangeReference) or not _takes_nearest(subject, call):
            continue
        if isinstance(call.arguments[0], tree.Number | tree.Text):
            # A number beyond all others finds the last one, in whatever order they are.
            continue
        sheet, area = subject.sheet_of(reference), reference.area(subject.start)
        if not sheet or not area:
            continue
        line = _searched(call, area)
        off = _out_of_order(subject, sheet, line)
        if off is None:
            continue
        exact = _exact(call)
        changed = Shape.of(_replaced(subject.shape.tree, call, exact))
        number = subject.shape.references.index(reference)
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{subject.tag(number)} is searched as if it were sorted, but {off.text} in"
            f" {line.text} comes out of order.",
            "The search stops at the first value that lies beyond, and finds a wrong one.",
            number,
            (refilled(subject, changed, "look for the same value only"),),
            (f"{line.text} is in no order",),
        )
        return


def _calls(node: tree.Node) -> Iterator[tree.Call]:
    return (each for each in tree.walk(node) if isinstance(each, tree.Call))


def _takes_nearest(subject: Subject, call: tree.Call) -> bool:
    """Whether a search takes its list as sorted upwards."""
    function = find(call.function)
    assert function is not None
    index = len(function.parameters) - 1
    if len(call.arguments) <= index:
        return True
    kind = call.arguments[index]
    if isinstance(kind, tree.Missing):
        return False
    place = Place(subject.sheet.name, subject.start)
    value = result_at(Shape.of(kind), place, subject.calculation)
    return not isinstance(value, Error | str) and float(value or 0) > 0


def _searched(call: tree.Call, area: Area) -> Area:
    """The row or column of a table in which is looked."""
    function = find(call.function)
    assert function is not None
    by_row = function.parameters[2].name == "row"
    if function.parameters[2].takes is not Takes.WHOLE:
        return area
    if by_row:
        return area._replace(bottom=area.top)
    return area._replace(right=area.left)


def _out_of_order(subject: Subject, sheet: Sheet, line: Area) -> Cell | None:
    """The first cell of a line that is smaller than one before it."""
    if line.width > 1 and line.height > 1:
        return None
    before: Value = None
    for count, (cell, value) in enumerate(subject.calculation.filled_values(sheet.name, line)):
        if count >= _MOST:
            break
        if before is not None and type(value) is type(before):
            order = compared(value, before)
            if not isinstance(order, Error) and order < 0:
                return cell
        if isinstance(value, float | str):
            before = value
    return None


def _exact(call: tree.Call) -> tree.Call:
    """The search for the same value only."""
    function = find(call.function)
    assert function is not None
    index = len(function.parameters) - 1
    wants_number = function.parameters[index].takes is Takes.NUMBER
    last: tree.Node = tree.Number(0.0) if wants_number else tree.Logical(value=False)
    return tree.Call(call.function, (*call.arguments[:index], last))


def _replaced(node: tree.Node, one: tree.Node, other: tree.Node) -> tree.Node:
    if node == one:
        return other
    return tree.with_children(node, lambda child: _replaced(child, one, other))


@rule("other-heading")
def other_heading(subject: Subject) -> Iterator[Finding]:
    """A search gives a column whose heading is not the one above the formula."""
    for call in _calls(subject.shape.tree):
        function = find(call.function)
        if function is None or Trait.SEARCHES not in function.traits or len(call.arguments) < 3:
            continue
        index = next(
            (n for n, p in enumerate(function.parameters) if n > 1 and p.takes is Takes.WHOLE),
            None,
        )
        table = next((a for a in call.arguments[:2] if isinstance(a, RangeReference)), None)
        if index is None or table is None or index >= len(call.arguments):
            continue
        axis: Axis = "row" if function.parameters[index].name == "row" else "column"
        number = call.arguments[index]
        sheet, area = subject.sheet_of(table), table.area(subject.start)
        if not isinstance(number, tree.Number) or not sheet or not area:
            continue
        found = _better(subject, sheet, area, axis, int(number.value))
        if not found:
            continue
        at, wanted, now = found
        tag = subject.shape.references.index(table)
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"The formula stands under {quoted(wanted)}, but gives {axis} {number.value:g} of"
            f" {subject.tag(tag)}, which is {quoted(now)}.",
            f"{quoted(wanted)} is {axis} {at} of it.",
            tag,
            (_giving(subject, call, index, at, axis),),
            (f"only {axis} {at} is headed like the formula",),
        )
        return


def _giving(subject: Subject, call: tree.Call, index: int, at: int, axis: Axis) -> Mend:
    """A search that gives another line of its table, by its number."""
    before, behind = call.arguments[:index], call.arguments[index + 1 :]
    changed = tree.Call(call.function, (*before, tree.Number(float(at)), *behind))
    shape = Shape.of(_replaced(subject.shape.tree, call, changed))
    return refilled(subject, shape, f"give {axis} {at}")


@rule("too-narrow")
def too_narrow(subject: Subject) -> Iterator[Finding]:
    """A search gives a column that its table does not have."""
    for call in _calls(subject.shape.tree):
        table = call.arguments[1] if len(call.arguments) > 2 else None
        number = call.arguments[2] if len(call.arguments) > 2 else None
        area = table.area(subject.start) if isinstance(table, RangeReference) else None
        if not has(call.function, Trait.NEAREST) or not area or not table:
            continue
        if not isinstance(number, tree.Number) or not isinstance(table, RangeReference):
            continue
        function = find(call.function)
        assert function is not None
        axis: Axis = "row" if function.parameters[2].name == "row" else "column"
        lacks = int(number.value) - area.length(axis)
        if lacks <= 0 or not table.on(axis):
            continue
        index = subject.shape.references.index(table)
        sheet = subject.sheet_of(table)
        headed = _headed_alike(subject, sheet, area, axis) if sheet else []
        mends = [*_wider(subject, table, index, area, axis, lacks)]
        if len(headed) == 1:
            mends.insert(0, _giving(subject, call, 2, headed[0][0], axis))
        yield Finding(
            "broken",
            subject.sheet.name,
            subject.parts,
            f"{subject.tag(index)} has {area.length(axis)} {axis}s, but {axis} {number.value:g}"
            " of it is asked for.",
            f"A table has to reach as far as the {axis} that it gives.",
            index,
            tuple(mends),
            (f"{axis} {number.value:g} lies outside of it",),
        )
        return


def _wider(
    subject: Subject, table: RangeReference, index: int, area: Area, axis: Axis, lacks: int
) -> Iterator[Mend]:
    """A table with as many columns as are asked for; that in which something is found first."""
    low, high = area.on(axis)
    found: list[tuple[int, Mend]] = []
    for first, last in ((low, high + lacks), (low - lacks, high)):
        if first < 1:
            continue
        wanted = table.reading(area.spanning(axis, first, last), subject.start, subject.start)
        shape = subject.shape.with_reference(index, wanted)
        place = Place(subject.sheet.name, subject.start)
        fails = isinstance(result_at(shape, place, subject.calculation), Error)
        says = f"widen {subject.tag(index)} to {subject.address(wanted, subject.start)}"
        found.append((fails, refilled(subject, shape, says)))
    return (mend for _, mend in sorted(found, key=lambda each: each[0]))


def _better(
    subject: Subject, sheet: Sheet, area: Area, axis: Axis, number: int
) -> tuple[int, str, str] | None:
    """Another line of a table that is headed as the formula is, with both headings."""
    own = _own_heading(subject, axis)
    if not own or not 1 <= number <= area.length(axis):
        return None
    now = _table_heading(subject, sheet, area, axis, area.on(axis)[0] + number - 1)
    if not now or _alike(now, own) > 0:
        return None
    found = _headed_alike(subject, sheet, area, axis)
    return (found[0][0], own, now) if len(found) == 1 else None


def _own_heading(subject: Subject, axis: Axis) -> str:
    found = nearest_text(subject.calculation, subject.sheet, subject.start, axis, _MOST_LINES)
    return found or ""


def _headed_alike(subject: Subject, sheet: Sheet, area: Area, axis: Axis) -> list[tuple[int, str]]:
    """The lines of a table, by number, that are headed as the formula is; the same ones alone."""
    own, first = _own_heading(subject, axis), area.on(axis)[0]
    if not own or area.length(axis) > _MOST_LINES:
        return []
    headings = [
        (n + 1, _table_heading(subject, sheet, area, axis, first + n))
        for n in range(area.length(axis))
    ]
    best = [each for each in headings if each[1] and _alike(each[1], own) > 0]
    return [each for each in best if _alike(each[1], own) == 2] or best


def _table_heading(subject: Subject, sheet: Sheet, area: Area, axis: Axis, at: int) -> str:
    """What a column of a table is headed by: right above it, or in its first row."""
    crossing = CROSSING[axis]
    cell = area.spanning(axis, at, at).first
    above = cell.step(crossing, -1)
    value = subject.value(sheet, above)
    if not isinstance(value, str):
        value = subject.value(sheet, cell)
    return value.strip() if isinstance(value, str) else ""


def _alike(one: str, other: str) -> int:
    """2 where two headings say the same, 1 where one says all that the other does."""
    a, b = set(re.findall(r"\w+", one.casefold())), set(re.findall(r"\w+", other.casefold()))
    if a == b:
        return 2
    return int(bool(a and b) and (a <= b or b <= a))
