"""Lines that were inserted into a table take the formulas around them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import apply, filled, values

from dreieck.core.editing.inserting import inserted
from dreieck.core.editing.taking_along import taken_along
from dreieck.core.grid import Cell, Lines
from dreieck.core.sheet.content import typed_text

SEASON = {
    "A1": "Rate", "B1": "0.1", "A3": "Week", "B3": "Guests",
    **{f"A{row}": f"Week {row - 3}" for row in range(4, 10)},
    **{f"B{row}": str(100 + row * row) for row in range(4, 10)},
    "A10": "Total",
}  # fmt: skip
FORMULAS = {
    "C5_C9": "=B5/B4-1",
    "D4_D9": "=SUM(B$4:B4)",
    "E4_E9": "=B4*$B$1",
    "F6_F9": "=AVERAGE(B4:B6)",
    "G4_G8": "=B5-B4",
}


def widened(made, axis, first, count=1):
    """A workbook with lines inserted into its first sheet, which took the formulas along."""
    sheet, lines = made.sheets[0], Lines(axis, first, count)
    apply(made, inserted(made, sheet, lines))
    edits = taken_along(sheet, lines)
    apply(made, edits)
    return edits


def text(made, cell):
    at = Cell.parse(cell)
    return typed_text(made.sheets[0].content(at), at)


@given(st.sampled_from(sorted(FORMULAS)), st.integers(5, 9), st.integers(1, 3))
def test_a_block_is_whole_again_wherever_lines_came_into_it(area, first, count):
    column, top, bottom = area[0], int(area[1]), int(area[4])
    made = filled(SEASON, **{area: FORMULAS[area]})
    widened(made, "row", first, count)
    if top < first <= bottom:
        other = filled(SEASON, **{f"{column}{top}_{column}{bottom + count}": FORMULAS[area]})
        cells = [f"{column}{row}" for row in range(top, bottom + count + 1)]
        assert [text(made, cell) for cell in cells] == [text(other, cell) for cell in cells]


@pytest.mark.parametrize(
    ("axis", "first", "there", "formula"),
    [
        ("row", 10, "E10", "=B10*$B$1"),
        ("row", 10, "B10", ""),
        ("column", 3, "C10", "=SUM(C4:C9)"),
        ("row", 4, "E4", ""),
    ],
)
def test_what_ends_before_the_lines_goes_on_unless_it_is_a_total(axis, first, there, formula):
    made = filled(SEASON, E4_E9="=B4*$B$1", B10_D10="=SUM(B4:B9)")
    widened(made, axis, first)
    assert text(made, there) == formula


def test_a_block_that_reads_another_part_of_its_lines_is_left_alone():
    made = filled({"A2": "1", "B2": "2", "C2": "3"}, A5_C5="=A2+J2")
    before = values(made, "A5:D5")
    assert widened(made, "column", 2) == [] and before == [1.0, 2.0, 3.0, None]
