"""Numbers in formulas keep their spelling; formulas that differ in nothing else are one block."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import filled, raised, values, workbook

from dreieck.core.calculate import block_at
from dreieck.core.calculate.blocks import blocks
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import typed_text

C5 = Cell.parse("C5")
spellings = st.sampled_from(["12.5", "12.50", "12.500", "1.25E1", "1.25e+1", "012.5"])


def texts(made, area):
    cells = Area.parse(area).cells()
    return [typed_text(made.sheets[0].content(cell), cell) for cell in cells]


@pytest.mark.parametrize(
    "text", ["=12.50*A1", "=1E3", "=.5", "=5.", "={1.0,2;3,4E0}", "=IF(A1>1.0,0.10%,-2.0)"]
)
def test_what_is_typed_is_printed_as_it_was_and_filled_so(text):
    shape = Shape.parse(text, C5)
    assert shape.text(C5) == text and Shape.parse(text, C5) is shape
    assert shape.plain is shape.plain.plain
    made = filled({}, C5_C7=text)
    assert texts(made, "C7") == [text.replace("A1", "A3")]


@given(st.lists(spellings, min_size=3, max_size=6))
def test_formulas_that_differ_in_spelling_alone_are_one_block(spelled):
    rows = {f"A{row}": str(row) for row in range(1, len(spelled) + 1)}
    rows |= {f"B{row}": f"={number}*A{row}" for row, number in enumerate(spelled, 1)}
    made = workbook(Loads=rows)
    (block,) = blocks(made.sheets[0])
    assert block.area.text == f"B1:B{len(spelled)}"
    assert block_at(made.sheets[0], Cell.parse("B2")) == block
    assert block.shape.text(block.start) == f"={spelled[0]}*A1"
    assert not {rule for rule, _ in raised(made)} - {"number-inside"}
    assert values(made, block.area.text) == [12.5 * row for row in range(1, len(spelled) + 1)]
    again = [made.sheets[0].content(cell).text(cell) for cell in block.cells()]
    assert again == [rows[f"B{row}"] for row in range(1, len(spelled) + 1)]
