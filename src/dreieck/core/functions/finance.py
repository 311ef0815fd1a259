"""Functions of money over time. What is paid is below 0, what is received above."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from dreieck.core.functions.registry import Failure, Takes, arg, function, optional, repeated
from dreieck.core.values import DIV0, NUM

_RATE = arg("rate", Takes.NUMBER, "the interest of one period")
_PERIODS = arg("periods", Takes.NUMBER, "how many periods")
_PAYMENT = arg("payment", Takes.NUMBER, "what is paid in each period")
_NOW = arg("now", Takes.NUMBER, "the worth at the start")
_END = optional("end", Takes.NUMBER, "the worth at the end; 0 if left out")
_EARLY = optional("early", Takes.NUMBER, "1 if payments come at the start of a period")
_COST = arg("cost", Takes.NUMBER, "what a thing costs")
_REST = arg("rest", Takes.NUMBER, "what it is worth in the end")
_LIFE = arg("life", Takes.NUMBER, "in how many periods")


@function(
    "PMT", "6.12.36", "The payment of each period for a loan.",
    _RATE, _PERIODS, _NOW, _END, _EARLY,
    words="the payment for {2} at {0} over {1} periods",
    example=("=ROUND(PMT(0.01,12,1000),2)", -88.85),
)  # fmt: skip
def _pmt(rate: float, periods: float, now: float, end: float = 0, early: float = 0) -> float:
    if periods == 0:
        raise Failure(NUM, "There has to be a period.")
    if rate == 0:
        return -(now + end) / periods
    growth: float = (1 + rate) ** periods
    return -(now * growth + end) * rate / ((growth - 1) * _at(rate, early))


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
    optional("guess", Takes.NUMBER, "where to begin looking; 0.1 if left out"),
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

    def left(rate: float) -> float:
        growth, paid = _grown(rate, periods, early)
        return now * growth + payment * paid + end

    return _root(left, guess)


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
    arg("payments", Takes.NUMBERS, "payments of each period, paid and received"),
    optional("guess", Takes.NUMBER, "where to begin looking; 0.1 if left out"),
    words="the interest that {0} bear",
    example=("=ROUND(IRR(E2:E4),4)", 0.1307),
)  # fmt: skip
def _irr(payments: Iterator[float], guess: float = 0.1) -> float:
    flow = list(payments)
    if not any(each > 0 for each in flow) or not any(each < 0 for each in flow):
        raise Failure(NUM, "Something has to be paid and something received.")
    return _root(lambda rate: math.fsum(v / (1 + rate) ** n for n, v in enumerate(flow)), guess)


@function(
    "SLN", "6.12.45", "What a thing loses in each period, evenly.",
    _COST, _REST, _LIFE,
    words="the even loss of {0} down to {1} over {2} periods",
    example=("=SLN(1000,100,5)", 180.0),
)  # fmt: skip
def _sln(cost: float, rest: float, life: float) -> float:
    if life == 0:
        raise Failure(NUM, "There has to be a period.")
    return (cost - rest) / life


@function(
    "SYD", "6.12.46", "What a thing loses in one period, falling evenly.",
    _COST, _REST, _LIFE, arg("period", Takes.NUMBER, "which period, counted from 1"),
    words="the loss of {0} down to {1} in period {3} of {2}",
    example=("=SYD(1000,100,5,1)", 300.0),
)  # fmt: skip
def _syd(cost: float, rest: float, life: float, period: float) -> float:
    _check_period(period, life)
    return (cost - rest) * (life + 1 - period) * 2 / (life * (life + 1))


@function(
    "DDB", "6.12.14", "What a thing loses in one period, in proportion to its worth.",
    _COST, _REST, _LIFE, arg("period", Takes.NUMBER, "which period, counted from 1"),
    optional("factor", Takes.NUMBER, "2 if left out"),
    words="the proportional loss of {0} down to {1} in period {3} of {2}",
    example=("=DDB(1000,100,5,2)", 240.0),
)  # fmt: skip
def _ddb(cost: float, rest: float, life: float, period: float, factor: float = 2) -> float:
    _check_period(period, life)
    if cost < 0 or rest < 0 or factor <= 0:
        raise Failure(NUM, "Cost and rest are 0 or more, the factor above 0.")
    rate = min(factor / life, 1.0)
    before: float = max(cost * (1 - rate) ** (period - 1), rest)
    after: float = max(cost * (1 - rate) ** period, rest)
    return max(before - after, 0.0)


def _at(rate: float, early: float) -> float:
    return 1 + rate if early else 1.0


def _grown(rate: float, periods: float, early: float) -> tuple[float, float]:
    """What 1 grows to, and what payments of 1 in each period grow to."""
    if rate < -1:
        raise Failure(NUM, "Interest below -100 % has no meaning over parts of periods.")
    growth: float = (1 + rate) ** periods
    paid: float = periods if abs(rate) < 1e-12 else (growth - 1) / rate
    return growth, paid * _at(rate, early)


def _check_period(period: float, life: float) -> None:
    if life <= 0 or not 1 <= period <= life:
        raise Failure(NUM, "The period lies between 1 and the life of the thing.")


def _root(value: Callable[[float], float], guess: float) -> float:
    """A rate above -1 at which ``value`` is 0, looked for from ``guess`` (secant steps)."""
    before, here = guess, guess * 1.01 + 1e-4
    try:
        at_before = value(before)
        for _ in range(200):
            at_here = value(here)
            if abs(at_here) < 1e-11 or at_here == at_before:
                break
            step = at_here * (here - before) / (at_here - at_before)
            before, at_before = here, at_here
            here = max(here - step, (here - 1) / 2)
            if abs(here - before) <= 1e-14 * max(1.0, abs(here)):
                break
        if abs(value(here)) < 1e-6 * max(1.0, abs(value(0.0))):
            return here
    except (OverflowError, ZeroDivisionError):
        pass
    raise Failure(NUM, "No interest was found; try another guess.")
