"""What a cell can hold, and how typed text becomes it."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.address import Cell
from dreieck.core.exceptions import EntryError, FormulaError
from dreieck.core.formula import Shape, parse
from dreieck.core.look import PLAIN, Form, Look, shown
from dreieck.core.numerals import read_numeral
from dreieck.core.values import number_text

MAX_ENTRY = 10_000
"""How many characters an entry can have."""


@dataclass(frozen=True, slots=True)
class Unreadable:
    """A formula that cannot be read, kept as it was typed."""

    text: str


Content = float | str | bool | Shape | Unreadable
"""A number, text, a logical value, the shape of a formula, or a formula kept as typed."""


@dataclass(frozen=True, slots=True)
class Entry:
    """Typed text, understood.

    ``content`` is None where the cell is emptied; ``form`` is the number format that the
    typing implies, if any; ``problem`` says why a formula could not be read;
    ``brackets_added`` counts closing brackets that were missing at the end.
    """

    content: Content | None
    form: Form | None = None
    decimals: int | None = None
    problem: FormulaError | None = None
    brackets_added: int = 0


def read_entry(text: str, at: Cell) -> Entry:
    """Understand what was typed into the cell ``at``.

    ``=`` begins a formula, an apostrophe in front keeps text as it is; numbers, dates,
    times and percents are read as ``numerals`` says. Raises EntryError for text that is
    too long for a cell.
    """
    if len(text) > MAX_ENTRY:
        raise EntryError(
            f"An entry can have {MAX_ENTRY:,} characters; this one has {len(text):,}."
            " Shorten it, or spread it over several cells."
        )
    if text.startswith("'"):
        return Entry(text[1:], form="text")
    if text.startswith("=") and len(text) > 1:
        try:
            parsed = parse(text, at)
        except FormulaError as problem:
            return Entry(Unreadable(text), problem=problem)
        return Entry(Shape.of(parsed.tree), brackets_added=parsed.brackets_added)
    if not text:
        return Entry(None)
    if text.strip().upper() in ("TRUE", "FALSE"):
        return Entry(text.strip().upper() == "TRUE")
    numeral = read_numeral(text)
    if numeral is None:
        return Entry(text)
    if numeral.form == "number":
        return Entry(numeral.value)
    decimals = numeral.decimals if numeral.form in ("percent", "grouped") else None
    return Entry(numeral.value, numeral.form, decimals)  # type: ignore[arg-type]  # a Form


def typed_text(content: Content | None, at: Cell, look: Look = PLAIN) -> str:
    """The text that, typed into ``at``, gives this content: what is shown for editing."""
    match content:
        case None:
            return ""
        case Shape():
            return content.text(at)
        case Unreadable():
            return content.text
        case bool():
            return "TRUE" if content else "FALSE"
        case float():
            return _typed_number(content, look)
        case str():
            plain = read_entry(content, at)
            same = isinstance(plain.content, str) and plain.content == content
            return content if same else "'" + content


def _typed_number(number: float, look: Look) -> str:
    if look.form == "percent":
        return number_text(float(f"{number * 100:.15g}")) + "%"
    if look.form in ("date", "time", "datetime"):
        text = shown(number, look)
        numeral = read_numeral(text)
        if numeral is not None and abs(numeral.value - number) < 1e-9:
            return text
    return number_text(number)
