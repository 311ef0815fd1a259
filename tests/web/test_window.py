"""Which part of a sheet a page shows, at any size and in any view."""

import pytest
from formulas import cells
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.store import Database, Library
from dreieck.web.workbench.page_state import PageState
from dreieck.web.workbench.scene import HEAD, ROW, scene
from dreieck.web.workbench.situation import Situation


@pytest.fixture(scope="module")
def opened(tmp_path_factory):
    library = Library(Database(tmp_path_factory.mktemp("window") / "data.db"))
    yield library.open(library.create("Loads"))
    library.close()


@given(
    cell=cells,
    left=st.integers(1, MAX_COLUMN),
    top=st.integers(1, MAX_ROW),
    width=st.integers(300, 2500),
    height=st.integers(120, 1600),
    view=st.sampled_from(["values", "formulas", "both"]),
)
def test_what_is_revealed_is_in_view_and_no_more_is_loaded_than_fits(
    opened, cell, left, top, width, height, view
):
    sheet = opened.workbook.sheets[0]
    state = PageState(
        sheet=sheet.id, left=left, top=top, width=width, height=height, view=view, reveal=cell.text
    )
    picture = scene(Situation(opened, state))
    columns = picture.columns
    rows = height // picture.row_height
    assert columns[0].number <= cell.column <= columns[-1].number
    assert state.top <= cell.row < state.top + max(rows, 1)
    before = [column.width for column in columns if column.number <= cell.column]
    assert HEAD + sum(before) <= width or len(before) == 1
    assert HEAD + sum(column.width for column in columns[:-1]) < width
    assert [column.number for column in columns] == list(
        range(columns[0].number, columns[0].number + len(columns))
    )


def test_only_what_is_seen_is_sent(opened):
    sheet = opened.workbook.sheets[0]
    for cell in Area.parse("A1:Z400").cells():
        sheet.put(cell, float(cell.row), sheet.look(cell))
    state = PageState(sheet=sheet.id, width=900, height=540)
    picture = scene(Situation(opened, state))
    assert len(picture.cells) <= (540 // ROW + 1) * len(picture.columns)
    assert picture.used == (26, 400)
    assert all(Area(1, 1, 9, 20).holds(Cell(each.column, each.row)) for each in picture.cells)


def test_only_cells_that_differ_from_the_last_picture_are_sent(page):
    first = page.scene
    assert first["since"] == 0 and len(first["cells"]) > 40
    page.enter("C4", "430", picture=first["picture"])
    changed = {(cell["column"], cell["row"]) for cell in page.scene["cells"]}
    assert page.scene["since"] == first["picture"] and page.scene["gone"] == []
    assert changed == {(3, row) for row in (4, 5, 6, 7, 8, 9, 10, 12)}
    page.act("clear", anchor="A10", focus="A10", picture=page.scene["picture"])
    assert (page.scene["cells"], page.scene["gone"]) == ([], [[1, 10]])
    page.act("show-sheet", columns=1, picture=page.scene["picture"])
    assert page.scene["since"] == 0
    page.act("show", picture=999)
    assert page.scene["since"] == 0 and page.scene["cells"]
