"""What a page holds follows rows and columns as kept formulas do."""

from formulas import near_formulas
from hypothesis import assume, given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.editing.steps import (
    followed_area,
    followed_cell,
    followed_text,
    steps_of,
    was_written,
)
from dreieck.core.grid import Area, Cell, Lines
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN

LINES = st.builds(Lines, st.sampled_from(["row", "column"]), st.integers(1, 9), st.integers(1, 3))
AT = Cell(4, 5)


@given(near_formulas, LINES, st.booleans(), st.booleans())
def test_a_formula_that_is_written_follows_as_a_kept_one(formula, lines, comes, elsewhere):
    made = workbook(Loads={AT.text: formula}, Prices={})
    loads, prices = made.sheets
    text = typed_text(loads.content(AT), AT)
    assume(loads.content(AT) is not None and text.startswith("="))
    sheet = prices if elsewhere else loads
    edits = (inserted if comes else deleted)(made, sheet, lines)
    steps = list(steps_of(edits))
    there = followed_cell(steps, loads.id, AT)
    followed = followed_text(made, steps, loads.id, AT, text)
    for edit in edits:
        edit.apply(made)
    if there is None:
        assert not comes and lines.area.holds(AT) and not elsewhere
        assert was_written(steps, loads.id, AT)
    else:
        assert made.read_entry(followed, there).content == loads.content(there)


def test_areas_and_cells_follow_and_writing_is_noticed():
    made = workbook(Loads={"A1": "1"})
    sheet = made.sheets[0]
    edits = [
        *inserted(made, sheet, Lines("row", 3, 2)),
        SetCells.of(sheet.id, {Cell.parse("C7"): (5.0, PLAIN)}),
    ]
    steps = list(steps_of(edits))
    assert followed_area(steps, sheet.id, Area.parse("B2:D5")) == Area.parse("B2:D7")
    assert followed_cell(steps, sheet.id, Cell.parse("C5")) == Cell.parse("C7")
    assert was_written(steps, sheet.id, Cell.parse("C5"))
    assert not was_written(steps, sheet.id, Cell.parse("C7"))
    assert followed_cell(steps, sheet.id + 1, Cell.parse("C5")) == Cell.parse("C5")
