from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import GRID, ITEMS, WEEKS, apply, filled, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.charts.charted import MAX_MARKS, charted
from dreieck.core.charts.scale import decimals_of, ticks
from dreieck.core.editing import charting
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area


def draw(book, *areas):
    """Draw a chart of some places of the first sheet."""
    sheet = book.sheets[0]
    places = [Area.parse(area) for area in areas]
    apply(book, [charting.drawn(Calculation(book), sheet, places)])
    return sheet.layout.charts[-1]


def shown(book, *areas, **changes):
    chart = draw(book, *areas)
    sheet = book.sheets[0]
    return charted(Calculation(book), sheet, replace(chart, **changes))


def told(found):
    return {each.name: [mark.value for mark in each.marks] for each in found.series}


def grid():
    return filled(GRID, C5_E10="=$B5*C$4")


def test_headings_tell_which_way_the_series_run_and_what_they_are_called():
    weeks = shown(workbook(Loads=WEEKS), "A3:B11")
    assert (weeks.title, weeks.label_title, weeks.value_title) == (
        "Guests by week", "Week", "Guests",
    )  # fmt: skip
    assert weeks.labels == tuple(f"Week {number}" for number in range(1, 9))
    assert told(weeks) == {"Guests": [100.0 + row * row for row in range(4, 12)]}
    # One cell stands for all that hangs together with it.
    assert draw(workbook(Loads=WEEKS), "B7").sources[0].area == Area.parse("A3:C11")


def test_the_shorter_axis_is_that_of_the_series_unless_headings_are_counted():
    few = workbook(Loads={"B1": "Kestrel", "C1": "Larch", "A2": "Flour", "A3": "Coffee",
                          "A4": "Cheese", "B2": "1", "C2": "2", "B3": "3", "C3": "4",
                          "B4": "5", "C4": "6"})  # fmt: skip
    assert draw(few, "A1:C4").series == "column"
    assert draw(few, "A1:C2").series == "row"
    years = workbook(Loads={"B1": "2024", "C1": "2025", "A2": "Flour", "A3": "Coffee",
                            "A4": "Cheese", "B2": "1", "C2": "2", "B3": "3", "C3": "4",
                            "B4": "5", "C4": "6"})  # fmt: skip
    found = shown(years, "A1:C4")
    assert found.labels == ("2024", "2025")
    assert told(found) == {"Flour": [1.0, 2.0], "Coffee": [3.0, 4.0], "Cheese": [5.0, 6.0]}
    dates = workbook(Loads={"A1": "day", "B1": "guests", "A2": "2026-03-01", "A3": "2026-03-02",
                            "B2": "30", "B3": "34"})  # fmt: skip
    assert draw(dates, "A1:B3").kind == "lines"


def test_places_stand_side_by_side_or_below_each_other():
    book = grid()
    apart = shown(book, "A5:A10", "C5:C10", "E5:E10")
    assert apart.labels == tuple(ITEMS)
    assert len(apart.series) == 2
    assert [mark.place.cell.text for mark in apart.series[1].marks] == [
        f"E{row}" for row in range(5, 11)
    ]
    below = shown(book, "A3:E3", "A5:E6")
    assert [each.name for each in below.series] == ["Flour", "Lentils"]
    assert below.labels == ("kg a guest-night", "Kestrel", "Larch", "Scree")


def test_places_that_do_not_fit_together_are_refused_with_a_word():
    with pytest.raises(DreieckError, match="equally high"):
        draw(grid(), "A5:B10", "C5:C6")
    with pytest.raises(DreieckError, match="nothing to draw"):
        draw(grid(), "H20:J25")
    book = grid()
    for _ in range(charting.MAX_CHARTS):
        draw(book, "A5:B10")
    with pytest.raises(DreieckError, match="Delete one"):
        draw(book, "A5:B10")
    assert len({chart.number for chart in book.sheets[0].layout.charts}) == charting.MAX_CHARTS
    places = [chart.place for chart in book.sheets[0].layout.charts]
    assert not any(one.common(other) for one in places for other in places if one is not other)


def test_what_is_no_number_leaves_a_gap_and_axes_show_numbers_as_cells_do():
    book = workbook(Loads={"A1": "Hut", "B1": "Share", "A2": "Kestrel", "B2": "12.5%",
                           "A3": "Larch", "B3": "none", "A4": "Scree", "B4": "=1/0",
                           "A5": "Tarn", "B5": "40%"})  # fmt: skip
    found = shown(book, "A1:B5")
    assert told(found) == {"Share": [0.125, None, None, 0.4]}
    assert [mark.text for mark in found.series[0].marks] == ["12.5%", "none", "#DIV/0!", "40%"]
    assert [tick.text for tick in found.upward] == ["0%", "10%", "20%", "30%", "40%"]
    assert "no number" in shown(book, "A2:A5").problem


def test_points_stand_across_by_the_first_series_and_shares_tell_their_part():
    book = workbook(Loads={"A1": "weight", "B1": "price", "A2": "1.5", "B2": "20",
                           "A3": "4", "B3": "35", "A4": "x", "B4": "7"})  # fmt: skip
    found = shown(book, "A1:B4", kind="points", names=True, labels=True, series="column")
    assert [(mark.across, mark.value) for mark in found.series[0].marks] == [
        (1.5, 20.0), (4.0, 35.0), (None, None),
    ]  # fmt: skip
    assert found.across[0].value <= 1.5
    assert found.across[-1].value >= 4.0
    parts = workbook(Loads={"A1": "Flour", "B1": "30", "A2": "Coffee", "B2": "10",
                            "A3": "Cheese", "B3": "-5"})  # fmt: skip
    shares = shown(parts, "A1:B3", kind="shares", names=False, labels=True, series="column")
    assert [(mark.value, mark.text) for mark in shares.series[0].marks] == [
        (30.0, "30, 75.0%"), (10.0, "10, 25.0%"), (None, "-5"),
    ]  # fmt: skip


def test_stacks_reach_as_far_as_their_sums():
    book = workbook(Loads={"A1": "6", "B1": "7", "C1": "-2", "A2": "3", "B2": "4", "C2": "-9"})
    found = shown(book, "A1:C2", kind="stacked", series="column", names=False, labels=False)
    reached = [tick.value for tick in found.upward]
    assert reached[0] <= -9.0
    assert reached[-1] >= 13.0


def test_more_marks_than_can_be_seen_are_thinned_and_that_is_said():
    book = filled({"A1": "n", "A2": "1"}, A3_A9000="=A2+1")
    found = shown(book, "A:A")
    values = told(found)["n"]
    assert len(values) <= MAX_MARKS
    assert values[:3] == [1.0, 5.0, 9.0]
    assert "Every 4th" in found.note


@given(
    st.lists(st.floats(-1e12, 1e12).map(lambda n: round(n, 3)), min_size=1, max_size=8),
    st.booleans(),
)
def test_ticks_are_round_equally_far_apart_and_take_all_numbers_in(numbers, from_zero):
    found = ticks(numbers, from_zero=from_zero)
    steps = {later - earlier for earlier, later in pairwise(found)}
    assert len(steps) == 1
    assert str(steps.pop().normalize().as_tuple().digits[0]) in "125"
    assert float(found[0]) <= min(numbers)
    assert float(found[-1]) >= max(numbers)
    assert len(found) <= 9
    assert not from_zero or 0 in found
    assert decimals_of(found) <= 20
