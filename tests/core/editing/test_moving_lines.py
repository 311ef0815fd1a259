import pytest
from formulas import near_cells, near_formulas
from hypothesis import given
from hypothesis import strategies as st
from tables import ITEMS, PRICES, apply, filled, values, workbook

from dreieck.core.editing import laying_out, moving_lines
from dreieck.core.editing.dressing import dressed, with_format
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import EVERYWHERE, Area, Cell, LineMove, Lines
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.layout import Layout


def prices():
    return filled({**PRICES, "B11": "=SUM(B4:B9)", "E1": "=B5"}, C4_C9="=B4*$B$1")


def formula(book, address):
    cell = Cell.parse(address)
    return book.sheets[0].content(cell).text(cell)


@pytest.mark.parametrize(
    ("lines", "before", "items", "read"),
    [
        (Lines("row", 5, 2), 9, [0, 3, 4, 1, 2, 5], "=B7"),
        (Lines("row", 8, 1), 4, [4, 0, 1, 2, 3, 5], "=B6"),
        (Lines("row", 4, 1), 10, [1, 2, 3, 4, 5, 0], "=B4"),
    ],
)
def test_rows_move_between_others_and_everything_follows(lines, before, items, read):
    book = prices()
    held = list(book.sheets[0].all_runs())
    undo = apply(book, moving_lines.moved(book, book.sheets[0], lines, before))
    assert values(book, "A4:A9") == [ITEMS[item] for item in items]
    assert formula(book, "E1") == read
    assert [formula(book, f"C{row}") for row in (4, 9)] == ["=B4*$B$1", "=B9*$B$1"]
    assert values(book, "B11") == [sum(row * 7.5 for row in range(4, 10))]
    apply(book, undo)
    assert list(book.sheets[0].all_runs()) == held
    assert book.sheets[0].layout == Layout()


def test_columns_move_with_their_widths_and_looks_to_the_last_row():
    book = prices()
    sheet = book.sheets[0]
    apply(book, [laying_out.resized(sheet, [Lines("column", 2, 1)], 77)])
    apply(book, dressed(sheet, [Area.parse("B:B")], with_format("percent")))
    apply(book, moving_lines.moved(book, sheet, Lines("column", 2, 1), 4))
    assert formula(book, "B4") == "=C4*$C$1"
    assert [sheet.layout.columns.at(at).size for at in (1, 2, 3)] == [None, None, 77]
    assert [sheet.look(Cell(at, 900_000)).form for at in (2, 3)] == ["general", "percent"]


def test_rows_are_duplicated_below_as_copies():
    book = prices()
    sheet = book.sheets[0]
    apply(book, [laying_out.resized(sheet, [Lines("row", 5, 1)], 60)])
    apply(book, moving_lines.duplicated(book, sheet, Lines("row", 4, 2)))
    assert values(book, "A4:A8") == [*ITEMS[:2], *ITEMS[:2], ITEMS[2]]
    assert formula(book, "C7") == "=B7*$B$1"
    assert formula(book, "B13") == "=SUM(B4:B11)"
    assert [sheet.layout.rows.at(at).size for at in (4, 5, 6, 7)] == [None, 60, None, 60]


def test_what_cannot_be_moved_is_refused():
    book = prices()
    for lines, before, said in (
        (Lines("row", 5, 2), 6, "stand there already"),
        (Lines("row", 5, 2), 0, "no row 0"),
        (Lines("column", 1, 1), 18280, "no column"),
    ):
        with pytest.raises(DreieckError, match=said):
            moving_lines.moved(book, book.sheets[0], lines, before)


some_moves = st.builds(
    LineMove,
    st.builds(Lines, st.sampled_from(["row", "column"]), st.integers(1, 12), st.integers(1, 4)),
    st.integers(1, 14),
).filter(lambda move: not move.lines.first <= move.before <= move.lines.last + 1)


def plainly(area, move):
    """Where the lines of an area go, each on its own; those that move leave what falls apart."""
    low, high = area.on(move.lines.axis)
    if high - low > 60:
        return area
    moved = {at: at in range(move.lines.first, move.lines.last + 1) for at in range(low, high + 1)}
    order = [at for at in range(1, 40) if at not in range(move.lines.first, move.lines.last + 1)]
    place = order.index(move.before)
    order[place:place] = range(move.lines.first, move.lines.last + 1)
    there = {at: number for number, at in enumerate(order, 1)}
    images = {there.get(at, at) for at in moved}
    if max(images) - min(images) != high - low:
        images = {there.get(at, at) for at, is_moved in moved.items() if not is_moved}
    return area.spanning(move.lines.axis, min(images), max(images))


@given(st.dictionaries(near_cells, near_formulas, min_size=1, max_size=6), some_moves)
def test_every_reference_follows_and_undo_brings_all_back(entries, move):
    book = workbook(
        Loads={cell.text: entry for cell, entry in entries.items()}, Week_1={"B2": "=Loads!C3"}
    )
    before = [(list(each.all_runs()), each.layout) for each in book.sheets]
    formulas = [
        (sheet, cell, shape) for sheet in book.sheets for cell, shape in sheet.formulas(EVERYWHERE)
    ]
    undo = apply(book, moving_lines.moved(book, book.sheets[0], move.lines, move.before))
    for sheet, cell, shape in formulas:
        own = sheet is book.sheets[0]
        there = plainly(Area.of(cell), move).first if own else cell
        should = [
            plainly(area, move) if (each.sheet or sheet.name).casefold() == "loads" else area
            for each in shape.references
            if (area := each.area(cell))
        ]
        assert [each.area(there) for each in sheet.content(there).references] == should
    apply(book, undo)
    assert [(list(each.all_runs()), each.layout) for each in book.sheets] == before


def test_a_long_block_moves_in_few_pieces():
    book = filled({"B1": "2", "A3": "1"}, B3_B100002="=A3*$B$1+A2")
    edits = moving_lines.moved(book, book.sheets[0], Lines("row", 50_000, 1), 60_000)
    assert sum(len(edit.runs) for edit in edits if isinstance(edit, SetCells)) < 20
    apply(book, edits)
    assert formula(book, "B59999") == "=A59999*$B$1+A49999"
    assert formula(book, "B50000") == "=A50000*$B$1+A59999"
