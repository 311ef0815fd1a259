"""Functions of what a thing loses over time."""

from __future__ import annotations

import math

from dreieck.core.budget import spend
from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import NUM, rounded


@function("SLN")
def _sln(cost: float, rest: float, life: float) -> float:
    if life == 0:
        raise Failure(NUM, "There has to be a period.")
    return (cost - rest) / life


@function("SYD")
def _syd(cost: float, rest: float, life: float, period: float) -> float:
    _check_period(period, life)
    return (cost - rest) * (life + 1 - period) * 2 / (life * (life + 1))


@function("DDB")
def _ddb(cost: float, rest: float, life: float, period: float, factor: float = 2) -> float:
    _check_period(period, life)
    if cost < 0 or rest < 0 or factor <= 0:
        raise Failure(NUM, "Cost and rest are 0 or more, the factor above 0.")
    rate = min(factor / life, 1.0)
    before: float = max(cost * (1 - rate) ** (period - 1), rest)
    after: float = max(cost * (1 - rate) ** period, rest)
    return max(before - after, 0.0)


@function("DB")
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


@function("VDB")
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
