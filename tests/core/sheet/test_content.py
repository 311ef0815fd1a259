import re
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.editing.entering import entered
from dreieck.core.exceptions import EntryError
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Unreadable, read_entry, typed_text
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Error, number_text
from dreieck.core.values.formats import FORMATS, read_numeral
from dreieck.core.values.look import Look, shown_text

C5 = Cell.parse("C5")


@pytest.mark.parametrize(
    ("typed", "content", "form"),
    [
        ("420", 420.0, None),
        (" -1.5e3 ", -1500.0, None),
        ("1,250.50", 1250.5, "grouped"),
        ("12%", 0.12, "percent"),
        ("2026-03-01", 46082.0, "date"),
        ("9:30", 9.5 / 24, "time"),
        ("-1:30", -0.0625, "time"),
        ("2026-03-01 12:00", 46082.5, "datetime"),
        ("true", True, None),
        ("Flour", "Flour", None),
        ("1,25", "1,25", None),
        ("1/2/2026", 46054.0, "date"),
        ("1.2.2026", 46054.0, "date"),
        ("13/2/2026", 46066.0, "date"),
        ("2/13/26", 46066.0, "date"),
        ("30/2/2026", "30/2/2026", None),
        ("1 000", 1000.0, "grouped"),
        ("-1\u202f250.5", -1250.5, "grouped"),
        ("044 123", "044 123", None),
        ("3/4", "3/4", None),
        ("−5", -5.0, None),
        ("+tea", "+tea", None),
        ("- bread", "- bread", None),
        ("2026-02-30", "2026-02-30", None),
        ("'=B5", "=B5", "typed-text"),
        ("'12", "12", "typed-text"),
        ("=", "=", None),
        ("", None, None),
        ("1e999", "1e999", None),
    ],
)
def test_entries_are_understood(typed, content, form):
    entry = read_entry(typed, C5)
    assert (entry.content, entry.form) == (content, form)
    assert type(entry.content) is type(content)


def test_a_formula_that_cannot_be_read_is_kept_as_typed():
    entry = read_entry("=B5*", C5)
    assert entry.content == Unreadable("=B5*")
    assert entry.problem.position == 4
    assert typed_text(entry.content, C5) == "=B5*"


def test_an_entry_too_long_is_refused_with_its_size():
    with pytest.raises(EntryError, match="10,000 characters; this one has 100,000"):
        read_entry("x" * 100_000, C5)


@given(
    st.one_of(
        st.floats(allow_nan=False, allow_infinity=False), st.booleans(), st.text(max_size=20)
    )
)
def test_what_is_shown_for_editing_types_the_same_content_again(content):
    again = read_entry(typed_text(content, C5), C5).content
    assert again == content and type(again) is type(content)


forms = st.sampled_from([*(set(FORMATS) - {"text"}), "currency:CHF", "currency:JPY"])
looks = st.builds(Look, forms, st.none() | st.integers(0, 8))
values = st.floats(allow_nan=False, allow_infinity=False) | st.builds(
    lambda digits, power: digits / 10**power, st.integers(-(10**6), 10**6), st.integers(0, 8)
)


@given(values, looks)
def test_what_is_offered_for_editing_reads_back_as_the_same_value(value, look):
    held = entered(Workbook(), C5, typed_text(value, C5, look), look)
    assert held.content == value and held.look == look


@given(values, looks, st.integers(6, 24))
def test_what_is_shown_is_within_half_a_unit_of_its_last_digit(value, look, room):
    text = shown_text(value, look, room)
    if ":" in text or "-" in text[1:].replace("E-", ""):
        moment = read_numeral(text)
        days = 1.0 if moment.form == "date" else 0.5 / 86400
        assert abs(moment.value - value) <= days * (1 + 1e-6) + abs(value) * 2**-50
        return
    digits = re.sub(r"[,¥\u00a0]|CHF", "", text.rstrip("%"))
    digits, _, power = digits.partition("E")
    last = Decimal(1).scaleb(int(power or 0) - len(digits.partition(".")[2]))
    exact = Decimal(repr(value)).scaleb(2 * text.endswith("%"))
    assert abs(Decimal(digits).scaleb(int(power or 0)) - exact) <= last / 2
    assert not text.startswith("-") or Decimal(digits) != 0


@pytest.mark.parametrize(
    ("typed", "says", "others"),
    [
        ("2,5", "decimals take a point", ["2.5"]),
        ("1.000,5", "decimals take a point", ["1000.5"]),
        ("1/2/2026", "the date 1 February 2026", ["2026-01-02", "'1/2/2026"]),
        ("13/2/2026", "the date 13 February 2026", ["'13/2/2026"]),
        ("1 000", "the number 1,000", ["'1 000"]),
        ("1,250", "the comma parts thousands", ["1.250"]),
        ("3/4", "not a calculation", ["=3/4"]),
        (" =1+1", "without the blank in front", ["' =1+1"]),
        ("+A1", "the formula =+A1", ["'+A1"]),
        ("-sum(A1)", "the formula =-sum(A1)", ["'-sum(A1)"]),
        ("#n/a", "the error #N/A", ["'#n/a"]),
        ("007", "without the zeros in front", ["'007"]),
        ("1234567890123456789", "of which only", ["'1234567890123456789"]),
        ("1,250.5", "", []),
        ("Flour", "", []),
        ("-5", "", []),
    ],
)
def test_what_has_two_readings_is_told_and_each_can_be_had(typed, says, others):
    entry = read_entry(typed, C5)
    assert says in entry.taken and bool(says) == bool(entry.taken)
    assert [other.entry for other in entry.others] == others
    for other in entry.others:
        content = read_entry(other.entry, C5).content
        assert content is not entry.content and content != entry.content


def test_a_formula_typed_in_another_way_is_one():
    assert typed_text(read_entry("  =1+1", C5).content, C5) == "=1+1"
    assert typed_text(read_entry("+a1", C5).content, C5) == "=+A1"
    assert typed_text(read_entry("#N/A", C5).content, C5) == "=#N/A"
    assert isinstance(read_entry(" =1+", C5).content, Unreadable)


def test_formulas_and_percents_are_edited_as_they_were_typed():
    assert typed_text(Shape.parse("=$b5*c$4", C5), C5) == "=$B5*C$4"
    assert typed_text(0.12, C5, Look("percent")) == "12%"
    assert typed_text(46082.0, C5, Look("date")) == "2026-03-01"
    assert typed_text(46082.25, C5, Look("date")) == "46082.25"


@pytest.mark.parametrize(
    ("value", "look", "room", "text"),
    [
        (0.1 + 0.2, Look(), 12, "0.3"),
        (50.4, Look("number", 1), 12, "50.4"),
        (9.45, Look("number", 1), 12, "9.5"),
        (14112.0, Look("grouped", 1), 12, "14,112.0"),
        (0.056922, Look("percent", 1), 12, "5.7%"),
        (46082.5, Look("datetime"), 20, "2026-03-01 12:00"),
        (-1e-9, Look("number", 1), 12, "0.0"),
        (-0.0, Look(), 12, "0"),
        (1234567890.125, Look(), 8, "1.235E+9"),
        (0.285, Look("percent", 0), 12, "29%"),
        (1.005, Look("number", 2), 12, "1.01"),
        (-0.0625, Look("time"), 12, "-1:30"),
        (-1 / 86400, Look("time"), 12, "-0:00:01"),
        (46082.9999999, Look("datetime"), 20, "2026-03-02 0:00"),
        (-0.25, Look("datetime"), 20, "1899-12-29 18:00"),
        (1e-5, Look(), 6, "1E-5"),
        (1.2e-6, Look(), 40, "1.2E-6"),
        (123456789012345680.0, Look(), 40, "1.23456789E+17"),
        (123456.0, Look("percent"), 6, "1E+7%"),
        (1e15, Look("number", 2), 40, "1E+15"),
        (870912000.0, Look("grouped", 2), 12, "870,912,000.00"),
        (870912000.0, Look("grouped", 1), 9, "870,912,000.0"),
        (1e300, Look(), 12, "1E+300"),
        (46082.0, Look("date"), 4, "2026-03-01"),
        (1250.5, Look("scientific", 2), 12, "1.25E+3"),
        (-0.00999999, Look("scientific", 2), 12, "-1.00E-2"),
        (0.0, Look("scientific", 3), 12, "0.000E+0"),
        (1.75, Look("duration"), 12, "42:00:00"),
        (-1250.5, Look("currency:EUR"), 6, "-€1,250.50"),
        (1250.5, Look("currency:JPY"), 12, "¥1,251"),
        (1250.5, Look("currency:CHF", 0), 12, "CHF\u00a01,251"),
        (True, Look(), 12, "TRUE"),
        (None, Look(), 12, ""),
        (Error("#DIV/0!"), Look(), 12, "#DIV/0!"),
    ],
)
def test_values_as_cells_show_them(value, look, room, text):
    assert shown_text(value, look, room) == text


@given(st.floats(allow_nan=False, allow_infinity=False), st.integers(8, 20))
def test_a_shown_number_never_outgrows_its_room(value, room):
    assert len(shown_text(value, Look(), room)) <= room


@given(st.floats(allow_nan=False, allow_infinity=False))
def test_number_text_loses_nothing(value):
    assert float(number_text(value)) == value


@given(
    st.sampled_from(["007", "12%", "1/2/2026", "=B5", "'x", "'=B5", "Flour", "+B5", "TRUE", ""])
)
def test_a_cell_for_text_keeps_all_but_formulas_as_they_are_typed(typed):
    look = Look("text")
    held = entered(Workbook(), C5, typed, look)
    assert held.look == look
    if typed == "=B5":
        assert isinstance(held.content, Shape)
    else:
        assert held.content == (typed.removeprefix("'") or None)
    assert (
        entered(Workbook(), C5, typed_text(held.content, C5, look), look).content == held.content
    )
