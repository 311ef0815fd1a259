from dataclasses import replace

import pytest
from tables import WEEKS, apply, raised, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.charts.charted import charted
from dreieck.core.checking.findings import check_sheet
from dreieck.core.editing import charting, sheets
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell, Lines


def drawn(area="A3:B11", **entries):
    """A workbook with a chart over H5:L15 of its first sheet."""
    book = workbook(Loads={**WEEKS, **entries}, Prices={"A1": "1"})
    sheet = book.sheets[0]
    apply(book, [charting.drawn(Calculation(book), sheet, [Area.parse(area)])])
    apply(book, [charting.placed(sheet, sheet.layout.charts[0], Area.parse("H5:L15"))])
    return book


def told(book, sheet=0):
    return [
        (charting.sources_text(chart.sources), chart.place.text)
        for chart in book.sheets[sheet].layout.charts
    ]


@pytest.mark.parametrize(
    ("change", "expected"),
    [
        (lambda book, home: inserted(book, home, Lines("row", 6, 2)), [("A3:B13", "H5:L17")]),
        (lambda book, home: inserted(book, home, Lines("column", 1, 1)), [("B3:C11", "I5:M15")]),
        (lambda book, home: deleted(book, home, Lines("row", 1, 4)), [("A1:B7", "H1:L11")]),
        (lambda book, home: deleted(book, home, Lines("column", 1, 2)), [("", "F5:J15")]),
        (lambda book, home: deleted(book, home, Lines("row", 2, 30)), []),
    ],
)
def test_charts_follow_rows_and_columns_and_come_back(change, expected):
    book = drawn()
    before = book.sheets[0].layout
    undo = apply(book, change(book, book.sheets[0]))
    assert told(book) == expected
    apply(book, undo)
    assert book.sheets[0].layout == before


def test_a_chart_of_one_cell_shows_its_table_without_what_closes_it():
    book = drawn("B6", C4="=B4", A12="Total", B12="=SUM(B4:B11)")
    assert told(book) == [("A3:B11", "H5:L15")]
    # A column of shares is all that there is to show.
    shares = workbook(Loads={"A1": "Hut", "B1": "Share", "A2": "Tarn", "B2": "40%", "A3": "All"})
    apply(shares, [charting.drawn(Calculation(shares), shares.sheets[0], [Area.parse("A2")])])
    assert told(shares)[0][0] == "A1:B3"


def test_a_chart_whose_cells_are_gone_says_so():
    book = drawn()
    home = book.sheets[0]
    apply(book, deleted(book, home, Lines("column", 1, 2)))
    assert "deleted" in charted(Calculation(book), home, home.layout.charts[0]).problem


def test_charts_follow_cells_that_are_cut_and_sheets_that_are_renamed():
    book = drawn()
    home, other = book.sheets
    apply(book, cut_to(Calculation(book), home, Area.parse("A3:B11"), other, Cell(4, 2)))
    assert told(book) == [("Prices!D2:E10", "H5:L15")]
    apply(book, sheets.renamed(book, other, "Goods"))
    assert told(book) == [("Goods!D2:E10", "H5:L15")]
    # One that is cut with its cells goes with them, and what it shows is on its own sheet again.
    apply(book, cut_to(Calculation(book), other, Area.parse("D2:E10"), home, Cell(1, 3)))
    assert told(book) == [("A3:B11", "H5:L15")]
    apply(book, cut_to(Calculation(book), home, Area.parse("A1:L20"), other, Cell(1, 1)))
    assert (told(book), told(book, 1)) == ([], [("A3:B11", "H5:L15")])


def test_a_copy_of_a_sheet_has_charts_of_its_own_cells():
    book = drawn()
    apply(book, sheets.duplicated(book, book.sheets[0], 9))
    apply(book, deleted(book, book.sheets[1], Lines("row", 1, 1)))
    assert (told(book), told(book, 1)) == ([("A3:B11", "H5:L15")], [("A2:B10", "H4:L14")])


def test_charts_that_come_to_one_sheet_are_told_apart():
    book = drawn()
    home, other = book.sheets
    apply(book, [charting.drawn(Calculation(book), other, [Area.parse("A1:A1")])])
    place = other.layout.charts[0].place
    apply(book, cut_to(Calculation(book), other, place, home, Cell(1, 30)))
    assert sorted(chart.number for chart in home.layout.charts) == [1, 2]


def test_a_chart_that_misses_the_row_added_is_found_and_mended():
    book = drawn("A3:B10")
    assert ("chart-misses", "A11:B11") in raised(book)
    home = book.sheets[0]
    found = [
        finding
        for checked in check_sheet(Calculation(book), home)
        for finding in checked.findings
        if finding.rule == "chart-misses"
    ]
    apply(book, found[0].mends[0].edits)
    assert told(book) == [("A3:B11", "H5:L15")]
    assert not [rule for rule, _ in raised(book) if rule == "chart-misses"]
    # A total is no further week.
    total = drawn("A3:B11", A12="Total", B12="=SUM(B4:B11)")
    assert not [rule for rule, _ in raised(total) if rule == "chart-misses"]


def test_what_a_chart_shows_can_be_typed_and_turned():
    book = drawn()
    home = book.sheets[0]
    chart = home.layout.charts[0]
    typed = charting.sources_typed(book, "a3:a11; prices!C3:C11")
    assert charting.sources_text(typed) == "A3:A11, Prices!C3:C11"
    for wrong in ("", "A3:B", "guests", "A1+B1", "Nowhere!A1:B2"):
        with pytest.raises(DreieckError):
            charting.sources_typed(book, wrong)
    typed = charting.sources_typed(book, "B3:C11")
    apply(book, [charting.reshown(Calculation(book), home, chart, typed)])
    assert told(book) == [("B3:C11", "H5:L15")]
    turned = replace(home.layout.charts[0], series="row", labels=False, names=False)
    found = charted(Calculation(book), home, turned)
    assert len(found.series) == 9
    assert found.labels == ("1", "2")


def test_a_chart_goes_no_further_than_the_sheet_and_grows_within_bounds():
    book = drawn()
    home = book.sheets[0]
    chart = home.layout.charts[0]
    assert charting.stepped(chart, -20, -2, grows=False).text == "A3:E13"
    assert charting.stepped(chart, 1, -20, grows=True).text == "H5:M5"
    with pytest.raises(DreieckError, match="at the most"):
        charting.placed(home, chart, Area.parse("A1:ZZ20"))
    apply(book, [charting.removed(home, chart)])
    with pytest.raises(DreieckError, match="no longer"):
        charting.chart_of(home, chart.number)


def test_a_new_chart_stands_beside_what_is_filled_below_headings_and_other_charts():
    book = workbook(Loads=WEEKS)
    home = book.sheets[0]
    for _ in range(3):
        apply(book, [charting.drawn(Calculation(book), home, [Area.parse("A3:B11")])])
    right = home.used().right
    first = Area(right + 2, 3, right + 6, 13)
    assert [chart.place for chart in home.layout.charts] == [
        first, first.offset(0, 12), first.offset(0, 24),
    ]  # fmt: skip
    full = workbook(Loads={"ZZZ1": "1", "ZZZ2": "2"})
    apply(full, [charting.drawn(Calculation(full), full.sheets[0], [Area.parse("ZZZ1:ZZZ2")])])
    assert full.sheets[0].layout.charts[0].place.text == "ZZV1:ZZZ11"


@pytest.mark.parametrize("kinds", [("bars", "lines"), ("points", "bars"), ("shares", "points")])
def test_a_chart_takes_another_kind_and_stays_where_it_is(kinds):
    book = drawn()
    home = book.sheets[0]
    for kind in kinds:
        apply(book, [charting.of_kind(Calculation(book), home, home.layout.charts[0], kind)])
        (chart,) = home.layout.charts
        assert (chart.kind, told(book)) == (kind, [("A3:B11", "H5:L15")])
