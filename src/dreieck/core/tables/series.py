"""Labels and numbers that count on: months, days of the week, years, Week 1 and Week 2."""

from __future__ import annotations

import itertools
import re
from collections.abc import Sequence
from functools import cache

from babel import Locale

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.grid import CROSSING, Axis, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import stem
from dreieck.core.tables.labels import FAR, MOST, texts_along

LANGUAGES = ("en", "de", "fr", "es", "pt", "it", "nl", "pl", "sv", "ru", "zh", "ja")
"""Most tables are written in these."""
_OTHER_ORDERS = (
    "first second third fourth fifth sixth seventh eighth ninth tenth",
    "spring summer autumn fall winter",
)
_NUMBERED = re.compile(r"(.*?)(\d+)(\D*)")


@cache
def _orders() -> dict[str, frozenset[str]]:
    """The orders that a word is part of: months and days in all languages, and some others."""
    found: dict[str, set[str]] = {}
    for language in LANGUAGES:
        locale = Locale(language)
        for order, names in (("month", locale.months), ("day", locale.days)):
            for context, width in itertools.product(
                ("format", "stand-alone"), ("wide", "abbreviated")
            ):
                for name in names[context][width].values():
                    found.setdefault(name.casefold().strip("."), set()).add(order)
    for order in _OTHER_ORDERS:
        for word in order.split():
            found.setdefault(word, set()).add(order)
    found.setdefault("sept", set()).add("month")
    return {word: frozenset(orders) for word, orders in found.items()}


def order_of(text: str) -> frozenset[str]:
    """The orders that a label stands in, such as that of months: *January*, *Jan 2026*."""
    words = [word.strip(".") for word in re.split(r"[\s,/]+", text.casefold())]
    named = (word for word in words if word and not word.isdigit())
    found = [_orders().get(word, frozenset()) for word in named]
    return frozenset.union(*found) if found and all(found) else frozenset()


def is_series(texts: Sequence[str]) -> bool:
    """Whether labels count on: Week 1, Week 2; months; none do not tell."""
    if not texts:
        return False
    numbered = [_NUMBERED.fullmatch(text.strip()) for text in texts]
    if all(numbered):
        return len({(m[1], m[3]) for m in numbered if m}) == 1
    return bool(frozenset.intersection(*map(order_of, texts)))


def ascends(values: Sequence[object]) -> bool:
    """Whether values are numbers that go up or down by equal steps."""
    numbers = [value for value in values if isinstance(value, float)]
    if len(numbers) < len(values):
        return False
    steps = {round(b - a, 9) for a, b in itertools.pairwise(numbers)}
    return len(steps) == 1 and steps != {0.0}


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
    for back in range(1, min(first.on(crossing), FAR)):
        if first.on(crossing) - back in read:
            continue
        cells = (first.step(crossing, -back).step(axis, n) for n in range(min(count, MOST)))
        values = [calculation.value(sheet.name, cell) for cell in cells]
        if len(values) > 1 and ascends(values):
            return True
    return False


def are_alike(one: tuple[str, ...], other: tuple[str, ...]) -> bool | None:
    """Whether labels of two lines tell the same things in one order; None where some say nothing.

    Labels are alike that share a word: *Rope* and *Rope, 40 m*.
    """
    pairs = [(a, b) for a, b in zip(one, other, strict=False) if a and b]
    if not pairs or 2 * len(pairs) < min(len(one), len(other)):
        return None
    same = sum(a == b or bool(_stems_of(a) & _stems_of(b)) for a, b in pairs)
    return 2 * same > len(pairs)


def _stems_of(text: str) -> set[str]:
    """The words of a label without single letters, in one form for one and for many."""
    words = (each for each in re.findall(r"\w+", text) if len(each) > 1 or each.isdigit())
    return {stem(each) for each in words}
