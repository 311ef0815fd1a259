"""What is kept of a review: after every change it says what a review from the start says."""

from hypothesis import given
from hypothesis import strategies as st
from tests.reviewed import examples, tables

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_workbook
from dreieck.core.formula import Shape
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import Look

TABLES = [*examples().values(), *tables("mistaken.txt")]
PARTED = [table for table in TABLES if len(table.sheets) > 1]


def _told(calculation):
    return [(each.sheet.name, each.block, each.findings) for each in check_workbook(calculation)]


def _change(data, made):
    """An edit of one cell: a number, a text, nothing, a formula from elsewhere, another look."""
    sheet = data.draw(st.sampled_from(made.sheets))
    held = [*sheet.filled(sheet.used())] if sheet.used() else []
    if not held:
        return SetCells(sheet.id, ())
    cell, _ = data.draw(st.sampled_from(held))
    at = data.draw(st.sampled_from([cell, cell.step("row", 1), cell.step("column", 1)]))
    if data.draw(st.booleans()):
        _, content = data.draw(st.sampled_from(held))
    else:
        content = data.draw(st.sampled_from([7.0, 0.19, "Total", "x", None]))
    look = data.draw(st.sampled_from([sheet.look(at), Look("percent"), Look(role="heading")]))
    if isinstance(content, Shape) or data.draw(st.booleans()):
        look = sheet.look(at)
    return SetCells.of(sheet.id, {at: (content, look)})


@given(st.data())
def test_what_is_kept_says_what_a_review_from_the_start_says(data):
    made = data.draw(st.sampled_from(data.draw(st.sampled_from([TABLES, PARTED])))).made()
    known = Calculation(made)
    _told(known)
    for _ in range(data.draw(st.integers(1, 3))):
        edit = _change(data, made)
        edit.apply(made)
        known.edited([edit])
        assert _told(known) == _told(Calculation(made))
