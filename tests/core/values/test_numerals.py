from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.values import rounded, rounded_towards
from dreieck.core.values.formats import read_number, read_numeral
from dreieck.core.values.numerals import date_of, serial


@pytest.mark.parametrize(
    ("text", "value", "form", "decimals"),
    [
        ("12", 12.0, "number", 0),
        ("+.5", 0.5, "number", 1),
        ("-1,250,000.50", -1250000.5, "grouped", 2),
        ("12 %", 0.12, "percent", 0),
        ("1.5%", 0.015, "percent", 1),
        ("1E-3", 0.001, "number", 0),
        ("2026-3-1", 46082.0, "date", 0),
        ("0:00:30", 30 / 86400, "time", 0),
        ("36:00", 1.5, "time", 0),
        ("-1:30", -0.0625, "time", 0),
        ("2026-03-01T06:00", 46082.25, "datetime", 0),
    ],
)
def test_numbers_as_people_type_them(text, value, form, decimals):
    numeral = read_numeral(text)
    assert numeral.value == pytest.approx(value)
    assert (numeral.form, numeral.decimals) == (form, decimals)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "12,34",
        "1,2345",
        "1.2.3",
        "--1",
        "1e",
        "2026-13-01",
        "2026-03-01 -1:30",
        "9:75",
        "12%%",
        "e5",
        "½",
        "9" * 500,
    ],
)
def test_what_is_no_number_stays_text(text):
    assert read_number(text) is None


@given(st.dates())
def test_dates_and_serial_numbers_are_inverse(day):
    assert date_of(serial(day)) == day
    assert read_number(day.isoformat()) == serial(day)


def test_the_calendar_begins_where_the_standard_says():
    assert serial(date(1899, 12, 30)) == 0
    assert serial(date(2000, 1, 1)) == 36526
    assert date_of(1e300) is None or date_of(-1e9) is None


@given(st.decimals(-(10**9), 10**9, places=4), st.integers(-3, 4))
def test_rounding_goes_by_what_people_see(number, decimals):
    value = float(number)
    near, up, down = (
        rounded(value, decimals),
        rounded_towards(value, decimals, away=True),
        rounded_towards(value, decimals, away=False),
    )
    assert near in (up, down)
    assert abs(down) <= abs(value) + 1e-9 and abs(value) <= abs(up) + 1e-9
    assert abs(near - value) <= 0.5 * 10**-decimals + 1e-6
