"""One record for each function: the guide, the suggestions and the tests read it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from typing import Any

from dreieck.core.ranges import Range
from dreieck.core.values import Place, Value

Result = Value | Range


class Takes(Enum):
    """What a parameter takes; arguments are converted to it before the call."""

    NUMBER = "a number"
    TEXT = "text"
    LOGICAL = "a condition"
    VALUE = "a value"
    NUMBERS = "numbers"
    VALUES = "values"
    LATER = "a value, worked out only if it is needed"


@dataclass(frozen=True, slots=True)
class Parameter:
    """One parameter of a function; a repeated one takes all further arguments."""

    name: str
    takes: Takes
    purpose: str
    optional: bool = False
    repeated: bool = False


@dataclass(frozen=True, slots=True)
class Function:
    """A function of the formula language.

    ``section`` is its section in OpenFormula (OpenDocument part 4). ``example`` is a
    formula without references and the value that it gives. ``words`` says a call in
    plain words, ``{0}`` and ``{1}`` standing for arguments, ``{*}`` for all.
    """

    name: str
    section: str
    purpose: str
    words: str
    parameters: tuple[Parameter, ...]
    example: tuple[str, Value]
    compute: Callable[..., Result]

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


class Failure(Exception):
    """Raised by a function that can only give an error value.

    ``origin`` is the cell where the error began, if that is another one.
    """

    def __init__(self, code: str, why: str, origin: Place | None = None) -> None:
        super().__init__(why)
        self.code = code
        self.why = why
        self.origin = origin


_FUNCTIONS: dict[str, Function] = {}


def function(
    name: str,
    section: str,
    purpose: str,
    *parameters: Parameter,
    words: str,
    example: tuple[str, Value],
) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """Register the decorated callable as a function of the formula language."""

    def register(compute: Callable[..., Any]) -> Callable[..., Any]:
        _FUNCTIONS[name] = Function(name, section, purpose, words, parameters, example, compute)
        return compute

    return register


def find(name: str) -> Function | None:
    """The function of this name in capitals."""
    return _FUNCTIONS.get(name)


def every() -> list[Function]:
    """All functions by name."""
    return sorted(_FUNCTIONS.values(), key=lambda function: function.name)
