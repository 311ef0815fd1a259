"""Functions of text. Positions are counted from 1."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.functions.registry import (
    Failure,
    Result,
    Takes,
    Trait,
    arg,
    at_once,
    function,
    optional,
    repeated,
)
from dreieck.core.functions.wildcards import Wildcards
from dreieck.core.sheet.cells import Cells, distinct_numbers
from dreieck.core.values import MAX_TEXT, VALUE, Error, Value, bounded_text, to_number, to_text
from dreieck.core.values.roundings import Numbers

_TEXT = arg("text", Takes.TEXT, "any text")
_COUNT = optional("count", Takes.WHOLE, "how many characters; 1 if left out", "1")
_START = arg("start", Takes.WHOLE, "the first character, counted from 1")
_SOUGHT = (
    arg("sought", Takes.TEXT, "what is looked for"),
    arg("text", Takes.TEXT, "where it is looked for"),
    optional("start", Takes.WHOLE, "the character to begin at"),
)


def _of_text(
    name: str,
    section: str,
    purpose: str,
    words: str,
    example: tuple[str, Value],
    compute: Callable[[str], Value],
) -> None:
    """Register a function of one text."""
    function(name, section, purpose, _TEXT, words=words, example=example)(compute)
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


_of_text(
    "LEN",
    "6.20.13",
    "How many characters a text has.",
    "the length of {0}",
    ("=LEN(A2)", 5.0),
    lambda text: float(len(text)),
)
_of_text(
    "LOWER",
    "6.20.14",
    "A text in small letters.",
    "{0} in small letters",
    ("=LOWER(A2)", "flour"),
    lambda text: text.lower(),
)
_of_text(
    "UPPER",
    "6.20.27",
    "A text in capitals.",
    "{0} in capitals",
    ("=UPPER(A2)", "FLOUR"),
    lambda text: text.upper(),
)
_of_text(
    "PROPER",
    "6.20.16",
    "A text with a capital at each word.",
    "{0} with capitals at its words",
    ('=PROPER("scree hut")', "Scree Hut"),
    _proper,
)
_of_text("TRIM", "6.20.24", "A text without spaces around it, and single ones inside.",
         "{0} without needless spaces", ('=TRIM("  lamp   oil ")', "lamp oil"),
         lambda text: re.sub(" +", " ", text.strip(" ")))  # fmt: skip


@function(
    "LEFT",
    "6.20.12",
    "The beginning of a text.",
    _TEXT,
    _COUNT,
    words="the first {1} characters of {0}",
    example=("=LEFT(A4,3)", "Pot"),
)
def _left(text: str, count: int = 1) -> str:
    return text[: _length(count)]


@function(
    "RIGHT",
    "6.20.19",
    "The end of a text.",
    _TEXT,
    _COUNT,
    words="the last {1} characters of {0}",
    example=("=RIGHT(A4,3)", "oes"),
)
def _right(text: str, count: int = 1) -> str:
    return text[max(len(text) - _length(count), 0) :]


@function(
    "MID",
    "6.20.15",
    "Some characters out of a text.",
    _TEXT,
    _START,
    arg("count", Takes.WHOLE, "how many characters"),
    words="{2} characters of {0} from character {1} on",
    example=("=MID(A4,2,3)", "ota"),
)
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


@function(
    "REPLACE",
    "6.20.17",
    "A text with some characters replaced by their place.",
    _TEXT,
    _START,
    arg("count", Takes.WHOLE, "how many are replaced"),
    arg("new", Takes.TEXT, "what comes in their place"),
    words="{0} with {2} characters from {1} on replaced by {3}",
    example=('=REPLACE(A2,1,2,"Gl")', "Glour"),
)
def _replace(text: str, start: int, count: int, new: str) -> Value:
    return bounded_text((text[: _position(start)], new, text[start - 1 + _length(count) :]))


@function(
    "SUBSTITUTE",
    "6.20.21",
    "A text with one piece of text replaced by another.",
    _TEXT,
    arg("old", Takes.TEXT, "what is replaced"),
    arg("new", Takes.TEXT, "what comes in its place"),
    optional("which", Takes.WHOLE, "which one, counted from 1; all if left out"),
    words="{0} with {1} replaced by {2}",
    example=('=SUBSTITUTE(A4,"t","d")', "Podadoes"),
)
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


@function(
    "REPT",
    "6.20.18",
    "A text, several times.",
    _TEXT,
    arg("times", Takes.WHOLE, "how often"),
    words="{0}, {1} times",
    example=('=REPT("ab",3)', "ababab"),
)
def _rept(text: str, times: int) -> str:
    if times < 0 or len(text) * times > MAX_TEXT:
        raise Failure(VALUE, f"A text can have {MAX_TEXT:,} characters, and not less than none.")
    spend(len(text) * times // 2)
    return text * times


@function(
    "FIND",
    "6.20.9",
    "Where one text begins in another; case counts.",
    *_SOUGHT,
    words="the place of {0} in {1}",
    example=('=FIND("t",A4)', 3.0),
)
def _find(sought: str, text: str, start: int = 1) -> float:
    if start > len(text) + 1:
        raise Failure(VALUE, "The start lies behind the end of the text.")
    found = text.find(sought, _position(start))
    if found < 0:
        raise Failure(VALUE, f"{_said(sought)} does not occur in the text.")
    return float(found + 1)


@function(
    "SEARCH",
    "6.20.20",
    "Where one text begins in another; case does not count, * and ? stand for any text.",
    *_SOUGHT,
    words="the place of {0} in {1}",
    example=('=SEARCH("P?T",A4)', 1.0),
)
def _search(sought: str, text: str, start: int = 1) -> float:
    if start > len(text) + 1:
        raise Failure(VALUE, "The start lies behind the end of the text.")
    found = Wildcards(sought).begin(text, _position(start))
    if found < 0:
        raise Failure(VALUE, f"{_said(sought)} does not occur in the text.")
    return float(found + 1)


@function(
    "EXACT",
    "6.20.8",
    "Whether two texts are the same to the letter.",
    _TEXT,
    arg("other", Takes.TEXT, "the other text"),
    words="{0} is exactly {1}",
    example=('=EXACT(A2,"flour")', False),
)
def _exact(text: str, other: str) -> bool:
    return text == other


@function(
    "CONCAT",
    "",
    "Joins texts, those of ranges row by row.",
    repeated("texts", Takes.VALUES, "texts or ranges"),
    words="{*} joined",
    example=("=CONCAT(A2:A3)", "FlourLentils"),
)
@function(
    "CONCATENATE",
    "6.20.6",
    "Joins texts.",
    repeated("texts", Takes.VALUES, "texts or values"),
    words="{*} joined",
    example=('=CONCATENATE(A2,", ",C2)', "Flour, Kestrel"),
)
def _concatenate(values: Iterator[Value]) -> Result:
    return bounded_text(_texts(values))


@function(
    "TEXTJOIN",
    "",
    "Joins texts with another between each two.",
    arg("between", Takes.TEXT, "what stands between"),
    arg("without_empty", Takes.LOGICAL, "TRUE to leave out what is empty"),
    repeated("texts", Takes.EVERY, "texts or ranges"),
    words="{*2} joined with {0} between",
    example=('=TEXTJOIN(", ",TRUE,A2:A4)', "Flour, Lentils, Potatoes"),
)
def _textjoin(between: str, without_empty: bool, values: Iterator[Value]) -> Result:
    texts = [text for text in _texts(values) if text or not without_empty]
    return _joined(between, texts)


def _texts(values: Iterator[Value]) -> list[str]:
    """Values as texts. Raises Failure for the first error among them."""
    texts = []
    for value in values:
        text = to_text(value)
        if isinstance(text, Error):
            raise Failure.of(text)
        texts.append(text)
    return texts


@function(
    "T",
    "6.20.22",
    "A value if it is text, else no text.",
    arg("value", Takes.VALUE, "any value"),
    words="{0} if it is text",
    example=("=T(B2)", ""),
    traits=(Trait.ASKS,),
)
def _t(value: Value) -> Value:
    return value if isinstance(value, str | Error) else ""


@function(
    "VALUE",
    "6.13.34",
    "The number that a text says: also percents, dates and times.",
    arg("text", Takes.VALUE, "a text that reads as a number"),
    words="the number in {0}",
    example=('=VALUE("12.5%")', 0.125),
)
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
