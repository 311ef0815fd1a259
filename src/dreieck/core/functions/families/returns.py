"""Functions of what payments are worth, and of the interest that they bear."""

from __future__ import annotations

import math
from collections.abc import Iterator

from dreieck.core.budget import spend
from dreieck.core.functions.interest import interest_where_nothing, worth_of
from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import DIV0, NUM


@function("NPV")
def _npv(rate: float, payments: Iterator[float]) -> float:
    if rate == -1:
        raise Failure(DIV0, "At an interest of -100 % nothing has a worth.")
    return math.fsum(each / (1 + rate) ** at for at, each in enumerate(payments, 1))


@function("IRR")
def _irr(payments: Iterator[float], guess: float = 0.1) -> float:
    flow = list(payments)
    return interest_where_nothing(worth_of(flow, range(len(flow))), guess)


@function("MIRR")
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


@function("XNPV")
def _xnpv(rate: float, payments: Iterator[float], dates: Iterator[float]) -> float:
    if rate <= -1:
        raise Failure(NUM, "Interest is above -100 %.")
    flow, years = _dated(payments, dates)
    pairs = zip(flow, years, strict=True)
    return math.fsum(each / (1 + rate) ** time for each, time in pairs)


@function("XIRR")
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
