"""Where functions are registered and found: what computes them, with what their family tells.

A function is computed by a callable of its family's module; all else that is known of it stands
in the data file beside that module, see ``described``.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Protocol, TypeVar

import numpy as np
from numpy.typing import NDArray

from dreieck.core.formula import tree
from dreieck.core.functions.described import functions_of
from dreieck.core.functions.record import Function, Result, Speech, Trait
from dreieck.core.sheet.cells import Cells, Payload
from dreieck.core.values import Error, Place

Compute = TypeVar("Compute", bound=Callable[..., Result])
Form = TypeVar("Form", bound=Callable[..., Any])


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


_COMPUTED: dict[str, Callable[..., Result]] = {}
_AT_ONCE: dict[str, Callable[..., Any]] = {}
_FUNCTIONS: dict[str, Function] = {}


def function(name: str) -> Callable[[Compute], Compute]:
    """Register the decorated callable as what computes a function of its module's family.

    Raises ValueError where the function has one.
    """
    if name in _COMPUTED:
        raise ValueError(f"There are two functions {name}.")

    def register(compute: Compute) -> Compute:
        _COMPUTED[name] = compute
        return compute

    return register


def at_once(*names: str) -> Callable[[Form], Form]:
    """Register the decorated callable as the array form of functions.

    It takes what the function takes, for all rows of a column: an array of numbers or of
    conditions in place of one, ``Cells`` in place of a value, ``Beside`` in place of numbers or
    totals. What is the same in all rows is handed over as it is to the function itself.
    It gives an array or ``Cells``; a row that is not finite, or pending, is worked out by the
    function itself, and so are all rows where it gives None. Raises ValueError for a function
    that is not registered, or has such a form.
    """
    if wrong := [each for each in names if each not in _COMPUTED or each in _AT_ONCE]:
        raise ValueError(f"Of none or of two array forms: {', '.join(wrong)}.")

    def register(form: Form) -> Form:
        _AT_ONCE.update(dict.fromkeys(names, form))
        return form

    return register


def also(name: str, *others: str) -> None:
    """Register further names of a function of the same family, as later programs have them.

    Raises ValueError for a function that is not registered, or a name that is taken.
    """
    if wrong := [each for each in others if each in _COMPUTED]:
        raise ValueError(f"There are two functions {wrong[0]}.")
    if name not in _COMPUTED:
        raise ValueError(f"There is no function {name} to be called otherwise.")
    for each in others:
        _COMPUTED[each] = _COMPUTED[name]
        if name in _AT_ONCE:
            _AT_ONCE[each] = _AT_ONCE[name]


def find(name: str) -> Function | None:
    """The function of this name in capitals.

    Raises ValueError where the family's file and its module do not tell of the same functions.
    """
    found = _FUNCTIONS.get(name)
    if found is None and name in _COMPUTED:
        # A family is read when it is needed: commands that calculate nothing start sooner.
        family = _COMPUTED[name].__module__
        of_it = {each: it for each, it in _COMPUTED.items() if it.__module__ == family}
        _FUNCTIONS.update(functions_of(family, of_it, _AT_ONCE))
        found = _FUNCTIONS[name]
    return found


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
    return [found for name in sorted(_COMPUTED) if (found := find(name))]


def speech_of(name: str) -> Speech | None:
    """The manner in which calls of a function are said, if it has one of its own."""
    known = find(name)
    return known.speech if known else None
