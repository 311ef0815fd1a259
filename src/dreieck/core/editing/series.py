"""How plain values count on: numbers, dates, names of days and months, text with a number.

One number or date alone is copied; two or more count on by their step. Names and texts that
end in a number count on from one.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from dreieck.core.sheet.content import Content
from dreieck.core.sheet.series import NAMES, Months, Names, Numbered, Series, Steps
from dreieck.core.values.look import Look
from dreieck.core.values.numerals import date_of

_NUMBERED = re.compile(r"(.*?)(\d{1,15})(\D*)", re.DOTALL)
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
    """Dates by days, or by whole months where the day of the month stays."""
    days = [date_of(number) for number in numbers]
    if len(numbers) > 1 and all(day is not None for day in days):
        months = [day.year * 12 + day.month for day in days if day is not None]
        step = months[1] - months[0]
        even = all(b - a == step for a, b in pairwise(months))
        same_day = len({day.day for day in days if day is not None}) == 1
        if step and even and same_day:
            return Months(numbers[0], step)
    return _steps(numbers)


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
    if len(found) < len(texts) or len({(match[1], match[3]) for match in found}) > 1:
        return None
    if not found[0][1] and not found[0][3]:
        return None
    numbers = [int(match[2]) for match in found]
    step = numbers[1] - numbers[0] if len(numbers) > 1 else 1
    if any(b - a != step for a, b in pairwise(numbers)):
        return None
    before, after, width = found[0][1], found[0][3], len(found[0][2])
    padded = width if found[0][2].startswith("0") else 0
    return Numbered(before, after, numbers[0], step, padded)
