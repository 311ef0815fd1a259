import math

import pytest
from effort import every
from formulas import formulas
from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.grid import Cell
from dreieck.core.sheet.content import read_entry, typed_text
from dreieck.core.values.locales import identifier, known, localized, neutral, takes_comma
from dreieck.core.values.look import Look, shown_text

A1 = Cell(1, 1)
NBSP, NARROW = "\u00a0", "\u202f"


@pytest.mark.parametrize(
    ("locale", "number", "percent", "amount", "day"),
    [
        ("", "-1,234,567.50", "12.5%", "-€1,234.50", "2026-03-01"),
        ("de_DE", "-1.234.567,50", f"12,5{NBSP}%", f"-1.234,50{NBSP}€", "1.3.2026"),
        ("de_CH", "-1’234’567.50", "12.5%", f"-EUR{NBSP}1’234.50", "1.3.2026"),
        ("en_US", "-1,234,567.50", "12.5%", "-€1,234.50", "3/1/2026"),
        ("en_IN", "-12,34,567.50", "12.5%", "-€1,234.50", "1/3/2026"),
        ("fr_FR", f"-1{NARROW}234{NARROW}567,50", f"12,5{NBSP}%", f"-1{NARROW}234,50{NBSP}€",
         "01/03/2026"),
        ("tr_TR", "-1.234.567,50", "%12,5", "-€1.234,50", "01.03.2026"),
        ("sv_SE", f"−1{NBSP}234{NBSP}567,50", f"12,5{NBSP}%", f"−1{NBSP}234,50{NBSP}€",
         "2026-03-01"),
    ],
)  # fmt: skip
def test_numbers_and_dates_are_written_as_in_a_place(locale, number, percent, amount, day):
    shown = [
        shown_text(value, look, 40, locale)
        for value, look in (
            (-1234567.5, Look("grouped", 2)), (0.125, Look("percent", 1)),
            (-1234.5, Look("currency:EUR")), (46082.0, Look("date")),
        )
    ]  # fmt: skip
    assert shown == [number, percent, amount, day]


@pytest.mark.parametrize(
    ("typed", "locale", "content", "form"),
    [
        ("1,5", "de_DE", 1.5, None),
        ("1.234,5", "de_DE", 1234.5, "grouped"),
        ("1.234", "de_DE", 1234.0, "grouped"),
        ("-12,5 %", "de_DE", -0.125, "percent"),
        ("1,5E3", "de_DE", 1500.0, None),
        ("1.3.2026", "de_DE", 46082.0, "date"),
        ("3/1/2026", "en_US", 46082.0, "date"),
        ("1/3/2026", "en_GB", 46082.0, "date"),
        ("1.3.2026 9:36", "de_DE", 46082.4, "datetime"),
        ("2026/3/1", "de_DE", 46082.0, "date"),
        ("1.3.2026 25:99", "de_DE", "1.3.2026 25:99", None),
        ("030 123 456", "fr_FR", "030 123 456", None),
        ("1.234,50 €", "de_DE", 1234.5, "currency:EUR"),
        ("-€ 12", "", -12.0, "currency:EUR"),
        ("CHF 1'234.50", "de_CH", 1234.5, "currency:CHF"),
        ("$12.125", "", 12.125, "currency:USD"),
        ("12 kr", "sv_SE", 12.0, "currency:SEK"),
        ("R 5,00", "en_ZA", 5.0, "currency:ZAR"),
        ("R5", "en_ZA", "R5", None),
        ("TOP 10", "", "TOP 10", None),
        ("12 kg", "", "12 kg", None),
        ("€ 1.2.3", "", "€ 1.2.3", None),
        ("€5€", "", "€5€", None),
        ("2026-03-01", "de_DE", 46082.0, "date"),
        ("2026. 03. 01.", "hu_HU", 46082.0, "date"),
        ("1 234,5", "fr_FR", 1234.5, "grouped"),
        ("1'234.5", "de_CH", 1234.5, "grouped"),
        ("12,34,567", "en_IN", 1234567.0, "grouped"),
        ("%12,5", "tr_TR", 0.125, "percent"),
        ("31.2.2026", "de_DE", "31.2.2026", None),
        ("1,2,3", "de_DE", "1,2,3", None),
        ("v 1,5", "de_DE", "v 1,5", None),
    ],
)
def test_what_is_typed_is_read_as_it_is_written_there(typed, locale, content, form):
    entry = read_entry(typed, A1, locale)
    assert (entry.content, entry.form, entry.taken) == (content, form, "")


@pytest.mark.parametrize(
    ("typed", "locale", "content", "taken", "others"),
    [
        ("31.12.99", "de_DE", 36525.0, "the date 31 December 1999",
         {"2099-12-31": 73050.0, "'31.12.99": "31.12.99"}),
        ("1/3/26", "en_GB", 46082.0, "the date 1 March 2026",
         {"1926-03-01": 9557.0, "'1/3/26": "1/3/26"}),
        ("007", "de_DE", 7.0, "the number 7, without the zeros in front", {"'007": "007"}),
        ("893,97 EUR", "", "893,97 EUR", "text, not a number: decimals take a point",
         {"893.97 EUR": 893.97}),
        ("€1,234", "", 1234.0, "the number 1234: the comma parts thousands", {"€1.234": 1.234}),
    ],
)  # fmt: skip
def test_what_could_be_something_else_is_told_and_the_other_offered(
    typed, locale, content, taken, others
):
    entry = read_entry(typed, A1, locale)
    assert (entry.content, entry.taken) == (content, taken)
    assert {o.entry: read_entry(o.entry, A1, locale).content for o in entry.others} == others


def test_a_number_written_otherwise_is_taken_and_told():
    entry = read_entry("1.5", A1, "de_DE")
    assert (entry.content, entry.taken) == (1.5, "the number 1,5")
    assert entry.others[0].entry == "'1.5"
    assert "1/3/2026" not in read_entry("1/3/2026", A1, "de_DE").taken


numbers = st.floats(allow_nan=False, allow_infinity=False)
forms = st.sampled_from(["general", "percent", "grouped", "number", "date", "scientific"])


@given(numbers, forms, st.sampled_from(sorted(known())))
def test_what_is_shown_for_editing_reads_as_the_same_everywhere(number, form, locale):
    text = typed_text(number, A1, Look(form), locale)
    assert read_entry(text, A1, locale).content == number
    formula = read_entry("=A1*1.5+SUM(B1,C1)", A1).content
    typed = typed_text(formula, A1, Look(), locale)
    assert typed == ("=A1*1,5+SUM(B1;C1)" if takes_comma(locale) else "=A1*1.5+SUM(B1,C1)")
    assert read_entry(typed, A1, locale).content == formula


@given(numbers.filter(lambda n: abs(n) < 1e15), st.sampled_from(sorted(known())))
def test_numbers_with_thousands_read_back_in_every_locale(number, locale):
    plain = shown_text(number, Look("grouped", 3))
    told = neutral(localized(plain, "grouped", locale), locale)
    value = read_entry(told or plain, A1).content
    assert math.isclose(value, number, abs_tol=0.0006) or "E" in plain


# Marks of direction, percents in front, words behind a date, days before months.
ODD = ("", "ar_EG", "bg_BG", "en_ZA", "eu_ES", "fa_IR", "he_IL", "hr_HR", "ky_KG", "tr_TR")
SHOWN = [
    *((number, form) for number in (-1230000.0, 0.5, -1.5e17) for form in
      ("general", "grouped", "number", "percent", "scientific", "currency:EUR", "currency:USD")),
    (1234.0, "currency:JPY"), (46082.0, "date"), (46082.5, "datetime"), (-0.25, "duration"),
]  # fmt: skip


@pytest.mark.parametrize(("number", "form"), SHOWN)
def test_what_is_shown_is_read_by_its_own_locale(number, form):
    locales = (*ODD, *sorted(known())[:: every(20, 1)])
    shown = {each: shown_text(number, Look(form, 2), 40, each) for each in locales}
    read = {each: read_entry(text, A1, each) for each, text in shown.items()}
    wrong = {e: shown[e] for e, r in read.items() if r.content != pytest.approx(number)}
    assert wrong == {}
    if form.startswith("currency:"):
        assert {entry.form.rpartition(":")[0] for entry in read.values()} == {"currency"}


@given(formulas)
def test_a_formula_is_typed_again_as_it_is_read_where_decimals_take_a_comma(text):
    shape = read_entry(text, Cell(5, 5)).content
    typed = typed_text(shape, Cell(5, 5), Look(), "de_DE")
    assert len(typed) == len(typed_text(shape, Cell(5, 5)))
    again = read_entry(typed, Cell(5, 5), "de_DE")
    assert again.content == shape or "{" in typed


@pytest.mark.parametrize(
    ("typed", "plain", "otherwise"),
    [
        ("=SUM(1,5;2)", "=SUM(1.5,2)", None),
        ("=1,5*2", "=1.5*2", None),
        ("=SUM(1,5)", "=SUM(1.5)", "=SUM(1;5)"),
        ("=IF(A1>1,2,3)", "=IF(A1>1,2,3)", None),
        ("=ROUND(A1,2)", "=ROUND(A1,2)", None),
        ("=ROUND($B$2;1,5)", "=ROUND($B$2,1.5)", None),
        ("=\"1,5\"&'a,5'!A1", "=\"1,5\"&'a,5'!A1", None),
        ("={1,5;2,6}+1,5", "={1,5;2,6}+1.5", None),
        ("=1,5;", None, None),
    ],
)
def test_a_comma_between_digits_is_decimal_where_numbers_take_one(typed, plain, otherwise):
    entry = read_entry(typed, Cell(5, 5), "de_DE")
    if plain is None:
        assert entry.problem and entry.content.text == typed
        return
    assert entry.content == read_entry(plain, Cell(5, 5)).content
    assert [other.entry for other in entry.others] == ([otherwise] if otherwise else [])
    assert bool(entry.taken) == bool(otherwise)
    assert read_entry(typed, Cell(5, 5), "en_GB").taken == ""


def test_a_workbook_writes_and_reads_in_its_own_way():
    book = workbook(Loads={"A1": "1234.5"})
    book.locale = "de_DE"
    assert book.read_entry("0,12", A1).content == 0.12
    assert book.copy().locale == "de_DE"


def test_locales_are_known_however_they_are_spelled():
    assert (identifier("de-ch"), identifier("de_DE"), identifier(" ")) == ("de_CH", "de_DE", "")
    for wrong in ("xx_YY", "de" * 40, "de_DE; --", "../en"):
        with pytest.raises(KeyError):
            identifier(wrong)
