"""Functions of chance: how probable a number is, and which number belongs to a probability."""

from __future__ import annotations

import math
from decimal import Decimal
from statistics import NormalDist

from dreieck.core.budget import spend
from dreieck.core.functions.registry import Failure, also, function
from dreieck.core.values import NUM

_NORMAL = NormalDist()


def _normal(mean: float, deviation: float) -> NormalDist:
    if deviation <= 0:
        raise Failure(NUM, "The deviation has to be above 0.")
    return NormalDist(mean, deviation)


def _placed(distribution: NormalDist, probability: float) -> float:
    if not 0 < probability < 1:
        raise Failure(NUM, "The probability has to lie between 0 and 1, both left out.")
    return distribution.inv_cdf(probability)


@function("NORMDIST")
def _normdist(number: float, mean: float, deviation: float, up_to: bool = True) -> float:
    distribution = _normal(mean, deviation)
    return _up_to(distribution, number) if up_to else distribution.pdf(number)


@function("NORMINV")
def _norminv(probability: float, mean: float, deviation: float) -> float:
    return _placed(_normal(mean, deviation), probability)


@function("NORMSDIST")
def _normsdist(number: float) -> float:
    return _up_to(_NORMAL, number)


@function("NORMSINV")
def _normsinv(probability: float) -> float:
    return _placed(_NORMAL, probability)


@function("CONFIDENCE")
def _confidence(error: float, deviation: float, size: float) -> float:
    if not 0 < error < 1 or deviation <= 0 or size < 1:
        raise Failure(NUM, "The error lies between 0 and 1; deviation and size are above 0.")
    return _NORMAL.inv_cdf(1 - error / 2) * deviation / math.sqrt(math.floor(size))


@function("BINOMDIST")
def _binomdist(successes: int, trials: int, probability: float, up_to: bool) -> float:
    if not 0 <= successes <= trials or not 0 <= probability <= 1:
        raise Failure(NUM, "Successes lie between 0 and the trials, the probability up to 1.")
    # This takes long to load, and few need it.
    from scipy import special  # noqa: PLC0415

    if up_to:
        return float(special.bdtr(successes, trials, probability))
    failures = trials - successes
    if trials <= _FEW:
        spend(trials)
        chance = Decimal(probability)
        count = Decimal(math.comb(trials, successes))
        return float(count * _power(chance, successes) * _power(1 - chance, failures))
    ways = math.lgamma(trials + 1) - math.lgamma(successes + 1) - math.lgamma(failures + 1)
    powers = special.xlogy(successes, probability) + special.xlog1py(failures, -probability)
    return math.exp(ways + powers)


def _power(base: Decimal, exponent: int) -> Decimal:
    return base**exponent if exponent else Decimal(1)


_FEW = 5000
"""For so few trials or events the probability is worked out to the last digit."""


@function("POISSON")
def _poisson(events: int, expected: float, up_to: bool) -> float:
    if events < 0 or expected < 0:
        raise Failure(NUM, "Events and what is expected are 0 or more.")
    from scipy import special  # noqa: PLC0415

    if up_to:
        return float(special.pdtr(events, expected))
    if events <= _FEW:
        spend(events)
        exact = Decimal(expected)
        return float(_power(exact, events) * (-exact).exp() / math.factorial(events))
    logarithm = float(special.xlogy(events, expected)) - expected - math.lgamma(events + 1)
    return math.exp(logarithm)


def _up_to(distribution: NormalDist, number: float) -> float:
    """The probability of a number or less; exact far below the middle as well."""
    return 0.5 * math.erfc((distribution.mean - number) / distribution.stdev / math.sqrt(2))


@function("NORM.S.DIST")
def _standard_normal(number: float, up_to: bool = True) -> float:
    return _normdist(number, 0.0, 1.0, up_to)


@function("CONFIDENCE.T")
def _confidence_of_few(error: float, deviation: float, size: float) -> float:
    if not 0 < error < 1 or deviation <= 0 or size < 2:
        raise Failure(NUM, "The error lies between 0 and 1, the deviation above 0; two numbers.")
    from scipy import special  # noqa: PLC0415

    count = math.floor(size)
    return float(special.stdtrit(count - 1, 1 - error / 2)) * deviation / math.sqrt(count)


also("NORMDIST", "NORM.DIST")
also("NORMINV", "NORM.INV")
also("NORMSINV", "NORM.S.INV")
also("CONFIDENCE", "CONFIDENCE.NORM")
also("BINOMDIST", "BINOM.DIST")
also("POISSON", "POISSON.DIST")
