"""References that cross or stand together, and functions worked out for each cell of a range."""

import ast
import math
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import raised, result, values, workbook

from dreieck.core.analysis.reads import shared_areas
from dreieck.core.calculate import Calculation, dependents
from dreieck.core.formula import Shape
from dreieck.core.functions import Takes, every
from dreieck.core.grid import Area, Cell
from dreieck.core.values import Place

GRID = {f"{'ABCDE'[c]}{r}": str(2 ** (c * 5 + r - 1)) for c in range(5) for r in range(1, 6)}
cells = st.builds(Cell, st.integers(1, 5), st.integers(1, 5))
areas = st.builds(Area.spanned, cells, cells)


@given(areas, areas, areas)
def test_what_is_shared_counts_once_and_what_stands_together_counts_each_time(a, b, c):
    def total(formula):
        return result(f"=SUM({formula})", at="H9", **GRID)

    common = a.common(b)
    crossed = total(f"{a.text} {b.text}")
    assert crossed == (total(common.text) if common else "#NULL!")
    assert total(f"{a.text}~{b.text}") == total(a.text) + total(b.text)
    both = total(f"({a.text}~{b.text})!{c.text}")
    parts = [total(part.text) for each in (a, b) if (part := each.common(c))]
    assert both == (math.fsum(parts) if parts else "#NULL!")
    shape = Shape.parse(f"=SUM({a.text} ! {b.text})", Cell.parse("H9"))
    assert shared_areas(shape, Cell.parse("H9")) == ([(None, common)] if common else [])


def test_a_row_and_a_column_cross_inside_the_row_itself():
    made = workbook(
        Loads={"A1": "kg", "B1": "=A:A 2:2", "A2": "7", "C2": "=B1+1", "D2": "=C2:D2 C:C"}
    )
    assert values(made, "B1:D2") == [7.0, None, None, None, 8.0, 8.0]
    calculation = Calculation(made)
    assert values(made, "B1") == [7.0]
    assert dependents(calculation, Place("Loads", Cell.parse("B1"))).direct_count == 1


plain = [
    each for each in every()
    if each.least == 1 and each.parameters[0].takes in (Takes.NUMBER, Takes.TEXT, Takes.VALUE)
]  # fmt: skip


@pytest.mark.parametrize("function", plain, ids=lambda function: function.name)
def test_a_function_of_single_values_is_worked_out_for_each_cell(function):
    entries = {"A1": "0.5", "A2": "kg", "A3": "0.25", "A4": "=1/0", "A6": "TRUE", "A7": "0.5"}
    one_by_one = [
        result(f"=N(IFERROR({function.name}(A{row}),-9))", **entries) for row in range(1, 8)
    ]
    together = result(f"=SUMPRODUCT(N(IFERROR({function.name}(A1:A7),-9)))", **entries)
    assert together == pytest.approx(math.fsum(one_by_one))
    crosswise = result(f"=SUMPRODUCT(({function.name}(A1:A3)=0)*{{1,2}})", **entries)
    each = [result(f"=({function.name}(A{row})=0)*3", **entries) for row in range(1, 4)]
    errors = [code for code in each if isinstance(code, str)]
    assert crosswise == (errors[0] if errors else math.fsum(each))


def test_findings_know_functions_by_what_they_do():
    rows = {"A3": "kg"} | {f"A{row}": str(row * row) for row in range(4, 9)}
    for formula, rules in (
        ("=SUM(A4:A7)", {"misses-neighbours"}),
        ("=SUBTOTAL(9,A4:A7)", {"misses-neighbours"}),
        ("=GEOMEAN(A4:A7~A8)", set()),
        ("=SUM(A4:A7,A8)", set()),
        ("=SUM(A4:A6,A8)", {"misses-neighbours"}),
        ("=COUNTA(A4:A7)", {"misses-neighbours"}),
        ("=SUM(A4:A7 A3:A5)", set()),
        ("=IFERROR(B3*2,0)", set()),
        ("=IFS(B3,1,TRUE,2)", set()),
        ("=TYPE(B3)", set()),
        ("=B3*2", {"reads-empty"}),
        ("=NA()", set()),
    ):
        found = raised(workbook(Loads={**rows, "D3": formula}))
        assert {rule for rule, _ in found} - {"number-inside"} == rules, formula
    totals = {"A9": "=SUBTOTAL(9,A4:A8)", "A10": "5"}
    for total, counted in (("=SUM(A4:A10)", True), ("=SUBTOTAL(9,A4:A10)", False)):
        found = raised(workbook(Loads={**rows, **totals, "A11": total}))
        assert (("counts-total", "A11") in found) == counted


@pytest.mark.reads_code
def test_no_list_of_functions_stands_outside_of_their_records():
    names = {each.name for each in every() if len(each.name) > 1} - {"TRUE", "FALSE"}
    core = Path("src/dreieck/core")
    for path in core.rglob("*.py"):
        if "functions" not in path.parts and path.name != "__init__.py":
            texts = [
                n.value
                for n in ast.walk(ast.parse(path.read_text()))
                if isinstance(n, ast.Constant)
            ]
            assert not names & {text for text in texts if isinstance(text, str)}, path


@given(areas, areas, cells)
def test_who_reads_a_cell_is_told_for_what_is_shared_alone(a, b, cell):
    made = workbook(Loads={**GRID, "H9": f"=SUM({a.text} {b.text})"})
    found = dependents(Calculation(made), Place("Loads", cell))
    assert found.direct_count == (a.holds(cell) and b.holds(cell))
