"""Functions that give many values, against what Python makes of the same lists."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.evaluation import Evaluation
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.ranges.operands import Table
from dreieck.core.values import Error, Place

numbers = st.sampled_from(["0", "-3", "2.5", "7", "7", "40"])
entries = numbers | st.sampled_from(["kg", "KG", "Larch", "TRUE", "FALSE"])
ORDER = {float: 0, str: 1, bool: 2, type(None): 3}


def rows(made, formula):
    """What a formula comes to where ranges are taken whole: row by row, or one value."""
    at = Cell(9, 1)
    node = Shape.parse(formula, at).tree
    found = Evaluation(Place("Loads", at), Calculation(made), node).array(node)
    if isinstance(found, Table):
        return [[told(found.at(c, r)) for c in range(found.width)] for r in range(found.height)]
    return told(found)


def told(value):
    return value.code if isinstance(value, Error) else value


def column(texts):
    """A sheet with a column A, and the values in it."""
    made = workbook(Loads={f"A{row}": text for row, text in enumerate(texts, 1) if text})
    return made, [Calculation(made).value("Loads", Cell(1, row + 1)) for row in range(len(texts))]


def key(value):
    """Numbers, texts, of which case does not count, logical values, empty cells."""
    return ORDER[type(value)], value.casefold() if isinstance(value, str) else value or 0


@given(st.lists(entries | st.just(""), min_size=1, max_size=9))
def test_values_of_all_kinds_are_put_in_order_and_told_once(texts):
    made, values = column(texts)
    area = f"A1:A{len(texts)}"
    assert rows(made, f"=SORT({area})") == [[each] for each in sorted(values, key=key)]
    down = [each for (each,) in rows(made, f"=SORT({area},1,-1)")]
    assert sorted(map(key, down)) == sorted(map(key, values))
    keys = [key(each) for each in down if each is not None]
    assert keys == sorted(keys, reverse=True) and down[len(keys) :] == [None] * texts.count("")
    keys = list(map(key, values))
    first = [values[place] for place in sorted(map(keys.index, set(keys)))]
    assert rows(made, f"=UNIQUE({area})") == [[each] for each in first]


@given(st.lists(numbers, min_size=1, max_size=9), st.integers(-9, 9))
def test_parts_of_a_list_are_what_python_makes_of_it(texts, count):
    made, values = column(texts)
    area = f"A1:A{len(texts)}"
    taken = values[:count] if count > 0 else values[max(len(values) + count, 0) :] if count else []
    rest = values[count:] if count >= 0 else values[: max(len(values) + count, 0)]
    for name, part in (("TAKE", taken), ("DROP", rest)):
        assert rows(made, f"={name}({area},{count})") == ([[v] for v in part] or "#VALUE!")
    fitting = [[each] for each in values if each > count]
    assert rows(made, f"=FILTER({area},{area}>{count})") == (fitting or "#N/A")
    assert rows(made, f"=TOCOL(TRANSPOSE({area}))") == [[each] for each in values]
    assert rows(made, f"=CHOOSEROWS({area},SEQUENCE({len(values)},1,-1,-1))") == [
        [each] for each in reversed(values)
    ]
    assert rows(made, f"=FREQUENCY({area},{{0,7}})") == [
        [float(sum(low < each <= high for each in values))]
        for low, high in ((-99, 0), (0, 7), (7, 99))
    ]


TABLE = {"A1": "1", "B1": "2", "A2": "3", "B2": "4", "A4": "Larch-2;Scree-3"}


@pytest.mark.parametrize(
    ("formula", "found"),
    [
        ("=SORTBY({1,2,3},{2,3,1},-1)", [[2.0, 1.0, 3.0]]),
        ("=SORT(A1:B2,2,-1)", [[3.0, 4.0], [1.0, 2.0]]),
        ("=SORT({2,1;3,4},1,1,TRUE)", [[1.0, 2.0], [4.0, 3.0]]),
        ("=SORT(A1:B2,3)", "#VALUE!"),
        ("=SORT(A1:B2,1,0)", "#VALUE!"),
        ("=UNIQUE({1,1,2},TRUE)", [[1.0, 2.0]]),
        ("=UNIQUE({1,2;1,2;1,3})", [[1.0, 2.0], [1.0, 3.0]]),
        ("=UNIQUE({1;1},FALSE,TRUE)", "#N/A"),
        ("=FILTER(A1:B2,{TRUE,FALSE})", [[1.0], [3.0]]),
        ("=FILTER(A1:B2,A1:A3>0)", "#VALUE!"),
        ('=FILTER(A1:A2,{"x";1})', "#VALUE!"),
        ("=FILTER(A1:A2,1/{0;1})", "#DIV/0!"),
        ("=HSTACK(A1:A2,9)", [[1.0, 9.0], [3.0, "#N/A"]]),
        ("=VSTACK(A1:B1,9)", [[1.0, 2.0], [9.0, "#N/A"]]),
        ("=TOROW(A1:B3,1)", [[1.0, 2.0, 3.0, 4.0]]),
        ("=TOROW(A1:B2,0,TRUE)", [[1.0, 3.0, 2.0, 4.0]]),
        ("=TAKE(A1:B2,-1,1)", [[3.0]]),
        ("=CHOOSECOLS(A1:B2,2,1)", [[2.0, 1.0], [4.0, 3.0]]),
        ("=CHOOSECOLS(A1:B2,0)", "#VALUE!"),
        ("=SEQUENCE(2,2,5,-1)", [[5.0, 4.0], [3.0, 2.0]]),
        ("=SEQUENCE(0)", "#VALUE!"),
        ("=SEQUENCE(2000,2000)", "#VALUE!"),
        ('=TEXTSPLIT(A4,"-",";")', [["Larch", "2"], ["Scree", "3"]]),
        ('=TEXTSPLIT("a--b;c","-",";",TRUE,FALSE,"")', [["a", "b"], ["c", ""]]),
        ('=TEXTSPLIT("aXbyc",{"x","y"},,FALSE,TRUE)', [["a", "b", "c"]]),
        ("=MMULT(A1:B2,MINVERSE(A1:B2))", [[1.0, 0.0], [0.0, 1.0]]),
        ("=MMULT(A1:B2,A1:B3)", "#VALUE!"),
        ("=TREND({1;2;4},{1;2;4},{3;5})", [[3.0], [5.0]]),
        ("=TREND({3,5,7},{1,2,3;0,1,0})", [[3.0, 5.0, 7.0]]),
        ("=LINEST({2,4,6},{1,2,3},FALSE)", [[2.0, 0.0]]),
        ("=LINEST({1,2},{1,2,3})", "#VALUE!"),
        ("=LINEST({1},{1})", "#DIV/0!"),
        ("=LINEST({1,3,2,4},{1,2,3,4},TRUE,TRUE)",
         [[0.8, 0.5], [0.4242640687, 1.1618950039], [0.64, 0.9486832981], [3.5555555556, 2.0],
          [3.2, 1.8]]),
        ("=GROWTH({1,-1})", "#NUM!"),
        ("=SUM(SORT(A1:B2))*2", 20.0),
    ],
)  # fmt: skip
def test_many_values_are_given(formula, found):
    given = rows(workbook(Loads=TABLE), formula)
    if isinstance(found, list):
        assert [
            pytest.approx(row) if not isinstance(row[0], str) else row for row in found
        ] == given
    else:
        assert given == found
