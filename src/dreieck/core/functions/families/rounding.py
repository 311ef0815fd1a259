"""Functions that round."""

from __future__ import annotations

import math

import numpy as np

from dreieck.core.functions.one_number import of_one
from dreieck.core.functions.registry import Failure, at_once, function
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import NUM, rounded, rounded_towards
from dreieck.core.values.roundings import Numbers, all_rounded, all_rounded_towards


def _next(number: float, *, odd: bool) -> float:
    size = math.ceil(abs(number))
    if size % 2 != odd:
        size += 1
    return math.copysign(size, number) if number else float(odd)


def _even_in_rows(number: Payload) -> Payload:
    size = np.ceil(np.abs(number))
    return np.where(number == 0, 0.0, np.copysign(size + size % 2, number))


def _odd_in_rows(number: Payload) -> Payload:
    size = np.ceil(np.abs(number))
    return np.where(number == 0, 1.0, np.copysign(size + (size % 2 == 0), number))


of_one(__name__, "INT", lambda n: float(math.floor(n)), np.floor)
of_one(__name__, "EVEN", lambda n: _next(n, odd=False), _even_in_rows)
of_one(__name__, "ODD", lambda n: _next(n, odd=True), _odd_in_rows)


@function("ROUND")
def _round(number: float, decimals: int = 0) -> float:
    return rounded(number, decimals)


at_once("ROUND")(all_rounded)


@function("ROUNDUP")
def _roundup(number: float, decimals: int = 0) -> float:
    return rounded_towards(number, decimals, away=True)


@at_once("ROUNDUP")
def _roundup_in_rows(number: Numbers, decimals: Numbers = 0.0) -> Payload:
    return all_rounded_towards(number, decimals, away=True)


@function("ROUNDDOWN")
def _rounddown(number: float, decimals: int = 0) -> float:
    return rounded_towards(number, decimals, away=False)


@function("TRUNC")
def _trunc(number: float, decimals: int = 0) -> float:
    return rounded_towards(number, decimals, away=False)


@at_once("ROUNDDOWN", "TRUNC")
def _rounddown_in_rows(number: Numbers, decimals: Numbers = 0.0) -> Payload:
    return all_rounded_towards(number, decimals, away=False)


def _multiple(number: float, step: float | None, mode: float, up: bool) -> float:
    """Round to a multiple of ``step``: up or down, or away from or to 0 if ``mode`` is not 0."""
    if step is None:
        step = -1.0 if number < 0 else 1.0
    if number == 0 or step == 0:
        return 0.0
    quotient = _quotient(number, step)
    away = up if mode else up == (number > 0)
    return step * float(math.ceil(quotient) if away else math.floor(quotient))


def _quotient(number: float, step: float) -> float:
    """How many steps a number has, without what a division leaves in the last digits."""
    if number * step < 0:
        raise Failure(NUM, "The number and the step have to have the same sign.")
    quotient = number / step
    if math.isinf(quotient):
        raise Failure(NUM, "The step is too small for the number.")
    return rounded(quotient, 12)


def _multiple_in_rows(number: Numbers, step: Numbers | None, mode: Numbers, up: bool) -> Payload:
    if step is None:
        step = np.where(np.less(number, 0), -1.0, 1.0)
    quotient = np.divide(number, step)
    nearest = np.rint(quotient)
    off = np.abs(quotient - nearest)
    # What a division leaves in the last digits is no part of a step.
    whole = off < 0.4e-12
    low, high = (
        np.where(whole, nearest, np.floor(quotient)),
        np.where(whole, nearest, np.ceil(quotient)),
    )
    away = np.where(np.not_equal(mode, 0), up, up == np.greater(number, 0))
    found = np.where(away, high, low) * step
    unsure = (np.multiply(number, step) < 0) | (~whole & (off < 0.6e-12))
    found = np.where(unsure, np.nan, found)
    return np.where(np.equal(number, 0) | np.equal(step, 0), 0.0, found)


@function("CEILING")
def _ceiling(number: float, step: float | None = None, mode: float = 0.0) -> float:
    return _multiple(number, step, mode, up=True)


@at_once("CEILING")
def _ceiling_in_rows(number: Numbers, step: Numbers | None = None, mode: Numbers = 0.0) -> Payload:
    return _multiple_in_rows(number, step, mode, up=True)


@function("FLOOR")
def _floor(number: float, step: float | None = None, mode: float = 0.0) -> float:
    return _multiple(number, step, mode, up=False)


@at_once("FLOOR")
def _floor_in_rows(number: Numbers, step: Numbers | None = None, mode: Numbers = 0.0) -> Payload:
    return _multiple_in_rows(number, step, mode, up=False)


@function("MROUND")
def _mround(number: float, step: float) -> float:
    if number == 0 or step == 0:
        return 0.0
    return step * rounded(_quotient(number, step), 0)


@at_once("MROUND")
def _mround_in_rows(number: Numbers, step: Numbers) -> Payload:
    quotient = np.divide(number, step)
    size = np.abs(quotient)
    off = size - np.floor(size) - 0.5
    found = step * np.copysign(np.floor(size) + (off > -0.4e-12), quotient)
    unsure = (np.multiply(number, step) < 0) | ((off < -0.4e-12) & (off > -0.6e-12))
    found = np.where(unsure, np.nan, found)
    return np.where(np.equal(number, 0) | np.equal(step, 0), 0.0, found)


@function("CEILING.MATH")
def _ceiling_of_any(number: float, step: float = 1.0, mode: float = 0.0) -> float:
    return _multiple(number, math.copysign(step, number), mode, up=True)


@function("FLOOR.MATH")
def _floor_of_any(number: float, step: float = 1.0, mode: float = 0.0) -> float:
    return _multiple(number, math.copysign(step, number), mode, up=False)
