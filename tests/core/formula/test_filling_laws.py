"""What becomes of a reference in a fill, against the text itself: parts without ``$`` move."""

import re

from formulas import cells, near_cells, reference_texts
from hypothesis import assume, given
from hypothesis import strategies as st

from dreieck.core.formula import Shape
from dreieck.core.formula.reference import (
    ends_apart,
    firsts,
    lettered,
    never_moves,
    staying,
    with_free_parts_of,
)
from dreieck.core.formula.shift import circled, shift_log, shifts_by_letter, tag, uncircled
from dreieck.core.grid import (
    AXES,
    EVERYWHERE,
    MAX_COLUMN,
    MAX_ROW,
    Area,
    Cell,
    column_letters,
    column_number,
)

near = reference_texts(st.integers(1, 12), st.integers(1, 12))
_PART = re.compile(r"(\$?)([A-Z]+)|(\$?)(\d+)")


def parts(text):
    """The parts of each corner: its axis, whether it is locked, its coordinate."""
    for corner in text.upper().rpartition("!")[2].split(":"):
        yield [
            ("column", match[1] == "$", column_number(match[2]))
            if match[2]
            else ("row", match[3] == "$", int(match[4]))
            for match in _PART.finditer(corner)
        ]


def filled(text, steps):
    """The area that a reference reads after so many columns and rows; None off the sheet."""
    ends = {"column": [], "row": []}
    for corner in parts(text):
        for axis, locked, at in corner:
            ends[axis].append(at if locked else at + steps[axis])
    columns, rows = ends["column"] or [1, MAX_COLUMN], ends["row"] or [1, MAX_ROW]
    area = Area(min(columns), min(rows), max(columns), max(rows))
    return area if area.within(EVERYWHERE) else None


@given(near, near_cells, near_cells)
def test_each_part_without_a_lock_moves_by_the_distance_and_no_other_one(text, start, landing):
    steps = {axis: landing.on(axis) - start.on(axis) for axis in AXES}
    reference = Shape.parse(f"={text}", start).references[0]
    assert reference.area(start) == filled(text, dict.fromkeys(AXES, 0))
    assert reference.area(landing) == filled(text, steps)


@given(near, near_cells, near_cells)
def test_the_shift_log_tells_how_far_each_corner_moved(text, start, landing):
    shape = Shape.parse(f"={text}", start)
    assume(filled(text, {axis: landing.on(axis) - start.on(axis) for axis in AXES}))
    (shift,) = shift_log(shape, start, landing)
    for corner in shift.corners:
        assert corner.columns == (0 if corner.locks.column else landing.column - start.column)
        assert corner.rows == (0 if corner.locks.row else landing.row - start.row)
    assert shift.column_locked == all(corner.locks.column for corner in shift.corners)
    assert shift.row_locked == all(corner.locks.row for corner in shift.corners)
    assert abs(shift.columns) == max(abs(corner.columns) for corner in shift.corners)
    assert abs(shift.rows) == max(abs(corner.rows) for corner in shift.corners)
    back = Shape.parse(f"={shift.here}", landing).references[0]
    assert back == shape.references[0]


@given(near, near_cells)
def test_what_never_moves_and_what_grows_is_told_by_its_locks(text, at):
    reference = Shape.parse(f"={text}", at).references[0]
    locks = {
        axis: [locked for corner in parts(text) for kind, locked, _ in corner if kind == axis]
        for axis in AXES
    }
    assert never_moves(reference) == all(all(each) for each in locks.values())
    assert ends_apart(reference) == any(len(set(each)) > 1 for each in locks.values())


@given(near, near, near_cells)
def test_free_parts_can_be_those_of_another_reference(text, other, at):
    one, two = (Shape.parse(f"={each}", at).references[0] for each in (text, other))
    mixed = with_free_parts_of(one, two)
    assert mixed.corners(at) and with_free_parts_of(one, one) == one
    if type(one) is type(two) and never_moves(one):
        assert mixed == one
    if type(one) is not type(two):
        assert mixed is one


@given(cells, cells, near_cells)
def test_a_reference_that_stays_reads_its_area_from_everywhere(one, other, at):
    area = Area.spanned(one, other)
    reference = staying(area, "Loads")
    assert never_moves(reference) and reference.area(at) == area
    text = f"=Loads!{reference.text(at)}"
    assert Shape.parse(text, at).references[0].area(at) == area


@given(st.lists(near, min_size=1, max_size=6), near_cells)
def test_equal_references_have_one_letter_in_the_order_of_the_text(texts, at):
    shape = Shape.parse("=" + "&".join(texts), at)
    letters = lettered(shape.references)
    seen = list(dict.fromkeys(shape.references))
    assert [seen[letter] for letter in letters] == list(shape.references)
    assert [shape.references[index] for index in firsts(letters)] == seen
    told = shifts_by_letter(shape, at, at)
    assert [shift.reference for shift in told] == seen
    assert [shift.tag for shift in told] == [tag(number) for number in range(len(seen))]


@given(st.integers(0, 2_000))
def test_tags_go_on_behind_z_and_are_read_out_of_circles(number):
    assert tag(number) == column_letters(number + 1).lower()
    assert uncircled(circled(number)) == number
    assert not set(circled(number)) & set("abcdefghijklmnopqrstuvwxyz")


@given(near_cells, st.sampled_from(["B5", "$B5", "B$5", "$B$5"]), st.integers(0, 30))
def test_a_part_pushed_off_the_sheet_is_lost_and_no_other_one(start, text, rows):
    assume(start.row >= 5)
    # Up by so many rows: only a row that moves can fall off.
    landing = Cell(start.column, start.row - min(rows, start.row - 1))
    there = Shape.parse(f"={text}", start).landed(landing).text(landing)
    off = "$5" not in text and 5 - (start.row - landing.row) < 1
    assert (there == "=#REF!") == off
