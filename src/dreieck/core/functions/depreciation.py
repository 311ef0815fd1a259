"""Functions of what a thing loses over time."""

from __future__ import annotations

import math

from dreieck.core.budget import spend
from dreieck.core.functions.registry import Failure, Takes, arg, function, optional
from dreieck.core.values import NUM, rounded

_COST = arg("cost", Takes.NUMBER, "what a thing costs")
_REST = arg("rest", Takes.NUMBER, "what it is worth in the end")
_LIFE = arg("life", Takes.NUMBER, "in how many periods")
_PERIOD = arg("period", Takes.NUMBER, "which period, counted from 1")


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
    _COST, _REST, _LIFE, _PERIOD,
    words="the loss of {0} down to {1} in period {3} of {2}",
    example=("=SYD(1000,100,5,1)", 300.0),
)  # fmt: skip
def _syd(cost: float, rest: float, life: float, period: float) -> float:
    _check_period(period, life)
    return (cost - rest) * (life + 1 - period) * 2 / (life * (life + 1))


@function(
    "DDB", "6.12.14", "What a thing loses in one period, in proportion to its worth.",
    _COST, _REST, _LIFE, _PERIOD,
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


@function(
    "DB", "6.12.13", "What a thing loses in one period, at a rate rounded to three decimals.",
    _COST, _REST, _LIFE, _PERIOD,
    optional("months", Takes.NUMBER, "of the first year; 12 if left out"),
    words="the loss of {0} down to {1} in period {3} of {2}, at a fixed rate",
    example=("=DB(1000,100,5,1)", 369.0),
)  # fmt: skip
def _db(cost: float, rest: float, life: float, period: float, months: float = 12) -> float:
    if cost <= 0 or rest < 0 or life <= 0 or not 1 <= months <= 12:
        raise Failure(NUM, "Cost and life are above 0, the months lie between 1 and 12.")
    if not 1 <= period <= life + (months < 12):
        raise Failure(NUM, "The period lies between 1 and the life of the thing.")
    rate = rounded(1 - (rest / cost) ** (1 / life), 3)
    first = cost * rate * months / 12
    if period == 1:
        return first
    before = (cost - first) * (1 - rate) ** (period - 2)
    share = (12 - months) / 12 if period > life else 1.0
    return float(before * rate * share)


@function(
    "VDB", "6.12.50", "What a thing loses between two times, in proportion, later evenly.",
    _COST, _REST, _LIFE,
    arg("from", Takes.NUMBER, "the time of the beginning, in periods from 0"),
    arg("to", Takes.NUMBER, "the time of the end"),
    optional("factor", Takes.NUMBER, "2 if left out"),
    optional("stay", Takes.LOGICAL, "TRUE: never go over to an even loss"),
    words="the loss of {0} down to {1} from {3} to {4} of {2}",
    example=("=VDB(1000,100,5,0,2)", 640.0),
)  # fmt: skip
def _vdb(
    cost: float,
    rest: float,
    life: float,
    begin: float,
    end: float,
    factor: float = 2,
    stay: bool = False,
) -> float:
    if cost < 0 or rest < 0 or factor <= 0 or not 0 <= begin <= end <= life or life == 0:
        raise Failure(NUM, "The times lie between 0 and the life; the other numbers above 0.")
    lost = 0.0
    worth = cost
    evenly = False
    for period in range(math.ceil(end)):
        spend(1)
        # The last period of a life may be a part of one.
        left = max(worth - rest, 0.0)
        loss = min(worth * min(factor / life, 1.0), left)
        even = left / max(life - period, 1.0)
        evenly = evenly or (not stay and even > loss)
        loss = even if evenly else loss
        share = max(min(end, period + 1) - max(begin, period), 0.0)
        lost += loss * share
        worth -= loss
    return lost


def _check_period(period: float, life: float) -> None:
    if life <= 0 or not 1 <= period <= life:
        raise Failure(NUM, "The period lies between 1 and the life of the thing.")
