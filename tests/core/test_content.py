import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.address import Cell
from dreieck.core.content import Unreadable, read_entry, typed_text
from dreieck.core.exceptions import EntryError
from dreieck.core.formula import Shape
from dreieck.core.look import Look, shown
from dreieck.core.values import Error, number_text

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
        ("2026-03-01 12:00", 46082.5, "datetime"),
        ("true", True, None),
        ("Flour", "Flour", None),
        ("1,25", "1,25", None),
        ("2026-02-30", "2026-02-30", None),
        ("'=B5", "=B5", "text"),
        ("'12", "12", "text"),
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
    if isinstance(content, float):
        assert again == pytest.approx(content, rel=1e-14)
    elif content != "":
        assert again == content


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
        (-1e-9, Look("number", 1), 12, "-0.0"),
        (1234567890.125, Look(), 8, "1.23e+09"),
        (870912000.0, Look("grouped", 2), 12, "870,912,000"),
        (870912000.0, Look("grouped", 1), 9, "870912000"),
        (1e300, Look(), 12, "1E+300"),
        (True, Look(), 12, "TRUE"),
        (None, Look(), 12, ""),
        (Error("#DIV/0!"), Look(), 12, "#DIV/0!"),
    ],
)
def test_values_as_cells_show_them(value, look, room, text):
    assert shown(value, look, room) == text


@given(st.floats(allow_nan=False, allow_infinity=False), st.integers(8, 20))
def test_a_shown_number_never_outgrows_its_room(value, room):
    assert len(shown(value, Look(), room)) <= room


@given(st.floats(allow_nan=False, allow_infinity=False))
def test_number_text_loses_nothing(value):
    assert float(number_text(value)) == value
