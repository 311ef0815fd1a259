"""One record for each function: the guide, the suggestions and the tests read it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import Enum
from typing import Any, Protocol, TypeVar

import numpy as np
from numpy.typing import NDArray

from dreieck.core.formula import tree
from dreieck.core.ranges.operands import Several, Table
from dreieck.core.sheet.cells import Cells, Payload
from dreieck.core.values import Error, Place, Value

Result = Value | Table | Several
Compute = TypeVar("Compute", bound=Callable[..., Result])
Form = TypeVar("Form", bound=Callable[..., Any])

EXAMPLE_SHEET = {
    "A1": "Item", "B1": "Weight", "C1": "Hut", "D1": "Price",
    "A2": "Flour", "B2": "50.4", "C2": "Kestrel", "D2": "0.95",
    "A3": "Lentils", "B3": "33.6", "C3": "Larch", "D3": "2.4",
    "A4": "Potatoes", "B4": "126", "C4": "Kestrel", "D4": "0.8",
    "A5": "Cheese", "B5": "25.2", "C5": "Scree", "D5": "14.5",
    "A7": "Hut", "A8": "Kestrel", "A10": "Item", "A11": "Cheese",
    "E1": "Flow", "E2": "-1000", "E3": "600", "E4": "600",
}  # fmt: skip
"""The sheet that the examples of functions read: made-up loads, payments, and criteria below."""


class Takes(Enum):
    """What a parameter takes; arguments are converted to it before the call."""

    NUMBER = "a number"
    WHOLE = "a whole number"
    TEXT = "text"
    LOGICAL = "a condition"
    VALUE = "a value of any kind"
    NUMBERS = "numbers or ranges"
    TOTALS = "numbers or ranges, as what they come to"
    COUNTED = "values or ranges, as what they come to"
    LOGICALS = "conditions or ranges"
    VALUES = "values or ranges"
    EVERY = "values or ranges, empty cells too"
    RANGE = "a range"
    AREAS = "a range, or several joined by ~"
    PLACE = "a range, of which only the place counts"
    ARRAY = "a range, or a calculation with ranges"
    ORDERED = "a range of numbers, looked at in their order"
    ADDRESS = "an address in a text"
    LATER = "a value, worked out only if it is needed"


class Trait(Enum):
    """What others need to know of a function that its parameters do not tell."""

    TELLS_PLACE = "its result is the number of a row, a column or a sheet, or how many there are"
    HERE = "it is handed the cell of its own formula first"
    MOVES_ALONG = "it gives something else in another cell though its references stay"
    READS_ELSEWHERE = "it reads what no reference tells, or the clock"
    SIZES_LIKE_FIRST = "its third range gets the size of the first one"
    GUARDS = "it looks whether its argument is an error"
    ASKS = "it asks what kind of value there is, or whether there is one"
    CHOOSES = "it gives one of its arguments"
    REFERS = "it gives the cells that it finds, not just what they hold"
    SUMMARISES = "it makes one value of many, text and empty cells left out"
    COUNTS = "it counts, so that empty cells are none the worse"
    COUNTS_ALL = "it counts or takes values of every kind"
    ADDS_UP = "what it leaves out because it is text makes the result too small"
    TOTALS = "what it gives is a total, which another one should not count again"
    SEARCHES = "it finds a value in a list, or its place there, which is the same for all"
    FITS = "it takes what fits criteria, so that its list may grow from landing to landing"
    SKIPS_ZEROS = "places where a factor is 0 do not count, such as those that are empty"
    IN_STEP = "its ranges belong together, row by row"
    NEAREST = "it takes its list as sorted unless its last argument says no"
    FEEDS = "it is handed the outside figures first"
    DRAWS = "it is handed a number drawn by chance first"
    LOOKS_INSIDE = "it looks at what cells hold, which their values do not tell"
    SEES_HIDDEN = "it may leave out hidden rows, which its references do not tell"
    MEANT = "the error that it gives is meant"


class Speech(Enum):
    """How a call is said that has a manner of its own, beside its words."""

    TABLE_DOWN = "a column of a table, by its number, in the row of what is sought"
    TABLE_ACROSS = "a row of a table, by its number, in the column of what is sought"
    ENTRY = "an entry of a list, in a line that may be sought"
    PLACE = "the place of what is sought, equal or near"
    SUBTOTAL = "a total of a kind that a number tells"
    RANK = "a place among others, from the largest one or the smallest"
    NEAREST = "a list in the last line where another one is at most what is sought"
    ALL_OF = "conditions with and between"
    ONE_OF = "conditions with or between"
    DENIES = "the opposite of a condition"
    BRANCHES = "a condition, and what it leads to"
    CASES = "conditions, each with what it leads to"
    SWITCHES = "a value, and what its cases lead to"
    IS_THERE = "something is in a list, if its place is asked"
    IS_MISSING = "something is not in a list, if its place is asked"
    IF_ERROR = "a value, or another one where it is an error"
    IF_MISSING = "a value, or another one where it is not available"


class Way(Enum):
    """How a function is worked out down a column."""

    ARRAY = "for all rows at once"
    DISTINCT = "once for each different set of arguments"
    ONE_BY_ONE = "row by row"


_OWN_IN_EACH_ROW = {
    Trait.HERE,
    Trait.DRAWS,
    Trait.MOVES_ALONG,
    Trait.READS_ELSEWHERE,
    Trait.LOOKS_INSIDE,
    Trait.FEEDS,
}


@dataclass(frozen=True, slots=True)
class Parameter:
    """One parameter of a function; a repeated one takes all further arguments.

    ``left_out`` says in words what holds where the argument is not given.
    """

    name: str
    takes: Takes
    purpose: str
    optional: bool = False
    repeated: bool = False
    left_out: str = "nothing"


@dataclass(frozen=True, slots=True)
class Function:
    """A function of the formula language.

    ``section`` is its section in OpenFormula (OpenDocument part 4), empty where the standard
    lacks what many programs have. ``traits`` tell what others need to know. ``example`` is a
    formula and the value that it gives on the sheet ``EXAMPLE_SHEET``. ``words`` says a
    call in plain words, ``{0}`` and ``{1}`` standing for arguments, ``{*}`` for all, ``{?0}``
    for pairs of a range and its criterion; ``speech`` is a manner of its own beside them.
    ``gives`` is the number format of the result where the function implies one.
    ``at_once`` is the array form: what the function gives in all rows of a column.
    """

    name: str
    section: str
    purpose: str
    words: str
    parameters: tuple[Parameter, ...]
    example: tuple[str, Value]
    compute: Callable[..., Result]
    gives: str | None = None
    traits: frozenset[Trait] = frozenset()
    speech: Speech | None = None
    at_once: Callable[..., Any] | None = None

    @property
    def way(self) -> Way:
        """How the function is worked out down a column."""
        if self.at_once:
            return Way.ARRAY
        return Way.ONE_BY_ONE if self.traits & _OWN_IN_EACH_ROW else Way.DISTINCT

    @property
    def family(self) -> str:
        """The module that the function is written in."""
        return self.compute.__module__.rpartition(".")[2]

    @property
    def least(self) -> int:
        """The least number of arguments."""
        return sum(not parameter.optional for parameter in self.parameters)

    @property
    def most(self) -> int | None:
        """The largest number of arguments, None where there is no limit."""
        if self.parameters and self.parameters[-1].repeated:
            return None
        return len(self.parameters)

    def parameter(self, index: int) -> Parameter:
        """The parameter that takes the argument ``index``, counted from 0."""
        return self.parameters[min(index, len(self.parameters) - 1)]


class Branches(Protocol):
    """A call that gives one of its arguments, in those rows that have no result yet.

    Masks tell of these rows; with each result that is given they become fewer. Rows that stay
    open at the end are worked out by the function itself.
    """

    @property
    def open(self) -> NDArray[np.intp]:
        """The rows that have no result yet, counted from 0."""

    @property
    def count(self) -> int:
        """How many arguments there are."""

    def values(self, number: int) -> Cells:
        """The values of an argument."""

    def conditions(self, number: int) -> NDArray[np.bool_]:
        """Whether an argument holds; where it is an error, that is the result."""

    def numbers(self, number: int) -> Payload:
        """An argument as numbers; where it is an error, that is the result."""

    def is_single(self, number: int) -> bool:
        """Whether an argument is a value or one cell, and no range."""

    def equal(self, cells: Cells, others: Cells) -> NDArray[np.bool_]:
        """Whether values are equal, as those of SWITCH are; errors equal nothing."""

    def put(self, which: NDArray[np.bool_], cells: Cells) -> None:
        """Give the results of some rows."""

    def give(self, number: int, which: NDArray[np.bool_]) -> None:
        """Give an argument as the result of some rows."""

    def give_rest(self, number: int) -> None:
        """Give an argument as the result of all rows that are left."""


class Failure(Exception):
    """Raised by a function that can only give an error value.

    ``origin`` is the cell where the error began, if that is another one.
    """

    def __init__(self, code: str, why: str, origin: Place | None = None) -> None:
        super().__init__(why)
        self.code = code
        self.why = why
        self.origin = origin

    @classmethod
    def of(cls, error: Error) -> Failure:
        """The failure that passes an error value on."""
        return cls(error.code, error.why, error.origin)


_FUNCTIONS: dict[str, Function] = {}


def function(
    name: str,
    section: str,
    purpose: str,
    *parameters: Parameter,
    words: str,
    example: tuple[str, Value],
    gives: str | None = None,
    traits: tuple[Trait, ...] = (),
    speech: Speech | None = None,
) -> Callable[[Compute], Compute]:
    """Register the decorated callable as a function of the formula language."""

    if name in _FUNCTIONS:
        raise ValueError(f"There are two functions {name}.")

    def register(compute: Compute) -> Compute:
        _FUNCTIONS[name] = Function(
            name, section, purpose, words, parameters, example, compute, gives,
            frozenset(traits), speech,
        )  # fmt: skip
        return compute

    return register


def at_once(*names: str) -> Callable[[Form], Form]:
    """Register the decorated callable as the array form of functions.

    It takes what the function takes, for all rows of a column: an array of numbers or of
    conditions in place of one, ``Cells`` in place of a value, ``Beside`` in place of numbers or
    totals. What is the same in all rows is handed over as it is to the function itself.
    It gives an array or ``Cells``; a row that is not finite, or pending, is worked out by the
    function itself, and so are all rows where it gives None.
    """

    def register(form: Form) -> Form:
        for name in names:
            _FUNCTIONS[name] = replace(_FUNCTIONS[name], at_once=form)
        return form

    return register


def arg(name: str, takes: Takes, purpose: str) -> Parameter:
    """A parameter that must be given."""
    return Parameter(name, takes, purpose)


def optional(name: str, takes: Takes, purpose: str, left_out: str = "nothing") -> Parameter:
    """A parameter that can be left out; then ``left_out`` holds."""
    return Parameter(name, takes, purpose, optional=True, left_out=left_out)


def repeated(name: str, takes: Takes, purpose: str) -> Parameter:
    """A parameter that takes all further arguments, at least one."""
    return Parameter(name, takes, purpose, repeated=True)


def find(name: str) -> Function | None:
    """The function of this name in capitals."""
    return _FUNCTIONS.get(name)


def has(name: str, *traits: Trait) -> bool:
    """Whether there is a function of this name in capitals that has one of some traits."""
    function = find(name)
    return function is not None and not function.traits.isdisjoint(traits)


def calls(node: tree.Node, *traits: Trait) -> bool:
    """Whether a formula calls a function that has one of some traits."""
    return any(
        isinstance(each, tree.Call) and has(each.function, *traits) for each in tree.walk(node)
    )


def every() -> list[Function]:
    """All functions by name."""
    return sorted(_FUNCTIONS.values(), key=lambda function: function.name)


def speech_of(name: str) -> Speech | None:
    """The manner in which calls of a function are said, if it has one of its own."""
    known = _FUNCTIONS.get(name)
    return known.speech if known else None
