"""Functions that tell what a value is."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from dreieck.core.formula import Shape
from dreieck.core.functions.one_number import of_one
from dreieck.core.functions.record import Result
from dreieck.core.functions.registry import Failure, at_once, function
from dreieck.core.ranges.operands import Range, Several, Table
from dreieck.core.sheet.cells import Cells, Kind, is_kind
from dreieck.core.values import DIV0, NA, NAME, NULL, NUM, REF, VALUE, Error, Value


def _question(name: str, holds: Callable[[Value], bool], *kinds: int) -> None:
    """Register a function that tells whether a value is something: of some kinds, if that."""
    function(name)(holds)
    if kinds:
        at_once(name)(lambda cells: is_kind(cells.kinds, *kinds))


_question("ISBLANK", lambda v: v is None, Kind.EMPTY)
_question("ISNUMBER", lambda v: isinstance(v, float), Kind.NUMBER)
_question("ISTEXT", lambda v: isinstance(v, str), Kind.TEXT)
_question(
    "ISNONTEXT",
    lambda v: not isinstance(v, str),
    *(Kind.EMPTY, Kind.NUMBER, Kind.LOGICAL, Kind.ERROR),
)
_question("ISLOGICAL", lambda v: isinstance(v, bool), Kind.LOGICAL)
_question("ISERROR", lambda v: isinstance(v, Error), Kind.ERROR)
_question("ISERR", lambda v: isinstance(v, Error) and v.code != NA)
_question("ISNA", lambda v: isinstance(v, Error) and v.code == NA)


@function("NA")
def _na() -> Value:
    raise Failure(NA, "NA() says that the value is not available.")


@function("N")
def _n(value: Value) -> Value:
    if isinstance(value, Error):
        return value
    return float(value) if isinstance(value, float | bool) else 0.0


@at_once("N")
def _n_in_rows(cells: Cells) -> Cells:
    counted = is_kind(cells.kinds, Kind.NUMBER, Kind.LOGICAL, Kind.ERROR)
    kinds = np.where(cells.kinds == Kind.ERROR, cells.kinds, np.uint8(Kind.NUMBER))
    return Cells(kinds, np.where(counted, cells.payload, 0.0), cells.pool)


of_one(__name__, "ISEVEN", lambda n: math.trunc(n) % 2 == 0, lambda n: np.trunc(n) % 2 == 0)
of_one(__name__, "ISODD", lambda n: math.trunc(n) % 2 == 1, lambda n: np.trunc(n) % 2 == 1)


@function("ISREF")
def _isref(asked: Callable[[], Result]) -> bool:
    return isinstance(asked(), Range | Several)


@function("ISFORMULA")
def _isformula(cells: Table) -> bool:
    return isinstance(_content(cells), Shape)


@function("FORMULA")
def _formula(cells: Table) -> str:
    content = _content(cells)
    if not isinstance(content, Shape) or not isinstance(cells, Range):
        raise Failure(NA, "The cell holds no formula.")
    return content.text(cells.area.first)


def _content(cells: Table) -> object:
    """What the first cell of a range holds."""
    if not isinstance(cells, Range):
        raise Failure(VALUE, "A cell is needed, not a value.")
    return cells.reader.workbook.content(cells.sheet, cells.area.first)


@function("TYPE")
def _type(asked: Callable[[], Result]) -> float:
    found = asked()
    if isinstance(found, Table) and found.size == 1:
        found = found.at(0, 0)
    if isinstance(found, Table | Several):
        return 64.0
    if isinstance(found, Error):
        return 16.0
    return 4.0 if isinstance(found, bool) else 2.0 if isinstance(found, str) else 1.0


_ERRORS = (NULL, DIV0, VALUE, REF, NAME, NUM, NA)
"""The errors of the standards, in the order of their numbers."""


@function("ERROR.TYPE")
def _error_type(value: Value) -> float:
    if not isinstance(value, Error):
        raise Failure(NA, "The value is no error.")
    if value.code not in _ERRORS:
        raise Failure(NA, f"The standards know no {value.code}.")
    return float(_ERRORS.index(value.code) + 1)
