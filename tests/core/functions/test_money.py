"""Functions of money: what is worked out one way is found again the other way."""

from itertools import pairwise

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from tables import result

from dreieck.core.functions import Failure, find

rates = st.floats(-0.02, 0.3).map(lambda rate: round(rate, 5))
periods = st.integers(2, 480)
loans = st.integers(100, 10**6).map(float)
early = st.sampled_from([0.0, 1.0])


def compute(name, *arguments):
    return find(name).compute(*arguments)


@given(rates, periods, loans, st.sampled_from([0.0, -5000.0]), early)
def test_the_rate_of_a_loan_is_found_again(rate, count, loan, end, early):
    payment = compute("PMT", rate, count, loan, end, early)
    found = compute("RATE", count, payment, loan, end, early, rate)
    assert found == pytest.approx(rate, rel=1e-7, abs=1e-9)


@given(rates, periods, loans, early)
def test_every_payment_is_interest_and_what_is_paid_back(rate, count, loan, early):
    payment = compute("PMT", rate, count, loan, 0, early)
    parts = [
        (compute("IPMT", rate, at, count, loan, 0, early),
         compute("PPMT", rate, at, count, loan, 0, early))
        for at in (1, count // 2 + 1, count)
    ]  # fmt: skip
    assert [a + b for a, b in parts] == pytest.approx([payment] * 3)
    assume(rate > 0)
    first, last = count // 3 + 1, count // 2 + 1
    paid_back = sum(
        compute("PPMT", rate, at, count, loan, 0, early) for at in range(first, last + 1)
    )
    together = compute("CUMPRINC", rate, count, loan, first, last, early)
    assert together == pytest.approx(paid_back, abs=1e-9 * loan)
    interest = payment * (last - first + 1) - paid_back
    assert compute("CUMIPMT", rate, count, loan, first, last, early) == pytest.approx(
        interest, abs=1e-6 * loan
    )


flows = st.lists(st.integers(-5000, 5000).map(float), min_size=2, max_size=30)


@given(flows, st.floats(-0.5, 1.0))
def test_at_the_interest_found_payments_are_worth_nothing(flow, guess):
    both = min(flow) < 0 < max(flow)
    days = [46082.0 + 31 * at for at in range(len(flow))]
    for name, given_flow in (("IRR", (flow,)), ("XIRR", (flow, days))):
        try:
            rate = compute(name, *(iter(each) for each in given_flow), guess)
        except Failure as refusal:
            assert not both or "no interest" in refusal.why
            continue
        times = range(len(flow)) if name == "IRR" else [(day - days[0]) / 365 for day in days]
        if rate < -0.99:
            continue  # 1 + rate has too few digits there
        worth = [paid / (1 + rate) ** at for paid, at in zip(flow, times, strict=True)]
        assert abs(sum(worth)) <= 1e-7 * sum(map(abs, worth))
    changes = sum(a * b < 0 for a, b in pairwise(flow))
    if changes % 2 and all(flow):
        compute("IRR", iter(flow), guess)


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ("=RATE(48,-128.17,913.36,0,1)", 0.163099848),
        ("=RATE(120,-100,900)", 0.111110752),
        ("=RATE(10,-100,1000)", 0.0),
        ("=RATE(10,-200,900,0,0,-1)", "#NUM!"),
        ("=RATE(10,100,900)", "#NUM!"),
        ("=IRR({-100,230,-132},0.05)", 0.1),
        ("=IRR({-100,230,-132},0.3)", 0.2),
        ("=ROUND(IRR({-100,220,-121}),6)", 0.1),
        ("=ROUND(IRR({-1000,2020.6,-1020.70605}),8)", 0.0105),
        ("=IRR({-100,220,-122})", "#NUM!"),
        ("=XIRR({-10000,2750,4250,3250,2750},{39448,39508,39751,39859,39904})", 0.373362535),
        ("=XIRR({-10000,2750},{39448,39447})", "#NUM!"),
        ("=XNPV(0.09,{-10000,2750,4250,3250,2750},{39448,39508,39751,39859,39904})", 2086.647602),
        ("=MIRR({-120000,39000,30000,21000,37000,46000},0.1,0.12)", 0.12609413),
        ("=MIRR({1,2},0.1,0.1)", "#DIV/0!"),
        ("=PMT(0.0000001,12,1200)", -100.000065),
        ("=IPMT(0.1/12,1,36,8000)", -66.666666667),
        ("=IPMT(0.1,4,3,8000)", "#NUM!"),
        ("=CUMIPMT(0.09/12,360,125000,13,24,0)", -11135.23213),
        ("=CUMPRINC(0.09/12,360,125000,13,24,0)", -934.107123),
        ("=CUMPRINC(0,12,1000,1,2,0)", "#NUM!"),
        ("=EFFECT(0.0525,4)", 0.053542667),
        ("=NOMINAL(EFFECT(0.07,12),12)", 0.07),
        ("=DB(1000000,100000,6,1,7)", 186083.333333),
        ("=DB(1000000,100000,6,7,7)", 15845.098474),
        ("=VDB(2400,300,10,0,0.875,1.5)", 315.0),
        ("=VDB(2400,300,10,6,10)", 329.1456),
        ("=VDB(2400,300,10,6,10,2,TRUE)", 329.1456),
        ("=VDB(2400,0,10,6,10,2,TRUE)", 2400 * (0.8**6 - 0.8**10)),
        ("=VDB(2400,0,10,0,10)", 2400.0),
        ("=VDB(2400,300,10,6,11)", "#NUM!"),
    ],
)
def test_known_cases(formula, value):
    assert result(formula) == (pytest.approx(value, rel=1e-8) if type(value) is float else value)


def test_what_a_thing_loses_over_its_life_is_what_it_cost_but_the_rest():
    for formula in ("SYD(1000,100,8,A1)", "DDB(1000,100,8,A1)"):
        years = [result(f"={formula}", A1=str(year)) for year in range(1, 9)]
        assert years == sorted(years, reverse=True)
        assert sum(years) <= 900 + 1e-9
    parts = [result(f"=VDB(1000,100,8,{year},{year + 1})") for year in range(8)]
    assert sum(parts) == pytest.approx(900.0)
