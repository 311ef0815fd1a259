"""Functions of matrices and of lines through numbers."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import spend
from dreieck.core.functions.record import Result
from dreieck.core.functions.registry import Failure, function
from dreieck.core.ranges.operands import MAX_TABLE, Array, Table
from dreieck.core.sheet.cells import Cells, Kind, Payload
from dreieck.core.values import DIV0, NA, NUM, VALUE, Error, Value

Matrix = NDArray[np.float64]
_LARGEST = 500
"""So many rows and columns a matrix can have that is solved."""
_AT_A_TIME = 4_096
"""So many products are counted as one step."""


def _matrix(table: Table) -> Matrix:
    """The numbers of a table, row by row. Raises Failure where something else is there."""
    if table.size > MAX_TABLE:
        raise Failure(VALUE, f"A calculation with ranges can have {MAX_TABLE:,} cells.")
    cells = table.all_cells()
    errors = np.flatnonzero(cells.kinds == Kind.ERROR)
    if len(errors):
        error = cells.value(int(errors[0]))
        assert isinstance(error, Error)
        raise Failure.of(error)
    if not cells.all_numbers and not (cells.kinds == Kind.NUMBER).all():
        raise Failure(VALUE, "There have to be numbers in all cells.")
    return cells.payload.reshape(table.width, table.height).T


def _table(matrix: Matrix) -> Array:
    """A matrix as what a function gives. Raises Failure where a number is too large."""
    if not np.isfinite(matrix).all():
        raise Failure(NUM, "A number is too large.")
    cells = Cells.numbers(np.ascontiguousarray(matrix.T).ravel())
    return Array(cells, matrix.shape[1], matrix.shape[0], is_result=True)


def _square(table: Table) -> Matrix:
    if table.width != table.height:
        raise Failure(VALUE, "There have to be as many columns as rows.")
    if table.width > _LARGEST:
        raise Failure(VALUE, f"It can have {_LARGEST} rows and columns.")
    spend(table.width**3 // _AT_A_TIME + 1)
    return _matrix(table)


@function("MMULT")
def _mmult(one: Table, other: Table) -> Result:
    if one.width != other.height:
        raise Failure(VALUE, "The first one has as many columns as the second one has rows.")
    spend(one.size * other.width // _AT_A_TIME + 1)
    with np.errstate(all="ignore"):
        return _table(_matrix(one) @ _matrix(other))


@function("MDETERM")
def _mdeterm(table: Table) -> float:
    matrix = _square(table)
    found = float(np.linalg.det(matrix))
    # The determinant of whole numbers is a whole number.
    is_whole = (matrix == np.rint(matrix)).all() and abs(found) < 2**52
    return float(np.rint(found)) if is_whole else found


@function("MINVERSE")
def _minverse(table: Table) -> Result:
    try:
        return _table(np.linalg.inv(_square(table)).astype(np.float64))
    except np.linalg.LinAlgError:
        raise Failure(NUM, "The matrix has no inverse.") from None


@function("FREQUENCY")
def _frequency(numbers: Payload, borders: Payload) -> Result:
    # Each class reaches up to its border; the last one has what lies above all of them.
    up_to = np.searchsorted(numbers, borders, "right")
    counts = np.diff(np.concatenate(([0], up_to, [len(numbers)]))).astype(np.float64)
    return _table(counts.reshape(-1, 1))


class _Fit:
    """The straight line, or plane, that fits heights best (least squares)."""

    def __init__(self, heights: Matrix, xs: Table | None, *, has_start: bool) -> None:
        count = heights.size
        self.across = heights.shape[0] == 1 and heights.shape[1] > 1
        counted = np.arange(1.0, count + 1).reshape(heights.shape)
        self.places = counted if xs is None else _matrix(xs)
        is_single = self.places.shape == heights.shape
        self.xs = self.places.reshape(-1, 1) if is_single else self._points(self.places)
        if len(self.xs) != count:
            raise Failure(VALUE, "The lists have to be equally long.")
        variables = self.xs.shape[1]
        self.free = count - variables - has_start
        if self.free < 0:
            raise Failure(DIV0, "There are too few numbers for a line.")
        spend(count * variables**2 // 64 + 1)
        # A fit about the means keeps more digits.
        ys = heights.ravel()
        self.middle = self.xs.mean(axis=0) if has_start else np.zeros(variables)
        self.level = float(ys.mean()) if has_start else 0.0
        away, above = self.xs - self.middle, ys - self.level
        self.slopes = np.linalg.lstsq(away, above, rcond=1e-12)[0]
        self.start = self.level - float(self.middle @ self.slopes) if has_start else 0.0
        self.left = float(((above - away @ self.slopes) ** 2).sum())
        self.explained = float((above**2).sum()) - self.left
        self.has_start = has_start

    def _points(self, places: Matrix) -> Matrix:
        """Places of several variables, a row for each point."""
        return places.T if self.across else places

    @property
    def coefficients(self) -> list[float]:
        """The slope of the last variable first, the height at 0 at the end."""
        return [*self.slopes[::-1].tolist(), self.start]

    def errors(self) -> list[float]:
        """How far each coefficient typically lies off."""
        columns = np.column_stack([self.xs, np.ones(len(self.xs))]) if self.has_start else self.xs
        spread = self.left / self.free * np.diag(np.linalg.pinv(columns.T @ columns))
        own = np.sqrt(np.abs(spread)).tolist()
        slopes = own[: len(self.slopes)][::-1]
        return [*slopes, own[-1] if self.has_start else 0.0]

    def at(self, new: Table | None) -> Matrix:
        """The heights at new places, or at its own."""
        places = self.places if new is None else _matrix(new)
        if self.xs.shape[1] == 1:
            return (places.reshape(-1, 1) @ self.slopes + self.start).reshape(places.shape)
        points = self._points(places)
        if points.shape[1] != len(self.slopes):
            raise Failure(VALUE, "New places have as many variables as the others.")
        found = points @ self.slopes + self.start
        return found.reshape(1, -1) if self.across else found.reshape(-1, 1)


@function("LINEST")
def _linest(
    ys: Table, xs: Table | None = None, has_start: bool = True, with_quality: bool = False
) -> Result:
    fit = _Fit(_matrix(ys), xs, has_start=has_start)
    if not with_quality:
        return _table(np.array([fit.coefficients]))
    rows: list[list[Value]] = [list(fit.coefficients)]
    variables = len(fit.slopes)
    whole = fit.explained + fit.left
    if fit.free:
        apart = fit.left / fit.free
        quality = fit.explained / variables / apart if apart else _EXACT
        rows += [list(fit.errors()), [fit.explained / whole if whole else 1.0, apart**0.5]]
    else:
        quality = _EXACT
        rows += [[_EXACT] * (variables + 1), [1.0, 0.0]]
    rows += [[quality, float(fit.free)], [fit.explained, fit.left]]
    full = [row + [_NO_MORE] * (variables + 1 - len(row)) for row in rows]
    return Array.of(full, is_result=True)


_EXACT = Error(NUM, "The line fits exactly: nothing is left to tell how sure it is.")
_NO_MORE = Error(NA, "The quality of a line has two columns from its third row on.")


@function("TREND")
def _trend(
    ys: Table, xs: Table | None = None, new: Table | None = None, has_start: bool = True
) -> Result:
    return _table(_Fit(_matrix(ys), xs, has_start=has_start).at(new))


@function("GROWTH")
def _growth(
    ys: Table, xs: Table | None = None, new: Table | None = None, has_start: bool = True
) -> Result:
    fit = _Fit(_logarithms(ys), xs, has_start=has_start)
    with np.errstate(over="ignore"):
        return _table(np.exp(fit.at(new)))


@function("LOGEST")
def _logest(ys: Table, xs: Table | None = None, has_start: bool = True) -> Result:
    fit = _Fit(_logarithms(ys), xs, has_start=has_start)
    with np.errstate(over="ignore"):
        return _table(np.exp(np.array([fit.coefficients])))


def _logarithms(ys: Table) -> Matrix:
    heights = _matrix(ys)
    if (heights <= 0).any():
        raise Failure(NUM, "What grows by a factor is above 0.")
    logarithms: Matrix = np.log(heights)
    return logarithms
