"""Functions of chance: how probable a number is, and which number belongs to a probability."""

from __future__ import annotations

import math
from decimal import Decimal
from statistics import NormalDist

from dreieck.core.budget import spend
from dreieck.core.functions.registry import Failure, Takes, arg, function, optional
from dreieck.core.values import NUM

_MEAN = arg("mean", Takes.NUMBER, "the middle")
_SPREAD = arg("deviation", Takes.NUMBER, "the standard deviation, above 0")
_PROBABILITY = arg("probability", Takes.NUMBER, "between 0 and 1")
_UP_TO = arg("up_to", Takes.LOGICAL, "TRUE: this or less; FALSE: exactly this")
_NORMAL = NormalDist()


def _normal(mean: float, deviation: float) -> NormalDist:
    if deviation <= 0:
        raise Failure(NUM, "The deviation has to be above 0.")
    return NormalDist(mean, deviation)


def _placed(distribution: NormalDist, probability: float) -> float:
    if not 0 < probability < 1:
        raise Failure(NUM, "The probability has to lie between 0 and 1, both left out.")
    return distribution.inv_cdf(probability)


@function(
    "NORMDIST", "6.18.52", "How probable a number or less is, or how dense it is there.",
    arg("number", Takes.NUMBER, "what is asked about"), _MEAN, _SPREAD,
    optional("up_to", Takes.LOGICAL, "FALSE for the density; TRUE if left out", "true"),
    words="the normal probability of {0} about {1} with deviation {2}",
    example=("=NORMDIST(100,100,15,TRUE)", 0.5),
)  # fmt: skip
def _normdist(number: float, mean: float, deviation: float, up_to: bool = True) -> float:
    distribution = _normal(mean, deviation)
    return _up_to(distribution, number) if up_to else distribution.pdf(number)


@function(
    "NORMINV", "6.18.53", "The number that is not exceeded with a probability.",
    _PROBABILITY, _MEAN, _SPREAD,
    words="the number below which {0} of a normal spread about {1} with deviation {2} lie",
    example=("=NORMINV(0.5,100,15)", 100.0),
)  # fmt: skip
def _norminv(probability: float, mean: float, deviation: float) -> float:
    return _placed(_normal(mean, deviation), probability)


@function(
    "NORMSDIST", "6.18.54", "How probable a number or less is about 0 with deviation 1.",
    arg("number", Takes.NUMBER, "what is asked about"),
    words="the standard normal probability of {0}", example=("=ROUND(NORMSDIST(1.96),3)", 0.975),
)  # fmt: skip
def _normsdist(number: float) -> float:
    return _up_to(_NORMAL, number)


@function(
    "NORMSINV", "6.18.55", "The number that is not exceeded with a probability, about 0.",
    _PROBABILITY,
    words="the standard number below which {0} lie", example=("=ROUND(NORMSINV(0.975),2)", 1.96),
)  # fmt: skip
def _normsinv(probability: float) -> float:
    return _placed(_NORMAL, probability)


@function(
    "CONFIDENCE", "6.18.16", "How far a mean may lie off, with a probability to be wrong.",
    arg("error", Takes.NUMBER, "the probability to be wrong, such as 0.05"), _SPREAD,
    arg("size", Takes.NUMBER, "how many numbers the mean is of"),
    words="how far the mean of {2} may lie off",
    example=("=ROUND(CONFIDENCE(0.05,1,100),3)", 0.196),
)  # fmt: skip
def _confidence(error: float, deviation: float, size: float) -> float:
    if not 0 < error < 1 or deviation <= 0 or size < 1:
        raise Failure(NUM, "The error lies between 0 and 1; deviation and size are above 0.")
    return _NORMAL.inv_cdf(1 - error / 2) * deviation / math.sqrt(math.floor(size))


@function(
    "BINOMDIST", "6.18.10", "How probable so many successes are.",
    arg("successes", Takes.WHOLE, "how many"), arg("trials", Takes.WHOLE, "of how many"),
    arg("probability", Takes.NUMBER, "of one success"), _UP_TO,
    words="the probability of {0} successes in {1} trials at {2} each",
    example=("=BINOMDIST(2,4,0.5,FALSE)", 0.375),
)  # fmt: skip
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


@function(
    "POISSON", "6.18.62", "How probable so many events are where some are expected.",
    arg("events", Takes.WHOLE, "how many"), arg("expected", Takes.NUMBER, "how many on average"),
    _UP_TO,
    words="the probability of {0} events where {1} are expected",
    example=("=ROUND(POISSON(2,3,FALSE),4)", 0.224),
)  # fmt: skip
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
