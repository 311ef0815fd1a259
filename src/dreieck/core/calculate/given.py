"""The arguments of a call in all rows of a column: what is the same, and what differs."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.lifting import lifts
from dreieck.core.calculate.arguments import bound_one, bound_rest, takes_the_rest
from dreieck.core.calculate.converted import as_logicals, as_numbers, as_texts
from dreieck.core.calculate.moving import CONSTANT, may_refer, window
from dreieck.core.calculate.rows import Rows
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.functions import SINGLE, Failure, Function, Parameter, Takes, Trait
from dreieck.core.ranges.beside import Beside, Part, with_errors
from dreieck.core.ranges.operands import Array
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import Error, Value, to_logical, to_number, to_text

_CONVERTED: dict[Takes, tuple[Callable[[Value], Value], Callable[[Cells], Cells]]] = {
    Takes.NUMBER: (to_number, as_numbers),
    Takes.WHOLE: (to_number, as_numbers),
    Takes.TEXT: (to_text, as_texts),
    Takes.LOGICAL: (to_logical, as_logicals),
}
_AS_TAKEN: dict[Takes, Callable[[Any], Any]] = {
    Takes.WHOLE: int,
    Takes.LATER: lambda value: lambda: value,
}
_WINDOWS = {
    Takes.RANGE, Takes.ARRAY, Takes.NUMBERS, Takes.VALUES, Takes.LOGICALS,
    Takes.TOTALS, Takes.COUNTED, Takes.ORDERED, Takes.EVERY,
}  # fmt: skip
"""What takes the values of a range and nothing else of it."""
_NEED_CELLS = {Trait.SIZES_LIKE_FIRST, Trait.MANY}
"""Which cells there are counts for more than their values."""
_AS_THEY_ARE = (Takes.VALUES, Takes.EVERY)


class Undecided(Exception):
    """An argument has to be looked at row by row."""


class Given:
    """The arguments of a call down a strip.

    ``arguments`` are those for the array form; ``varying`` is all that differs from row to row.
    ``direct`` tells whether the function itself takes one row of the arguments as they are, and
    ``formed`` whether an array form does. Rows in which one of them is an error are not sound.
    """

    def __init__(self, strip: Rows) -> None:
        self.strip = strip
        self.arguments: list[Any] = []
        self.varying: list[Cells] = []
        self.direct = self.formed = True
        self.sound: NDArray[np.bool_] | None = None
        self.errors: list[tuple[NDArray[np.intp], Cells]] = []

    @property
    def is_lost(self) -> bool:
        """Whether there is an error in every row."""
        return self.sound is not None and not self.sound.any()

    def row(self, function: Function, which: NDArray[np.intp]) -> Iterator[list[Any]]:
        """The arguments of some rows, as the function itself takes them."""
        columns: list[Any] = []
        for index, argument in enumerate(self.arguments):
            takes = function.parameter(index).takes
            if isinstance(argument, _Varying):
                values: list[Any] = argument.cells.taken(which).values()
                columns.append(
                    [_AS_TAKEN[takes](v) for v in values] if takes in _AS_TAKEN else values
                )
            elif isinstance(argument, _Beside):
                columns.append(argument.rows(takes, which))
            else:
                columns.append([argument] * len(which))
        for row in zip(*columns, strict=True) if columns else ():
            yield [iter(each) if isinstance(each, _Again) else each for each in row]

    def for_form(self, function: Function) -> list[Any]:
        """The arguments as the array form takes them."""
        found: list[Any] = []
        for index, argument in enumerate(self.arguments):
            takes = function.parameter(index).takes
            if isinstance(argument, _Again):
                found.append(iter(argument))
            elif isinstance(argument, _Beside):
                found.append(argument.form)
            elif not isinstance(argument, _Varying):
                found.append(argument)
            elif takes is Takes.NUMBER:
                found.append(argument.cells.payload)
            elif takes is Takes.WHOLE:
                found.append(np.trunc(argument.cells.payload))
            elif takes is Takes.LOGICAL:
                found.append(argument.cells.payload != 0)
            else:
                found.append(argument.cells)
        return found

    def fail(self, cells: Cells) -> None:
        """Take out the rows in which there is an error, as far as there was none before."""
        if cells.all_numbers:
            return
        bad = cells.kinds == Kind.ERROR
        if self.sound is not None:
            bad &= self.sound
        if bad.any():
            rows = np.flatnonzero(bad)
            self.errors.append((rows, cells.taken(rows)))
            self.sound = ~bad if self.sound is None else self.sound & ~bad

    def fail_all(self, error: Error) -> None:
        """Take out all rows that are left."""
        self.fail(Cells.alike(error, self.strip.height))


class _Varying:
    """An argument that differs from row to row."""

    def __init__(self, cells: Cells) -> None:
        self.cells = cells


class _Beside:
    """Values beside each other in each row, and what the array form takes in their place."""

    def __init__(self, width: int, sources: list[tuple[Cells, bool]], form: Any = None) -> None:
        self.width = width
        self.sources = sources
        self.form = form

    def rows(self, takes: Takes, which: NDArray[np.intp]) -> list[Any]:
        """The values of some rows, each as the function itself takes them."""
        own = [is_direct for _, is_direct in self.sources]
        rows = zip(*(cells.taken(which).values() for cells, _ in self.sources), strict=True)
        match takes:
            case Takes.NUMBERS:
                return [_in_turn(row, (float,)) for row in rows]
            case Takes.EVERY:
                return [iter(row) for row in rows]
            case Takes.LOGICALS:
                return [map(bool, _in_turn(row, (float, bool))) for row in rows]
            case Takes.VALUES:
                kept = ([v for v, direct in zip(row, own, strict=True) if direct or v is not None]
                        for row in rows)  # fmt: skip
                return [iter(row) for row in kept]
            case Takes.ORDERED:
                return [np.sort([v for v in row if type(v) is float]) for row in rows]
        starts = range(0, len(own), self.width)
        return [Array.of([list(row[at : at + self.width]) for at in starts]) for row in rows]


def _in_turn(row: tuple[Value, ...], types: tuple[type, ...]) -> Iterator[Any]:
    """The values of some types. Raises Failure where the next one is an error."""
    for value in row:
        if isinstance(value, Error):
            raise Failure.of(value)
        if type(value) in types:
            yield value


class _Again(tuple[Value, ...]):
    """Values that each call takes one after the other."""


def given_down(strip: Rows, function: Function, node: tree.Call) -> Given:
    """The arguments of a call, as far as all rows can be looked at together.

    Raises Undecided.
    """
    given = Given(strip)
    if all(_is_constant(strip, function, *each) for each in enumerate(node.arguments)):
        return given
    for index, argument in enumerate(node.arguments):
        parameter = function.parameter(index)
        try:
            if takes_the_rest(parameter):
                _take_rest(given, parameter, node.arguments[index:])
                break
            _take(given, function, index, argument)
        except Failure as failure:
            given.fail_all(Error(failure.code, failure.why, failure.origin))
        if given.is_lost:
            break
    return given


def _is_constant(strip: Rows, function: Function, index: int, node: tree.Node) -> bool:
    """Whether an argument is seen to be the same in all rows without being worked out."""
    takes = function.parameter(index).takes
    if takes in SINGLE:
        return isinstance(node, CONSTANT) and strip.stays(node, takes)
    return strip.stays(node, takes)


def _take(given: Given, function: Function, index: int, node: tree.Node) -> None:
    strip, parameter = given.strip, function.parameter(index)
    takes = parameter.takes
    if takes in SINGLE and takes is not Takes.ADDRESS:
        _take_single(given, takes, strip.single(node))
    elif strip.stays(node, takes):
        _keep(given, bound_one(parameter, node, strip.at(0)))
    elif takes is Takes.LATER and Trait.FITS in function.traits:
        is_list = (index - len(function.parameters) + 1) % 2 == 0
        if is_list or (may_refer(node) and not isinstance(node, CellReference)):
            raise Undecided
        _take_single(given, takes, strip.single(node))
    elif takes in _WINDOWS and function.traits.isdisjoint(_NEED_CELLS):
        _take_window(given, takes, node)
    else:
        raise Undecided


def _keep(given: Given, bound: Any) -> None:
    """Take in what is the same in all rows."""
    if not isinstance(bound, Iterator):
        given.arguments.append(bound)
        return
    try:
        given.arguments.append(_Again(bound))
    except Failure:
        # A function may never come to the value that is an error.
        given.direct = given.formed = False


def _take_window(given: Given, takes: Takes, node: tree.Node) -> None:
    seen = window(given.strip, node)
    if seen is None:
        raise Undecided
    given.varying += seen.cells
    form = None
    if takes is Takes.ARRAY:
        parts = [with_errors(cells) for cells in seen.cells]
        form = Beside(given.strip.height, parts, width=seen.width)
    elif takes is Takes.ORDERED:
        for cells in seen.cells:
            given.fail(cells)
    given.formed &= form is not None
    given.arguments.append(_Beside(seen.width, [(cells, False) for cells in seen.cells], form))


def _take_single(given: Given, takes: Takes, found: Cells | Value) -> None:
    one, many = _CONVERTED.get(takes, (lambda value: value, lambda cells: cells))
    if isinstance(found, Cells):
        cells = many(found)
        if takes in _CONVERTED:
            given.fail(cells)
        given.varying.append(cells)
        given.arguments.append(_Varying(cells))
        return
    value: Any = one(found)
    if isinstance(value, Error) and takes in _CONVERTED:
        given.fail_all(value)
    elif takes is Takes.LATER:
        given.arguments.append(lambda: value)
    else:
        given.arguments.append(int(value) if takes is Takes.WHOLE else value)


def _take_rest(given: Given, parameter: Parameter, nodes: tuple[tree.Node, ...]) -> None:
    strip = given.strip
    if all(strip.stays(node, parameter.takes) for node in nodes):
        _keep(given, bound_rest(parameter, nodes, strip.at(0)))
        return
    sources = [source for node in nodes for source in _sources(strip, node)]
    takes = parameter.takes
    sources = [(_converted_if(takes, *source), source[1]) for source in sources]
    given.varying += [cells for cells, _ in sources]
    looked = [] if takes in _AS_THEY_ARE else [_looked_at(given, takes, c) for c, _ in sources]
    form: Any = Beside(strip.height, looked, [cells for cells, _ in sources])
    if takes is Takes.LOGICALS:
        form = [(numbers != 0, mask) for numbers, mask in looked]
    # The function itself takes totals of cells, which are read where they stand.
    given.direct &= takes not in (Takes.TOTALS, Takes.COUNTED)
    given.formed &= takes not in _AS_THEY_ARE
    given.arguments.append(_Beside(1, sources, form))


def _sources(strip: Rows, node: tree.Node) -> list[tuple[Cells, bool]]:
    """The cells of an argument, each with whether it is a value of the call itself."""
    if lifts(node, strip.values.named):
        raise Undecided
    if not may_refer(node):
        return [(strip.cells(node), True)]
    seen = window(strip, node)
    if seen is None:
        raise Undecided
    return [(cells, False) for cells in seen.cells]


def _converted_if(takes: Takes, cells: Cells, is_direct: bool) -> Cells:
    """Values of the call itself as what the function takes; cells as they are."""
    if not is_direct or takes in (Takes.COUNTED, *_AS_THEY_ARE):
        return cells
    return as_logicals(cells) if takes is Takes.LOGICALS else as_numbers(cells)


def _looked_at(given: Given, takes: Takes, cells: Cells) -> Part:
    """The numbers or conditions among cells, and where they are."""
    if takes is Takes.NUMBERS:
        # The function meets errors one after the other, and may refuse a number before.
        return with_errors(cells)
    if takes is not Takes.COUNTED:
        given.fail(cells)
    if cells.all_numbers:
        return cells.payload, None
    mask = cells.kinds == Kind.NUMBER
    if takes is Takes.LOGICALS:
        mask |= cells.kinds == Kind.LOGICAL
    return cells.payload, None if mask.all() else mask
