"""Criteria, as in COUNTIF: a value, or text such as ``">=10"``, ``"<>x"`` or ``"Ke*"``.

The rules are those of OpenFormula 4.11.8; whole cells are compared and case does not count.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from functools import lru_cache

from dreieck.core.functions.wildcards import Wildcards, has_marks
from dreieck.core.ranges.index import key_of
from dreieck.core.values import Error, Value, compared
from dreieck.core.values.formats import read_number


@dataclass(frozen=True, slots=True)
class Criterion:
    """Tells whether a value fits.

    ``key`` is the one that fits where only one does, ``beyond`` an operator and a limit where
    numbers on one side of it do.
    """

    fits: Callable[[Value], bool]
    key: Hashable = None
    beyond: tuple[str, float] | None = None

    def __call__(self, value: Value) -> bool:
        """Whether a value fits."""
        return self.fits(value)


_OPERATOR = re.compile(r"(<>|<=|>=|=|<|>)?(.*)", re.DOTALL)


@lru_cache(maxsize=16_384, typed=True)
def criterion(wanted: Value) -> Criterion:
    """What fits a criterion. An empty one means the number 0."""
    if wanted is None:
        wanted = 0.0
    if not isinstance(wanted, str):
        return Criterion(lambda value: _same(value, wanted), key_of(wanted))
    match = _OPERATOR.fullmatch(wanted)
    assert match is not None  # the pattern takes every text
    operator, text = match[1], match[2]
    if not wanted:
        return Criterion(lambda value: value in (None, ""))
    if operator in (None, "="):
        return _equal(text)
    if operator == "<>":
        equal = _equal(text)
        return Criterion(lambda value: not equal(value))
    return _ordered(operator, _meant(text))


def _equal(text: str) -> Criterion:
    if not text:
        return Criterion(lambda value: value is None)
    meant = _meant(text)
    if not isinstance(meant, str):
        return Criterion(lambda value: _same(value, meant), key_of(meant))
    if not has_marks(meant):
        return Criterion(lambda value: _same(value, meant), key_of(meant))
    found = Wildcards(meant)
    return Criterion(lambda value: isinstance(value, str) and found.fit(value))


def _ordered(operator: str, meant: Value) -> Criterion:
    fits = {"<": (-1,), ">": (1,), "<=": (-1, 0), ">=": (0, 1)}[operator]
    return Criterion(
        lambda value: _alike(value, meant) and compared(value, meant) in fits,
        beyond=(operator, meant) if isinstance(meant, float) else None,
    )


def _same(value: Value, wanted: Value) -> bool:
    if isinstance(value, Error) or isinstance(wanted, Error):
        return isinstance(value, Error) and value == wanted
    return _alike(value, wanted) and compared(value, wanted) == 0


def _alike(value: Value, wanted: Value) -> bool:
    return value is not None and type(value) is type(wanted)


def _meant(text: str) -> Value:
    """The value that the text of a criterion stands for."""
    if text.upper() in ("TRUE", "FALSE"):
        return text.upper() == "TRUE"
    number = read_number(text)
    if number is not None:
        return number
    code = Error(text.upper())
    return code if text.startswith("#") else text
