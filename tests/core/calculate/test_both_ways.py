"""A block worked out at once gives what its formulas give one by one, cell for cell."""

import math

from hypothesis import example, given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.editing.fill import plan_fill
from dreieck.core.functions import Takes, Trait, every
from dreieck.core.grid import Area, Cell
from dreieck.core.values import LOOP, ROOM, Error, Place
from dreieck.core.values.look import PLAIN

ROWS = 12
entries = st.sampled_from(
    ["", "", "1", "2", "0", "-3", "0.1", "2.675", "1e300", "46082.5", "=-0", "kg", "KG", "k*",
     "'7", "'", "'>1", "'<=2", "TRUE", "=1/0", "=NA()"]
)  # fmt: skip
tables = st.lists(st.lists(entries, min_size=3, max_size=3), min_size=ROWS, max_size=ROWS)
locks = st.sampled_from(["", "$"])
cells = st.builds(
    lambda one, column, two, row: f"{one}{column}{two}{row}",
    locks,
    st.sampled_from("ABCDE"),
    locks,
    st.sampled_from([1, 2, 3, 12]),
)
links = st.sampled_from([" ", "!", "~"])
ranges = (
    st.builds(lambda one, two: f"{one}:{two}", cells, cells)
    | st.builds(lambda one, two: f"{one}:INDEX(A$1:{two},2)", cells, cells)
    | st.just("B:B")
    | st.builds(lambda one, link, two: f"A1:{one}{link}{two}:C12", cells, links, cells)
)
FEW = ["0", "1", "2", "-1", "TRUE", "FALSE", "5%"]
scalars = cells | st.sampled_from(
    ["1", "-2.5", '"kg"', '">1"', "TRUE", "#N/A", '{1,2;"kg",FALSE}']
)


def calls(inner):
    """Calls of every function, with arguments that may or may not suit it."""
    names = st.sampled_from([f.name for f in every() if f.name not in ("NOW", "FACT", "REPT")])
    arguments = st.lists(inner | ranges | st.just(""), min_size=0, max_size=4)
    return st.builds(lambda name, each: f"{name}({','.join(each)})", names, arguments)


lists = st.sampled_from(
    ["$A$1:$A$12", "$B$1:$B$12", "A$1:B$12", "$A$1:$C$12", "$A$3:$C$3", "$B$1:$B$40"]
)
arrays = st.sampled_from(
    ["$A$1:$A$12*2", "$A$1:$A$12*$B$1:$B$12", "A1:C1&$B$1", "$A$1:$A$12*A1", "-A1:A3%",
     "ABS(A1:C1)",
     'IF($A$1:$A$12>A1,$B$1:$B$12)', 'IF(A1>1,$B$1:$B$12*2,C1)', "$A$1:$A$9=A1:C1", "ROW(A1:A3)+1",
     "ROUND($A$1:$B$3,{0;1;2})", "COUNTIF($A$1:$A$12,$A$1:$A$12)", "IFERROR(1/$B$1:$B$12,A1)",
     'SUMIFS($B$1:$B$12,$A$1:$A$12,{"kg";1})', 'IFS($A$1:$A$3>0,A1,TRUE,"kg")', "A1:A3*A1:A4",
     "LET(x,$A$1:$A$12,x*A1)", "LET(x,A1,y,x&1,IF(x>1,y,x))", "LET(r,RAND(),r-r)"]
)  # fmt: skip
rows = arrays | st.sampled_from(
    ["A1:C1", "$A1:$C1", "A1:A3", "B1:C2", "A1", "A2:C2", "$A$3:$C$3", "INDEX($A1:$C1,2)",
     "IF(A1>1,B1,C1)", "VLOOKUP(A1,$A$1:$C$12,2,FALSE)", "MATCH(A1,$A$1:$A$12,0)"]
)  # fmt: skip
TAKEN = {
    Takes.NUMBERS: rows, Takes.TOTALS: rows, Takes.COUNTED: rows, Takes.VALUES: rows,
    Takes.LOGICALS: rows, Takes.RANGE: lists, Takes.AREAS: lists, Takes.ORDERED: lists,
    Takes.ARRAY: rows, Takes.PLACE: cells,
}  # fmt: skip


@st.composite
def suited(draw, inner):
    """Calls with arguments of the kind that the function takes, here and there of any other."""
    function = draw(st.sampled_from([f for f in every() if f.parameters and f.name != "REPT"]))
    most = function.most or len(function.parameters) + 3
    count = draw(st.integers(max(function.least, 1), most))
    pairs = {Takes.LATER: lists | rows} if Trait.FITS in function.traits else {}
    plain = inner | st.sampled_from(FEW)
    any_form = lists | rows | ranges | plain | st.just("")
    chosen = []
    for index in range(count):
        takes = function.parameter(index).takes
        is_range = (index - len(function.parameters) + 1) % 2 == 0
        kind = (TAKEN | pairs if is_range else TAKEN).get(takes, plain)
        chosen.append(draw(any_form if draw(st.integers(0, 5)) == 0 else kind))
    return f"{function.name}({','.join(chosen)})"


def grown(inner):
    operators = st.sampled_from(["+", "-", "*", "/", "^", "&", "=", "<>", "<", ">="])
    return st.one_of(
        st.tuples(inner, operators, inner).map("".join),
        inner.map(lambda text: f"(-{text}%)"),
        calls(inner),
        suited(inner),
        st.builds(lambda a, b, c: f"IF({a},{b},{c})", inner, inner, inner),
        inner.map(lambda text: f"IF({text}>1,RAND(),RAND()-RANDBETWEEN(1,9))"),
    )


formulas = st.recursive(cells, lambda inner: grown(inner | scalars), max_leaves=5)


def same(one, two):
    if isinstance(one, Error) and isinstance(two, Error):
        return (one.code, one.why, one.origin) == (two.code, two.why, two.origin)
    is_ours = type(one) in (float, str, bool, type(None))
    has_no_sign_at_0 = one != 0 or math.copysign(1, one) == 1
    return is_ours and has_no_sign_at_0 and type(one) is type(two) and one == two


@example([["", "", "1e300"]] * ROWS, ["DATE($A$1:$A$12,$A$1:$A$12,C$12)"], 1)
@given(tables, st.lists(formulas, min_size=1, max_size=2), st.sampled_from([1, 4]))
def test_blocks_give_what_their_cells_give(table, texts, top):
    made = workbook(
        Loads={
            f"{'ABC'[column]}{row}": text
            for row, line in enumerate(table, 1)
            for column, text in enumerate(line)
            if text
        }
    )
    for column, text in zip((4, 5), texts, strict=False):
        start = Cell(column, top)
        content = made.read_entry("=" + text, start).content
        made.sheets[0].put(start, content, PLAIN)
        target = Area(column, top, column, top + ROWS - 2)
        plan_fill(made, 1, Area.of(start), target).edit().apply(made)
    calculation = Calculation(made)
    filled = list(calculation.filled_values("Loads", Area(4, 1, 5, top + ROWS)))
    alone = Calculation(made)
    for cell, value in filled:
        shape = made.sheets[0].content(cell)
        if shape and not (isinstance(value, Error) and value.code in (LOOP, ROOM)):
            one = result_at(shape, Place("Loads", cell), alone)
            assert same(value, one), (cell.text, shape.text(cell), value, one)
