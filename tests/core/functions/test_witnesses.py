"""Functions held against others that know nothing of ours: those of Python and its libraries."""

import calendar
import math
import statistics
from datetime import date, timedelta
from decimal import ROUND_DOWN, ROUND_HALF_UP, ROUND_UP, Decimal

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import result, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.grid import Cell
from dreieck.core.values.numerals import date_of

whole = st.integers(-999, 999)
halves = st.integers(-4000, 4000).map(lambda number: number / 4)
mixed = st.lists(st.one_of(halves, st.none(), st.sampled_from(["kg", "Tarn", True])), max_size=9)


def column(held):
    """Cells of column A as they would be typed."""
    told = {None: "", True: "TRUE"}
    return {
        f"A{row}": told.get(each, str(each)) if not isinstance(each, float) else repr(each)
        for row, each in enumerate(held, 1)
        if each is not None
    }


def product(numbers):
    return math.prod(numbers) if numbers else 0.0


def deviation(numbers):
    return statistics.stdev(numbers) if len(numbers) > 1 else "#DIV/0!"


def middle(numbers):
    return statistics.median(numbers) if numbers else "#NUM!"


def nth(order):
    def found(numbers):
        ordered = sorted(numbers, reverse=order < 0)
        return ordered[abs(order) - 1] if len(ordered) >= abs(order) else "#NUM!"

    return found


OF_NUMBERS = {
    "SUM(A1:A9)": math.fsum,
    "COUNT(A1:A9)": len,
    "AVERAGE(A1:A9)": lambda n: math.fsum(n) / len(n) if n else "#DIV/0!",
    "MAX(A1:A9)": lambda n: max(n, default=0.0),
    "MIN(A1:A9)": lambda n: min(n, default=0.0),
    "PRODUCT(A1:A9)": product,
    "MEDIAN(A1:A9)": middle,
    "SUMSQ(A1:A9)": lambda n: math.fsum(each * each for each in n),
    "STDEV(A1:A9)": deviation,
    "VARP(A1:A9)": lambda n: statistics.pvariance(n) if n else "#DIV/0!",
    "DEVSQ(A1:A9)": lambda n: statistics.pvariance(n) * len(n) if n else "#DIV/0!",
    "LARGE(A1:A9,2)": nth(-2),
    "SMALL(A1:A9,3)": nth(3),
    "SUMIF(A1:A9,\">0\")": lambda n: math.fsum(each for each in n if each > 0),
    "COUNTIF(A1:A9,\"<=10\")": lambda n: sum(each <= 10 for each in n),
    "SUMPRODUCT(A1:A9,A1:A9)": lambda n: math.fsum(each * each for each in n),
    "SUBTOTAL(9,A1:A9)": math.fsum,
    "SUBTOTAL(4,A1:A9)": lambda n: max(n, default=0.0),
}  # fmt: skip


@pytest.mark.parametrize("formula", OF_NUMBERS)
@given(mixed)
def test_a_list_gives_what_its_numbers_give_and_the_rest_is_left_out(formula, held):
    numbers = [float(each) for each in held if isinstance(each, float)]
    wanted = OF_NUMBERS[formula](numbers)
    found = result(f"={formula}", **column(held))
    assert found == (wanted if isinstance(wanted, str) else pytest.approx(wanted, rel=1e-12))


OF_ALL = {
    "COUNTA(A1:A9)": lambda held: sum(each is not None for each in held),
    "COUNTBLANK(A1:A9)": lambda held: 9 - sum(each is not None for each in held),
    "COUNTIF(A1:A9,\"KG\")": lambda held: held.count("kg"),
    "COUNTIF(A1:A9,\"<>Tarn\")": lambda held: 9 - held.count("Tarn"),
    "COUNTIF(A1:A9,TRUE)": lambda held: sum(each is True for each in held),
    "IFERROR(MATCH(\"tarn\",A1:A9,0),0)":
        lambda held: held.index("Tarn") + 1 if "Tarn" in held else 0,
}  # fmt: skip


@pytest.mark.parametrize("formula", OF_ALL)
@given(mixed)
def test_cells_are_counted_by_what_they_hold(formula, held):
    assert result(f"={formula}", **column(held)) == OF_ALL[formula](held)


def rounded(way):
    def found(number, digits):
        exact = Decimal(repr(number)).scaleb(digits)
        return float(exact.quantize(Decimal(1), way).scaleb(-digits))

    return found


def half_away(number, digits):
    return rounded(ROUND_HALF_UP)(number, digits)


OF_TWO = {
    "ROUND": half_away,
    "ROUNDUP": rounded(ROUND_UP),
    "ROUNDDOWN": rounded(ROUND_DOWN),
    "TRUNC": rounded(ROUND_DOWN),
}


@pytest.mark.parametrize("name", OF_TWO)
@given(st.integers(-99_999, 99_999).map(lambda number: number / 1000), st.integers(-2, 3))
def test_numbers_are_rounded_as_they_are_written(name, number, digits):
    assert result(f"={name}({number!r},{digits})") == pytest.approx(OF_TWO[name](number, digits))


OF_WHOLE = {
    "MOD({0},{1})": lambda a, b: math.fmod(a, b) + (b if math.fmod(a, b) * b < 0 else 0),
    "QUOTIENT({0},{1})": lambda a, b: math.trunc(Decimal(a) / b),
    "GCD(ABS({0}),ABS({1}))": math.gcd,
    "LCM(ABS({0}),ABS({1}))": math.lcm,
    "INT({0}/{1})": lambda a, b: a // b,
    "SIGN({0})*ABS({0})": lambda a, b: a,
    "POWER({0},2)+SQRT({1}^2)": lambda a, b: a * a + abs(b),
    "CEILING(ABS({0}),ABS({1}))": lambda a, b: math.ceil(Decimal(abs(a)) / abs(b)) * abs(b),
    "FLOOR(ABS({0}),ABS({1}))": lambda a, b: abs(a) // abs(b) * abs(b),
    "EVEN({0})": lambda a, b: a + (a % 2) * (1 if a > 0 else -1),
    "IF({0}>{1},MAX({0},{1}),MIN({0},{1}))": lambda a, b: a,
    "IF(ISODD({0}),1,0)": lambda a, b: a % 2,
    "IF(XOR({0}>0,{1}>0),1,0)": lambda a, b: (a > 0) != (b > 0),
}  # fmt: skip


@pytest.mark.parametrize("formula", OF_WHOLE)
@given(whole, whole.filter(bool))
def test_whole_numbers_are_taken_apart_and_compared(formula, a, b):
    assert result("=" + formula.format("A1", "A2"), A1=str(a), A2=str(b)) == OF_WHOLE[formula](
        a, b
    )


@given(st.integers(0, 12), st.integers(0, 12))
def test_ways_to_choose_are_counted(count, chosen):
    known = chosen <= count
    for name, witness in (("COMBIN", math.comb), ("PERMUT", math.perm)):
        found = result(f"={name}({count},{chosen})")
        assert found == (witness(count, chosen) if known else "#NUM!")
    assert result(f"=FACT({count})") == math.factorial(count)


words = st.text("aB cé-1", max_size=9)
places = st.integers(1, 10)
OF_TEXT = {
    "LEN({0})": lambda t, at, n: len(t),
    "LEFT({0},{2})": lambda t, at, n: t[:n],
    "RIGHT({0},{2})": lambda t, at, n: t[-n:] if n else "",
    "MID({0},{1},{2})": lambda t, at, n: t[at - 1 : at - 1 + n],
    "UPPER({0})": lambda t, at, n: t.upper(),
    "LOWER({0})": lambda t, at, n: t.lower(),
    "TRIM({0})": lambda t, at, n: " ".join(t.split()),
    "REPT({0},{2})": lambda t, at, n: t * n,
    "SUBSTITUTE({0},\"a\",\"xy\")": lambda t, at, n: t.replace("a", "xy"),
    "REPLACE({0},{1},{2},\"*\")": lambda t, at, n: t[: at - 1] + "*" + t[at - 1 + n :],
    "IFERROR(FIND(\"c\",{0}),0)": lambda t, at, n: t.find("c") + 1,
    "IFERROR(SEARCH(\"b\",{0}),0)": lambda t, at, n: t.lower().find("b") + 1,
    "EXACT({0},LOWER({0}))": lambda t, at, n: t == t.lower(),
    "{0}=UPPER({0})": lambda t, at, n: True,
    "CONCAT({0},{2},{0})": lambda t, at, n: f"{t}{n}{t}",
}  # fmt: skip


@pytest.mark.parametrize("formula", OF_TEXT)
@given(words, places, st.integers(0, 6))
def test_texts_are_cut_and_searched_character_by_character(formula, text, at, count):
    found = result("=" + formula.format(f'"{text}"', at, count))
    assert found == OF_TEXT[formula](text, at, count)


days = st.dates(date(1901, 1, 1), date(2099, 12, 31))


def later(day, months):
    year, month = divmod(day.year * 12 + day.month - 1 + months, 12)
    last = calendar.monthrange(year, month + 1)[1]
    return date(year, month + 1, min(day.day, last))


@given(days, st.integers(-40, 40))
def test_days_are_counted_as_the_calendar_has_them(day, months):
    held = {"A1": day.isoformat()}
    assert date_of(result("=A1", **held)) == day
    assert date_of(result(f"=DATE({day.year},{day.month},{day.day})")) == day
    assert date_of(result(f"=EDATE(A1,{months})", **held)) == later(day, months)
    end = later(day.replace(day=1), months + 1) - timedelta(1)
    assert date_of(result(f"=EOMONTH(A1,{months})", **held)) == end
    assert result("=YEAR(A1)*10000+MONTH(A1)*100+DAY(A1)", **held) == int(day.strftime("%Y%m%d"))
    assert result("=WEEKDAY(A1,2)", **held) == day.isoweekday()
    assert result("=WEEKDAY(A1)", **held) == day.isoweekday() % 7 + 1
    assert result("=ISOWEEKNUM(A1)", **held) == day.isocalendar().week
    assert date_of(result(f"=A1+{months}", **held)) == day + timedelta(months)


@given(days, st.integers(0, 60))
def test_working_days_leave_the_ends_of_weeks_out(day, count):
    held = {"A1": day.isoformat(), "A2": (day + timedelta(count)).isoformat()}
    between = [day + timedelta(step) for step in range(count + 1)]
    working = [each for each in between if each.isoweekday() < 6]
    assert result("=NETWORKDAYS(A1,A2)", **held) == len(working)
    assert result("=DAYS(A2,A1)", **held) == count
    steps = np.busday_offset(day, count, roll="backward").item() if count else day
    assert date_of(result(f"=WORKDAY(A1,{count})", **held)) == steps


@given(
    st.lists(st.integers(1, 5), min_size=1, max_size=9),
    st.lists(whole, min_size=9, max_size=9), st.integers(0, 6),
)  # fmt: skip
def test_a_key_is_looked_up_as_by_going_through_the_list(keys, held, wanted):
    cells = {f"A{row}": str(key) for row, key in enumerate(keys, 1)}
    cells |= {f"B{row}": str(number) for row, number in enumerate(held[: len(keys)], 1)}
    end = len(keys)
    first = keys.index(wanted) if wanted in keys else None
    for formula in (
        f"VLOOKUP({wanted},A1:B{end},2,FALSE)", f"INDEX(B1:B{end},MATCH({wanted},A1:A{end},0))",
    ):  # fmt: skip
        assert result(f"={formula}", **cells) == ("#N/A" if first is None else held[first])
    of_key = [number for key, number in zip(keys, held, strict=False) if key == wanted]
    assert result(f"=SUMIF(A1:A{end},{wanted},B1:B{end})", **cells) == sum(of_key)
    assert result(f"=COUNTIF(A1:A{end},{wanted})", **cells) == len(of_key)
    assert result(f"=MAXIFS(B1:B{end},A1:A{end},{wanted})", **cells) == max(of_key, default=0)
    upwards = {f"A{row}": str(key) for row, key in enumerate(sorted(keys), 1)}
    below = [key for key in keys if key <= wanted]
    found = result(f"=MATCH({wanted},A1:A{end},1)", **upwards)
    assert found == (len(below) if below else "#N/A")


@given(st.lists(halves, min_size=3, max_size=8, unique=True), st.data())
def test_places_in_an_order_are_those_of_the_sorted_list(numbers, data):
    held = column(numbers)
    each = data.draw(st.sampled_from(numbers))
    assert result(f"=RANK({each!r},A1:A8)", **held) == sorted(numbers)[::-1].index(each) + 1
    assert result(f"=RANK({each!r},A1:A8,1)", **held) == sorted(numbers).index(each) + 1
    part = data.draw(st.sampled_from([0, 0.25, 0.5, 0.9, 1]))
    wanted = float(np.percentile(numbers, part * 100))
    assert result(f"=PERCENTILE(A1:A8,{part})", **held) == pytest.approx(wanted)
    assert result("=QUARTILE(A1:A8,3)", **held) == pytest.approx(np.percentile(numbers, 75))


@given(
    st.lists(st.tuples(whole, whole), min_size=3, max_size=8, unique_by=lambda pair: pair[0]),
)  # fmt: skip
def test_a_line_through_points_is_that_of_least_squares(points):
    held = {f"A{row}": str(x) for row, (x, _) in enumerate(points, 1)}
    held |= {f"B{row}": str(y) for row, (_, y) in enumerate(points, 1)}
    slope, begin = np.polyfit(*zip(*points, strict=True), 1)
    end = len(points)
    made = workbook(Loads=held | {
        "D1": f"=SLOPE(B1:B{end},A1:A{end})", "D2": f"=INTERCEPT(B1:B{end},A1:A{end})",
        "D3": f"=FORECAST(7,B1:B{end},A1:A{end})",
    })  # fmt: skip
    calculation = Calculation(made)
    found = [calculation.value("Loads", Cell(4, row)) for row in (1, 2, 3)]
    assert found == pytest.approx([slope, begin, begin + slope * 7], rel=1e-6, abs=1e-6)
