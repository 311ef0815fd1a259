"""Values below each other as numbers, conditions or texts: the conversions of single values.

What is of the right kind stays. Of the rest each different value is converted once.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.calculate.elementwise import distinct
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import Value, to_logical, to_number, to_text

_STEPS = 4
"""How many steps it costs to convert a value by itself."""


def as_numbers(cells: Cells) -> Cells:
    """Numbers and errors: an empty cell is 0, text has to read as a number."""
    if cells.all_numbers:
        return cells
    texts = cells.kinds == Kind.TEXT
    if texts.any():
        return _converted(cells, texts, to_number, as_numbers)
    errors = cells.kinds == Kind.ERROR
    if not errors.any():
        return Cells.numbers(cells.payload)
    return Cells(np.where(errors, cells.kinds, np.uint8(Kind.NUMBER)), cells.payload, cells.pool)


def as_logicals(cells: Cells) -> Cells:
    """Logical values and errors: 0 and an empty cell are false, other numbers true."""
    texts = cells.kinds == Kind.TEXT
    if texts.any():
        return _converted(cells, texts, to_logical, as_logicals)
    errors = cells.kinds == Kind.ERROR
    kinds = np.where(errors, cells.kinds, np.uint8(Kind.LOGICAL))
    return Cells(kinds, np.where(errors, cells.payload, cells.payload != 0), cells.pool)


def as_texts(cells: Cells) -> Cells:
    """Texts and errors: an empty cell is no text, a number has 15 digits."""
    others = (cells.kinds != Kind.TEXT) & (cells.kinds != Kind.ERROR)
    return _converted(cells, others, to_text, lambda rest: rest) if others.any() else cells


def _converted(
    cells: Cells,
    which: np.ndarray[tuple[int], np.dtype[np.bool_]],
    convert: Callable[[Value], Value],
    rest: Callable[[Cells], Cells],
) -> Cells:
    """Some of the cells converted one by one, the others all at once."""
    odd, even = np.flatnonzero(which), np.flatnonzero(~which)
    found = each_once(convert, cells.taken(odd))
    return Cells.laid(len(cells), [(odd, found), (even, rest(cells.taken(even)))])


def each_once(convert: Callable[[Value], Value], cells: Cells) -> Cells:
    """What a function of one value gives, called once for each different value."""
    first, inverse = distinct((cells,), len(cells))
    spend(len(first) * _STEPS)
    return Cells.of([convert(value) for value in cells.taken(first).values()]).taken(inverse)
