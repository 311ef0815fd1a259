"""Functions of what payments are worth, and of the interest that they bear."""

from __future__ import annotations

import math
from collections.abc import Iterator

from dreieck.core.budget import spend
from dreieck.core.functions.interest import interest_where_nothing, worth_of
from dreieck.core.functions.registry import Failure, Takes, arg, function, optional, repeated
from dreieck.core.values import DIV0, NUM

_RATE = arg("rate", Takes.NUMBER, "the interest of one period")
_FLOW = arg("payments", Takes.NUMBERS, "payments of each period, paid and received")
_GUESS = optional("guess", Takes.NUMBER, "near what the interest lies; 0.1 if left out")
_DATED = (
    arg("payments", Takes.NUMBERS, "what is paid and received"),
    arg("dates", Takes.NUMBERS, "when, as many dates; the first one is now"),
)


@function(
    "NPV", "6.12.30", "What future payments are worth now.",
    _RATE, repeated("payments", Takes.NUMBERS, "payments at the end of each period"),
    words="the worth now of {*1} at {0}",
    example=("=ROUND(NPV(0.1,100,200),2)", 256.2),
)  # fmt: skip
def _npv(rate: float, payments: Iterator[float]) -> float:
    if rate == -1:
        raise Failure(DIV0, "At an interest of -100 % nothing has a worth.")
    return math.fsum(each / (1 + rate) ** at for at, each in enumerate(payments, 1))


@function(
    "IRR", "6.12.24", "The interest at which payments are worth nothing now.",
    _FLOW, _GUESS,
    words="the interest that {0} bear",
    example=("=ROUND(IRR(E2:E4),4)", 0.1307),
)  # fmt: skip
def _irr(payments: Iterator[float], guess: float = 0.1) -> float:
    flow = list(payments)
    return interest_where_nothing(worth_of(flow, range(len(flow))), guess)


@function(
    "MIRR", "6.12.27", "The interest of payments where what comes in is invested at another one.",
    _FLOW,
    arg("paid_at", Takes.NUMBER, "the interest of what is paid"),
    arg("invested_at", Takes.NUMBER, "the interest of what is received"),
    words="the interest that {0} bear at {1} and {2}",
    example=("=ROUND(MIRR(E2:E4,0.1,0.12),4)", 0.1278),
)  # fmt: skip
def _mirr(payments: Iterator[float], paid_at: float, invested_at: float) -> float:
    flow = list(payments)
    if paid_at <= -1 or invested_at <= -1:
        raise Failure(NUM, "Interest is above -100 %.")
    received = _now((max(each, 0.0) for each in flow), invested_at)
    paid = _now((min(each, 0.0) for each in flow), paid_at)
    if received == 0 or paid == 0:
        raise Failure(DIV0, "Something has to be paid and something received.")
    periods = len(flow) - 1
    return float((-received / paid) ** (1 / periods) * (1 + invested_at) - 1)


def _now(flow: Iterator[float], rate: float) -> float:
    """What payments of each period, from now on, are worth now."""
    worth = []
    for at, each in enumerate(flow):
        spend(1)
        worth.append(each / (1 + rate) ** at)
    return math.fsum(worth)


@function(
    "XNPV", "6.12.52", "What payments on dates are worth on the first of them.",
    arg("rate", Takes.NUMBER, "the interest of one year"), *_DATED,
    words="the worth of {1} on {2} at {0} a year",
    example=("=ROUND(XNPV(0.1,{-1000,1200},{46082,46447}),2)", 90.91),
)  # fmt: skip
def _xnpv(rate: float, payments: Iterator[float], dates: Iterator[float]) -> float:
    if rate <= -1:
        raise Failure(NUM, "Interest is above -100 %.")
    flow, years = _dated(payments, dates)
    pairs = zip(flow, years, strict=True)
    return math.fsum(each / (1 + rate) ** time for each, time in pairs)


@function(
    "XIRR", "6.12.51", "The interest of a year at which payments on dates are worth nothing.",
    *_DATED, _GUESS,
    words="the interest a year that {0} on {1} bear",
    example=("=ROUND(XIRR({-1000,1200},{46082,46447}),4)", 0.2),
)  # fmt: skip
def _xirr(payments: Iterator[float], dates: Iterator[float], guess: float = 0.1) -> float:
    return interest_where_nothing(worth_of(*_dated(payments, dates)), guess)


def _dated(payments: Iterator[float], dates: Iterator[float]) -> tuple[list[float], list[float]]:
    """Payments, and when they are made in years from the first date."""
    flow, days = list(payments), [math.floor(day) for day in dates]
    if len(flow) != len(days) or not flow:
        raise Failure(NUM, "There have to be as many dates as payments.")
    if min(days) < days[0]:
        raise Failure(NUM, "The first date has to be the earliest one.")
    return flow, [(day - days[0]) / 365 for day in days]
