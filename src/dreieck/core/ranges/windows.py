"""Totals of a range that grows, shrinks or slides from row to row, each from the one before.

``SUM(B$4:B4)`` filled down keeps its first row and grows at the end, ``SUM(B4:B$99)`` keeps its
last row, ``AVERAGE(B2:B8)`` slides. Row after row costs one step, however long the range is.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator

from dreieck.core.ranges.totals import Total
from dreieck.core.values import Error, Value


def growing(values: list[Value], first: int, count: int) -> Iterator[Total]:
    """The totals of ranges from value 0 to the value ``first``, to the next one, and so on."""
    total = Total()
    total.take(value for value in values[:first] if value is not None)
    for value in values[first : first + count]:
        if value is not None:
            total.take((value,))
        yield total


def growing_upwards(values: list[Value], first: int) -> Iterator[Total]:
    """The totals of ranges from the value ``first`` to the last, from the one before, and on."""
    total = Total()
    _take_ahead(total, values[first + 1 :])
    for index in range(first, -1, -1):
        _take_ahead(total, values[index : index + 1])
        yield total


def sliding(values: list[Value], height: int) -> Iterator[Total]:
    """The totals of all ranges of ``height`` values that follow each other."""
    total = Total()
    lows: deque[tuple[int, float]] = deque()
    highs: deque[tuple[int, float]] = deque()
    errors: deque[tuple[int, Error]] = deque()
    for index, value in enumerate(values):
        if type(value) is float:
            total.take((value,))
            while lows and lows[-1][1] >= value:
                lows.pop()
            while highs and highs[-1][1] <= value:
                highs.pop()
            lows.append((index, value))
            highs.append((index, value))
        elif value is not None:
            total.filled += 1
            if isinstance(value, Error):
                errors.append((index, value))
        gone = index - height
        if gone >= 0:
            _leave(total, values[gone])
            for waiting in (lows, highs, errors):
                if waiting and waiting[0][0] == gone:
                    waiting.popleft()
        if gone >= -1:
            nothing = Total()
            total.low = lows[0][1] if lows else nothing.low
            total.high = highs[0][1] if highs else nothing.high
            total.error = errors[0][1] if errors else None
            yield total


def _leave(total: Total, value: Value) -> None:
    if type(value) is float:
        total.less(value)
    elif value is not None:
        total.filled -= 1


def _take_ahead(total: Total, values: list[Value]) -> None:
    """Count values in that stand before those that are counted already."""
    total.take(value for value in values if value is not None)
    error = next((value for value in values if isinstance(value, Error)), None)
    total.error = error or total.error
