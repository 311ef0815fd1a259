import sys
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

import pytest
from formulas import cells, formulas, near_cells, near_formulas
from hypothesis import given

from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape, mentions, parse, tree
from dreieck.core.formula.printer import split_sheet
from dreieck.core.grid import Cell

C5 = Cell.parse("C5")


@given(formulas, cells)
def test_printing_then_parsing_gives_the_same_tree(text, at):
    tree = parse(text, at).tree
    printed = Shape.of(tree).text(at)
    assert parse(printed, at).tree == tree
    assert Shape.parse(printed, at) is Shape.of(tree)


@given(near_formulas, near_cells, near_cells)
def test_filling_there_and_back_gives_the_same_formula_unless_a_part_fell_off(text, start, there):
    shape = Shape.parse(text, start)
    landed = shape.landed(there)
    if "#REF!" in landed.text(there):
        assert landed is not shape
    else:
        assert landed.landed(start).text(start) == shape.text(start)


@given(near_formulas, near_cells, near_cells, near_cells)
def test_filling_in_two_steps_equals_one_unless_a_part_fell_off(text, start, between, end):
    shape = Shape.parse(text, start)
    halfway = shape.landed(between)
    if halfway is shape:
        assert halfway.landed(end) is shape.landed(end)
        assert halfway.landed(end).text(end) == shape.landed(end).text(end)


@given(formulas, cells)
def test_mentions_are_the_references_of_the_tree_in_their_places(text, at):
    found = mentions(text, at)
    assert tuple(mention.reference for mention in found) == Shape.parse(text, at).references
    for mention in found:
        alone = mentions("=" + text[mention.start : mention.end], at)
        assert [each.reference for each in alone] == [mention.reference]


@pytest.mark.parametrize(
    ("text", "printed"),
    [
        ("= sum( b5 ; c5 )", "=SUM(B5,C5)"),
        ("=IF(a1>=3,,\"a\"\"b\")", '=IF(A1>=3,,"a""b")'),
        ("=((1+2))*3", "=((1+2))*3"),
        ("=-2^2%", "=-2^2%"),
        ("='Loads'!B4", "=Loads!B4"),
        ("='A1'!B4+'It''s'!B4+'True'!B4", "='A1'!B4+'It''s'!B4+'True'!B4"),
        ("=$4:$4", "=$4:$4"),
        ("=B9:B4", "=B4:B9"),
        ("=1.50E3+1e300+#n/a", "=1.50E3+1e300+#N/A"),
    ],
)  # fmt: skip
def test_what_is_typed_is_printed_tidily(text, printed):
    assert Shape.parse(text, C5).text(C5) == printed


@pytest.mark.parametrize(
    ("text", "bracketed"),
    [
        ("=-2^2", "=(-2)^2"),
        ("=2^3^2", "=(2^3)^2"),
        ("=50%^2", "=(50%)^2"),
        ("=2^-1", "=2^(-1)"),
        ("=1+2*3", "=1+(2*3)"),
        ("=8/4/2", "=(8/4)/2"),
        ("=1&2+3", "=1&(2+3)"),
        ("=1=2&3", "=1=(2&3)"),
        ("=1<2=3", "=(1<2)=3"),
    ],
)
def test_precedence(text, bracketed):
    def bare(node):
        if isinstance(node, tree.Group):
            return bare(node.inner)
        kids = tuple(bare(child) for child in tree.children(node))
        sign = getattr(node, "operator", None) or getattr(node, "sign", None)
        return (type(node).__name__, sign or getattr(node, "value", None), kids)

    assert bare(parse(text, C5).tree) == bare(parse(bracketed, C5).tree)


@pytest.mark.parametrize(
    ("text", "position", "says"),
    [
        ("=", 1, "empty"),
        ("=B5*", 4, "ends too early.*after “\\*”"),
        ("=SUM(B5) C5", 9, "operator.*not “C5”"),
        ("=B5~3", 3, "stands between two references, as in"),
        ("=SUM(B5,C5))", 11, "not “\\)”"),
        ("=(B5,C5)", 4, "operator or a closing bracket is expected, not “,”"),
        ('=B5&"kg', 4, "no closing quote"),
        ("=B5&'Week 1", 4, "closing quote and a “!”"),
        ("=B5#", 3, "“#” has no meaning here"),
        ("=A1000001", 1, "rows go from 1 to 1000000"),
        ("=A0*2", 1, "A0 is not on the sheet"),
        ("=1e999", 1, "too large"),
        ("=" + "(" * 4900, 65, "More than 64 brackets"),
        ("=" + "-" * 9000 + "1", 8801, "More than 200 steps"),
        ("=" + "1+" * 4000 + "1", 400, "More than 200 steps"),
        ("=" + "1" * 100_000, 10_000, "10,000 characters"),
    ],
)
def test_what_cannot_be_read_tells_the_place_and_what_was_expected(text, position, says):
    with pytest.raises(FormulaError, match=says) as caught:
        parse(text, C5)
    assert caught.value.position == position


def test_closing_brackets_missing_at_the_end_are_added():
    parsed = parse("=SUM(B5,(C5+1", C5)
    assert parsed.brackets_added == 2
    assert Shape.of(parsed.tree).text(C5) == "=SUM(B5,(C5+1))"


def test_an_unfinished_formula_still_mentions_its_references():
    assert [m.reference.text(C5) for m in mentions('=$B5*C$4+"x', C5)] == ["$B5", "C$4"]
    assert mentions("B5", C5) == []


def test_equal_formulas_by_position_are_one_shape():
    assert Shape.parse("=$B5*C$4", C5) is Shape.parse("= $b8 * e$4", Cell.parse("E8"))
    assert Shape.parse("=SUM(B5:B$4)", C5) is Shape.parse("=SUM(B$4:B5)", C5)
    assert Shape.parse("=$B5*C4", C5) is not Shape.parse("=$B5*C$4", C5)


@pytest.mark.parametrize(
    ("text", "sheet", "address"),
    [
        ("C5", None, "C5"),
        ("Loads!C5", "Loads", "C5"),
        ("'Week 1'!C5:D6", "Week 1", "C5:D6"),
        ("'Hut ''Tarn'''!C5", "Hut 'Tarn'", "C5"),
        ("'Up!Down'!C5", "Up!Down", "C5"),
        ("'!C5", "'", "C5"),
        ("'Tarn!C5", "'Tarn", "C5"),
        ("Tarn'!C5", "Tarn'", "C5"),
    ],
)
def test_a_sheet_in_front_of_an_address_is_told_apart(text, sheet, address):
    assert split_sheet(text) == (sheet, address)


def test_threads_that_read_a_formula_at_once_get_one_shape():
    together = Barrier(4)

    def read(_):
        together.wait()
        return [Shape.parse(f"=B{row}*{row}+1187", Cell(4, 1)) for row in range(2, 402)]

    before = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    try:
        with ThreadPoolExecutor(4) as pool:
            found = list(pool.map(read, range(4)))
    finally:
        sys.setswitchinterval(before)
    assert all(len(set(map(id, each))) == 1 for each in zip(*found, strict=True))
