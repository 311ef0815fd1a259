import pytest
from tables import LOADS, PRICES, apply, filled, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.ruled import tones
from dreieck.core.editing import naming, ruling, sheets
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.editing.moving_lines import moved
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell, Lines


def rule(book, area, condition, tone="rose", index=-1, sheet=0):
    area = Area.parse(area)
    shape = Shape.parse(condition, area.first)
    return apply(book, [ruling.ruled(book.sheets[sheet], area, shape, tone, index)])


def toned(book, sheet=0):
    home = book.sheets[sheet]
    found = tones(Calculation(book), home.name, home.layout.rules, [Area.parse("A1:Z30")])
    return {tone: {c.text for c, t in found.items() if t == tone} for tone in set(found.values())}


def told(book, sheet=0):
    rules = book.sheets[sheet].layout.rules
    return sorted((rule.area.text, rule.shape.text(rule.area.first)) for rule in rules)


def grid():
    return filled(LOADS, C5_D6="=$B5*C$4")


def test_a_condition_shifts_over_its_area_like_any_filled_formula():
    book = grid()
    undo = rule(book, "B4:D6", "=ISTEXT($A4)", "moss")
    rule(book, "C5:D6", "=C5>$B5*300")
    # Of several rules the one that came last counts, where it holds.
    assert toned(book) == {
        "rose": {"C5", "C6"},
        "moss": {"B4", "C4", "D4", "B5", "D5", "B6", "D6"},
    }
    sheet = book.sheets[0]
    apply(book, [ruling.unruled(sheet, ruling.rule_of(sheet, 1, "B4:D6"))])
    rule(book, "C5:D6", "=1/0")
    assert toned(book) == {"rose": {"C5", "C6"}}
    rule(book, "C5:D6", "=C5", index=0, tone="lake")
    assert toned(book) == {"lake": {"C5", "D5", "C6", "D6"}}
    # Another area is another rule, whatever number it had.
    undo_more = rule(book, "H9", "=TRUE", index=0)
    assert len(told(book)) == 3
    apply(book, undo_more)
    apply(book, [ruling.unruled(sheet, ruling.rule_of(sheet, 0, "C5:D6"))])
    assert toned(book) == {"rose": {"C5", "C6"}}
    with pytest.raises(DreieckError, match="no longer there"):
        ruling.rule_of(sheet, 1, "C5:D6")
    with pytest.raises(DreieckError, match="for other cells"):
        ruling.rule_of(sheet, 0, "C5:D7")
    apply(book, undo)
    assert toned(book) == {}


def test_a_sheet_has_so_many_rules():
    book = grid()
    for _ in range(ruling.MAX_RULES):
        rule(book, "C5", "=TRUE")
    with pytest.raises(DreieckError, match="A sheet can have 40 rules"):
        rule(book, "C5", "=TRUE")
    rule(book, "C5", "=FALSE", index=3)


def test_rules_follow_lines_that_come_and_go_with_their_areas_and_what_they_read():
    book = grid()
    rule(book, "C5:D6", "=C5>$B5*C$4-1")
    before = told(book)
    first = apply(book, inserted(book, book.sheets[0], Lines("row", 5, 2)))
    assert told(book) == [("C7:D8", "=C7>$B7*C$4-1")]
    second = apply(book, inserted(book, book.sheets[0], Lines("column", 4, 1)))
    assert told(book) == [("C7:E8", "=C7>$B7*C$4-1")]
    third = apply(book, deleted(book, book.sheets[0], Lines("column", 2, 1)))
    assert told(book) == [("B7:D8", "=B7>#REF!*B$4-1")]
    fourth = apply(book, deleted(book, book.sheets[0], Lines("row", 7, 2)))
    assert told(book) == []
    for undo in (fourth, third, second, first):
        apply(book, undo)
    assert told(book) == before


def test_a_rule_goes_on_reading_each_cell_s_own_row_when_rows_of_it_go_or_move():
    book = filled(LOADS, C5_D6="=$B5*C$4")
    rule(book, "C4:D6", "=AND(C4>$B4,C$3<>$A$5)")
    before = told(book)
    undo = apply(book, deleted(book, book.sheets[0], Lines("row", 4, 1)))
    assert told(book) == [("C4:D5", "=AND(C4>$B4,C$3<>$A$4)")]
    apply(book, undo)
    for lines, to in ((Lines("row", 4, 1), 6), (Lines("row", 6, 1), 4), (Lines("row", 4, 2), 7)):
        apply(book, moved(book, book.sheets[0], lines, to))
        [(area, says)] = told(book)
        assert area == "C4:D6" and says.startswith("=AND(C4>$B4,C$3<>")
    assert before != told(book)


def test_rules_follow_cells_that_are_cut_and_sheets_and_names_that_are_called_otherwise():
    book = workbook(Loads=LOADS, Prices=PRICES)
    rule(book, "C4:C6", "=C4>Prices!$B$1")
    rule(book, "A9", "=Prices!$B$1=1", sheet=1)
    calculation = Calculation(book)
    apply(book, cut_to(calculation, book.sheets[1], Area.parse("B1"), book.sheets[1], Cell(5, 9)))
    assert told(book) == [("C4:C6", "=C4>Prices!$E$9")]
    # A rule goes along with an area that is cut as a whole, also to another sheet.
    area, to = Area.parse("A4:D6"), Cell(1, 20)
    apply(book, cut_to(Calculation(book), book.sheets[0], area, book.sheets[1], to))
    assert told(book) == []
    assert told(book, 1) == [("A9", "=Prices!$E$9=1"), ("C20:C22", "=C20>Prices!$E$9")]
    apply(book, sheets.renamed(book, book.sheets[1], "Costs"))
    assert told(book, 1) == [("A9", "=Costs!$E$9=1"), ("C20:C22", "=C20>Costs!$E$9")]
    apply(book, naming.given(book, "carry_price", "Costs!$E$9"))
    rule(book, "D4", "=D4>carry_price")
    apply(book, naming.renamed(book, "carry_price", "kg_price"))
    assert told(book) == [("D4", "=D4>kg_price")]
    undo = apply(book, sheets.deleted(book, book.sheets[1]))
    assert told(book) == [("D4", "=D4>kg_price")]
    apply(book, undo)
    assert len(told(book, 1)) == 2
