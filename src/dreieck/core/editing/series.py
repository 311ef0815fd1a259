"""How plain values count on: numbers, dates, names of days and months, text with a number.

One number or date alone is copied; two or more count on by their step. Names and texts that
end in a number count on from one.
"""

from __future__ import annotations

import calendar
import re
from collections.abc import Sequence
from datetime import date
from itertools import pairwise

from dreieck.core.sheet.content import Content
from dreieck.core.sheet.series import (
    NAMES,
    Months,
    Names,
    Numbered,
    Series,
    Steps,
    place_suffix,
)
from dreieck.core.values.look import Look
from dreieck.core.values.numerals import date_of

_NUMBERED = re.compile(r"(.*?)(\d{1,15})((?:st|nd|rd|th)\b)?(\D*)", re.DOTALL | re.IGNORECASE)
_CLOSE = 1e-9


def series_of(starts: Sequence[Content | None], look: Look) -> Series | None:
    """How starts that follow each other count on; None where they can only be copied."""
    if all(isinstance(start, float) for start in starts):
        numbers = [start for start in starts if isinstance(start, float)]
        return _dates(numbers) if look.form == "date" else _steps(numbers)
    if all(isinstance(start, str) for start in starts):
        texts = [start for start in starts if isinstance(start, str)]
        return _names(texts) or _numbered(texts)
    return None


def counts_on_alone(starts: Sequence[Content | None]) -> bool:
    """Whether starts count on unless one says otherwise: a single number is copied."""
    return len(starts) > 1 or isinstance(starts[0], str)


def _steps(numbers: list[float]) -> Series | None:
    """Numbers with one step; a number alone steps by 1."""
    step = numbers[1] - numbers[0] if len(numbers) > 1 else 1.0
    gaps = [after - before for before, after in pairwise(numbers)]
    scale = max(abs(step), *(abs(number) for number in numbers))
    if any(abs(gap - step) > _CLOSE * scale for gap in gaps):
        return None
    return Steps(numbers[0], step)


def _dates(numbers: list[float]) -> Series | None:
    """Dates by days, or by whole months where the day of the month stays or is the last one."""
    days = [day for day in map(date_of, numbers) if day is not None]
    whole = all(number == number // 1 for number in numbers)
    if len(numbers) > 1 and len(days) == len(numbers) and whole:
        months = [day.year * 12 + day.month for day in days]
        step = months[1] - months[0]
        if step and all(b - a == step for a, b in pairwise(months)):
            ends = all(day.day == _last(day) for day in days)
            # One day in each year, such as 28 February, is that day and no other.
            if ends and step % 12:
                return Months(numbers[0], step, ends=True)
            if all(day.day == min(days[0].day, _last(day)) for day in days):
                return Months(numbers[0], step)
    return _steps(numbers)


def _last(day: date) -> int:
    """The last day of the month of a date."""
    return calendar.monthrange(day.year, day.month)[1]


def _names(texts: list[str]) -> Series | None:
    """Names of days or months, written as the first one is."""
    words = [text.strip().casefold() for text in texts]
    for number, names in enumerate(NAMES):
        folded = [name.casefold() for name in names]
        if not all(word in folded for word in words):
            continue
        first = folded.index(words[0])
        step = (folded.index(words[1]) - first) % len(names) if len(words) > 1 else 1
        expected = [folded[(first + step * n) % len(names)] for n in range(len(words))]
        if words != expected:
            return None
        return Names(number, first, step, _spelling(texts[0]))
    return None


def _spelling(text: str) -> str:
    if text.isupper():
        return "capitals"
    return "small" if text.islower() else ""


def _numbered(texts: list[str]) -> Series | None:
    """Texts with one number in them: Week 1, Week 2."""
    matches = [_NUMBERED.fullmatch(text) for text in texts]
    found = [match for match in matches if match]
    numbers = [int(match[2]) for match in found]
    suffixes = [match[3] or "" for match in found]
    tells_place = all(map(_is_place, numbers, suffixes))
    around = {(m[1], m[4] if tells_place else (m[3] or "") + m[4]) for m in found}
    if len(found) < len(texts) or len(around) > 1:
        return None
    before, after = around.pop()
    if not before and not after and not tells_place:
        return None
    step = numbers[1] - numbers[0] if len(numbers) > 1 else 1
    if any(b - a != step for a, b in pairwise(numbers)):
        return None
    padded = len(found[0][2]) if found[0][2].startswith("0") else 0
    place = _spelling(suffixes[0]) if tells_place else None
    return Numbered(before, after, numbers[0], step, padded, place)


def _is_place(number: int, suffix: str) -> bool:
    return suffix.casefold() == place_suffix(number)
