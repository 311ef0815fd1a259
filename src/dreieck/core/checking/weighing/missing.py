"""Troubles of what is missing: landings that read emptiness, or text where a number is needed."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.checking.weighing.trouble import Trouble, labels_of_both, marked
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import Axis
from dreieck.core.grid.areas import Mask
from dreieck.core.sheet.cells import Kind
from dreieck.core.tables.series import are_alike


def empty(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """Emptiness is read where a number is needed."""
    if not needs_number(reading.use) or reading.use.guarded:
        return
    empty = (reading.kinds == Kind.EMPTY) & ~reading.own & ~first_line(reading)
    if not empty.any():
        return
    empty = empty & ~reading.passed(empty)
    lines = [axis for axis in axes if reading.moves(axis)]
    if not lines:
        # What stays is empty everywhere: no lock makes it better.
        yield from marked(reading, "empty", empty, 0.0, 1.0)
        return
    if all(reading.in_line(axis) for axis in lines) and _is_gap(reading, lines):
        yield from marked(reading, "empty", empty, 0.1, 0.5 if _adds(reading) else 4.0)
    elif all(_runs_out(reading, others, axis) or _is_long(reading, axis) for axis in lines):
        yield from marked(reading, "empty", empty, 0.5, 3.0)
    else:
        yield from marked(reading, "empty", empty, 5.0, 14.0)


def _is_gap(reading: Reading, lines: list[Axis]) -> bool:
    """Whether what is empty is a gap in a list that goes along with the landings."""
    for axis in lines:
        length, run = reading.part.length(axis), reading.numbers_on(axis)
        numbers = reading.along(axis, reading.kinds == Kind.NUMBER)
        goes_on = bool(numbers[run:].any())
        if reading.contiguous(axis) and _adds(reading):
            continue
        # One number, and nothing below it: an input that every landing should read.
        if not goes_on and (run <= 1 or 2 * run < length) and length > 2:
            return False
        if not reading.contiguous(axis) and not goes_on:
            return False
    return True


def _adds(reading: Reading) -> bool:
    """Whether an empty cell is none the worse: it is added, taken away or compared."""
    return other_operand(reading.subject.shape.tree, reading.use.number, "*/^") is None


def _runs_out(reading: Reading, others: list[Reading], axis: Axis) -> bool:
    """Whether all that moves along an axis has come to its end where this does."""
    length = reading.part.length(axis)
    ends = [each.ends_on(axis) for each in others if each.moves(axis)]
    own = reading.numbers_on(axis)
    return 1 < own < length and all(end <= own for end in ends)


def _is_long(reading: Reading, axis: Axis) -> bool:
    """Whether what is read is a list, for most of the landings."""
    run = reading.numbers_on(axis)
    long = run > 2 and 2 * run >= reading.part.length(axis)
    return long and are_alike(*labels_of_both(reading, axis)) is not False


def text(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """Text is read where a number is needed."""
    if reading.use.how not in ("number", "total") or reading.use.guarded:
        return
    text = (reading.kinds == Kind.TEXT) & ~reading.own & ~first_line(reading)
    if not text.any():
        return
    text = text & ~reading.passed(text)
    lines = [axis for axis in axes if reading.moves(axis)]
    if not lines:
        yield from marked(reading, "text", text, 0.0, 1.0)
    elif all(reading.in_line(axis) and reading.ends_on(axis) > 1 for axis in lines):
        yield from marked(reading, "text", text, 0.1, 4.0)
    else:
        yield from marked(reading, "text", text, 5.0, 14.0)


def needs_number(use: Use) -> bool:
    """Whether a reference to a single cell is calculated with."""
    return use.how in ("number", "total") or (use.how == "value" and not use.function)


def first_line(reading: Reading) -> Mask:
    """The landings of a recurrence that read what lies before all of it."""
    mask = np.zeros(reading.shape, bool)
    if not reading.own.any():
        return mask
    reference = reading.use.reference
    assert isinstance(reference, CellReference)
    seeds = np.unique(reading.kinds[~reading.own])
    rows, columns = reference.row, reference.column
    if len(seeds) > 1 and min(rows.at, columns.at) < -1:
        return mask
    if not rows.locked and 0 < -2 * rows.at <= reading.part.height:
        mask[:, : -rows.at] = True
    if not columns.locked and 0 < -2 * columns.at <= reading.part.width:
        mask[: -columns.at, :] = True
    return mask
