"""Functions of loans: what is paid each period, and what it comes to."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from dreieck.core.functions.interest import interest_where_nothing
from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import NUM


@function("PMT")
def _pmt(rate: float, periods: float, now: float, end: float = 0, early: float = 0) -> float:
    if periods == 0:
        raise Failure(NUM, "There has to be a period.")
    growth, paid = _grown(rate, periods, early)
    return -(now * growth + end) / paid


@function("FV")
def _fv(rate: float, periods: float, payment: float, now: float = 0, early: float = 0) -> float:
    growth, paid = _grown(rate, periods, early)
    return -(now * growth + payment * paid)


@function("PV")
def _pv(rate: float, periods: float, payment: float, end: float = 0, early: float = 0) -> float:
    growth, paid = _grown(rate, periods, early)
    return -(end + payment * paid) / growth


@function("NPER")
def _nper(rate: float, payment: float, now: float, end: float = 0, early: float = 0) -> float:
    if rate == 0:
        if payment == 0:
            raise Failure(NUM, "Without interest and payments nothing changes.")
        return -(now + end) / payment
    flow = payment * _at(rate, early) / rate
    if rate <= -1 or now + flow == 0 or (flow - end) / (now + flow) <= 0:
        raise Failure(NUM, "These payments never lead there.")
    return math.log((flow - end) / (now + flow)) / math.log1p(rate)


@function("RATE")
def _rate(
    periods: float,
    payment: float,
    now: float,
    end: float = 0,
    early: float = 0,
    guess: float = 0.1,
) -> float:
    if periods <= 0:
        raise Failure(NUM, "There has to be a period.")

    def worth(growth: NDArray[np.float64]) -> NDArray[np.float64]:
        # Seen from the end or from the start, so that nothing is too large.
        whole, rates = periods * growth, np.expm1(growth)
        paid = np.where(growth > 0, -np.expm1(-whole), np.expm1(whole)) / rates
        paid = np.where(growth == 0, periods, paid) * (1 + rates if early else 1.0)
        now_then = np.where(growth > 0, 1.0, np.exp(np.minimum(whole, 0.0)))
        end_then = np.where(growth > 0, np.exp(-np.maximum(whole, 0.0)), 1.0)
        return now * now_then + payment * paid + end * end_then

    return interest_where_nothing(worth, guess)


@function("IPMT")
def _ipmt(
    rate: float, period: float, periods: float, now: float, end: float = 0, early: float = 0
) -> float:
    if not 1 <= period < periods + 1:
        raise Failure(NUM, "The period lies between 1 and the number of periods.")
    if early and period == 1:
        return 0.0
    payment = _pmt(rate, periods, now, end, early)
    # What is still owed is what the payments to come are worth, which loses no digits.
    owed = _pv(rate, periods - period + 1, payment, end, early)
    return -owed * rate / _at(rate, early)


@function("PPMT")
def _ppmt(
    rate: float, period: float, periods: float, now: float, end: float = 0, early: float = 0
) -> float:
    interest = _ipmt(rate, period, periods, now, end, early)
    return _pmt(rate, periods, now, end, early) - interest


@function("CUMIPMT")
def _cumipmt(
    rate: float, periods: float, now: float, first: int, last: int, early: float
) -> float:
    paid = _pmt(rate, periods, now, 0, early) * (last - first + 1)
    return paid - _cumprinc(rate, periods, now, first, last, early)


@function("CUMPRINC")
def _cumprinc(
    rate: float, periods: float, now: float, first: int, last: int, early: float
) -> float:
    if rate <= 0 or now <= 0 or not 1 <= first <= last <= periods or early not in (0, 1):
        raise Failure(NUM, "Rate and loan are above 0, and the periods lie within the loan.")
    payment = _pmt(rate, periods, now, 0, early)
    before = now if first == 1 else _pv(rate, periods - first + 1, payment)
    return _pv(rate, periods - last, payment) - before


@function("EFFECT")
def _effect(nominal: float, parts: int) -> float:
    if nominal <= 0 or parts < 1:
        raise Failure(NUM, "The interest is above 0, and there is at least one part.")
    return math.expm1(parts * math.log1p(nominal / parts))


@function("NOMINAL")
def _nominal(effective: float, parts: int) -> float:
    if effective <= 0 or parts < 1:
        raise Failure(NUM, "The interest is above 0, and there is at least one part.")
    return parts * math.expm1(math.log1p(effective) / parts)


def _at(rate: float, early: float) -> float:
    return 1 + rate if early else 1.0


def _grown(rate: float, periods: float, early: float) -> tuple[float, float]:
    """What 1 grows to, and what payments of 1 in each period grow to."""
    if rate < -1:
        raise Failure(NUM, "Interest below -100 % has no meaning over parts of periods.")
    growth: float = (1 + rate) ** periods
    paid = math.expm1(periods * math.log1p(rate)) / rate if rate else periods
    return growth, paid * _at(rate, early)
