"""Formulas of files against the examples and rules of the standards."""

import pytest
from formulas import cells, formulas
from hypothesis import example, given
from hypothesis import strategies as st

from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Unreadable
from dreieck.files.formulas import (
    FormulaReader,
    FormulaWriter,
    OpenFormulaDialect,
    OpenXmlDialect,
    Table,
)
from dreieck.files.formulas.dialect import read_formula

AT = Cell.parse("C5")
TABLE = Table("Items", "Loads", Area.parse("A4:D10"), ("Item", "kg", "a b", "x]"), totals=1)
DIALECTS = (OpenFormulaDialect(), OpenXmlDialect(tables=[TABLE], home="Loads"))


def ours(dialect, text):
    return read_formula(dialect, text, AT).text(AT)


@pytest.mark.parametrize(
    ("theirs", "expected"),
    [
        # ISO/IEC 26300-4, 5.8 references, 5.13 inline arrays, 5.12 errors, 6.4 operators.
        ("SUM([.B4:.B9])*[$Loads.$G$1]", "=SUM(B4:B9)*Loads!$G$1"),
        ("[.A1:.B2]![.B1:.C2]", "=A1:B2!B1:C2"),
        ("SUM([.A1:.A3]~[.B1])", "=SUM(A1:A3~B1)"),
        ("[$'Week 1'.B4:.B9]", "='Week 1'!B4:B9"),
        ("['It''s'.B4:'It''s'.B9]", "='It''s'!B4:B9"),
        ("[Loads.B4:Loads.B9]", "=Loads!B4:B9"),
        ("SUM([$Loads.B4:$'Week 1'.C9])", "=SUM(Loads!B4:'Week 1'!C9)"),
        ("SUM([.A:.B])+SUM([.$1:.3])", "=SUM(A:B)+SUM($1:3)"),
        ("[.A1:.A1048576]", "=A:A"),
        ("[.A2:.$A$1048576]", "=A2:$A$1000000"),
        ("SUM({1;2|3;4})+SUM({5;6})", "=SUM({1,2;3,4})+SUM({5,6})"),
        ('IF([.A1]>=2;"a;[.B1]!~";TRUE())', '=IF(A1>=2,"a;[.B1]!~",TRUE())'),
        ("[#REF!]+[.#REF!]+[$Loads.#REF!]", "=#REF!+#REF!+#REF!"),
        ("IF([.A1];;#N/A)", "=IF(A1,,#N/A)"),
        ("-2^2%", "=-2^2%"),
        ("COM.EXAMPLE.IFS([.A1];1)", "=IFS(A1,1)"),
        ("ORG.EXAMPLE.OWN([.A1])", "=ORG.EXAMPLE.OWN(A1)"),
    ],
)
def test_open_formula_is_read(theirs, expected):
    assert ours(DIALECTS[0], theirs) == expected


@pytest.mark.parametrize(
    ("theirs", "expected"),
    [
        # ISO/IEC 29500-1, 18.17: syntax, 18.17.2.3 references, structure references.
        ("SUM(B4:B9)*Loads!$G$1", "=SUM(B4:B9)*Loads!$G$1"),
        ("SUM((A1,B1:B2),3)", "=SUM((A1~B1:B2),3)"),
        ("A1:B3 B2:C4", "=A1:B3 B2:C4"),
        ("_xlfn.IFS(A1,1)&_xlfn._xlws.SORT(A1)", "=IFS(A1,1)&SORT(A1)"),
        ("_xlfn.FORMULATEXT(A1)", "=FORMULA(A1)"),
        ("{1,2;3,4}", "={1,2;3,4}"),
        ('"(,)"&IF(TRUE,@A1:A3,0)', '="(,)"&IF(TRUE,A1:A3,0)'),
        ("A1:A1048576", "=A:A"),
        ("Sheet1!#REF!+#DIV/0!", "=#REF!+#DIV/0!"),
        ("Items[kg]*2", "=$B$5:$B$9*2"),
        ("SUM(Items[[#All],[kg]:[a b]])", "=SUM($B$4:$C$10)"),
        ("Items[[#This Row],[kg]]+Items[@kg]+[@[a b]]", "=$B5+$B5+$C5"),
        ("SUM(Items[#Totals])-SUM(Items[#Headers])", "=SUM($A$10:$D$10)-SUM($A$4:$D$4)"),
        ("Items[x']]", "=$D$5:$D$9"),
    ],
)
def test_open_xml_is_read(theirs, expected):
    assert ours(DIALECTS[1], theirs) == expected


@pytest.mark.parametrize(
    ("dialect", "theirs", "says"),
    [
        (0, "['file:///a.ods'#$Sheet1.A1]", "another file"),
        (0, "[.A1:Prices.B2]", "names both"),
        (0, "[Loads.A:Prices.B]", "names both"),
        (0, "[whatever]", "no reference"),
        (1, "[1]Sheet1!A1", "another file"),
        (1, "'[b.xlsx]S'!A1+1", "another file"),
        (1, "Nothing[kg]", "no table"),
        (1, "Items[lb]", "no column"),
        (1, "MAX(A1#)", "no meaning"),
    ],
)
def test_what_we_have_not_is_refused_with_the_reason(dialect, theirs, says):
    with pytest.raises(FormulaError, match=says):
        read_formula(DIALECTS[dialect], theirs, AT)


@pytest.mark.parametrize(
    ("theirs", "expected"),
    [
        ("SUM(Jan:Mar!B4)", "=SUM(Jan!B4:Mar!B4)"),
        ("SUM('Jan:Week 1'!$B$4:C9)", "=SUM(Jan!$B$4:'Week 1'!C9)"),
        ("SUM(Loads:Prices!B:B)", "=SUM(Loads!B:B:Prices!B:B)"),
        ("SUM(B:C B4)", "=SUM(B:C B4)"),
    ],
)
def test_ranges_over_sheets_go_into_open_xml_and_back(theirs, expected):
    sheets = {each.casefold(): each for each in ("Jan", "Mar", "Week 1", "Loads", "Prices")}
    dialect = OpenXmlDialect(called=lambda name: sheets.get(name.casefold()))
    shape = read_formula(dialect, theirs, AT)
    assert shape.text(AT) == expected
    written = FormulaWriter(dialect).text(shape, AT)
    assert read_formula(dialect, written, AT) is shape


@pytest.mark.parametrize("dialect", DIALECTS)
@given(text=formulas, at=cells)
def test_a_formula_comes_back_letter_by_letter(dialect, text, at):
    shape = Shape.parse(text, at)
    written = FormulaWriter(dialect).text(shape, at)
    back = read_formula(dialect, written, at)
    assert back.text(at) == shape.text(at) and back is shape


@pytest.mark.parametrize(
    ("ours", "is_array", "open_xml", "open_document"),
    [
        ("=SUM(B2:B9*2)", True, "SUM(B2:B9*2)", "SUM([.B2:.B9]*2)"),
        ("=SUM(HERE(B2:B9)*2)", False, "SUM(B2:B9*2)", "SUM([.B2:.B9]*2)"),
        ("=B2:B9*2", False, "B2:B9*2", "[.B2:.B9]*2"),
        ("=B2:B9+MAX(LEN(A2:A9))", True, "_xlfn.SINGLE(B2:B9)+MAX(LEN(A2:A9))",
         "([.B2:.B9]![.5:.5])+MAX(LEN([.A2:.A9]))"),
        ("=IF(A2>0,SUM(-B2:B9),B2:B9)", True, "IF(A2>0,SUM(-B2:B9),_xlfn.SINGLE(B2:B9))",
         "IF([.A2]>0;SUM(-[.B2:.B9]);([.B2:.B9]![.5:.5]))"),
        ("=SUMPRODUCT((A2:A9=1)*B2:B9)", False, "SUMPRODUCT((A2:A9=1)*B2:B9)",
         "SUMPRODUCT(([.A2:.A9]=1)*[.B2:.B9])"),
        ("=SUM(ROUND(B2,1),B2:B9)", False, "SUM(ROUND(B2,1),B2:B9)",
         "SUM(ROUND([.B2];1);[.B2:.B9])"),
        ("=SUM(HERE(B2:B9))", False, "SUM(_xlfn.SINGLE(B2:B9))", "SUM(([.B2:.B9]![.5:.5]))"),
        ("=LET(x,B2,LET(y,x*rate,y+x))+x", False,
         "_xlfn.LET(_xlpm.x,B2,_xlfn.LET(_xlpm.y,_xlpm.x*rate,_xlpm.y+_xlpm.x))+x",
         "LET(x;[.B2];LET(y;x*rate;y+x))+x"),
        ("=SUM(UNIQUE(B2:B9))", True, "SUM(_xlfn.UNIQUE(B2:B9))", "SUM(UNIQUE([.B2:.B9]))"),
        ("=SUM(ROW(B2:B9))", True, "SUM(ROW(B2:B9))", "SUM(ROW([.B2:.B9]))"),
        ("=ROW(B2)-1", False, "ROW(B2)-1", "ROW([.B2])-1"),
        ("=SUM(loads*2)", True, "SUM(loads*2)", "SUM(loads*2)"),
        ("=SUM(rate*2)", False, "SUM(rate*2)", "SUM(rate*2)"),
    ],
)  # fmt: skip
def test_arrays_are_told_apart_from_single_values(ours, is_array, open_xml, open_document):
    named = {"loads": Shape.parse("=$B$2:$B$9", AT), "rate": Shape.parse("=$B$2", AT)}.get
    shape = Shape.parse(ours, AT)
    for dialect, text in zip(reversed(DIALECTS), (open_xml, open_document), strict=True):
        assert FormulaWriter(dialect, named).written(shape, AT) == (text, is_array)
        if "SINGLE" not in open_xml:
            back = (
                read_formula
                if is_array
                else (lambda *all_: FormulaReader(all_[0]).read(*all_[1:]))
            )
            assert back(dialect, text, AT) is shape


@given(text=formulas, at=cells)
def test_an_ordinary_formula_of_a_file_stays_one(text, at):
    shape = Shape.parse(text, at)
    reader, writer = FormulaReader(DIALECTS[0]), FormulaWriter(DIALECTS[0])
    text = writer.text(shape, at)
    found = reader.read(text, at)
    if not isinstance(found, Unreadable):
        assert writer.written(found, at) == (text, False)


@pytest.mark.parametrize("dialect", DIALECTS)
def test_what_is_filled_is_one_shape_and_parsed_once(dialect, monkeypatch):
    shape = Shape.parse("=$B5*C$4", AT)
    writer, reader = FormulaWriter(dialect), FormulaReader(dialect)
    first = reader.read(writer.text(shape, AT), AT)
    monkeypatch.setattr("dreieck.files.formulas.dialect.parse", None)
    below = [Cell(3, row) for row in range(6, 40)] + [Cell(4, 40)]
    assert {reader.read(writer.text(shape, cell), cell) for cell in below} == {first} == {shape}


def test_what_cannot_be_read_is_kept_as_it_is():
    assert FormulaReader(DIALECTS[1]).read("1+", AT) == Unreadable("=1+")


SIGNS = (*"'\"[]({!#$.:;A1 ", "a.", "A1:", "[.")


@pytest.mark.parametrize("dialect", DIALECTS, ids=["OpenFormula", "Open XML"])
@given(st.lists(st.sampled_from(SIGNS), min_size=1, max_size=4), st.sampled_from(SIGNS))
@example(["'"], "A")
@example(["["], "'")
@example(["['"], "'")
@example(["'["], "!")
@example(["a."], "(")
def test_any_text_is_read_or_refused_in_time_that_goes_with_its_length(dialect, pattern, end):
    """What went back and forth over a text took longer than anybody waits for."""
    try:
        read_formula(dialect, "".join(pattern) * 4_000 + end, AT)
    except FormulaError as problem:
        assert str(problem)
