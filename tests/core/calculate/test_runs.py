"""Many runs at once come to what entering each of their values comes to."""

from itertools import chain
from math import fsum, isnan

import numpy as np
import pytest
from formulas import near_formulas
from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.runs import Runs
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.beside import Long
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.names import named
from dreieck.core.values import Error, Place
from dreieck.core.values.look import PLAIN

BASE = {
    **{f"A{row}": str(row * 7 % 5) for row in range(1, 9)},
    **{f"B{row}": entry for row, entry in enumerate(["Flour", "3", "", "Oil", "2.5", "=1/0"], 1)},
    "C1": "4", "C2": "2",
}  # fmt: skip
FILLED = [
    "=$A1*$C$1+1", "=A1*C$1%/($C$2-2)", "=SUM($A$1:$A1)*C$1", "=D1+$C$1", "=SUM(A1:C1)",
    "=IF(A1>$C$1,A1,$C$2)", "=ROUND(A1/$C$1,1)", "=MAX($A$1:$A$8)*$C$2", "=SUM(C$1:C$2)-A1",
    "=COUNTIF($A$1:$A$8,$C$1)", "=VLOOKUP($C$1,$A$1:$B$8,2,0)", '=$B1&"/"&$C$1', "=B1*$C$1",
    '=IFERROR(B1/$C$1,"none")', "=INDEX($A$1:$A$8,$C$2)", "=ROW()*$C$1", "=AVERAGE($C$1:$C$2,A1)",
    "=SUMPRODUCT($A$1:$A$8*$C$1)", "=MIN(A1:C1)", '=INDIRECT("A"&$C$2)+A1', "=OFFSET($A$1,$C$2,0)",
    "=$C$1^A1", "=AND(A1>$C$1,$C$2)", "=CHOOSE($C$2,A1,$C$1)", "=price*A1", "=SUMIF($A$1:A1,$C$1)",
    "=-$C$1+(A1-$C$1)", "=$C$1=A1", "=E1*2",
]  # fmt: skip
values = st.one_of(
    st.integers(-3, 9).map(float), st.floats(-1e6, 1e6), st.sampled_from([0.0, 1.5, True, "Oil"])
)


def made_of(filled, single):
    made = workbook(Loads=BASE)
    price = named("price", "Loads!$C$1*2")
    made.names[price.key] = price
    sheet = made.sheets[0]
    for column, formula in zip("DEFG", filled, strict=False):
        at = Cell.parse(f"{column}1")
        content = made.read_entry(formula, at).content
        sheet.put(at, content, PLAIN)
        plan_fill(made, sheet.id, Area.of(at), Area(at.column, 1, at.column, 8)).edit().apply(made)
    content = made.read_entry(single, Cell.parse("H1")).content
    sheet.put(Cell.parse("H1"), content, PLAIN)
    return made


RESULTS = ["D8", "E1", "F3", "G8", "H1", "A2"]


def told(value):
    return value.code if isinstance(value, Error) else value


def close(one, other):
    if isinstance(one, float) and isinstance(other, float):
        return one == other or abs(one - other) <= 1e-12 * max(abs(one), abs(other))
    return type(one) is type(other) and one == other


@given(
    filled=st.lists(st.sampled_from(FILLED), min_size=2, max_size=4),
    single=st.sampled_from(["=SUM(D1:G8)", "=D8&E8", "=AVERAGE(D:D)", "=COUNT(D1:F8)"])
    | near_formulas,
    given_values=st.lists(st.tuples(values, values), min_size=1, max_size=5),
)
def test_runs_come_to_what_entering_comes_to(filled, single, given_values):
    made = made_of(filled, single)
    sheet = made.sheets[0]
    inputs = [Place("Loads", Cell(3, 1)), Place("Loads", Cell(3, 2))]
    results = [Place("Loads", Cell.parse(each)) for each in RESULTS]
    before = [told(v) for v in _row(Calculation(made), results)]
    columns = [Cells.of(list(column)) for column in zip(*given_values, strict=True)]
    found = [cells.values() for cells in Runs(Calculation(made), inputs, results).of(columns)]
    assert [told(v) for v in _row(Calculation(made), results)] == before
    for number, pair in enumerate(given_values):
        held = {place.cell: (value, PLAIN) for place, value in zip(inputs, pair, strict=True)}
        back = SetCells.of(sheet.id, held).apply(made)
        wanted = _row(Calculation(made), results)
        back.apply(made)
        for place, one, many in zip(
            results, wanted, (each[number] for each in found), strict=True
        ):
            assert close(told(one), told(many)), (place.cell.text, one, many, pair)


def _row(calculation, places):
    return [calculation.value(place.sheet, place.cell) for place in places]


def test_a_chain_goes_on_from_other_seeds():
    chained = {f"A{row}": f"=A{row - 1}*1.5+1" for row in range(2, 40)}
    made = workbook(Loads={"A1": "1", **chained})
    runs = Runs(Calculation(made), [Place("Loads", Cell(1, 1))], [Place("Loads", Cell(1, 39))])
    (found,) = runs.of([Cells.numbers(np.array([1.0, 2.0, -2.0]))])
    assert found.values()[2] == -2.0 and found.values()[1] > found.values()[0]
    assert found.values()[0] == Calculation(made).value("Loads", Cell(1, 39))


numbers = st.floats(-1e9, 1e9) | st.sampled_from([0.1, 0.2, -0.3, 1e-30, 1e15])


@given(st.lists(st.lists(numbers, min_size=3, max_size=3), min_size=1, max_size=4))
def test_what_long_rows_come_to_is_exact_or_not_told(rows):
    for found, row in zip(Long(np.array(rows)).sum(), rows, strict=True):
        assert isnan(found) or found == fsum(row)
    long = Long(np.array([[0.1] * 3000, [1.0, -1.0] * 1500, [0.0] * 3000]))
    first, *others = long.sum()
    assert first == pytest.approx(300) and all(map(isnan, others))
    assert list(chain(long.lowest(), long.highest())) == [0.1, -1.0, 0.0, 0.1, 1.0, 0.0]
