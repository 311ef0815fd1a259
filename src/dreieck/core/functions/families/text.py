"""Functions of text. Positions are counted from 1."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.functions.record import Result
from dreieck.core.functions.registry import Failure, at_once, function
from dreieck.core.functions.wildcards import Wildcards
from dreieck.core.sheet.cells import Cells, distinct_numbers
from dreieck.core.values import MAX_TEXT, NA, VALUE, Error, Value, bounded_text, to_number, to_text
from dreieck.core.values.roundings import Numbers

_TOLD = 1
"""How many steps it costs to tell a value as text, beside reading it."""


def _of_text(name: str, compute: Callable[[str], Value]) -> None:
    """Register a function of one text."""
    function(name)(compute)
    at_once(name)(lambda texts: _each(compute, texts))


def _each(compute: Callable[[str], Value], texts: Cells) -> Cells:
    """What a function gives for each text, called once for each different one."""
    numbers, objects = texts.payload.astype(np.intp), texts.pool.objects
    used = distinct_numbers(numbers, len(objects))
    held = [objects[number] for number in used.tolist()]
    found = Cells.of([compute(text) if isinstance(text, str) else None for text in held])
    places = np.zeros(len(objects), np.intp)
    places[used] = np.arange(len(used))
    return found.taken(places[numbers])


def _proper(text: str) -> str:
    return re.sub(r"[^\W\d_]+", lambda word: word[0][:1].upper() + word[0][1:].lower(), text)


_of_text("LEN", lambda text: float(len(text)))
_of_text("LOWER", lambda text: text.lower())
_of_text("UPPER", lambda text: text.upper())
_of_text("PROPER", _proper)
_of_text("TRIM", lambda text: re.sub(" +", " ", text.strip(" ")))


@function("LEFT")
def _left(text: str, count: int = 1) -> str:
    return text[: _length(count)]


@function("RIGHT")
def _right(text: str, count: int = 1) -> str:
    return text[max(len(text) - _length(count), 0) :]


@function("MID")
def _mid(text: str, start: int, count: int) -> str:
    return text[_position(start) : start - 1 + _length(count)]


@at_once("LEFT")
def _left_in_rows(text: Cells | str, count: Numbers = 1) -> Cells | None:
    return _cut(text, lambda each: each[: int(count)], count)


@at_once("RIGHT")
def _right_in_rows(text: Cells | str, count: Numbers = 1) -> Cells | None:
    return _cut(text, lambda each: each[max(len(each) - int(count), 0) :], count)


@at_once("MID")
def _mid_in_rows(text: Cells | str, start: Numbers, count: Numbers) -> Cells | None:
    return _cut(
        text, lambda each: each[int(start) - 1 : int(start) - 1 + int(count)], count, start
    )


def _cut(
    text: Cells | str, part: Callable[[str], str], count: Numbers, start: Numbers = 1
) -> Cells | None:
    """Parts of texts, if all are cut at the same places."""
    if isinstance(count, np.ndarray) or isinstance(start, np.ndarray) or isinstance(text, str):
        return None
    return _each(part, text) if count >= 0 and start >= 1 else None


@function("REPLACE")
def _replace(text: str, start: int, count: int, new: str) -> Value:
    return bounded_text((text[: _position(start)], new, text[start - 1 + _length(count) :]))


@function("SUBSTITUTE")
def _substitute(text: str, old: str, new: str, which: int | None = None) -> Value:
    if which is not None and which < 1:
        raise Failure(VALUE, "Pieces are counted from 1.")
    if not old:
        return text
    pieces = text.split(old)
    spend(len(pieces))
    if which is None:
        return _joined(new, pieces)
    if which >= len(pieces):
        return text
    return bounded_text((old.join(pieces[:which]), new, old.join(pieces[which:])))


@function("REPT")
def _rept(text: str, times: int) -> str:
    if times < 0 or len(text) * times > MAX_TEXT:
        raise Failure(VALUE, f"A text can have {MAX_TEXT:,} characters, and not less than none.")
    spend(len(text) * times // 2)
    return text * times


@function("FIND")
def _find(sought: str, text: str, start: int = 1) -> float:
    if start > len(text) + 1:
        raise Failure(VALUE, "The start lies behind the end of the text.")
    found = text.find(sought, _position(start))
    if found < 0:
        raise Failure(VALUE, f"{_said(sought)} does not occur in the text.")
    return float(found + 1)


@function("SEARCH")
def _search(sought: str, text: str, start: int = 1) -> float:
    if start > len(text) + 1:
        raise Failure(VALUE, "The start lies behind the end of the text.")
    found = Wildcards(sought).begin(text, _position(start))
    if found < 0:
        raise Failure(VALUE, f"{_said(sought)} does not occur in the text.")
    return float(found + 1)


@function("EXACT")
def _exact(text: str, other: str) -> bool:
    return text == other


@function("CONCAT")
@function("CONCATENATE")
def _concatenate(values: Iterator[Value]) -> Result:
    return bounded_text(texts_of(values))


@function("TEXTJOIN")
def _textjoin(between: str, without_empty: bool, values: Iterator[Value]) -> Result:
    texts = [text for text in texts_of(values) if text or not without_empty]
    return _joined(between, texts)


def texts_of(values: Iterator[Value]) -> list[str]:
    """Values as texts. Raises Failure for the first error among them."""
    texts = []
    for value in values:
        spend(_TOLD)
        text = to_text(value)
        if isinstance(text, Error):
            raise Failure.of(text)
        texts.append(text)
    return texts


@function("T")
def _t(value: Value) -> Value:
    return value if isinstance(value, str | Error) else ""


@function("VALUE")
def _value(text: Value) -> Value:
    if isinstance(text, bool):
        raise Failure(VALUE, "TRUE and FALSE are no text.")
    return to_number(text)


def _position(start: int) -> int:
    if start < 1:
        raise Failure(VALUE, "Characters are counted from 1.")
    return start - 1


def _length(count: int) -> int:
    if count < 0:
        raise Failure(VALUE, "There is no text with less than no characters.")
    return count


def _joined(between: str, pieces: list[str]) -> Value:
    """Pieces with a text between each two of them."""
    spaced = [part for piece in pieces for part in (between, piece)][1:]
    return bounded_text(spaced)


def _said(text: str) -> str:
    """A text as an error names it."""
    return f"“{text[:60]}{'…' * (len(text) > 60)}”"


@function("NUMBERVALUE")
def _numbervalue(text: str, decimal: str = ".", thousands: str = ",") -> Value:
    if not decimal or decimal[0] in thousands:
        raise Failure(VALUE, "The signs of decimals and thousands have to differ.")
    plain = re.sub(r"\s", "", text)
    whole, point, rest = plain.partition(decimal[0])
    percents = len(plain) - len(plain.rstrip("%"))
    if any(each in rest for each in thousands):
        raise Failure(VALUE, f"{_said(text)} has thousands behind its decimals.")
    for each in thousands:
        whole = whole.replace(each, "")
    number = to_number(f"{whole}{'.' * bool(point)}{rest}".rstrip("%") or 0.0)
    return number if isinstance(number, Error) else number / 100.0**percents


@function("TEXTBEFORE")
def _textbefore(
    text: str,
    mark: str,
    which: int = 1,
    any_case: bool = False,
    end: bool = False,
    instead: Value = None,
) -> Value:
    found = _mark_at(text, mark, which, any_case=any_case, end=end)
    return text[: found[0]] if found else _instead(mark, instead)


@function("TEXTAFTER")
def _textafter(
    text: str,
    mark: str,
    which: int = 1,
    any_case: bool = False,
    end: bool = False,
    instead: Value = None,
) -> Value:
    found = _mark_at(text, mark, which, any_case=any_case, end=end)
    return text[found[1] :] if found else _instead(mark, instead)


def _mark_at(
    text: str, mark: str, which: int, *, any_case: bool, end: bool
) -> tuple[int, int] | None:
    """Where a mark begins and ends in a text, the first or the last one being number 1 or -1."""
    if which == 0:
        raise Failure(VALUE, "Marks are counted from 1, or from -1 at the end.")
    spend(len(text) // 8 + 1)
    if not mark:
        return (0, 0) if which > 0 else (len(text), len(text))
    pattern = re.compile(re.escape(mark), re.IGNORECASE if any_case else 0)
    places = [match.span() for match in pattern.finditer(text)]
    if end:
        # Seen from the end, its beginning is what closes a text.
        places = [*places, (len(text),) * 2] if which > 0 else [(0, 0), *places]
    number = which - 1 if which > 0 else len(places) + which
    return places[number] if 0 <= number < len(places) else None


def _instead(mark: str, instead: Value) -> Value:
    if instead is None:
        raise Failure(NA, f"{_said(mark)} does not occur so often in the text.")
    return instead
