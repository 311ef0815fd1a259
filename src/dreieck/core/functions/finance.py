"""Functions of loans: what is paid each period, and what it comes to."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from dreieck.core.functions.interest import interest_where_nothing
from dreieck.core.functions.registry import Failure, Takes, arg, function, optional
from dreieck.core.values import NUM

_RATE = arg("rate", Takes.NUMBER, "the interest of one period")
_PERIODS = arg("periods", Takes.NUMBER, "how many periods")
_PERIOD = arg("period", Takes.NUMBER, "which period, counted from 1")
_PAYMENT = arg("payment", Takes.NUMBER, "what is paid in each period")
_NOW = arg("now", Takes.NUMBER, "the worth at the start")
_END = optional("end", Takes.NUMBER, "the worth at the end; 0 if left out")
_EARLY = optional("early", Takes.NUMBER, "1 if payments come at the start of a period")
_SPAN = (
    arg("from", Takes.WHOLE, "the first period, counted from 1"),
    arg("to", Takes.WHOLE, "the last period"),
    arg("early", Takes.NUMBER, "0, or 1 if payments come at the start of a period"),
)


@function(
    "PMT", "6.12.36", "The payment of each period for a loan.",
    _RATE, _PERIODS, _NOW, _END, _EARLY,
    words="the payment for {2} at {0} over {1} periods",
    example=("=ROUND(PMT(0.01,12,1000),2)", -88.85),
)  # fmt: skip
def _pmt(rate: float, periods: float, now: float, end: float = 0, early: float = 0) -> float:
    if periods == 0:
        raise Failure(NUM, "There has to be a period.")
    growth, paid = _grown(rate, periods, early)
    return -(now * growth + end) / paid


@function(
    "FV", "6.12.20", "What regular payments are worth in the end.",
    _RATE, _PERIODS, _PAYMENT,
    optional("now", Takes.NUMBER, "the worth at the start; 0 if left out"), _EARLY,
    words="the worth of payments of {2} at {0} after {1} periods",
    example=("=ROUND(FV(0.01,12,-100),2)", 1268.25),
)  # fmt: skip
def _fv(rate: float, periods: float, payment: float, now: float = 0, early: float = 0) -> float:
    growth, paid = _grown(rate, periods, early)
    return -(now * growth + payment * paid)


@function(
    "PV", "6.12.41", "What regular payments are worth now.",
    _RATE, _PERIODS, _PAYMENT, _END, _EARLY,
    words="the worth now of payments of {2} at {0} over {1} periods",
    example=("=ROUND(PV(0.01,12,-100),2)", 1125.51),
)  # fmt: skip
def _pv(rate: float, periods: float, payment: float, end: float = 0, early: float = 0) -> float:
    growth, paid = _grown(rate, periods, early)
    return -(end + payment * paid) / growth


@function(
    "NPER", "6.12.29", "How many periods it takes to pay a loan back.",
    _RATE, _PAYMENT, _NOW, _END, _EARLY,
    words="the periods to pay {2} back with {1} at {0}",
    example=("=ROUND(NPER(0.01,-100,1000),2)", 10.59),
)  # fmt: skip
def _nper(rate: float, payment: float, now: float, end: float = 0, early: float = 0) -> float:
    if rate == 0:
        if payment == 0:
            raise Failure(NUM, "Without interest and payments nothing changes.")
        return -(now + end) / payment
    flow = payment * _at(rate, early) / rate
    if rate <= -1 or now + flow == 0 or (flow - end) / (now + flow) <= 0:
        raise Failure(NUM, "These payments never lead there.")
    return math.log((flow - end) / (now + flow)) / math.log1p(rate)


@function(
    "RATE", "6.12.42", "The interest of one period of a loan.",
    _PERIODS, _PAYMENT, _NOW, _END, _EARLY,
    optional("guess", Takes.NUMBER, "near what it lies; 0.1 if left out"),
    words="the interest for {2} paid back with {1} over {0} periods",
    example=("=ROUND(RATE(12,-88.85,1000),4)", 0.01),
)  # fmt: skip
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


@function(
    "IPMT", "6.12.23", "The part of a payment that is interest.",
    _RATE, _PERIOD, _PERIODS, _NOW, _END, _EARLY,
    words="the interest in period {1} of {2} for {3} at {0}",
    example=("=ROUND(IPMT(0.01,1,12,1000),2)", -10.0),
)  # fmt: skip
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


@function(
    "PPMT", "6.12.37", "The part of a payment that pays the loan back.",
    _RATE, _PERIOD, _PERIODS, _NOW, _END, _EARLY,
    words="what is paid back in period {1} of {2} for {3} at {0}",
    example=("=ROUND(PPMT(0.01,1,12,1000),2)", -78.85),
)  # fmt: skip
def _ppmt(
    rate: float, period: float, periods: float, now: float, end: float = 0, early: float = 0
) -> float:
    interest = _ipmt(rate, period, periods, now, end, early)
    return _pmt(rate, periods, now, end, early) - interest


@function(
    "CUMIPMT", "6.12.11", "The interest paid over some periods.",
    _RATE, _PERIODS, _NOW, *_SPAN,
    words="the interest for {2} at {0} from period {3} to {4} of {1}",
    example=("=ROUND(CUMIPMT(0.01,12,1000,1,12,0),2)", -66.19),
)  # fmt: skip
def _cumipmt(
    rate: float, periods: float, now: float, first: int, last: int, early: float
) -> float:
    paid = _pmt(rate, periods, now, 0, early) * (last - first + 1)
    return paid - _cumprinc(rate, periods, now, first, last, early)


@function(
    "CUMPRINC", "6.12.12", "What is paid back over some periods.",
    _RATE, _PERIODS, _NOW, *_SPAN,
    words="what is paid back of {2} at {0} from period {3} to {4} of {1}",
    example=("=ROUND(CUMPRINC(0.01,12,1000,1,12,0),2)", -1000.0),
)  # fmt: skip
def _cumprinc(
    rate: float, periods: float, now: float, first: int, last: int, early: float
) -> float:
    if rate <= 0 or now <= 0 or not 1 <= first <= last <= periods or early not in (0, 1):
        raise Failure(NUM, "Rate and loan are above 0, and the periods lie within the loan.")
    payment = _pmt(rate, periods, now, 0, early)
    before = now if first == 1 else _pv(rate, periods - first + 1, payment)
    return _pv(rate, periods - last, payment) - before


@function(
    "EFFECT", "6.12.19", "What interest comes to in a year that is paid in several parts.",
    arg("nominal", Takes.NUMBER, "the interest of a year as it is called"),
    arg("parts", Takes.WHOLE, "in how many parts it is paid"),
    words="the effective interest of {0} in {1} parts",
    example=("=ROUND(EFFECT(0.12,12),4)", 0.1268),
)  # fmt: skip
def _effect(nominal: float, parts: int) -> float:
    if nominal <= 0 or parts < 1:
        raise Failure(NUM, "The interest is above 0, and there is at least one part.")
    return math.expm1(parts * math.log1p(nominal / parts))


@function(
    "NOMINAL", "6.12.28", "How interest is called that comes to so much in a year.",
    arg("effective", Takes.NUMBER, "what it comes to in a year"),
    arg("parts", Takes.WHOLE, "in how many parts it is paid"),
    words="the nominal interest of {0} in {1} parts",
    example=("=ROUND(NOMINAL(0.1268,12),4)", 0.12),
)  # fmt: skip
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
