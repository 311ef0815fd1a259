from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.grid import Area
from dreieck.core.grid.areas import joined


@given(st.sets(st.tuples(st.integers(1, 6), st.integers(1, 6))))
def test_joined_cells_are_the_same_cells_in_areas_that_no_longer_touch(cells):
    found = joined([Area(column, row, column, row) for column, row in cells])
    inside = [tuple(cell) for area in found for cell in area.cells()]
    assert sorted(inside) == sorted(cells)
    for one in found:
        for other in found:
            beside = one.on("row") == other.on("row") and one.right + 1 == other.left
            assert not beside
