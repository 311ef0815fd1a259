"""Nothing that can be typed takes for ever, or more memory than there is."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.budget import FORMULA_STEPS, Budget, TooMuchWork, WorkEnded, working
from dreieck.core.calculate import Calculation, order
from dreieck.core.calculate import calculation as calculating
from dreieck.core.calculate.blocks import blocks
from dreieck.core.formula import Shape
from dreieck.core.functions.wildcards import Wildcards
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.names import named
from dreieck.core.sheet.sheet import Run
from dreieck.core.values import LOOP, NUM, REF, UNFINISHED, VALUE, WORK, Error
from dreieck.core.values.look import PLAIN

HEAVY = "=DSUM(B2:ZZ1000000,1,B2:ZZ1000000)"


def valued(entries, *cells, names=()):
    made = workbook(Loads=entries)
    for name, says in names:
        made.names[name] = named(name, says)
    calculation = Calculation(made)
    found = [calculation.value("Loads", Cell.parse(cell)) for cell in cells]
    return [each.code if isinstance(each, Error) else each for each in found]


@given(
    st.text("ab*?~", max_size=9),
    st.text("ab*?", max_size=12),
    st.integers(0, 3),
)
def test_wildcards_are_what_their_pattern_is(pattern, text, start):
    pieces = re.findall(r"~[*?~]|.", pattern)
    signs = {"*": ".*", "?": "."}
    expression = "".join(signs.get(p) or re.escape(p[1:] or p) for p in pieces)
    assert Wildcards(pattern).fit(text) == bool(re.fullmatch(expression, text))
    found = re.compile(expression).search(text, start) if start <= len(text) else None
    assert Wildcards(pattern).begin(text, start) == (found.start() if found else -1)


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ('=SEARCH("*?*?*?*b",REPT("a",90000))', VALUE),
        ('=SEARCH("*?*?*?*b",REPT("a",90000)&"b")', 1.0),
        ('=SEARCH(REPT("?a",2000)&"b",REPT("a",90000))', VALUE),
        ('=COUNTIF(B1:B2,"*a*a*a*a*a*a*a*a*b")', 1.0),
        ("=FACT(5E5)", NUM),
        ("=FACT(1E9)", NUM),
        ("=FACT(170)", 7.257415615307999e306),
        ("=COMBIN(200000,2)", 19_999_900_000.0),
        ("=COMBIN(1E15,5E14)", NUM),
        ("=PERMUT(1E6,2)", 999_999_000_000.0),
        ("=CEILING(1E300,1E-300)", NUM),
        ("=FLOOR(1E300,1E-300)", NUM),
        ('=SUBSTITUTE(REPT("a",90000),"a",REPT("b",90000))', VALUE),
        ('=SUBSTITUTE(REPT("a",90000),"a",REPT("b",90000),3)', VALUE),
        ('=REPLACE(REPT("a",90000),1,0,REPT("b",90000))', VALUE),
        ('=REPT("a",90000)&REPT("b",90000)', VALUE),
        ('=SUMPRODUCT((C1:C1000000="x")*(D1:D1000000="y")*E1:E1000000)', 0.0),
        ("=SUMPRODUCT(C2:ZZZ1000000)", 0.0),
        ("=Nope!A1:INDEX(B1:B3,2)", REF),
        (HEAVY, WORK),
    ],
)
def test_no_formula_runs_away(formula, value):
    entries = {"A1": formula, "B1": "a" * 200, "B2": "a" * 199 + "b", "A2": "=1+1"}
    assert valued(entries, "A1", "A2") == [value, 2.0]


def test_what_doubles_from_cell_to_cell_and_name_to_name_ends():
    cells = {"A1": "x", **{f"A{row}": f"=A{row - 1}&A{row - 1}" for row in range(2, 41)}}
    assert valued(cells, "A5", "A40") == ["x" * 16, VALUE]
    texts = [("n_0", '"x"'), *((f"n_{n}", f"n_{n - 1}&n_{n - 1}") for n in range(1, 41))]
    assert valued({"A1": "=n_40", "A2": "=n_4"}, "A1", "A2", names=texts) == [VALUE, "x" * 16]
    sums = [("n_0", "1"), *((f"n_{n}", f"n_{n - 1}+n_{n - 1}") for n in range(1, 41))]
    assert valued({"A1": "=n_40"}, "A1", names=sums) == [2.0**40]
    chain = [("n_0", "1"), *((f"n_{n}", f"n_{n - 1}+1") for n in range(1, 400))]
    assert valued({"A1": "=n_399", "A2": "=n_60"}, "A1", "A2", names=chain) == [WORK, 61.0]


def test_the_texts_of_a_sheet_are_bounded_together(monkeypatch):
    monkeypatch.setattr(order, "MAX_CHARACTERS", 2_000_000)
    entries = {"A1": '=REPT("a",90000)&ROW()', "C1": '=REPT("b",9)'}
    entries |= {f"A{row}": f'=REPT("a",90000)&{row}' for row in range(2, 40)}
    found = valued(entries, *(f"A{row}" for row in range(1, 40)), "C1")
    assert isinstance(found[0], str) and found[-2] == WORK and found[-1] == "b" * 9


def test_texts_that_are_results_no_more_do_not_count(monkeypatch):
    monkeypatch.setattr(order, "MAX_CHARACTERS", 2_000_000)
    made = workbook(Loads={"A1": "1", "B1": '=REPT("a",90000)&A1', "B9": '=REPT("b",9)'})
    calculation, sheet = Calculation(made), made.sheets[0]
    for number in range(100):
        edit = SetCells.of(sheet.id, {Cell(1, 1): (float(number), PLAIN)})
        edit.apply(made)
        calculation.edited([edit])
        assert str(calculation.value("Loads", Cell(2, 1))).endswith(f"a{number}")
    assert calculation.value("Loads", Cell(2, 9)) == "b" * 9


def test_sheets_that_are_not_there_make_no_ring_unsolvable():
    assert valued({"B1": "=A1", "A1": "=B1+Nope!A1"}, "A1", "B1") == ["#LOOP!", "#LOOP!"]


class Clock(Budget):
    """Ends all work at its first look."""

    def watch(self):
        raise WorkEnded("The time is up.", by_clock=True)


def test_where_time_is_up_the_rest_waits_and_what_is_done_is_kept(monkeypatch):
    calculation = Calculation(workbook(Loads={"A1": "=1+1", "B1": "=A1*2", "C1": HEAVY}))
    at = {cell: Cell.parse(cell) for cell in ("A1", "B1", "C1")}
    with working(Clock()):
        assert calculation.value("Loads", at["B1"]) == 4.0
        with pytest.raises(WorkEnded):
            calculation.value("Loads", at["C1"])
    with working(Budget()) as hurried:
        hurried.hurried = True
        assert calculation.value("Loads", at["A1"]) == 2.0
        assert calculation.value("Loads", at["C1"]) is UNFINISHED
        assert calculation.cells("Loads", 3, 1, 2).value(0) == UNFINISHED
    with working(Clock()), pytest.raises(WorkEnded):
        calculation.value("Loads", at["C1"])
    # What never gets done in the time that there is, is given up and shown.
    monkeypatch.setattr(calculating, "MAX_IN_VAIN", 0)
    with working(Clock()):
        assert calculation.value("Loads", at["C1"]) == Error(WORK)


def test_a_long_column_goes_on_where_it_had_to_end():
    made = workbook(Loads={"A1": "1"})
    shape = Shape.parse("=ROUND(ROW(A1)/3,1)", Cell(2, 1))
    made.sheets[0].put_run(Run(2, 1, 40_000, shape, PLAIN))
    calculation = Calculation(made)
    rounds = 0
    while True:
        rounds += 1
        try:
            with working(_Short()):
                found = calculation.cells("Loads", 2, 1, 40_000)
                assert found.value(39_999) == 13_333.3
            break
        except WorkEnded:
            assert rounds < 50
    assert rounds > 1


class _Short(Budget):
    """Ends all work at its fourth look."""

    looks = 0

    def watch(self):
        self.looks += 1
        if self.looks > 3:
            raise WorkEnded("The time is up.", by_clock=True)


@given(st.sets(st.tuples(st.integers(1, 6), st.integers(1, 7)), min_size=1))
def test_blocks_are_the_cells_that_hang_together(places):
    cells = {Cell(*place) for place in places}
    sheet = workbook(Loads={cell.text: "=ROW()" for cell in cells}).sheets[0]
    found = {frozenset(block.cells()) for block in blocks(sheet)}
    expected = set()
    rest = set(cells)
    while rest:
        group, waiting = set(), [rest.pop()]
        while waiting:
            cell = waiting.pop()
            group.add(cell)
            near = {cell.offset(*step) for step in ((0, 1), (0, -1), (1, 0), (-1, 0))} & rest
            rest -= near
            waiting += near
        expected.add(frozenset(group))
    assert found == expected
    assert all(Area(1, 1, 6, 7).holds(cell) for group in found for cell in group)


def test_many_small_formulas_are_watched_as_one_large_one_is():
    class Watched(Budget):
        looks = 0

        def watch(self):
            self.looks += 1

    budget = Watched()
    for _ in range(1_000):
        with budget.formula(1):
            budget.spend(100)
    assert budget.looks == 4
    # What a formula inside another one takes is not counted as the outer one's.
    with budget.formula(1):
        with budget.formula(1):
            budget.spend(FORMULA_STEPS)
        budget.spend(FORMULA_STEPS)
        with pytest.raises(TooMuchWork):
            budget.spend(50_000)


@pytest.mark.parametrize("formula", ["=A{next}*{row}", "=A{far}+{row}", "=SUM(A{next}:A{far})"])
def test_a_long_circle_of_formulas_that_all_differ_is_told(formula):
    """Each is a block of its own; finding the circle takes as much work as there are cells."""
    rows = 1_200
    entries = {
        f"A{row}": formula.format(row=row, next=row % rows + 1, far=(row * 7 + 3) % rows + 1)
        for row in range(1, rows + 1)
    }
    assert set(valued(entries, "A1", "A500")) <= {LOOP, WORK}
