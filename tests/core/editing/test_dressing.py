import pytest
from formulas import near_cells
from hypothesis import given
from hypothesis import strategies as st
from tables import LOADS, apply, workbook

from dreieck.core.editing import dressing
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import EVERYWHERE, Area, Cell
from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.style import Edges, Style

near_areas = st.builds(Area.spanned, near_cells, near_cells)
wheres = st.sampled_from(["around", "between", "above", "below", "none"])


def looks(sheet, area="A1:Z26"):
    return dict(sheet.looked(Area.parse(area)))


@given(st.lists(st.tuples(near_areas, wheres), max_size=4))
def test_lines_are_drawn_cell_by_cell_as_a_pencil_would(drawn):
    book = workbook(Loads=LOADS)
    sheet = book.sheets[0]
    model = {cell: {} for cell in Area.parse("A1:N14").cells()}
    undo = []
    for area, where in drawn:
        undo[:0] = apply(book, dressing.edged(sheet, [area], where, "thin"))
        for cell in area.cells():
            border = {
                "left": cell.column == area.left, "right": cell.column == area.right,
                "top": cell.row == area.top, "bottom": cell.row == area.bottom,
            }  # fmt: skip
            sides = {
                "around": [side for side, there in border.items() if there],
                "between": [side for side in ("right", "bottom") if not border[side]],
                "above": ["top"] * border["top"],
                "below": ["bottom"] * border["bottom"],
                "none": [],
            }[where]
            model[cell].update(dict.fromkeys(sides, "thin"))
            if where == "none":
                model[cell] = {}
                for side, columns, rows in (
                    ("right", -1, 0), ("left", 1, 0), ("bottom", 0, -1), ("top", 0, 1),
                ):  # fmt: skip
                    beside = cell.offset(columns, rows)
                    if not area.holds(beside) and beside in model:
                        model[beside].pop(side, None)
    for cell, lines in model.items():
        assert sheet.look(cell).style.edges == Edges(**lines)
    apply(book, undo)
    assert looks(sheet) == {}


def test_a_style_is_switched_on_for_all_and_off_only_where_all_have_it():
    book = workbook(Loads=LOADS)
    sheet = book.sheets[0]
    sheet.dress(2, 4, 5, Look("percent", 1, "input", Style(bold=True, ink="rose")))
    areas = [Area.parse("B4:C5"), Area.parse("E9")]
    apply(book, dressing.switched(sheet, areas, bold=True))
    assert [each.style.bold for each in dressing.looks_in(sheet, areas)] == [True] * 3
    assert sheet.look(Cell(2, 4)) == Look("percent", 1, "input", Style(bold=True, ink="rose"))
    apply(book, dressing.switched(sheet, areas, bold=True))
    assert sheet.look(Cell(2, 4)) == Look("percent", 1, "input", Style(ink="rose"))
    assert sheet.look(Cell(5, 9)) == PLAIN
    apply(book, dressing.with_role(sheet, areas, "input"))
    assert sheet.look(Cell(5, 9)).role == "input"
    apply(book, dressing.with_role(sheet, areas, "input"))
    assert sheet.look(Cell(2, 4)).role == "plain"


@pytest.mark.parametrize(
    ("change", "before", "after"),
    [
        (dressing.with_format("number"), Look(), Look("number", 2)),
        (dressing.with_format("percent"), Look("number", 1), Look("percent", 0)),
        (dressing.with_format("percent"), Look("percent", 1), Look("percent", 1)),
        (dressing.with_format("currency:CHF"), Look("grouped", 1), Look("currency:CHF")),
        (dressing.grouped, Look(), Look("grouped")),
        (dressing.grouped, Look("number", 2), Look("grouped", 2)),
        (dressing.grouped, Look("grouped", 2), Look("number", 2)),
        (dressing.grouped, Look("grouped"), Look()),
        (dressing.with_decimals(3), Look(), Look("number", 3)),
        (dressing.with_decimals(-1), Look("percent", 0), Look("percent", 0)),
        (dressing.with_decimals(99), Look("currency:EUR"), Look("currency:EUR", 30)),
        (dressing.with_decimals(1), Look("date"), Look("date")),
        (dressing.with_decimals(1), Look("text"), Look("text")),
    ],
)
def test_number_formats_change(change, before, after):
    assert change(before) == after


def test_a_look_that_is_given_is_repeated_as_far_as_the_place_goes():
    book = workbook(Loads=LOADS)
    sheet = book.sheets[0]
    one, two = Look("percent", 1), Look(style=Style(ground="lake"))
    sheet.dress(2, 2, 2, one)
    sheet.dress(3, 3, 3, two)
    taken = Area.parse("B2:C3")
    undo = apply(book, dressing.given(sheet, taken, sheet, Area.parse("E5:G9")))
    given = looks(sheet, "E5:Z26")
    assert {cell.text for cell, look in given.items() if look == one} == {
        "E5", "G5", "E7", "G7", "E9", "G9"
    }  # fmt: skip
    assert {cell.text for cell, look in given.items() if look == two} == {"F6", "F8"}
    apply(book, undo)
    assert looks(sheet, "E5:Z26") == {}
    # In one cell it has the size that it had; what is plain is given, too.
    apply(book, dressing.given(sheet, taken, sheet, Area.parse("C3")))
    assert {cell.text for cell, look in looks(sheet, "C3:F6").items() if look == one} == {"C3"}
    assert sheet.look(Cell(4, 4)) == two
    with pytest.raises(DreieckError, match="has no room there"):
        dressing.given(sheet, taken, sheet, Area.parse("ZZZ3"))


def test_whole_rows_are_dressed_a_little_beyond_what_is_used_and_too_many_runs_refused():
    sheet = workbook(Loads=LOADS).sheets[0]
    (edit,) = dressing.dressed(sheet, [Area.parse("3:4")], dressing.with_style(bold=True))
    assert {run.column for run in edit.looks} == set(range(1, 25))
    (edit,) = dressing.dressed(sheet, [Area.parse("B:C")], dressing.with_style(bold=True))
    assert [run[:3] for run in edit.looks] == [(2, 1, 1_000_000), (3, 1, 1_000_000)]
    assert dressing.dressed(sheet, [EVERYWHERE], dressing.with_style(bold=False)) == []
    for row in range(1, 102_001, 2):
        sheet.dress(1, row, row, Look("percent"))
    with pytest.raises(DreieckError, match="cannot be dressed at once"):
        dressing.dressed(sheet, [Area.parse("A:A")], dressing.with_style(bold=True))
