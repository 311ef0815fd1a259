"""Lines that come, go or move, against a row of numbers that is cut and put together again."""

from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.grid import MAX_ROW, Area, LineChange, LineMove, Lines

SOME = 14
firsts, counts = st.integers(1, 10), st.integers(1, 4)
ranges = st.tuples(st.integers(1, SOME), st.integers(1, SOME)).map(sorted)


@given(firsts, counts, ranges)
def test_lines_that_go_take_what_stood_there_with_them(first, count, ends):
    change = LineChange(Lines("row", first, count), comes=False)
    left = [at for at in range(1, SOME + 1) if not first <= at < first + count]
    for at in range(1, SOME + 1):
        assert change.where(at) == (left.index(at) + 1 if at in left else None)
    low, high = ends
    there = [left.index(at) + 1 for at in range(low, high + 1) if at in left]
    assert change.span(low, high) == ((there[0], there[-1]) if there else None)


@given(firsts, counts, ranges)
def test_lines_that_come_push_what_is_behind_them_and_stretch_what_is_around(first, count, ends):
    change = LineChange(Lines("row", first, count), comes=True)
    now = list(range(1, first)) + [0] * count + list(range(first, SOME + 1))
    for at in range(1, SOME + 1):
        assert change.where(at) == now.index(at) + 1
    low, high = ends
    assert change.span(low, high) == (now.index(low) + 1, now.index(high) + 1)
    gone = LineChange(change.lines, comes=False)
    assert gone.span(*change.span(low, high)) == (low, high)


@given(firsts, counts, st.integers(1, SOME + 1), ranges)
def test_lines_that_move_are_cut_out_and_put_in_elsewhere(first, count, before, ends):
    last = first + count - 1
    if last > SOME or first <= before <= last + 1:
        return
    move = LineMove(Lines.between("row", first, last), before)
    kept = [at for at in range(1, SOME + 1) if not first <= at <= last]
    at = next((index for index, line in enumerate(kept) if line >= before), len(kept))
    now = [*kept[:at], *range(first, last + 1), *kept[at:]]
    assert [move.where(line) for line in range(1, SOME + 1)] == [
        now.index(line) + 1 for line in range(1, SOME + 1)
    ]
    assert move.first == now.index(first) + 1
    low, high = ends
    there = sorted(now.index(line) + 1 for line in range(low, high + 1))
    if there[-1] - there[0] > high - low:
        # What moves leaves the range; what comes between its lines belongs to it.
        there = sorted(now.index(line) + 1 for line in range(low, high + 1) if line in kept)
    assert move.span(low, high) == (there[0], there[-1])
    area = Area(2, low, 5, high)
    assert move.area(area) == Area(2, there[0], 5, there[-1])


def test_at_the_end_of_the_sheet_lines_are_pushed_off_and_whole_columns_stay_whole():
    comes = LineChange(Lines("row", 5, 3), comes=True)
    assert comes.where(MAX_ROW - 3) == MAX_ROW and comes.where(MAX_ROW - 2) is None
    assert comes.span(MAX_ROW - 2, MAX_ROW - 1) is None
    assert comes.span(7, MAX_ROW - 1) == (10, MAX_ROW)
    goes = LineChange(Lines("row", 5, 3), comes=False)
    for change in (comes, goes):
        assert change.span(1, MAX_ROW) == (1, MAX_ROW)
        assert change.area(Area.parse("B:C")) == Area.parse("B:C")
    assert goes.span(9, MAX_ROW) == (6, MAX_ROW)
    assert goes.area(Area.parse("B5:C7")) is None
    assert goes.area(Area.parse("B6:C9")) == Area.parse("B5:C6")


def test_lines_are_called_by_their_letters_or_numbers():
    assert Lines("row", 5, 3).text == "rows 5 to 7" and Lines("row", 5, 1).text == "row 5"
    assert Lines("column", 27, 1).text == "column AA"
    assert Lines.between("column", 2, 4).text == "columns B to D"
    assert Lines("column", 2, 3).area == Area.parse("B:D") and Lines("row", 2, 1).last == 2
