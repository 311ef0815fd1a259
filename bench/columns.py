"""Formulas filled down 100,000 rows, each against a plain Python loop of the same."""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections import Counter, defaultdict
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from functools import cache, partial
from typing import NamedTuple

from bench.sheets import fill, workbook
from bench.timing import Figure, ratio
from dreieck.core.calculate import Calculation
from dreieck.core.sheet.workbook import Workbook

ROWS, MANY, KEYS = 100_000, 1_000_000, 1_000
_ZERO = date(1899, 12, 30)
Lists = dict[str, list[object]]
Work = Callable[[Lists], object]


class Down(NamedTuple):
    """A formula, how many times longer it may take, and the loop that does the same."""

    name: str
    formula: str
    asked: float
    loop: Work


@cache
def lists(rows: int) -> Lists:
    """Columns by letter: numbers, flags, keys and texts."""
    return {
        "A": [(row * 7919 % 100_003) / 100 for row in range(rows)],
        "B": [float(row * 31 % 9973) / 10 + 0.5 for row in range(rows)],
        "C": [float(row % 17 + 1) for row in range(rows)],
        "D": [float(row % 5 - 2) for row in range(rows)],
        "E": [f"item {row * 7 % KEYS}" for row in range(rows)],
        "F": [f"hut {row % 12}" for row in range(rows)],
        "G": [float(40_000 + row % 5000) for row in range(rows)],
        "K": [float(key) for key in range(KEYS)],
        "L": [key * 1.5 for key in range(KEYS)],
        "M": [f"item {key}" for key in range(KEYS)],
        "T": [float(row * 31 % KEYS) for row in range(rows)],
    }


def _columns(*letters: str) -> Callable[[Lists], Iterator[tuple[float, ...]]]:
    return lambda given: zip(*(given[letter] for letter in letters), strict=True)  # type: ignore[arg-type]  # numbers


def _share(given: Lists) -> list[float]:
    total = math.fsum(given["A"])  # type: ignore[arg-type]  # numbers
    return [a / total for a in given["A"]]  # type: ignore[operator]


def _window(given: Lists) -> list[float]:
    held: list[float] = given["B"]  # type: ignore[assignment]
    return [sum(held[row : row + 7]) / len(held[row : row + 7]) for row in range(len(held))]


def _beside(given: Lists) -> list[object]:
    known = dict(zip(given["K"], given["L"], strict=True))
    return [known[t] for t in given["T"]]


def _nearest(given: Lists) -> list[object]:
    keys: list[float] = given["K"]  # type: ignore[assignment]
    values = given["L"]
    return [values[bisect_right(keys, t) - 1] for t in given["T"]]  # type: ignore[type-var]


def _indexed(given: Lists) -> list[object]:
    known = {key: place for place, key in enumerate(given["M"])}
    values = given["L"]
    return [values[known[text]] for text in given["E"]]


def _counted(given: Lists) -> list[int]:
    counts = Counter(zip(given["E"], given["F"], strict=True))
    return [counts[pair] for pair in zip(given["E"], given["F"], strict=True)]


def _summed(given: Lists) -> list[float]:
    sums: defaultdict[object, float] = defaultdict(float)
    for text, number in zip(given["E"], given["A"], strict=True):
        sums[text] += number  # type: ignore[operator]
    return [sums[text] for text in given["E"]]


def _ranked(given: Lists) -> list[int]:
    ordered: list[float] = sorted(given["A"])  # type: ignore[type-var]
    return [len(ordered) - bisect_right(ordered, a) + 1 for a in given["A"]]  # type: ignore[type-var]


def _products(given: Lists) -> list[float]:
    return [a * 2 + b * 3 + c * 4 + d * 5 for a, b, c, d in _columns("A", "B", "C", "D")(given)]


def _below(given: Lists) -> list[int]:
    ordered: list[float] = sorted(given["A"])  # type: ignore[type-var]
    return [len(ordered) - bisect_left(ordered, b) for b in given["B"]]  # type: ignore[type-var]


def works(rows: int) -> list[Down]:
    """The formulas, for lists of so many rows."""
    one, two, four = _columns("A"), _columns("A", "B"), _columns("A", "B", "C", "D")
    texts, parts = (lambda g: g["E"]), (lambda g: zip(g["E"], g["F"], strict=True))
    day = lambda number: _ZERO + timedelta(days=number)  # noqa: E731  # read like the others
    return [
        Down("ROUND", "=ROUND(A1*B1,2)", 0.5, lambda g: [round(a * b, 2) for a, b in two(g)]),
        Down(
            "IF",
            "=IF(A1>500,B1*2,B1)",
            0.5,
            lambda g: [b * 2 if a > 500 else b for a, b in two(g)],
        ),
        Down("^", "=A1^1.5", 0.5, lambda g: [a**1.5 for (a,) in one(g)]),
        Down("^ 2", "=A1^2", 0.5, lambda g: [a**2 for (a,) in one(g)]),
        Down("comparison", "=A1>B1", 0.5, lambda g: [a > b for a, b in two(g)]),
        Down(
            "AND", "=AND(A1>100,B1<500)", 0.5, lambda g: [a > 100 and b < 500 for a, b in two(g)]
        ),
        Down(
            "IFERROR",
            "=IFERROR(A1/D1,0)",
            0.5,
            lambda g: [a / d if d else 0.0 for a, d in _columns("A", "D")(g)],
        ),
        Down(
            "SQRT and ABS",
            "=SQRT(ABS(A1-B1))",
            0.5,
            lambda g: [math.sqrt(abs(a - b)) for a, b in two(g)],
        ),
        Down(
            "MOD",
            "=MOD(A1,C1)",
            0.5,
            lambda g: [a - c * math.floor(a / c) for a, c in _columns("A", "C")(g)],
        ),
        Down("SUM of a row", "=SUM(A1:D1)", 0.5, lambda g: [sum(row) for row in four(g)]),
        Down(
            "AVERAGE of a row",
            "=AVERAGE(A1:D1)",
            0.5,
            lambda g: [sum(row) / len(row) for row in four(g)],
        ),
        Down("MAX of a row", "=MAX(A1,B1)", 0.5, lambda g: [max(a, b) for a, b in two(g)]),
        Down("SUMPRODUCT of a row", "=SUMPRODUCT(A1:D1,$N$1:$Q$1)", 0.5, _products),
        Down("share of a sum", f"=A1/SUM($A$1:$A${rows})", 0.5, _share),
        Down("sliding average", "=AVERAGE(B1:B7)", 1, _window),
        Down("&", '=E1&" "&F1', 2, lambda g: [f"{e} {f}" for e, f in parts(g)]),
        Down("LEFT", "=LEFT(E1,6)", 2, lambda g: [text[:6] for text in texts(g)]),
        Down("YEAR", "=YEAR(G1)", 2, lambda g: [day(number).year for number in g["G"]]),
        Down(
            "IF of texts",
            '=IF(E1="item 7","it",F1)',
            2,
            lambda g: ["it" if e == "item 7" else f for e, f in parts(g)],
        ),
        Down("exact VLOOKUP", f"=VLOOKUP(T1,$K$1:$L${KEYS},2,FALSE)", 2, _beside),
        Down("sorted VLOOKUP", f"=VLOOKUP(T1,$K$1:$L${KEYS},2)", 2, _nearest),
        Down("INDEX and MATCH", f"=INDEX($L$1:$L${KEYS},MATCH(E1,$M$1:$M${KEYS},0))", 2, _indexed),
        Down("COUNTIFS", f"=COUNTIFS($E$1:$E${rows},E1,$F$1:$F${rows},F1)", 3, _counted),
        Down("SUMIFS", f"=SUMIFS($A$1:$A${rows},$E$1:$E${rows},E1)", 3, _summed),
        Down("COUNTIF of a limit", f'=COUNTIF($A$1:$A${rows},">="&B1)', 3, _below),
        Down("RANK", f"=RANK(A1,$A$1:$A${rows})", 3, _ranked),
    ]


def filled(formula: str, rows: int) -> Workbook:
    """A workbook with the lists and a formula filled down beside them."""
    made = workbook(**lists(rows), N=[2.0], O=[3.0], P=[4.0], Q=[5.0])
    fill(made, "V1", f"V1:V{rows}", formula)
    return made


def figures() -> Iterator[Figure]:
    """Each formula against its loop, and a million rows of it against 100,000."""
    for work in works(ROWS):
        title = f"{work.name}, {ROWS:,} rows / Python loop"
        yield Figure(title, work.asked, partial(_against_loop, work))
    for few, many in zip(works(ROWS), works(MANY), strict=True):
        title = f"{few.name}, {MANY:,} rows / {ROWS:,} rows"
        yield Figure(title, 12.0, partial(_many_against_few, few.formula, many.formula))


def _against_loop(work: Down) -> float:
    made, given = filled(work.formula, ROWS), lists(ROWS)
    return ratio(lambda: settle(made, ROWS), lambda: work.loop(given), rounds=9)


def _many_against_few(few: str, many: str) -> float:
    short, long = filled(few, ROWS), filled(many, MANY)
    return ratio(lambda: settle(long, MANY), lambda: settle(short, ROWS), rounds=5)


def settle(made: Workbook, rows: int) -> None:
    """Work the filled formulas out."""
    Calculation(made).cells("Loads", 22, 1, rows)
