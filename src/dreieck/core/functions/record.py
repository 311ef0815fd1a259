"""The record of a function: the guide, the suggestions, the calculation and the tests read it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from typing import Any

from dreieck.core.ranges.operands import Several, Table
from dreieck.core.values import Value

Result = Value | Table | Several

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
    SIZE = "a range, of which only the size counts"
    ARRAY = "a range, or a calculation with ranges"
    ORDERED = "a range of numbers, looked at in their order"
    ADDRESS = "an address in a text"
    LATER = "a value, worked out only if it is needed"


SINGLE = {Takes.NUMBER, Takes.WHOLE, Takes.TEXT, Takes.LOGICAL, Takes.VALUE, Takes.ADDRESS}
"""What makes a single value of a reference; others look at the range."""


class Trait(Enum):
    """What others need to know of a function that its parameters do not tell."""

    TELLS_PLACE = "its result is the number of a row, a column or a sheet, or how many there are"
    HERE = "it is handed the cell of its own formula first"
    LEVEL = "it gives the one cell of a range that is level with its own"
    MOVES_ALONG = "it gives something else in another cell though its references stay"
    READS_ELSEWHERE = "it reads what no reference tells, or the clock"
    SIZES_LIKE_FIRST = "its third range gets the size of the first one"
    GUARDS = "it looks whether its argument is an error"
    ASKS = "it asks what kind of value there is, or whether there is one"
    CHOOSES = "it gives one of its arguments"
    REFERS = "it gives the cells that it finds, not just what they hold"
    BINDS = "it gives names to parts of the formula"
    MANY = "it may give many values"
    FANNED = "it gives all cells that a formula fills"
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
    BESIDE = "a list in the place of what is sought in another one"
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
    lacks what many programs have. ``traits`` tell what others need to know. ``examples`` are
    formulas with the value that each gives on the sheet ``EXAMPLE_SHEET``, that of an error as
    its code. ``words`` says a call in plain words, ``{0}`` and ``{1}`` standing for arguments,
    ``{*}`` for all, ``{?0}`` for pairs of a range and its criterion; ``speech`` is a manner of
    its own beside them. ``gives`` is the number format of the result where the function implies
    one. ``later`` is its name in files of ISO/IEC 29500 where that standard lacks it.
    ``claim`` is what a statement of proofs claims of its cells, in short.
    ``at_once`` is the array form: what the function gives in all rows of a column.
    """

    name: str
    family: str
    purpose: str
    words: str
    parameters: tuple[Parameter, ...]
    examples: tuple[tuple[str, Value], ...]
    compute: Callable[..., Result]
    section: str = ""
    gives: str | None = None
    traits: frozenset[Trait] = frozenset()
    speech: Speech | None = None
    later: str = ""
    claim: str = ""
    at_once: Callable[..., Any] | None = None

    @property
    def way(self) -> Way:
        """How the function is worked out down a column."""
        if self.at_once:
            return Way.ARRAY
        return Way.ONE_BY_ONE if self.depends_on_place else Way.DISTINCT

    @property
    def depends_on_place(self) -> bool:
        """Whether equal arguments may lead to something else in another cell."""
        return not self.traits.isdisjoint(_OWN_IN_EACH_ROW)

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
