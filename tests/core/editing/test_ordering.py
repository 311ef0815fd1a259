import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import ITEMS, PRICES, apply, filled, values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.dressing import edged, with_role
from dreieck.core.editing.ordering import Key, has_headings, ordered, rows_of, table_of
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.names import named


def order(book, area, *keys):
    sheet = book.sheets[0]
    made = ordered(Calculation(book), sheet, Area.parse(area), [Key(*key) for key in keys])
    apply(book, made.edits)
    return made


def formula(book, address, sheet=0):
    cell = Cell.parse(address)
    return book.sheets[sheet].content(cell).text(cell)


def prices():
    return filled({**PRICES, "B10": "=SUM(B4:B9)"}, C4_C9="=B4*$B$1")


def test_rows_come_in_order_and_formulas_go_along():
    book = prices()
    made = order(book, "A4:C9", (2, True))
    assert values(book, "A4:A9") == ITEMS[::-1]
    assert values(book, "B4:B9") == sorted((row * 7.5 for row in range(4, 10)), reverse=True)
    assert [formula(book, f"C{row}") for row in (4, 9)] == ["=B4*$B$1", "=B9*$B$1"]
    assert (made.strays, made.moved) == ((), 6)
    assert formula(book, "B10") == "=SUM(B4:B9)"


def test_what_reads_one_row_follows_it_on_all_sheets_and_names_too():
    book = workbook(Loads={**PRICES, "E1": "=B4+B9", "F4": "=SUM(B6:B6)"},
                    Prices={"A1": "=Loads!$B$7"})  # fmt: skip
    made = named("flour", "=Loads!$B$4")
    book.names[made.key] = made
    before = values(book, "E1"), values(book, "F4"), values(book, "A1", "Prices")
    order(book, "A4:C9", (2, True))
    assert (values(book, "E1"), values(book, "F4"), values(book, "A1", "Prices")) == before
    assert (formula(book, "E1"), formula(book, "F4")) == ("=B9+B4", "=SUM(B7:B7)")
    assert formula(book, "A1", 1) == "=Loads!$B$6"
    assert book.names["flour"].shape.text(Cell(1, 1)) == "=Loads!$B$9"


def test_strays_are_told_a_range_over_some_rows_and_another_row_read():
    book = workbook(Loads={**PRICES, "C5": "=B5-B4", "E1": "=SUM(B4:B6)", "E2": "=SUM(B4:B9)",
                           "E3": "=SUM(B:B)", "E4": "=SUM(A4:E4)"})  # fmt: skip
    made = order(book, "A4:C9", (2, True))
    told = {(each.at.text, each.before, each.after, each.follows) for each in made.strays}
    assert told == {
        ("C5", "=B5-B4", "=B8-B9", True),
        ("E1", "=SUM(B4:B6)", "=SUM(B4:B6)", False),
        ("E4", "=SUM(A4:E4)", "=SUM(A4:E4)", False),
    }
    assert next(each.there.text for each in made.strays if each.follows) == "C8"


def test_kinds_are_ordered_numbers_inside_texts_count_and_what_is_empty_comes_last():
    entries = ["Week 10", "", "TRUE", "week 2", "7", "=1/0", "Éclair", "-3", "eclair"]
    up = ["-3", "7", "eclair", "Éclair", "week 2", "Week 10", "TRUE", "=1/0", ""]
    for down, expected in ((False, up), (True, [*up[-2::-1], ""])):
        book = workbook(Loads={f"A{row}": entry for row, entry in enumerate(entries, 1) if entry})
        expected_values = values(
            workbook(Loads={f"A{row}": entry for row, entry in enumerate(expected, 1) if entry}),
            "A1:A9",
        )
        order(book, "A1:A9", (1, down))
        assert values(book, "A1:A9") == expected_values


def test_looks_go_along_but_lines_stay():
    book = prices()
    sheet = book.sheets[0]
    apply(book, with_role(sheet, [Area.parse("B4")], "input"))
    apply(book, edged(sheet, [Area.parse("A4:C4")], "above", "thick"))
    order(book, "A4:C9", (2, True))
    assert (sheet.look(Cell(2, 9)).role, sheet.look(Cell(2, 4)).role) == ("input", "plain")
    assert sheet.look(Cell(2, 4)).style.edges.top == "thick"
    assert sheet.look(Cell(2, 9)).style.edges.top == "none"


def test_headings_and_totals_are_no_rows_to_order():
    book = prices()
    sheet, calculation = book.sheets[0], Calculation(book)
    for chosen in ("B6", "A3:C10", "A4:C9", "A4:C10"):
        table = table_of(sheet, Area.parse(chosen))
        headed = has_headings(calculation, sheet, table)
        assert rows_of(sheet, table, headed=headed).text == "A4:C9"
    # A table of texts alone has no headings that could be told.
    texts = workbook(Loads={"A1": "Flour", "B1": "Tarn", "A2": "Coffee", "B2": "Larch"})
    assert not has_headings(Calculation(texts), texts.sheets[0], Area.parse("A1:B2"))


@pytest.mark.parametrize(
    ("label", "last", "rows"),
    [
        ("Total", "120", "A2:B4"), ("Sum 2024", "120", "A2:B4"), ("Gesamt", "120", "A2:B4"),
        ("合計", "120", "A2:B4"), ("Cost", "=B2+B3+B4", "A2:B4"), ("Mean", "=B5/3", "A2:B4"),
        ("All inclusive", "120", "A2:B5"), ("Larch", "=B2*2", "A2:B5"), ("Total", "", "A2:B5"),
    ],
)  # fmt: skip
def test_lines_that_close_a_table_are_told_by_formula_or_label(label, last, rows):
    body = {"A1": "Item", "B1": "EUR", "A2": "Rope", "B2": "60", "A3": "Lamp", "B3": "25"}
    book = workbook(Loads={**body, "A4": "Axe", "B4": "35", "A5": label, "B5": last})
    assert rows_of(book.sheets[0], Area.parse("A1:B5"), headed=True).text == rows


def test_what_cannot_be_ordered_is_refused():
    book = prices()
    for area, keys, said in (
        ("A4:C4", [(1,)], "two rows"),
        ("A4:C9", [], "one to 3"),
        ("A4:C9", [(4,)], "columns of the selection"),
        ("A1:Z100000", [(1,)], "At most"),
    ):
        with pytest.raises(DreieckError, match=said):
            order(book, area, *keys)


rows = st.lists(
    st.tuples(st.sampled_from(["", "2", "1", "x"]), st.sampled_from(["b", "a", "", "3"])),
    min_size=2, max_size=9,
)  # fmt: skip


@given(rows, st.booleans(), st.booleans())
def test_single_cells_keep_what_they_say_wherever_they_are_read(table, down, second):
    entries = {}
    for row, (one, two) in enumerate(table, 1):
        entries |= {f"A{row}": one, f"B{row}": two, f"C{row}": f'=A{row}&"/"&B{max(row - 1, 1)}'}
        entries[f"E{row}"] = f"=C{row}&$D$1"
    book = workbook(Loads={address: entry for address, entry in entries.items() if entry})
    outside = values(book, f"E1:E{len(table)}")
    inside = sorted(values(book, f"C1:C{len(table)}"))
    before = list(book.sheets[0].all_runs())
    made = ordered(Calculation(book), book.sheets[0], Area(1, 1, 3, len(table)),
                   [Key(1, down), Key(2, second)])  # fmt: skip
    undo = apply(book, made.edits)
    assert values(book, f"E1:E{len(table)}") == outside
    assert sorted(values(book, f"C1:C{len(table)}")) == inside
    keys = [value for value in values(book, f"A1:A{len(table)}") if value is not None]
    numbers = [value for value in keys if isinstance(value, float)]
    assert numbers == sorted(numbers, reverse=down)
    apply(book, undo)
    assert list(book.sheets[0].all_runs()) == before


def test_strays_of_one_shape_are_told_together_and_those_that_cannot_follow_first():
    book = filled(PRICES, C4_C9="=B4*$B$6", D4_D9="=SUM(B$4:B4)")
    made = order(book, "A4:D9", (2, True))
    told = [(each.areas[0].text, each.before, each.follows) for each in made.strays]
    assert told == [("D5:D8", "=SUM(B$4:B5)", False), ("C4:C5", "=B4*$B$6", True)]
