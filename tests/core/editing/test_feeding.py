"""Feeds: figures that formulas use, what is known of them, and inputs in their place."""

from datetime import UTC, datetime, timedelta

import pytest
from tables import apply, raised, values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.feeding import codes_in, fixed, refreshed, used_codes, users
from dreieck.core.editing.naming import given
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Cell
from dreieck.core.sheet.feed import MAX_READINGS, OLD, Feed, Reading, is_code
from dreieck.core.values import Place

NOW = datetime.now(UTC)


def reading(value, days=0.0):
    return Reading(value, (NOW - timedelta(days=days)).isoformat(), "valley")


def made(**more):
    return workbook(Loads={
        "A1": '=FEED("fuel")', "A2": "=A1*2", "A3": '=FEED("FUEL")*3', "B1": '=FEED("crown")',
        "B2": "=lift+1", "B3": '=FEED("no code!")', "B4": "=FEED(C4)", "C4": "fuel", **more,
    })  # fmt: skip


def known(book, feed):
    book.feeds[feed.key] = feed
    return book


def test_a_figure_is_used_by_its_code_or_a_name_and_missing_is_told():
    book = made()
    assert values(book, "A1:A3") == ["#N/A"] * 3 and values(book, "B3") == ["#VALUE!"]
    why = Calculation(book).value("Loads", Cell(1, 1)).why
    assert why == "No figure of the feed “fuel” is known. Refresh it on the page of feeds."
    known(book, Feed("crown", (), "valley cannot be reached."))
    assert "valley cannot be reached" in Calculation(book).value("Loads", Cell(2, 1)).why
    known(book, Feed("Fuel", (reading(1.5), reading(1.7))))
    apply(book, given(book, "lift", '=FEED("fuel")*10'))
    assert values(book, "A1:A3") == [1.7, 3.4, pytest.approx(5.1)]
    assert values(book, "B2") == [18] and values(book, "B4") == [1.7]
    assert used_codes(book) == {"crown": "crown", "fuel": "Fuel"}
    assert [area.text for _, area in users(book, "fuel")] == ["A1", "A3"]
    assert codes_in(book.sheets[0].content(Cell(2, 4))) == ()


def test_a_refresh_keeps_the_last_known_figure_and_comes_back():
    book = known(made(), Feed("fuel", (reading(1.5, days=1),)))
    codes = used_codes(book)
    edits = refreshed(book, codes, {"fuel": reading(1.8), "crown": "valley is away."})
    back = apply(book, edits)
    assert book.feeds["fuel"].last.value == 1.8 and len(book.feeds["fuel"].readings) == 2
    assert book.feeds["crown"].last is None and book.feeds["crown"].problem == "valley is away."
    (edit,) = refreshed(book, codes, {"fuel": "valley answered with 503 instead of a figure."})
    edit.apply(book)
    assert book.feeds["fuel"].last.value == 1.8 and book.feeds["fuel"].is_old()
    assert refreshed(book, codes, {"fuel": "valley answered with 503 instead of a figure."}) == []
    apply(book, back)
    assert book.feeds["fuel"].last.value == 1.5 and "crown" not in book.feeds


def test_what_is_old_is_found_and_what_is_fresh_is_not():
    book = known(made(), Feed("fuel", (reading(1.5, days=1),)))
    apply(book, given(book, "lift", '=FEED("fuel")*10'))
    assert "old-feed" not in {rule for rule, _ in raised(book)}
    known(book, Feed("fuel", (reading(1.5, days=OLD.days + 1),)))
    assert {cells for rule, cells in raised(book) if rule == "old-feed"} == {"A1", "A3", "B2"}
    known(book, Feed("fuel", (reading(1.5),), "valley cannot be reached."))
    assert {cells for rule, cells in raised(book) if rule == "old-feed"} == {"A1", "A3", "B2"}
    assert Feed("x", (Reading(1.0, "some day", "valley"),)).is_old() and Feed("x").is_old()


def test_a_fixed_feed_is_an_input_that_all_formulas_read():
    book = known(made(), Feed("fuel", (reading(1.7),)))
    apply(book, given(book, "price", '=FEED("fuel")'))
    before = values(book, "A1:A3")
    back = apply(book, fixed(book, "fuel"))
    sheet = book.sheets[0]
    assert sheet.content(Cell(1, 1)) == 1.7 and sheet.look(Cell(1, 1)).role == "input"
    assert sheet.content(Cell(1, 3)).text(Cell(1, 3)) == "=Loads!$A$1*3"
    assert book.names["price"].kind == "constant" and "fuel" not in book.feeds
    assert values(book, "A1:A3") == before
    apply(book, back)
    assert sheet.content(Cell(1, 1)).text(Cell(1, 1)) == '=FEED("fuel")'
    assert book.feeds["fuel"].last.value == 1.7


def test_what_cannot_be_fixed_says_why():
    book = workbook(Loads={"A1": '=FEED("fuel")*2'})
    with pytest.raises(DreieckError, match="No figure"):
        fixed(book, "fuel")
    known(book, Feed("fuel", (reading(1.7),)))
    with pytest.raises(DreieckError, match="inside formulas only"):
        fixed(book, "fuel")
    apply(book, given(book, "price", '=FEED("fuel")'))
    apply(book, fixed(book, "fuel"))
    assert book.sheets[0].content(Cell(1, 1)).text(Cell(1, 1)) == "=price*2"
    assert Calculation(book).value(*Place("Loads", Cell(1, 1))) == 3.4


def test_of_a_feed_the_last_readings_are_remembered_each_once():
    feed = Feed("fuel")
    for number in range(MAX_READINGS + 5):
        feed = feed.told(reading(float(number)))
        feed = feed.told(feed.last)
    assert len(feed.readings) == MAX_READINGS and feed.readings[0].value == 5
    assert [is_code(each) for each in ("fuel", "valley:fuel", "a b", "", ":x", "x" * 81)] == [
        True, True, False, False, False, False,
    ]  # fmt: skip
