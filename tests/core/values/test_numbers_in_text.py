"""Numbers written by codes, and dates that are counted on."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import result

from dreieck.core.functions import find
from dreieck.core.values.format_codes import formatted
from dreieck.core.values.format_pieces import FormatCodeError
from dreieck.core.values.look import Look, shown_text
from dreieck.core.values.numerals import date_of, serial


@pytest.mark.parametrize(
    ("value", "code", "text"),
    [
        (1234.567, "#,##0.00", "1,234.57"),
        (0.285, "0%", "29%"),
        (12.0, "#.##", "12."),
        (0.0, "#", ""),
        (0.5, ".00", ".50"),
        (1.5, "0.0?", "1.5 "),
        (7.0, "000", "007"),
        (1234567.0, "#,##0,", "1,235"),
        (1234567.891, '0.0,,"M"', "1.2M"),
        (5550123.0, "000-0000", "555-0123"),
        (42.0, "0 ##0", "0 042"),
        (1234.0, "#,#", "1,234"),
        (-5.5, "0;(0)", "(6)"),
        (-5.5, "0", "-6"),
        (-0.001, "0.00", "0.00"),
        (0.0, '0;-0;"none"', "none"),
        (0.00012, "0.0E+00", "1.2E-04"),
        (99999.0, "0.0E+0", "1.0E+5"),
        (12345.0, "##0.0E+0", "123.5E+2"),
        (3.0, '0 "kg"', "3 kg"),
        (3.0, "0\\k", "3k"),
        (3.0, "[Red]0_)*x", "3 "),
        (1500.0, "[>=1000]0.0,;0", "1.5"),
        (999.0, "[>=1000]0.0,;0", "999"),
        (-5.0, "[<0]0.0;0", "5.0"),
        (-5.0, "[<10]0;0.00", "-5"),
        (15.0, "[<10]0;[<20]0.0;0.00", "15.0"),
        (46082.0, "[$€-407] #,##0", "€ 46,082"),
        (46082.0, "[$-407]dd.mm.yyyy", "01.03.2026"),
        (46082.0, "[$-409]mmmm", "March"),
        (1.5, "# ?/?", "1 1/2"),
        (0.5, "# ?/?", " 1/2"),
        (2.0, "# ?/?", "2    "),
        (0.999, "# ?/?", "1    "),
        (-1.333, "0 ??/??", "-1  1/3 "),
        (1.3, '# ?/8 "kg"', "1 2/8 kg"),
        (1.25, "#/#", "5/4"),
        (0.0, "#/#", "0/1"),
        (0.1 + 0.2, "General", "0.3"),
        (46082.4, "dddd d mmmm yyyy h:mm AM/PM", "Sunday 1 March 2026 9:36 AM"),
        (46082.999999, "yyyy-mm-dd hh:mm:ss", "2026-03-02 00:00:00"),
        (46082.5, "ddd, dd mmm yy", "Sun, 01 Mar 26"),
        (46082.5, "mmmmm/m", "M/3"),
        (0.5, "h A/P", "12 P"),
        (1.5, "[h]:mm", "36:00"),
        (0.0001, "[mm]:ss.00", "00:08.64"),
        (-0.5, "[h]:mm", "-12:00"),
        (-1.25 / 24, "[h]:mm:ss", "-1:15:00"),
        (-1.75 / 24, "[m]:ss", "-105:00"),
        (-1e-9, "[h]:mm", "0:00"),
        (-0.25, "yyyy-mm-dd hh", "1899-12-29 18"),
        ("kg", "0;0;0;@!", "kg!"),
        ("kg", "0.0", "kg"),
        ("kg", '@" each"', "kg each"),
    ],
)
def test_codes(value, code, text):
    assert formatted(value, code) == text


@pytest.mark.parametrize(
    "code",
    ["0 kg", "x", "yyyy x", "0" * 501, "[Grey]0", "[", "[$-407]mmmm", "[$-x]0", "[<0]0",
     "# ?/?????", "# ?/x", "# ?.0/?"],
)  # fmt: skip
def test_a_code_that_means_nothing_is_refused_in_words(code):
    with pytest.raises(
        FormatCodeError, match=r"no meaning|500 char|not known|English|condit|fract"
    ):
        formatted(1.0, code)
    assert result(f'=TEXT(1,"{code}")') == "#VALUE!"


numbers = st.floats(-1e12, 1e12).map(lambda number: round(number, 6))


@given(numbers, st.integers(0, 6))
def test_a_code_shows_what_the_look_of_a_cell_shows(value, decimals):
    code = "0" + "." * (decimals > 0) + "0" * decimals
    assert formatted(value, code) == shown_text(value, Look("number", decimals))
    assert formatted(value, "#,##" + code) == shown_text(value, Look("grouped", decimals))
    assert find("FIXED").compute(value, decimals) == shown_text(value, Look("grouped", decimals))


@given(st.integers(-(10**7), 10**7).map(lambda seconds: seconds / 86400))
def test_elapsed_time_is_that_of_the_look_with_all_its_parts(value):
    hours, minutes, seconds = formatted(value, "[h]:mm:ss").split(":")
    short = f"{hours}:{minutes}" + f":{seconds}" * (seconds != "00")
    assert short == shown_text(value, Look("time"))


@given(st.integers(-500_000, 2_900_000), st.integers(-5000, 5000))
def test_months_later_and_back_lie_in_the_same_month(day, months):
    begin = date_of(day)
    try:
        later = date_of(find("EDATE").compute(float(day), months))
        end = date_of(find("EOMONTH").compute(float(day), months))
    except Exception as beyond:
        assert "calendar" in str(beyond)
        return
    distance = (later.year - begin.year) * 12 + later.month - begin.month
    assert distance == months and later.day <= begin.day
    assert (end.year, end.month) == (later.year, later.month)
    assert (end + timedelta(days=1)).day == 1


@given(st.integers(40_000, 47_000), st.integers(-600, 600), st.sets(st.integers(40_000, 47_000)))
def test_working_days_are_counted_one_by_one(day, distance, holidays):
    free = list(map(float, holidays))
    end = day + distance
    low, high = sorted((day, end))
    worked = [d for d in range(low, high + 1) if date_of(d).weekday() < 5 and d not in holidays]
    counted = find("NETWORKDAYS").compute(float(day), float(end), free)
    assert counted == (len(worked) if day <= end else -len(worked))
    later = find("WORKDAY").compute(float(day), distance, free)
    if distance:
        passed = range(day + 1, int(later) + 1) if distance > 0 else range(int(later), day)
        assert int(later) in passed and date_of(later).weekday() < 5 and later not in free
        assert sum(date_of(d).weekday() < 5 and d not in holidays for d in passed) == abs(distance)


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ('=DATEDIF("2024-02-29","2026-02-28","y")', 1.0),
        ('=DATEDIF("2026-01-15","2026-03-10","ym")', 1.0),
        ('=DATEDIF("2026-01-15","2026-03-10","md")', 23.0),
        ('=DATEDIF("2025-06-01","2026-08-15","yd")', 75.0),
        ('=DATEDIF("2026-03-02","2026-03-01","d")', "#NUM!"),
        ('=DATEDIF("2026-03-01","2026-03-02","w")', "#NUM!"),
        ('=EDATE("2024-02-29",12)', serial(date(2025, 2, 28))),
        ('=EDATE("2026-01-31",-120000)', "#NUM!"),
        ('=EOMONTH("2026-01-31",1)', serial(date(2026, 2, 28))),
        ('=DAYS360("2026-02-28","2026-03-31")', 30.0),
        ('=DAYS360("2026-03-31","2026-01-30")', -60.0),
        ('=DAYS360("2026-02-28","2026-03-31",TRUE)', 32.0),
        ('=YEARFRAC("2012-01-01","2012-07-30",0)', 209 / 360),
        ('=YEARFRAC("2012-01-01","2012-07-30",1)', 211 / 366),
        ('=YEARFRAC("2023-03-01","2024-02-28",1)', 364 / 365),
        ('=YEARFRAC("2023-03-01","2026-03-01",1)', 1096 / 365.25),
        ('=YEARFRAC("2012-01-01","2012-07-30",2)', 211 / 360),
        ('=YEARFRAC("2012-07-30","2012-01-01",3)', 211 / 365),
        ('=YEARFRAC("2012-01-31","2012-07-31",4)', 0.5),
        ('=YEARFRAC("2012-01-31","2012-07-31",5)', "#NUM!"),
        ('=WEEKNUM("2012-03-09")', 10.0),
        ('=WEEKNUM("2012-03-09",2)', 11.0),
        ('=WEEKNUM("2027-01-03",21)', 53.0),
        ('=ISOWEEKNUM("2027-01-03")', 53.0),
        ('=NETWORKDAYS("2026-03-01","2026-03-31",,{1,0,0,0,0,0,0})', 26.0),
        ('=NETWORKDAYS("2026-03-01","2026-03-31",,{1,1})', "#VALUE!"),
        ('=WORKDAY("2026-03-07",1)', serial(date(2026, 3, 9))),
        ('=WORKDAY("2026-03-07",-1)', serial(date(2026, 3, 6))),
        ('=WORKDAY("2026-03-07",9999999)', "#NUM!"),
        ('=DATEVALUE("2026-03-01 9:30")', 46082.0),
        ('=TIMEVALUE("2026-03-01 12:00")', 0.5),
        ('=DATEVALUE("9:30")', "#VALUE!"),
        ('=TEXT("2026-03-01","d.m.yyyy")', "1.3.2026"),
        ("=FIXED(1234.567,-2)", "1,200"),
        ("=FIXED(-0.4,0)", "0"),
        ("=FIXED(1,200)", "#VALUE!"),
    ],
)
def test_days_weeks_and_years(formula, value):
    given_value = result(formula)
    assert given_value == (pytest.approx(value) if type(value) is float else value)
