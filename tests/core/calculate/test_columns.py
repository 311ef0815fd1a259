"""Long columns: what is seen comes first, each branch for its own rows, lists shared by all."""

import numpy as np
import pytest
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values.look import PLAIN

ROWS = 40_000


def long(formula, **columns):
    """A calculation of a formula filled down column H beside lists of so many rows."""
    made = workbook(Loads={})
    sheet = made.sheets[0]
    lists = {
        "A": [float(row * 7919 % 9973) / 4 for row in range(ROWS)],
        "B": [float(row % 7) for row in range(ROWS)],
        "C": [f"item {row * 31 % 500}" for row in range(ROWS)],
    } | columns
    for letter, held in lists.items():
        sheet.put_cells(Area.parse(letter + "1").left, 1, Cells.of(held))
    at = Cell(8, 1)
    sheet.put(at, made.read_entry(formula, at).content, PLAIN)
    plan_fill(made, sheet.id, Area.of(at), Area(8, 1, 8, ROWS)).edit().apply(made)
    return Calculation(made), lists


def found(calculation):
    return calculation.cells("Loads", 8, 1, ROWS).values()


def test_a_screen_of_a_long_fill_is_worked_out_without_the_rest():
    calculation, _ = long("=ROUND(A1*1.2,2)")
    calculation.cells("Loads", 8, 30_001, 30_040)
    kinds = calculation.results("Loads").cells(8, 1, ROWS).kinds
    assert set(kinds[30_000:30_040]) == {Kind.NUMBER}
    assert np.count_nonzero(kinds == Kind.PENDING) > ROWS * 0.9


@pytest.mark.parametrize(
    ("formula", "alone"),
    [
        ("=IF(A1>1000,B1,C1)", lambda a, b, c, at: b[at] if a[at] > 1000 else c[at]),
        ("=IFERROR(A1/B1,-1)", lambda a, b, c, at: a[at] / b[at] if b[at] else -1.0),
        ("=SUMIFS(A$1:A$40000,C$1:C$40000,C1,B$1:B$40000,3)",
         lambda a, b, c, at: sum(x for x, y, z in zip(a, b, c, strict=True)
                                 if z == c[at] and y == 3)),
        ("=COUNTIFS(C:C,C1,B:B,B1)",
         lambda a, b, c, at: sum((y, z) == (b[at], c[at]) for y, z in zip(b, c, strict=True))),
        ('=SUMIF(A$1:A$40000,"<="&A1)',
         lambda a, b, c, at: sum(x for x in a if x <= a[at])),
        ("=RANK(A1,A$1:A$40000)", lambda a, b, c, at: 1 + sum(x > a[at] for x in a)),
        ("=MATCH(C1,C$1:C$40000,0)", lambda a, b, c, at: c.index(c[at]) + 1),
        ("=SUMPRODUCT(A:A*(B:B=2))",
         lambda a, b, c, at: sum(x for x, y in zip(a, b, strict=True) if y == 2)),
    ],
)  # fmt: skip
def test_long_lists_give_what_one_finds_by_looking(formula, alone):
    calculation, lists = long(formula)
    values = found(calculation)
    for at in (0, 1, 17, 8_192, 32_767, 39_999):
        assert values[at] == alone(lists["A"], lists["B"], lists["C"], at)


def test_a_branch_is_worked_out_for_its_own_rows_only():
    # In all rows together the second branch would take more steps than a block may take.
    calculation, _ = long('=IF(A1<9972/4,1,LEN(REPT("ab",40000+A1)))')
    values = found(calculation)
    assert {value for value in values if value != 1.0} == {84_986.0}


def test_an_error_that_begins_in_a_long_column_knows_its_cell():
    calculation, lists = long("=SQRT(B1-3)")
    values = found(calculation)
    for row in (1, 2, 3, 30_003):
        value = values[row - 1]
        assert value.origin.cell == Cell(8, row) if lists["B"][row - 1] < 3 else value >= 0


def test_the_largest_of_many_zeros_has_no_sign():
    calculation, _ = long("=MAX(-B1*0,0)")
    assert {str(value) for value in found(calculation)} == {"0.0"}
