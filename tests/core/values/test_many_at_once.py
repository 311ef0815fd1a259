"""Many numbers at once give what each of them gives alone."""

import math

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.functions import Way, every, find
from dreieck.core.functions.record import Takes, Trait
from dreieck.core.values import rounded, rounded_towards
from dreieck.core.values.roundings import all_rounded, all_rounded_towards

halves = st.builds(
    lambda whole, places: (2 * whole + 1) / 2 / 10**places,
    st.integers(0, 10**7),
    st.integers(0, 6),
)
near = st.builds(np.nextafter, halves, st.sampled_from([0.0, 1e12])).map(float)
numbers = st.one_of(halves, near, st.floats(-1e12, 1e12), st.decimals(-9999, 9999, places=4))


@given(st.lists(st.tuples(numbers.map(float), st.integers(-6, 9)), min_size=1, max_size=50))
def test_numbers_are_rounded_as_their_texts_are(pairs):
    sizes, decimals = np.array([n for n, _ in pairs]), np.array([float(d) for _, d in pairs])
    for found, alone in (
        (all_rounded(sizes, decimals), rounded),
        (all_rounded_towards(sizes, decimals, away=True), _up),
        (all_rounded_towards(sizes, decimals, away=False), _down),
    ):
        for (number, places), result in zip(pairs, found.tolist(), strict=True):
            assert math.isnan(result) or result == alone(number, places)


def _up(number, places):
    return rounded_towards(number, places, away=True)


def _down(number, places):
    return rounded_towards(number, places, away=False)


def test_every_function_of_numbers_is_worked_out_for_all_rows_or_once_for_equal_ones():
    of_numbers = {Takes.NUMBER, Takes.WHOLE, Takes.NUMBERS, Takes.TOTALS, Takes.ORDERED}
    for function in every():
        takes = {parameter.takes for parameter in function.parameters}
        if takes and takes <= of_numbers and Trait.DRAWS not in function.traits:
            assert function.way is not Way.ONE_BY_ONE, function.name
    assert (
        find("ROUND").way is find("VLOOKUP").way is find("SUM").way is find("IF").way is Way.ARRAY
    )
    assert find("PMT").way is find("SUBSTITUTE").way is Way.DISTINCT
    assert find("RAND").way is find("OFFSET").way is Way.ONE_BY_ONE
