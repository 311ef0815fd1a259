"""Rows and columns that come and go, and everything that refers to them."""

import pytest
from formulas import near_cells, near_formulas
from hypothesis import given
from hypothesis import strategies as st
from tables import GRID, PRICES, apply, filled, values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_sheet
from dreieck.core.editing.counted_lines import counting
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.editing.losing import losing_lines, losing_sheet
from dreieck.core.editing.naming import given as name_given
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.tree import Lost, Name, walk
from dreieck.core.grid import EVERYWHERE, MAX_COLUMN, MAX_ROW, Area, Cell, Lines
from dreieck.core.sheet.layout import Layout
from dreieck.core.values.look import Look

ways = st.sampled_from([inserted, deleted])
some_lines = st.builds(
    Lines, st.sampled_from(["row", "column"]), st.integers(1, 14), st.integers(1, 5)
)


def make(book, way, axis, first, count=1, sheet=0):
    return apply(book, way(book, book.sheets[sheet], Lines(axis, first, count)))


def text(book, cell, sheet=0):
    at = Cell.parse(cell)
    content = book.sheets[sheet].content(at)
    return content.text(at) if isinstance(content, Shape) else content


def state(book):
    return [(each.name, list(each.all_runs()), each.layout) for each in book.sheets]


def afterwards(at, way, lines):
    """Where one coordinate goes: the rule in its plainest form."""
    if at < lines.first:
        return at
    if way is inserted:
        return at + lines.count
    return at - lines.count if at > lines.last else None


def expected(area, way, lines):
    """The cells that a reference read, each gone its own way, and the area around them."""
    low, high = (area.top, area.bottom) if lines.axis == "row" else (area.left, area.right)
    if (low, high) == (1, lines.limit):  # whole columns or rows
        return area
    if high == lines.limit:
        ends = {afterwards(at, way, lines) for at in range(low, low + 30)} | {high}
    else:
        ends = {afterwards(at, way, lines) for at in range(low, high + 1)}
    ends.discard(None)
    if not ends:
        return None
    if lines.axis == "row":
        return area._replace(top=min(ends), bottom=max(ends))
    return area._replace(left=min(ends), right=max(ends))


@given(st.dictionaries(near_cells, near_formulas, min_size=1, max_size=6), some_lines, ways)
def test_every_reference_goes_where_its_cells_go_and_undo_brings_all_back(entries, lines, way):
    book = workbook(
        Loads={cell.text: entry for cell, entry in entries.items()}, Week_1={"B2": "=Loads!C3"}
    )
    before = state(book)
    formulas = [
        (sheet, cell, shape) for sheet in book.sheets for cell, shape in sheet.formulas(EVERYWHERE)
    ]
    inverse = apply(book, way(book, book.sheets[0], lines))
    for sheet, cell, shape in formulas:
        own = sheet is book.sheets[0]
        there = expected(Area.of(cell), way, lines) if own else Area.of(cell)
        if there is None:
            continue
        now = sheet.content(there.first)
        should = []
        for reference in shape.references:
            reads = reference.sheet or sheet.name
            area = reference.area(cell)
            should.append(expected(area, way, lines) if reads.casefold() == "loads" else area)
        assert [r.area(there.first) for r in now.references] == [a for a in should if a]
        lost = sum(isinstance(node, Lost) for node in walk(now.tree))
        assert lost == sum(a is None for a in should)
    apply(book, inverse)
    assert state(book) == before


@pytest.mark.parametrize(
    ("way", "first", "count", "reads"),
    [
        (inserted, 6, 1, "=SUM(B5:B11)+$B$8"),  # inside: the range stretches
        (inserted, 5, 1, "=SUM(B6:B11)+$B$8"),  # above its first row: all of it moves
        (inserted, 11, 2, "=SUM(B5:B10)+$B$7"),  # below its last row: it stays as it is
        (deleted, 5, 1, "=SUM(B5:B9)+$B$6"),
        (deleted, 9, 2, "=SUM(B5:B8)+$B$7"),
        (deleted, 7, 1, "=SUM(B5:B9)+#REF!"),
        (deleted, 5, 6, "=SUM(#REF!)+#REF!"),
        (deleted, 4, 1, "=SUM(B4:B9)+$B$6"),
    ],
)
def test_a_range_stretches_and_shrinks_and_a_deleted_cell_is_lost(way, first, count, reads):
    book = workbook(Loads=GRID, Season={"A1": "=SUM(Loads!B5:B10)+Loads!$B$7"})
    make(book, way, "row", first, count)
    assert text(book, "A1", 1).replace("Loads!", "") == reads


def test_a_block_goes_on_reading_what_it_read():
    book = filled(GRID, C5_F10="=$B5*C$4")
    before = values(book, "C5:F10")
    make(book, inserted, "row", 5, 2)
    make(book, inserted, "column", 3)
    assert text(book, "D7") == "=$B7*D$4" and text(book, "G12") == "=$B12*G$4"
    assert values(book, "D7:G12") == before
    make(book, deleted, "column", 3)
    make(book, deleted, "row", 8)
    assert values(book, "C7:F11") == before[:4] + before[8:]


def test_a_long_block_changes_in_few_pieces():
    book = filled({"B1": "2", "A3": "1"}, B3_B100002="=A3*$B$1+A2")
    [insert, follow] = inserted(book, book.sheets[0], Lines("row", 50_000, 1))
    assert len(follow.runs) < 8
    apply(book, [insert, follow])
    assert text(book, "B50001") == "=A50001*$B$1+A49999"
    assert text(book, "B50002") == "=A50002*$B$1+A50001"


def test_names_follow_and_one_to_the_end_of_the_sheet_stays_so():
    book = workbook(Prices={**PRICES, "D4": "=SUM(weights)*rate"}, Season={"B9": "1"})
    for name, says in [
        ("rate", "Prices!$B$1"), ("weights", "Prices!$B$4:$B$9"),
        ("grows", "Prices!$B$4:$B$1000000"), ("above", "B1"), ("other", "Season!$B$9"),
    ]:  # fmt: skip
        apply(book, name_given(book, name, says, Cell.parse("B2")))
    value = values(book, "D4")
    inverse = make(book, inserted, "row", 1, 3) + make(book, inserted, "row", 9)
    said = {name: each.shape.text(Cell.parse("B2")) for name, each in book.names.items()}
    assert said == {
        "rate": "=Prices!$B$4", "weights": "=Prices!$B$7:$B$13",
        "grows": "=Prices!$B$7:$B$1000000", "above": "=B1", "other": "=Season!$B$9",
    }  # fmt: skip
    assert values(book, "D7") == value
    make(book, deleted, "row", 4)
    assert book.names["rate"].shape.text(Cell(1, 1)) == "=#REF!"
    assert inverse


def test_looks_and_widths_come_along_and_new_lines_look_like_their_neighbours():
    book = filled(PRICES, C4_C9="=B4*$B$1")
    sheet = book.sheets[0]
    sheet.dress(2, 3, 3, Look(role="heading"))
    sheet.dress(2, 4, 9, Look("number", 2))
    sheet.layout = Layout.wide({2: 140, 3: 90})
    make(book, inserted, "row", 4)
    assert sheet.look(Cell.parse("B4")) == Look("number", 2)
    assert sheet.look(Cell.parse("B3")) == Look(role="heading")
    sheet.dress(2, 8, 9, Look("number", 1))
    make(book, inserted, "row", 8)
    assert sheet.look(Cell.parse("B8")) == Look("number", 2)
    make(book, deleted, "row", 8)
    sheet.dress(2, 8, 9, Look("number", 2))
    make(book, inserted, "column", 2)
    assert sheet.layout == Layout.wide({3: 140, 4: 90})
    assert sheet.look(Cell.parse("C10")) == Look("number", 2)
    inverse = make(book, deleted, "column", 3)
    assert sheet.layout == Layout.wide({3: 90})
    apply(book, inverse)
    assert sheet.layout == Layout.wide({3: 140, 4: 90})


def test_what_would_be_lost_is_told_before():
    book = workbook(Prices=PRICES, Loads={"A1": "=Prices!B1*2", "A2": "=SUM(Prices!B1:B4)"})
    prices = book.sheets[0]
    assert losing_lines(book, prices, Lines("row", 1, 1)).texts == ["Loads!A1"]
    assert not losing_lines(book, prices, Lines("row", 2, 1)).count
    apply(book, name_given(book, "price", "Prices!$B$1"))
    apply(book, name_given(book, "twice", "price*2"))
    for row in range(3, 7):
        at = Cell(1, row)
        book.sheets[1].put(at, book.read_entry(f"=twice*A{row - 1}", at).content, Look())
    for lost in (losing_lines(book, prices, Lines("row", 1, 1)), losing_sheet(book, prices)):
        assert (lost.names, lost.texts[0]) == (("price", "twice"), "Loads!A1")
        assert lost.count == 5 + ("Loads!A2" in lost.texts)


def lacking(book):
    """The formulas, by sheet and cell, that lack a reference themselves or by a name of theirs."""
    gone = {key for key, each in book.names.items() if lacks(each.shape, ())}
    return {
        (sheet.id, cell)
        for sheet in book.sheets
        for cell, shape in sheet.formulas(EVERYWHERE)
        if lacks(shape, gone)
    }


def lacks(shape, gone):
    return any(
        isinstance(node, Lost) or (isinstance(node, Name) and node.text.casefold() in gone)
        for node in walk(shape.tree)
    )


@given(st.dictionaries(near_cells, near_formulas, min_size=1, max_size=8), some_lines)
def test_what_is_told_to_be_lost_is_what_a_deletion_loses(entries, lines):
    book = workbook(
        Loads={cell.text: entry for cell, entry in entries.items()},
        Week_1={"B2": "=Loads!C3+1", "B3": "=rate_2*2", "B4": "=SUM(Loads!B2:B6)"},
    )
    apply(book, name_given(book, "rate_2", "Loads!$C$3"))
    loads = book.sheets[0]
    told = {
        (sheet.id, cell)
        for sheet, area in losing_lines(book, loads, lines).areas
        for cell in area.cells()
    }
    counted = losing_lines(book, loads, lines).count
    apply(book, deleted(book, loads, lines))
    moved = {
        (number, there.first)
        for number, cell in told
        if (
            there := Area.of(cell)
            if number != loads.id
            else expected(Area.of(cell), deleted, lines)
        )
    }
    assert moved == lacking(book) and len(told) == len(moved) == counted


def test_nothing_falls_off_the_end_of_the_sheet():
    book = workbook(Loads={"A1000000": "1", "ZZZ1": "=A1000000", "B1": "=A3"})
    for axis, limit in (("row", MAX_ROW), ("column", MAX_COLUMN)):
        before = state(book)
        with pytest.raises(DreieckError, match="no room"):
            make(book, inserted, axis, 2)
        assert state(book) == before
        make(book, deleted, axis, limit - 3, 3)
    assert text(book, "ZZW1") == "=A999997"


CODES = {"A1": "Code", "B1": "Item", "C1": "Weight", "D1": "Price", "A2": "P1", "B2": "Flour",
         "C2": "5", "D2": "1.2", "A3": "P2", "B3": "Lentils", "C3": "4", "D3": "2.4"}  # fmt: skip


@pytest.mark.parametrize(
    ("axis", "first", "count", "gone", "come"),
    [
        ("column", 1, 1, True, False),
        ("column", 3, 1, True, True),
        ("column", 4, 2, True, True),
        ("column", 5, 1, False, False),
        ("row", 2, 1, False, False),
    ],
)
def test_lookups_that_count_over_lines_by_number_are_known_before(axis, first, count, gone, come):
    formulas = {f"B{row}": f"=VLOOKUP(A{row},Codes!$A$2:$D$3,4,FALSE)" for row in (2, 3)}
    book = workbook(Codes=CODES, Order={"A2": "P1", "A3": "P2", "B1": "Price", **formulas})
    lines, found = Lines(axis, first, count), [(book.sheets[1], Area.parse("B2:B3"))]
    assert counting(book, book.sheets[0], lines) == (found if gone else [])
    assert counting(book, book.sheets[0], lines, inside=True) == (found if come else [])


def test_a_stale_number_of_a_lookup_is_mended_by_its_heading():
    formulas = {f"B{row}": f"=VLOOKUP(A{row},Codes!$A$2:$D$3,4,FALSE)" for row in (2, 3)}
    book = workbook(Codes=CODES, Order={"A2": "P1", "A3": "P2", "B1": "Price", **formulas})
    make(book, deleted, "column", 3)
    calculation = Calculation(book)
    (found,) = [f for c in check_sheet(calculation, book.sheets[1]) for f in c.findings]
    assert (found.rule, found.mends[0].says) == ("too-narrow", "give column 3")
    mended = calculation.with_edits(found.mends[0].edits)
    assert [mended.value("Order", Cell.parse(at)) for at in ("B2", "B3")] == [1.2, 2.4]
