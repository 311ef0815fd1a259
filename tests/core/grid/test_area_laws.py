"""Areas against what they are: sets of cells."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.exceptions import AddressError
from dreieck.core.grid import AXES, EVERYWHERE, MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.grid.areas import areas_of, cells_of, covered, mask_of

small = st.builds(Cell, st.integers(1, 7), st.integers(1, 7))
areas = st.builds(Area.spanned, small, small)


def held(*given):
    return {cell for area in given for cell in area.cells()}


@given(areas, areas)
def test_what_is_shared_what_is_around_and_what_is_left(one, other):
    common = one.common(other)
    assert held(*([common] if common else [])) == held(one) & held(other)
    around = one.around(other)
    columns = {cell.column for cell in held(one, other)}
    rows = {cell.row for cell in held(one, other)}
    assert around == Area(min(columns), min(rows), max(columns), max(rows))
    assert one.within(other) == (held(one) <= held(other))
    pieces = list(one.without(other))
    assert held(*pieces) == held(one) - held(other)
    assert sum(piece.size for piece in pieces) == len(held(one) - held(other))


@given(areas, st.integers(-3, 9), st.integers(-3, 9))
def test_an_area_is_moved_and_walked_through_line_by_line(area, columns, rows):
    moved = area.offset(columns, rows)
    assert held(moved) == {cell.offset(columns, rows) for cell in held(area)}
    assert moved.shape == area.shape
    for axis in AXES:
        lines = list(area.lines(axis))
        assert len(lines) == area.length(axis) and held(*lines) == held(area)
        assert all(line.length(axis) == 1 for line in lines)
        first, last = area.on(axis)
        assert area.spanning(axis, first, last) == area
        assert area.first.step(axis, last - first).on(axis) == last
    assert area.size == len(held(area)) == area.width * area.height
    assert [area.first, area.last] == [min(held(area)), max(held(area))]


@given(st.lists(st.tuples(st.sampled_from(["Loads", "Prices"]), areas), max_size=6))
def test_cells_that_several_areas_cover_count_once(given_areas):
    assert covered(given_areas) == len(
        {(sheet, cell) for sheet, area in given_areas for cell in area.cells()}
    )


@given(areas, st.lists(areas, max_size=4))
def test_marked_cells_are_told_as_areas_and_marked_again(part, others):
    mask = mask_of(part, others)
    assert mask.shape == part.shape
    found = areas_of(part, mask)
    assert sorted(cells_of(found)) == sorted(held(part) & held(*others))
    assert np.array_equal(mask_of(part, found), mask)


@given(areas, small)
def test_numbered_addresses_say_the_same_from_wherever_one_looks(area, at):
    first, last = (
        f"R[{corner.row - at.row}]C[{corner.column - at.column}]"
        for corner in (area.first, area.last)
    )
    away = f"{first}:{last}"
    fixed = f"R{area.top}C{area.left}:r{area.bottom}c{area.right}"
    assert Area.parse_numbered(away, at) == Area.parse_numbered(fixed, at) == area


@pytest.mark.parametrize(
    ("text", "area"),
    [
        ("RC", Area(3, 5, 3, 5)),
        ("R", Area(1, 5, MAX_COLUMN, 5)),
        ("C", Area(3, 1, 3, MAX_ROW)),
        ("R2", Area(1, 2, MAX_COLUMN, 2)),
        ("C[1]", Area(4, 1, 4, MAX_ROW)),
        (" r[-4]c1 : R5C[0] ", Area(1, 1, 3, 5)),
        ("R9C4:R2C2", Area(2, 2, 4, 9)),
    ],
)
def test_numbered_addresses_may_leave_parts_out(text, area):
    assert Area.parse_numbered(text, Cell.parse("C5")) == area


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "not an area such as R5C3"),
        ("R5C3:", "not an area such as R5C3"),
        ("C5", None),
        ("R[-5]C", "off the sheet"),
        ("R1000001C1", "off the sheet"),
        ("R1C18279", "off the sheet"),
        ("R1C1:R2C2:R3C3", "more than two ends"),
        ("R1.5C2", "not an area"),
        ("R99999999C1", "not an area"),
    ],
)
def test_numbered_addresses_that_are_none_are_refused(text, says):
    if says is None:
        assert Area.parse_numbered(text, Cell.parse("A1")) == Area(5, 1, 5, MAX_ROW)
        return
    with pytest.raises(AddressError, match=says):
        Area.parse_numbered(text, Cell.parse("C5"))


def test_the_whole_sheet_holds_its_corners_and_nothing_beyond():
    assert EVERYWHERE.holds(Cell.parse("A1")) and EVERYWHERE.holds(Cell.parse("ZZZ1000000"))
    for cell in (Cell(0, 1), Cell(1, 0), Cell(MAX_COLUMN + 1, 1), Cell(1, MAX_ROW + 1)):
        assert not cell.on_sheet and not EVERYWHERE.holds(cell)
    assert EVERYWHERE.text == "A:ZZZ" and Area.parse("1:1000000") == EVERYWHERE
