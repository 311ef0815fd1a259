"""What stands around cells: the labels of a line, whether they count on, and what they name."""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterator, Sequence

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet

MOST = 24
"""So many labels of a line tell what the others are like."""
_FAR = 40
_ORDERED = (
    "january february march april may june july august september october november december",
    "jan feb mar apr may jun jul aug sep sept oct nov dec",
    "monday tuesday wednesday thursday friday saturday sunday",
    "mon tue wed thu fri sat sun",
    "first second third fourth fifth sixth seventh eighth ninth tenth",
    "spring summer autumn fall winter",
)
_TOTAL = re.compile(
    r"\b(sub-?)?(totals?|sums?|overall|altogether|together|all|whole)\b",
    re.IGNORECASE,
)
_NUMBERS_ONLY = re.compile(
    r"(no|nr|num|number|#|id|code|key|year|phone|tel|zip|account|room|invoice|week|day|month|"
    r"quarter|date|hour|time|period|line|pos|position|rank)\.?",
    re.IGNORECASE,
)


def texts_along(
    calculation: Calculation, sheet: Sheet, first: Cell, axis: Axis, count: int
) -> tuple[str, ...]:
    """What the cells of a line are labelled, from ``first`` on along an axis, in small letters.

    It is the nearest line of texts before it that tells the cells apart; empty where none does.
    """
    crossing, count = CROSSING[axis], min(count, MOST)
    for back in range(1, min(first.on(crossing), _FAR)):
        line = Area.of(first.step(crossing, -back))
        line = line.spanning(axis, first.on(axis), first.on(axis) + count - 1)
        if 2 * sheet.count(line) <= count:
            continue
        texts = _texts(calculation, sheet, line)
        told = [text for text in texts if text]
        if 2 * len(told) > count and (count == 1 or len(set(told)) > 1):
            return texts
    return ()


def label(calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis) -> str:
    """The nearest text to the left of a cell, or above it, in small letters."""
    return nearest_text(calculation, sheet, cell, axis).casefold()


def nearest_text(
    calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis, reach: int = _FAR
) -> str:
    """The nearest text to the left of a cell on its row, or above it in its column."""
    crossing = CROSSING[axis]
    for back in range(1, min(cell.on(crossing), reach)):
        if text := _text(calculation, sheet, cell.step(crossing, -back)):
            return text
    return ""


def _texts(calculation: Calculation, sheet: Sheet, line: Area) -> tuple[str, ...]:
    """The texts of the cells of a line, in small letters; empty where there is none."""
    if line.width > 1 or not line.last.on_sheet:
        return tuple(_text(calculation, sheet, cell).casefold() for cell in line.cells())
    cells = calculation.cells(sheet.name, line.left, line.top, line.bottom)
    if not (cells.kinds == Kind.TEXT).any():
        return ("",) * line.height
    values = cells.values()
    return tuple(each.strip().casefold() if isinstance(each, str) else "" for each in values)


def _text(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    if not cell.on_sheet:
        return ""
    content = sheet.content(cell)
    value = calculation.value(sheet.name, cell) if isinstance(content, Shape) else content
    return value.strip() if isinstance(value, str) else ""


def counts_on(
    calculation: Calculation,
    sheet: Sheet,
    first: Cell,
    axis: Axis,
    count: int,
    read: frozenset[int] = frozenset(),
) -> bool:
    """Whether labels beside a line count on: weeks, months, dates, equal steps.

    Numbers are no labels on the lines ``read``, counted across the axis.
    """
    texts = [text for text in texts_along(calculation, sheet, first, axis, count) if text]
    if texts:
        return is_series(texts)
    crossing = CROSSING[axis]
    for back in range(1, min(first.on(crossing), _FAR)):
        if first.on(crossing) - back in read:
            continue
        cells = (first.step(crossing, -back).step(axis, n) for n in range(min(count, MOST)))
        values = [calculation.value(sheet.name, cell) for cell in cells]
        if len(values) > 1 and _ascends(values):
            return True
    return False


def is_series(texts: list[str]) -> bool:
    """Whether labels count on: Week 1, Week 2; months; none do not tell."""
    if not texts:
        return False
    numbered = [re.fullmatch(r"(.*?)(\d+)(\D*)", text.strip()) for text in texts]
    if all(numbered):
        return len({(m[1], m[3]) for m in numbered if m}) == 1
    words = [text.strip().casefold() for text in texts]
    return any(set(words) <= set(order.split()) for order in _ORDERED)


def _ascends(values: Sequence[object]) -> bool:
    numbers = [value for value in values if isinstance(value, float)]
    if len(numbers) < len(values):
        return False
    steps = {round(b - a, 9) for a, b in itertools.pairwise(numbers)}
    return len(steps) == 1 and steps != {0.0}


def are_alike(one: tuple[str, ...], other: tuple[str, ...]) -> bool | None:
    """Whether labels of two lines tell the same things in one order; None where some say nothing.

    Labels are alike that share a word: *Rope* and *Rope, 40 m*.
    """
    pairs = [(a, b) for a, b in zip(one, other, strict=False) if a and b]
    if not pairs or 2 * len(pairs) < min(len(one), len(other)):
        return None
    same = sum(a == b or bool(set(_words(a)) & set(_words(b))) for a, b in pairs)
    return 2 * same > len(pairs)


def _words(text: str) -> Iterator[str]:
    return (each for each in re.findall(r"\w+", text) if len(each) > 1 or each.isdigit())


def names_total(text: str) -> bool:
    """Whether a label names a total."""
    return bool(_TOTAL.search(text))


_PART = re.compile(
    r"\b(only|without|except|excluding|excl|ex|of which|thereof|of these|less|but|from|until|"
    r"till|up to|through|part|summer|winter|spring|autumn|early|late|"
    r"(best|worst|first|last|top) \w+)\b",
    re.IGNORECASE,
)
_PERIOD = re.compile(r"\b(h1|h2|q[1-4]|half|quarter)\b", re.IGNORECASE)
_MEMO = re.compile(
    r"\b(of which|thereof|of these|memo|note|last year|previous|prior|before|for comparison|"
    r"planned?|plan|budget|target|limit|goal|forecast|as a share)\b",
    re.IGNORECASE,
)
_AGREED = re.compile(
    r"\b(agreed|flat|lump sum|fixed|minimum|min|maximum|max|capped|cap|free|special|exception|"
    r"manual|corrected|correction|adjusted|estimated?|opening|closing|initial|final|"
    r"(carried|brought) (over|forward)|first|last|half|rest|rounding|rounded|by hand|gift|"
    r"donated|waived|one-off|discount|rebate|deposit|on account)\b",
    re.IGNORECASE,
)
_STATISTIC = re.compile(
    r"\b(mean|average|avg|median|max|maximum|most|min|minimum|least|largest|smallest|highest|"
    r"lowest|count|share|rank|change|difference|left|per \w+)\b",
    re.IGNORECASE,
)
_COMMON = re.compile(
    r"\b(number|worth|cost|value|amount|weight|load|result|balance|net|gross|to pay|a \w+|each)\b",
    re.IGNORECASE,
)


_BALANCE = re.compile(
    r"\b(balance|stock|in stock|cash|account|left|remaining|rest|debt|so far|running|cumulative|"
    r"total|sum|carried|worth|outstanding|level)\b",
    re.IGNORECASE,
)


def names_balance(text: str) -> bool:
    """Whether a heading names what goes on from line to line: stock, cash, what is left."""
    return bool(_BALANCE.search(text))


def names_part(text: str) -> bool:
    """Whether a label says that only a part is meant."""
    return bool(_PART.search(text))


def names_period(text: str) -> bool:
    """Whether a label names a quarter or half of a longer series."""
    return bool(_PERIOD.search(text))


def names_memo(text: str) -> bool:
    """Whether a label says that a line is beside the point: of which, last year."""
    return bool(_MEMO.search(text))


def names_exception(text: str) -> bool:
    """Whether a label or note says that a cell is no rule: agreed, minimum, opening."""
    return bool(_AGREED.search(text))


def names_whole(text: str) -> bool:
    """Whether a label names a total, a mean or the like, not something of its own."""
    return not text or names_statistic(text) or bool(_COMMON.search(text))


def names_statistic(text: str) -> bool:
    """Whether a label names a total, a mean, a difference or the like."""
    return names_total(text) or bool(_STATISTIC.search(text))


def is_heading(
    calculation: Calculation,
    sheet: Sheet,
    cell: Cell,
    inside: Cell,
    axis: Axis,
    *,
    sure: bool = False,
) -> bool:
    """Whether a number before a list is a heading of it, such as a year above it.

    ``inside`` is the first cell of the list on the axis along which it goes. To be ``sure``
    takes more than a number that looks like a year: others of its line have to, too.
    """
    number = calculation.value(sheet.name, cell)
    within = calculation.value(sheet.name, inside)
    if not isinstance(number, float):
        return False
    year = _is_year(number) and not (isinstance(within, float) and _is_year(within))
    crossing = CROSSING[axis]
    headed = _is_headed(calculation, sheet, cell, axis)
    if year and not sure and not headed:
        return True
    if _NUMBERS_ONLY.fullmatch(label(calculation, sheet, cell, axis)):
        return True
    beside = _run(calculation, sheet, cell, crossing)
    below = _run(calculation, sheet, inside, crossing)
    if not headed and _has_text(beside[1]) and not _has_text(below[1]):
        return True
    if year and any(_is_year(each) for side in beside for each in _numbers(side)):
        return True
    if any(_is_broken_off(each) for each in below):
        return False
    line = [*_numbers(beside[0])[::-1], number, *_numbers(beside[1])]
    other = [*_numbers(below[0])[::-1], within, *_numbers(below[1])]
    return len(line) > 2 and _ascends(line) and not _ascends(other)


def _is_headed(calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis) -> bool:
    """Whether a cell stands right below a heading, in a line with a label of its own as others."""
    above = cell.step(axis, -1)
    if not above.on_sheet or not isinstance(calculation.value(sheet.name, above), str):
        return False
    lines = (_run(calculation, sheet, each, CROSSING[axis])[0] for each in (cell, above))
    return all(map(_has_text, lines))


def _has_text(values: list[object]) -> bool:
    return any(isinstance(value, str) for value in values)


def _numbers(values: list[object]) -> list[float]:
    return [value for value in values if isinstance(value, float)]


def _is_broken_off(values: list[object]) -> bool:
    """Whether something else stands among the numbers of a line, so that no step is sure."""
    numbers = [index for index, value in enumerate(values) if isinstance(value, float)]
    return bool(numbers) and numbers[-1] >= len(numbers)


def _is_year(number: float) -> bool:
    return number == int(number) and 1900 <= number <= 2100


def _run(
    calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis
) -> tuple[list[object], list[object]]:
    """The values before and behind a cell, up to the first empty one."""
    sides: tuple[list[object], list[object]] = ([], [])
    for side, step in zip(sides, (-1, 1), strict=True):
        at = cell.step(axis, step)
        while at.on_sheet and len(side) < MOST:
            value = calculation.value(sheet.name, at)
            if value is None:
                break
            side.append(value)
            at = at.step(axis, step)
    return sides
