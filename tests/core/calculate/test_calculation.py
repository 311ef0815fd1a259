import pytest
from tables import LOADS, result, values, workbook

from dreieck.core.calculate import Calculation, block_at
from dreieck.core.calculate.dependents import dependents
from dreieck.core.editing.laying_out import hidden
from dreieck.core.grid import Cell, Lines
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values import Place
from dreieck.core.values.look import PLAIN


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ("=-2^2", 4.0),
        ("=2^3^2", 64.0),
        ("=50%^2", 0.25),
        ('="5"+1', 6.0),
        ('="5 kg"+1', "#VALUE!"),
        ('="1,250.5"*2', 2501.0),
        ("=A1+1", 1.0),
        ('=A1&"x"', "x"),
        ("=A1", 0.0),
        ("=1/A1", "#DIV/0!"),
        ("=0^-1", "#DIV/0!"),
        ("=(-8)^(1/3)", "#NUM!"),
        ("=9e307*10", "#NUM!"),
        ("=TRUE+1", 2.0),
        ('=+"kg"', "kg"),
        ('=-"5"', -5.0),
        ("=50%%", 0.005),
        ("=2^-1", 0.5),
        ("=#DIV/0!", "#DIV/0!"),
        ('=1="1"', False),
        ('="a"="A"', True),
        ('=1<"a"', True),
        ('="z"<TRUE', True),
        ("=A1=0", True),
        ('=A1=""', True),
        ("=0.1+0.2=0.3", True),
        ('=12&"%"', "12%"),
        ("=1/3&TRUE", "0.333333333333333TRUE"),
        ("=#N/A+1/0", "#N/A"),
        ("=carry_rate", "#NAME?"),
        ("=NOSUCH(1)", "#NAME?"),
        ("=Nowhere!A1", "#REF!"),
        ("=ROUND(1)", 1.0),
        ("=ROUND(1,2,3)", "#VALUE!"),
    ],
)
def test_operators_and_conversions(formula, value):
    assert result(formula) == value


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ("=SUM(A1:A6)", 3.5),
        ('=SUM(A1:A6,"2",TRUE)', 6.5),
        ("=SUM(A3)", 0.0),
        ("=AVERAGE(A1:A6)", 1.75),
        ("=AVERAGE(A3:A4)", "#DIV/0!"),
        ("=MIN(A1:A6)", 1.5),
        ("=MAX(A3:A5)", 0.0),
        ("=COUNT(A1:A7)", 2.0),
        ("=COUNTA(A1:A7)", 6.0),
        ("=SUM(A1:A7)", "#DIV/0!"),
        ("=SUM(A:A)", "#DIV/0!"),
        ("=SUM(1:2)", 3.5),
        ("=IF(A1>1,A2,1/0)", 2.0),
        ("=IF(A1>2,1)", False),
        ("=IF(,1,2)", 2.0),
        ("=SUM(IF(TRUE,A1:A2,A3))", 3.5),
        ("=ROUND(2.345,2)", 2.35),
        ("=ROUND(-1.5)", -2.0),
        ("=ROUND(1250,-2)", 1300.0),
        ("=SQRT(-1)", "#NUM!"),
    ],
)
def test_functions_over_all_kinds_of_cells(formula, value):
    entries = {"A1": "1.5", "A2": "2", "A3": "kg", "A4": "'7", "A5": "TRUE", "A7": "=1/0"}
    assert result(formula, **entries) == value


@pytest.mark.parametrize(("at", "value"), [("B2", 2.0), ("C9", "#VALUE!"), ("B9", "#VALUE!")])
def test_a_range_where_one_value_is_needed_is_cut_by_the_row(at, value):
    assert result("=A1:A3*1", at=at, A1="1", A2="2", A3="3") == value


def test_values_follow_other_sheets_and_changes():
    made = workbook(Prices={"B3": "1.8"}, Loads={"C4": "420", "D4": "=C4*Prices!$B$3"})
    calculation = Calculation(made)
    assert calculation.value("Loads", Cell.parse("D4")) == 756.0
    made.sheet("prices").put(Cell.parse("B3"), 2.0, made.sheets[0].look(Cell.parse("B3")))
    calculation.forget()
    assert calculation.value("Loads", Cell.parse("D4")) == 840.0


def test_subtotals_from_101_on_leave_out_hidden_rows_and_follow_what_is_hidden():
    made = workbook(
        Loads={"A1": "5", "A2": "7", "A3": "=SUBTOTAL(109,A1:A2)", "A4": "11",
               "B1": "=SUBTOTAL(109,A1:A4)", "B2": "=SUBTOTAL(9,A1:A4)", "B3": "=B1+1"},
        Sums={"A1": "=SUBTOTAL(104,Loads!A1:A4)"},
    )  # fmt: skip
    calculation, sheet = Calculation(made), made.sheets[0]

    def told():
        values = [calculation.value("Loads", Cell.parse(at)) for at in ("A3", "B1", "B2", "B3")]
        return [*values, calculation.value("Sums", Cell.parse("A1"))]

    assert told() == [12.0, 23.0, 23.0, 24.0, 11.0]
    hide = hidden(sheet, [Lines("row", 4, 1), Lines("row", 1, 1)])
    rehearsed = calculation.with_edits([hide])
    assert rehearsed.value("Loads", Cell.parse("B3")) == 8.0
    show = hide.apply(made)
    calculation.edited([hide])
    assert told() == [7.0, 7.0, 23.0, 8.0, 7.0]
    show.apply(made)
    calculation.edited([show])
    assert told() == [12.0, 23.0, 23.0, 24.0, 11.0]


MONTHS = {"Jan": {"A1": "1", "B2": "10"}, "Feb": {"A1": "2", "B2": "20"},
          "Week 1": {"A1": "7"}, "Mar": {"A1": "4", "B2": "40"}}  # fmt: skip


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ("=SUM(Jan:Mar!A1)", 14.0),
        ("=SUM(Jan!A1:Mar!A1)", 14.0),
        ("=SUM(mar:JAN!$A$1)", 14.0),
        ("=SUM('Jan:Week 1'!A1)", 10.0),
        ("=AVERAGE(Jan:Mar!A1:B2)", 12.0),
        ("=COUNT(Jan:Mar!A:B)", 7.0),
        ("=MAX(Jan:Mar!A1:B2)", 40.0),
        ('=TEXTJOIN("-",TRUE,Jan:Mar!A1)', "1-2-7-4"),
        ("=COUNTIF(Jan:Mar!A1,2)", "#VALUE!"),
        ("=Jan:Mar!A1+1", "#VALUE!"),
        ("=SUM(Jan:Nov!A1)", "#NULL!"),
        ("=SUM(B:C!B9)", 5.0),
    ],
)
def test_a_range_over_sheets_reads_its_cells_on_all_of_them(formula, value):
    rows = {f"D{row}": formula.replace("A1", "$A$1") for row in range(2, 12)}
    sums = {"B9": "5", "D1": formula, **(rows if "$" not in formula else {})}
    made = workbook(Sums=sums, **MONTHS)
    assert values(made, "D1") == [value]
    if value != "#VALUE!" and "D2" in sums:
        assert len(set(values(made, "D2:D11"))) == 1


def test_a_range_over_sheets_follows_what_changes_on_a_sheet_between():
    made = workbook(Sums={"A1": "=SUM(Jan:Mar!A1)", "A2": "=A1*2"}, **MONTHS)
    calculation = Calculation(made)
    assert calculation.value("Sums", Cell.parse("A2")) == 28.0
    edit = SetCells.of(made.sheet("Feb").id, {Cell(1, 1): (12.0, PLAIN)})
    edit.apply(made)
    calculation.edited([edit])
    assert calculation.value("Sums", Cell.parse("A2")) == 48.0
    read = [(sheet, area.text) for sheet, area in dependents(
        calculation, Place("Feb", Cell(1, 1))).perhaps]  # fmt: skip
    assert read == [("Sums", "A1")]


def test_only_the_cells_of_a_ring_are_loops_and_the_rest_passes_them_on():
    made = workbook(
        Loads={
            "A1": "=B1+C1", "B1": "=A1", "C1": "=D1", "D1": "=C1+A1",
            "E1": "=COUNT(A1:D1)", "F1": "=A1+1", "G1": "=G1", "H1": "=SUM(G:H)", "I1": "=5",
        }
    )  # fmt: skip
    assert values(made, "A1:I1") == ["#LOOP!"] * 4 + [0.0] + ["#LOOP!"] * 3 + [5.0]


def test_an_error_remembers_where_it_began():
    made = workbook(Prices={"B3": "=1/0"}, Loads={"C4": "=Prices!B3", "D4": "=SUM(C4)+1"})
    error = Calculation(made).value("Loads", Cell.parse("D4"))
    assert error.origin == Place("Prices", Cell.parse("B3"))
    assert "divisor" in error.why


def test_a_chain_longer_than_the_stack_is_worked_out():
    made = workbook(Loads={f"A{n}": f"=A{n - 1}+1" if n > 1 else "1" for n in range(1, 5001)})
    assert values(made, "A5000") == [5000.0]


def test_a_block_is_what_is_connected_and_of_one_shape():
    made = workbook(
        Loads={**LOADS, "C5": "=$B5*C$4", "D5": "=$B5*D$4", "C6": "=$B6*C$4", "D6": "=B6*D4",
               "F5": "=$B5*F$4"}
    )  # fmt: skip
    block = block_at(made.sheets[0], Cell.parse("C6"))
    assert [cell.text for cell in block.cells()] == ["C5", "D5", "C6"]
    assert (block.start.text, block.area.text) == ("C5", "C5:D6")
    assert block_at(made.sheets[0], Cell.parse("C4")) is None
