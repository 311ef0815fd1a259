"""Which part of a sheet a page shows, at any size and in any view."""

from itertools import pairwise

import pytest
from formulas import cells, near_cells
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.sheet.layout import Headings, Layout, LineLook, LineLooks, LineRun
from dreieck.store import Database, Library
from dreieck.web.workbench.page_state import PageState
from dreieck.web.workbench.scene import scene
from dreieck.web.workbench.situation import Situation
from dreieck.web.workbench.window import HEAD


@pytest.fixture(scope="module")
def opened(tmp_path_factory):
    library = Library(Database(tmp_path_factory.mktemp("window") / "data.db"))
    yield library.open(library.create("Loads"))
    library.close()


spans = st.tuples(st.integers(1, 30), st.integers(0, 40))
looks = st.builds(
    lambda runs: LineLooks().put(LineRun(at, at + more, look) for (at, more), look in runs),
    st.lists(
        st.tuples(spans, st.builds(LineLook, st.sampled_from([None, 20, 400]), st.booleans())),
        max_size=4,
    ),
)
layouts = st.builds(
    Layout, looks, looks, st.builds(Headings, st.integers(0, 20), st.integers(0, 20))
)


@given(
    cell=cells | near_cells,
    left=st.integers(1, MAX_COLUMN),
    top=st.integers(1, MAX_ROW),
    width=st.integers(300, 2500),
    height=st.integers(120, 1600),
    view=st.sampled_from(["values", "formulas", "both"]),
    layout=layouts,
)
def test_what_is_revealed_is_in_view_with_the_headings_and_no_more_is_loaded_than_fits(
    opened, cell, left, top, width, height, view, layout
):
    sheet = opened.workbook.sheets[0]
    sheet.layout = layout
    state = PageState(
        sheet=sheet.id, left=left, top=top, width=width, height=height, view=view, reveal=cell.text
    )
    picture = scene(Situation(opened, state))
    for axis, shown, room, first in (
        ("column", picture.columns, width - HEAD, state.left),
        ("row", picture.rows, height, state.top),
    ):
        looks, at = layout.on(axis), cell.on(axis)
        numbers = [line.number for line in shown.lines]
        sizes = [line.size for line in shown.lines]
        fixed, others = numbers[: shown.fixed], numbers[shown.fixed :]
        assert first == others[0] and numbers == sorted(set(numbers))
        assert not any(looks.at(number).hidden for number in numbers)
        # Between the lines in view all are hidden, but where it was scrolled.
        for part in (fixed, others):
            for one, next in pairwise(part):
                assert all(looks.at(number).hidden for number in range(one + 1, next))
        assert all(number <= layout.headings.on(axis) for number in fixed)
        assert sum(sizes[: shown.fixed]) <= 0.67 * room
        assert sum(sizes[:-1]) < room
        if not looks.at(at).hidden:
            upto = numbers.index(at)
            assert sum(sizes[: upto + 1]) <= room or upto in (0, shown.fixed)
        assert shown.before == sorted(
            (n for n in range(others[0] - 200, others[0]) if n not in fixed and n > 0
             and n > max(fixed, default=0) and not looks.at(n).hidden),
            reverse=True,
        )[:12]  # fmt: skip


def test_only_what_is_seen_is_sent(opened):
    sheet = opened.workbook.sheets[0]
    sheet.layout = Layout()
    for cell in Area.parse("A1:Z400").cells():
        sheet.put(cell, float(cell.row), sheet.look(cell))
    state = PageState(sheet=sheet.id, width=900, height=540)
    picture = scene(Situation(opened, state))
    assert len(picture.cells) == len(picture.rows.lines) * len(picture.columns.lines)
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


@pytest.mark.parametrize(
    ("reveal", "height", "first"),
    [("C15:E17", 300, 9), ("C15:E17", 60, 15), ("C15:E90", 300, 15), ("C15", 300, 7)],
)
def test_an_area_is_revealed_as_a_whole_or_from_its_beginning(opened, reveal, height, first):
    sheet = opened.workbook.sheets[0]
    sheet.layout = Layout()
    state = PageState(sheet=sheet.id, height=height, width=900, reveal=reveal)
    scene(Situation(opened, state))
    assert state.top == first
