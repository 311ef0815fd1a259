"""Rules about lists that belong together: they cover the same rows, and all of their data."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from dreieck.core.analysis.lifting import lifted, whole_arguments
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import area_text, reference_text
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import CROSSING, LAST, Area, Axis
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import label, labels_along
from dreieck.core.values.look import shown_text
from dreieck.core.words.counting import both, many, quoted

_MOST_ROWS = 100_000
_LONGEST = 2_000
_AT_FIRST = 32
"""So many lines behind a list are looked at before more are."""
_SIDES: dict[tuple[Axis, bool], str] = {
    ("row", True): "below", ("row", False): "above",
    ("column", True): "to the right of", ("column", False): "to the left of",
}  # fmt: skip


class Column(NamedTuple):
    """A range of a formula, by its number, that is one of several lists."""

    number: int
    reference: RangeReference
    sheet: Sheet
    area: Area


class Together(NamedTuple):
    """Lists that are read in step along an axis."""

    axis: Axis
    columns: tuple[Column, ...]

    @property
    def spans(self) -> list[tuple[int, int]]:
        """The first and last row, or column, of each list."""
        return [column.area.on(self.axis) for column in self.columns]


def lists(subject: Subject) -> tuple[Together, ...]:
    """The lists that a formula reads in step."""
    return subject.once(_lists)


def _lists(subject: Subject) -> tuple[Together, ...]:
    return tuple(_found(subject))


def _found(subject: Subject) -> Iterator[Together]:
    numbered = {id(each): number for number, each in enumerate(subject.shape.references)}
    for node in tree.walk(subject.shape.tree):
        if not isinstance(node, tree.Call):
            continue
        if has(node.function, Trait.IN_STEP):
            ranges = [each for argument in node.arguments for each in lifted(argument)]
            yield from _along(subject, ranges, numbered, None)
            continue
        for argument in whole_arguments(node):
            yield from _along(subject, list(lifted(argument)), numbered, None)
        if has(node.function, Trait.SEARCHES) and len(node.arguments) > 1:
            first = node.arguments[0]
            if isinstance(first, RangeReference):
                for index, argument in enumerate(node.arguments[1:3]):
                    inner = _list_searched(argument)
                    if inner is not None:
                        axis: Axis = "column" if index == 1 else "row"
                        area = first.area(subject.start)
                        if area and len(node.arguments) == 2 and area.height == 1:
                            axis = "column"
                        yield from _along(subject, [first, inner], numbered, axis)


def _list_searched(node: tree.Node) -> RangeReference | None:
    """The list of a search whose result is the place in another one."""
    node = tree.bare(node)
    searches = isinstance(node, tree.Call) and has(node.function, Trait.NEAREST)
    if searches and isinstance(node, tree.Call) and len(node.arguments) > 1:
        inner = node.arguments[1]
        return inner if isinstance(inner, RangeReference) else None
    return None


def _along(
    subject: Subject,
    ranges: list[RangeReference],
    numbered: dict[int, int],
    axis: Axis | None,
) -> Iterator[Together]:
    columns: list[Column] = []
    for each in ranges:
        sheet, area = subject.sheet_of(each), each.area(subject.start)
        if sheet is None or area is None:
            return
        columns.append(Column(numbered[id(each)], each, sheet, area))
    if len(columns) < 2:
        return
    if axis is None:
        across = all(c.area.width > c.area.height for c in columns)
        axis = "column" if across else "row"
    yield Together(axis, tuple(columns))


@rule("out-of-step")
def out_of_step(subject: Subject) -> Iterator[Finding]:
    """Lists that belong together cover different rows."""
    if doubt(subject):
        return
    for group in lists(subject):
        spans = group.spans
        crossed = any(c.area.length(group.axis) == 1 for c in group.columns)
        if len(set(spans)) == 1 or crossed or _lie_apart(group):
            continue
        best = max(
            dict.fromkeys(spans),
            key=lambda span: (_fit(subject, group, span), spans.count(span), span[1] - span[0]),
        )
        off = [c for c in group.columns if c.area.on(group.axis) != best]
        columns = {c.reference: c for c in group.columns}.values()
        read = both([subject.address(c.reference, subject.start) for c in columns])
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{both([subject.tag(c.number) for c in columns])} belong together, but cover"
            f" different {group.axis}s: {subject.start.text} reads {read}.",
            "What stands beside a place in one list is taken from another place of the other.",
            off[0].number,
            (_aligned(subject, group, off, best),),
            (f"{both([_span(group.axis, s) for s in dict.fromkeys(spans)])} are not the same",),
        )
        return


def _lie_apart(group: Together) -> bool:
    """Whether lists lie beside each other nowhere, so that only their length counts."""
    spans = group.spans
    crossing = CROSSING[group.axis]
    if len({column.area.on(crossing) for column in group.columns}) == 1:
        # A list beside itself, some steps apart: how it goes on from one to the next.
        return True
    lengths = {high - low for low, high in spans}
    low, high = max(each[0] for each in spans), min(each[1] for each in spans)
    return len(lengths) == 1 and (low > high or len({c.sheet.id for c in group.columns}) > 1)


def _span(axis: Axis, span: tuple[int, int]) -> str:
    return f"{axis}s {span[0]} to {span[1]}"


def _fit(subject: Subject, group: Together, span: tuple[int, int]) -> int:
    """How well a span fits the data of all lists: it begins and ends where they do."""
    first, last = span
    if last - first > _MOST_ROWS:
        return -1
    held = _filled(subject, group, first) and not _is_heading(subject, group, first)
    ends = _filled(subject, group, last) and not _filled(subject, group, last + 1)
    starts = held and (first == 1 or not _filled(subject, group, first - 1)
                       or _is_heading(subject, group, first - 1))  # fmt: skip
    return 4 * starts + 2 * ends + held


def _line(column: Column, axis: Axis, at: int) -> Area:
    return column.area.spanning(axis, at, at)


def _filled(subject: Subject, group: Together, at: int) -> bool:
    """Whether all lists hold data at a row, or column, before the formula itself."""
    if at < 1:
        return False
    for column in group.columns:
        line = _line(column, group.axis, at)
        own = column.sheet is subject.sheet and any(line.common(p) for p in subject.parts)
        if own or not column.sheet.count(line):
            return False
    return True


def _is_heading(subject: Subject, group: Together, at: int) -> bool:
    """Whether a line holds only texts though numbers follow, or is set off by its look."""
    for column in group.columns:
        here, there = _line(column, group.axis, at).first, _line(column, group.axis, at + 1).first
        value = subject.value(column.sheet, here)
        after = subject.value(column.sheet, there)
        if isinstance(value, str) and isinstance(after, float):
            return True
        if column.sheet.look(here).role == "heading" != column.sheet.look(there).role:
            return True
    return at == 1 and all(
        isinstance(subject.value(c.sheet, _line(c, group.axis, at).first), str)
        for c in group.columns
    )


def _aligned(subject: Subject, group: Together, off: list[Column], span: tuple[int, int]):  # type: ignore[no-untyped-def]
    """Let the lists that are out of step cover the same rows."""
    shape = subject.shape
    for column in off:
        area = column.area.spanning(group.axis, *span)
        changed = column.reference.reading(area, subject.start, subject.start)
        shape = shape.with_reference(column.number, changed)
    tags = both([subject.tag(column.number) for column in off])
    return refilled(subject, shape, f"let {tags} cover {_span(group.axis, span)}")


@rule("list-ends")
def list_ends(subject: Subject) -> Iterator[Finding]:
    """A list that is searched ends before its data do, or begins behind them."""
    if doubt(subject):
        return
    groups = list(lists(subject)) or list(_alone(subject))
    for group in groups:
        if len(set(group.spans)) > 1:
            continue
        first, last = group.spans[0]
        end = data_end(subject, group, last)
        begin = _data_begin(subject, group, first)
        if (begin, end) == (first, last) or last - first < 1:
            continue
        area = group.columns[0].area
        missed = area.spanning(group.axis, last + 1, end)
        if end == last:
            missed = area.spanning(group.axis, begin, first - 1)
        if not _is_meant(subject, group, missed):
            yield _longer(subject, group, (begin, end), missed)
            return


def _longer(subject: Subject, group: Together, span: tuple[int, int], missed: Area) -> Finding:
    """The lists of a group are longer than what is read of them."""
    shape = subject.shape
    for column in group.columns:
        area = column.area.spanning(group.axis, *span)
        changed = column.reference.reading(area, subject.start, subject.start)
        shape = shape.with_reference(column.number, changed)
    tags = both([subject.tag(column.number) for column in group.columns])
    longer = (shape.references[column.number] for column in group.columns)
    says = f"stretch {tags} to {both([reference_text(each, subject.start) for each in longer])}"
    # What is sought stands in the first column, as a rule.
    told = min(group.columns, key=lambda column: column.area.left)
    seen = told.area.spanning(group.axis, *missed.on(group.axis))
    after = missed.on(group.axis)[0] > group.spans[0][1]
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} looks in {_read(subject, group)}, but"
        f" {beyond(subject, told.sheet, seen, group.axis, after=after)} that list.",
        "What stands outside is never found, and not counted.",
        group.columns[0].number,
        (refilled(subject, shape, says),),
        (f"{missed.text} holds the same sorts of values as the list",),
    )


def beyond(subject: Subject, sheet: Sheet, missed: Area, axis: Axis, *, after: bool) -> str:
    """What stands next to a list: ``“Rope” stands in A10, just below``."""
    value = subject.value(sheet, missed.first)
    shown = shown_text(value, sheet.look(missed.first))
    what = quoted(shown) if isinstance(value, str) else shown
    count = missed.length(axis)
    where = missed if count > 1 else Area.of(missed.first)
    home = None if sheet is subject.sheet else sheet.name
    more = f" and {many(count - 1, 'more ' + axis)} stand" if count > 1 else " stands"
    return f"{what}{more} in {area_text(where, home)}, just {_SIDES[axis, after]}"


def _read(subject: Subject, group: Together) -> str:
    return both([subject.address(c.reference, subject.start) for c in group.columns])


def _alone(subject: Subject) -> Iterator[Together]:
    """Each list that is searched by itself."""
    for use in subject.range_uses:
        reference = use.reference
        if not has(use.function, Trait.SEARCHES) or not isinstance(reference, RangeReference):
            continue
        sheet, area = subject.sheet_of(reference), reference.area(subject.start)
        if use.how != "list" or not sheet or not area or not reference.rows:
            continue
        if (area.height > 1 and all(part.locked for part in reference.on("row"))) or (
            area.height > 1 and subject.block.area.height == 1
        ):
            yield Together("row", (Column(use.number, reference, sheet, area),))


def data_end(subject: Subject, group: Together, last: int) -> int:
    """The last line on which all lists go on with what they hold."""
    end, step = last, _AT_FIRST
    while end - last < _LONGEST:
        further = min(_more(subject, column, group.axis, end, step) for column in group.columns)
        end += further
        if further < step:
            return end
        step *= 2
    return last


def _more(subject: Subject, column: Column, axis: Axis, last: int, most: int) -> int:
    """How many lines behind the last one hold values of its sorts, and no total."""
    most = min(most, LAST[axis] - last)
    own = (Area.of(subject.start), *subject.parts) if column.sheet is subject.sheet else ()
    for area in own:
        if most > 0 and (met := area.common(column.area.spanning(axis, last + 1, last + most))):
            most = met.on(axis)[0] - last - 1
    if most < 1:
        return 0
    # The last line of the list is there, too: each is compared with the one before.
    behind = column.area.spanning(axis, last, last + most)
    ends = np.zeros(most, np.bool_)
    for line in behind.lines(CROSSING[axis]):
        kinds = subject.kinds(column.sheet, line).ravel()
        held = column.sheet.kinds(line).ravel() == Kind.FORMULA
        ends |= (kinds[1:] != kinds[:-1]) | (kinds[1:] == Kind.EMPTY) | (held[1:] != held[:-1])
        for index in np.flatnonzero(~ends & (kinds[1:] == Kind.TEXT)).tolist():
            at = last + 1 + index
            text = subject.value(column.sheet, line.spanning(axis, at, at).first)
            ends[index] = says(str(text), "total")
    going_on = most if not ends.any() else int(ends.argmax())
    if going_on < 1:
        return 0
    # All cells of a line have one label.
    first = next(iter(behind.lines(CROSSING[axis]))).spanning(axis, last + 1, last + going_on)
    labels = labels_along(subject.calculation, column.sheet, first, axis)
    return next((n for n, text in enumerate(labels) if says(text, "total")), going_on)


def _data_begin(subject: Subject, group: Together, first: int) -> int:
    """The first line from which all lists hold data; texts alone may be headings."""
    at = first
    while at > 1 and first - at < _LONGEST:
        if not all(_goes_on(subject, c, group.axis, at - 1, 1) for c in group.columns):
            break
        if not _holds_numbers(subject, group, at - 1) and not _filled(subject, group, at - 2):
            break
        if _is_heading(subject, group, at - 1):
            break
        at -= 1
    return at


def _holds_numbers(subject: Subject, group: Together, at: int) -> bool:
    """Whether one of the lists holds a number in a line."""
    return any(
        isinstance(subject.value(column.sheet, cell), float)
        for column in group.columns
        for cell in _line(column, group.axis, at).cells()
    )


def _goes_on(subject: Subject, column: Column, axis: Axis, at: int, toward: int = -1) -> bool:
    """Whether a line holds values of the sorts of the line beside it, and no total."""
    for here, there in zip(
        _line(column, axis, at).cells(), _line(column, axis, at + toward).cells(), strict=True
    ):
        value, before = subject.value(column.sheet, here), subject.value(column.sheet, there)
        if type(value) is not type(before) or value is None:
            return False
        if isinstance(value, str) and says(value, "total"):
            return False
        content, held = column.sheet.content(here), column.sheet.content(there)
        if isinstance(content, Shape) != isinstance(held, Shape):
            return False
    # All cells of a line have one label.
    first = _line(column, axis, at).first
    return not says(label(subject.calculation, column.sheet, first, axis), "total")


def _is_meant(subject: Subject, group: Together, missed: Area) -> bool:
    """Whether other formulas search what is left out, so that this is a part of the list."""
    column = group.columns[0]
    for reader in subject.calculation.read_map().reading(column.sheet.name, missed):
        at = reader.area.first
        if reader.sheet == subject.sheet.name and subject.block.holds(at):
            continue
        for reference in reader.patch.shape.references:
            area = reference.area(at)
            if (
                area and isinstance(reference, RangeReference) and area.common(missed)
                and not area.common(column.area) and area.length(CROSSING[group.axis]) == 1
            ):  # fmt: skip
                return True
    return False
