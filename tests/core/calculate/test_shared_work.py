"""Totals and indexes are shared by many formulas, and give what each alone would give."""

import math

from hypothesis import given
from hypothesis import strategies as st
from tables import values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.functions.criteria import criterion
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.totals import Total
from dreieck.core.values.look import PLAIN

numbers = st.floats(-1e200, 1e200, allow_nan=False)
entries = st.sampled_from(
    [
        "",
        "1",
        "2",
        "0.1",
        "-3e10",
        "kg",
        "KG",
        "k*",
        "TRUE",
        "'1",
        "=1/0",
        "=0.1+0.2",
        "2026-03-01",
    ]
)


@given(st.lists(numbers, max_size=40), st.integers(0, 40))
def test_a_total_is_exact_however_it_was_reached(found, cut):
    total = Total()
    total.take(found[:cut])
    total.take(found[cut:])
    assert total.sum == math.fsum(found)
    assert total.count == len(found)
    if found:
        assert (total.low, total.high) == (min(found), max(found))


@given(st.lists(entries, min_size=1, max_size=12), st.permutations(range(5)))
def test_running_ranges_give_what_single_ones_give_in_any_order(column, order):
    functions = ("SUM", "COUNT", "AVERAGE", "MIN", "COUNTA")
    rows = {f"A{row}": text for row, text in enumerate(column, 1) if text}
    made = workbook(Loads=rows)
    last = len(column)
    running = {
        Cell(3 + which, row): f"={functions[which]}(A$1:A{row})"
        for which in order
        for row in range(1, last + 1)
    }
    for cell, text in running.items():
        made.sheets[0].put(cell, made.read_entry(text, cell).content, PLAIN)
    together = Calculation(made)
    for cell in sorted(running, key=lambda c: (c.row * 7 + c.column * 3) % 11):
        alone = Calculation(made).value("Loads", cell)
        assert together.value("Loads", cell) == alone, running[cell]


@given(st.lists(entries, min_size=32, max_size=60), entries)
def test_an_index_finds_what_a_search_finds(column, wanted):
    rows = {f"A{row}": text for row, text in enumerate(column, 1) if text}
    rows |= {f"B{row}": str(row) for row in range(1, len(column) + 1)}
    whole, last = f"A1:A{len(column)}", len(column)
    asked = {
        "D1": f"=COUNTIF({whole},F1)",
        "D2": f"=SUMIF({whole},F1,B1:B{last})",
        "D3": f"=MATCH(F1,{whole},0)",
        "D4": f"=VLOOKUP(F1,A1:B{last},2,FALSE)",
    }
    made = workbook(Loads={**rows, **asked, **({"F1": wanted} if wanted else {})})
    calculation = Calculation(made)
    sought = calculation.value("Loads", Cell.parse("F1"))
    fits = criterion(sought)
    held = [calculation.value("Loads", Cell(1, row)) for row in range(1, last + 1)]
    places = [row for row, value in enumerate(held, 1) if fits(value)]
    found = values(made, "D1:D4")
    assert found[:2] == [len(places), sum(places)]
    # A criterion may be a number said in text; a lookup takes text as text.
    if not hasattr(sought, "code") and sought != "1":
        first = places[0] if places else "#N/A"
        assert found[2:] == [first, first]


def test_a_change_is_seen_by_totals_and_indexes():
    rows = {f"A{row}": str(row) for row in range(1, 41)}
    made = workbook(Loads={**rows, "B1": "=SUM(A$1:A40)", "B2": "=COUNTIF(A1:A40,7)"})
    calculation = Calculation(made)

    def read():
        return [calculation.value("Loads", cell) for cell in Area.parse("B1:B2").cells()]

    assert read() == [820.0, 1.0]
    made.sheets[0].put(Cell(1, 40), 7.0, PLAIN)
    calculation.forget()
    assert read() == [787.0, 2.0]


@given(
    st.lists(entries, min_size=6, max_size=12),
    st.sampled_from(["SUM", "COUNT", "AVERAGE", "MIN", "COUNTA"]),
    st.sampled_from(["A{row}:A${last}", "A$1:A{row}", "A{row}:A{third}", "A$1:A${last}"]),
)
def test_a_block_of_ranges_gives_what_its_formulas_give_one_by_one(column, function, range_):
    last = len(column)
    formulas = {
        row: f"={function}({range_.format(row=row, last=last, third=row + 2)})"
        for row in range(1, last + 1)
    }
    data = {f"A{row}": text for row, text in enumerate(column, 1) if text}
    block = workbook(Loads={**data, **{f"C{row}": text for row, text in formulas.items()}})
    alone = [values(workbook(Loads={**data, "C1": "1", f"D{row}": text}), f"D{row}")[0]
             for row, text in formulas.items()]  # fmt: skip
    assert values(block, f"C1:C{last}") == alone
