"""Functions of many numbers, held against what they say and against known cases."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import filled, result, values, workbook

from dreieck.core.functions import find

lists = st.lists(st.integers(-1000, 1000).map(float), min_size=2, max_size=30)


@given(lists, st.floats(0, 1))
def test_the_rank_of_a_percentile_leads_back_to_it(numbers, part):
    found = find("PERCENTILE").compute(np.sort(numbers), part)
    assert min(numbers) <= found <= max(numbers)
    if len(set(numbers)) == len(numbers):
        rank = find("PERCENTRANK").compute(np.sort(numbers), found, 12)
        assert rank == pytest.approx(part, abs=1e-9)


def test_a_straight_line_is_found_where_numbers_lie_on_one():
    rows = {f"A{row}": str(row) for row in range(1, 9)}
    rows |= {f"B{row}": str(3 - row / 2) for row in range(1, 9)} | {"A9": "kg", "B9": "5"}
    for formula, value in (
        ("SLOPE(B1:B9,A1:A9)", -0.5), ("INTERCEPT(B1:B9,A1:A9)", 3.0), ("RSQ(B:B,A:A)", 1.0),
        ("FORECAST(20,B1:B9,A1:A9)", -7.0), ("CORREL(A1:A9,B1:B9)", -1.0),
        ("CORREL(A1:A8*2,B1:B8)", -1.0), ("COVAR(A1:A8,A1:A8)-VARP(A1:A8)", 0.0),
    ):  # fmt: skip
        assert result(f"={formula}", **rows) == pytest.approx(value)
    assert result("=SLOPE(B1:B8,A1:A7)", **rows) == "#N/A"
    assert result("=CORREL(A1:A1,B1:B1)", **rows) == "#DIV/0!"
    assert result("=SUMXMY2(A1:A2,{1;1/0})", **rows) == "#NAME?"


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ("=SKEW(3,4,5,2,3,4,5,6,4,7)", 0.359543071),
        ("=KURT(3,4,5,2,3,4,5,6,4,7)", -0.151799637),
        ("=SKEW(1,1,1)", "#DIV/0!"),
        ("=AVEDEV(4,5,6,7,5,4,3)", 1.020408163),
        ("=GEOMEAN(4,5,8,7,11,4,3)", 5.476986970),
        ("=GEOMEAN(4,0)", "#NUM!"),
        ("=HARMEAN(4,5,8,7,11,4,3)", 5.028375962),
        ("=TRIMMEAN({4,5,6,7,2,3,4,5,1,2,3},0.2)", 3.777777778),
        ("=PERCENTILE({1,2,3,4},0.3)", 1.9),
        ("=PERCENTILE({1,2},1.1)", "#NUM!"),
        ("=QUARTILE({1,2,4,7,8,9,10,12},1)", 3.5),
        ("=PERCENTRANK({13,12,11,8,4,3,2,1,1,1},5)", 0.583),
        ("=PERCENTRANK({1,2,3},4)", "#N/A"),
        ("=CONFIDENCE(0.05,2.5,50)", 0.692951912),
        ("=NORMDIST(42,40,1.5,TRUE)", 0.908788780),
        ("=NORMDIST(42,40,1.5,FALSE)", 0.109340050),
        ("=NORMSDIST(-10)", 7.61985302e-24),
        ("=NORMINV(0.908789,40,1.5)", 42.000002),
        ("=NORMSINV(1)", "#NUM!"),
        ("=BINOMDIST(6,10,0.5,FALSE)", 0.205078125),
        ("=BINOMDIST(6,10,0.5,TRUE)", 0.828125),
        ("=BINOMDIST(0,9000,0,FALSE)", 1.0),
        ("=BINOMDIST(11,10,0.5,TRUE)", "#NUM!"),
        ("=POISSON(2,5,TRUE)", 0.124652019),
        ("=POISSON(2,5,FALSE)", 0.084224337),
        ("=POISSON(0,0,FALSE)", 1.0),
        ("=AVERAGEA(TRUE,FALSE,4)", 5 / 3),
        ("=STANDARDIZE(42,40,1.5)", 4 / 3),
        ("=SUBTOTAL(12,{1})", "#VALUE!"),
        ("=SUBTOTAL(9,{1,2})", "#VALUE!"),
        ("=CONVERT(1,\"lbm\",\"kg\")", 0.45359237),
        ("=CONVERT(68,\"F\",\"C\")", 20.0),
        ("=CONVERT(-40,\"C\",\"F\")", -40.0),
        ("=CONVERT(1,\"km\",\"mi\")", 1 / 1.609344),
        ("=CONVERT(1,\"m3\",\"l\")", 1000.0),
        ("=CONVERT(1,\"cm3\",\"ml\")", 1.0),
        ("=CONVERT(1,\"kg\",\"l\")", "#N/A"),
        ("=CONVERT(1,\"stick\",\"m\")", "#N/A"),
    ],
)  # fmt: skip
def test_known_cases(formula, value):
    assert result(formula) == (pytest.approx(value, rel=1e-8) if type(value) is float else value)


@given(st.integers(0, 60), st.floats(0.01, 0.99))
def test_the_probabilities_of_all_numbers_of_successes_add_up(trials, chance):
    single = [find("BINOMDIST").compute(k, trials, chance, False) for k in range(trials + 1)]
    assert math.fsum(single) == pytest.approx(1.0, rel=1e-12)
    up_to = [find("BINOMDIST").compute(k, trials, chance, True) for k in range(trials + 1)]
    sums = [math.fsum(single[: k + 1]) for k in range(trials + 1)]
    assert up_to == pytest.approx(sums, rel=1e-9)


def test_a_subtotal_leaves_other_subtotals_out():
    rows = {"A1": "1", "A2": "2", "A3": "=SUBTOTAL(9,A1:A2)", "A4": "5", "A5": "=SUM(A1:A2)"}
    for kind, value in ((9, 11.0), (1, 2.75), (2, 4.0), (4, 5.0), (6, 30.0), (109, 11.0)):
        assert result(f"=SUBTOTAL({kind},A1:A5)", **rows) == value
    assert result("=SUBTOTAL(9,A1:A3~A4)", **rows) == 8.0
    assert result("=SUBTOTAL(9,A1:A2)", A1="=1/0") == "#DIV/0!"
    assert result("=SUBTOTAL(2,A1:A2)", A1="=1/0", A2="1") == 1.0


def test_numbers_by_chance_are_spread_evenly_and_stay():
    made = filled({}, A1_A400="=RAND()", B1_B400="=RANDBETWEEN(1,6)", C1_C400="=RAND()=RAND()")
    first = values(made, "A1:B400")
    assert first == values(made, "A1:B400")
    chances, dice = sorted(first[::2]), first[1::2]
    assert len(set(chances)) == 400 and chances[0] >= 0 and chances[-1] < 1
    assert max(abs(each - at / 400) for at, each in enumerate(chances)) < 0.1
    assert {dice.count(float(side)) // 30 for side in range(1, 7)} <= {1, 2}
    assert not any(values(made, "C1:C400"))
    made.seed += 1
    assert not set(values(made, "A1:A400")) & set(chances)
    assert result("=RANDBETWEEN(1.2,1.8)") == "#NUM!"
    two = workbook(Loads={"A1": "=RAND()"}, Season={"A1": "=RAND()"})
    assert values(two, "A1", "Loads") != values(two, "A1", "Season")
