"""What a cell can hold, and how typed text becomes it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from dreieck.core.exceptions import EntryError, FormulaError
from dreieck.core.formula import Shape, parse, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.formula.spelling import Told, spelled, told
from dreieck.core.grid import Cell
from dreieck.core.values import number_text
from dreieck.core.values.ambiguous import Other, as_text, taken, taken_number, taken_year
from dreieck.core.values.amounts import amount_in
from dreieck.core.values.currencies import own_decimals
from dreieck.core.values.formats import (
    FORMATS,
    MAX_NUMERAL,
    TYPED_TEXT,
    currency_form,
    format_named,
    read_numeral,
)
from dreieck.core.values.locales import NEUTRAL, neutral, signs, takes_comma, typed_again
from dreieck.core.values.look import MAX_DECIMALS, PLAIN, Look

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
    ``brackets_added`` counts closing brackets that were missing at the end. Where there are
    two readings, ``taken`` says which one was taken, and ``others`` are the others.
    """

    content: Content | None
    form: str | None = None
    decimals: int | None = None
    problem: FormulaError | None = None
    brackets_added: int = 0
    taken: str = ""
    others: tuple[Other, ...] = ()


def read_entry(text: str, at: Cell, locale: str = NEUTRAL) -> Entry:
    """Understand what was typed into the cell ``at``, numbers and dates as a locale writes them.

    ``=`` begins a formula, an apostrophe in front keeps text as it is; numbers, dates,
    times and percents are read as ``numerals`` says, what has two readings as ``ambiguous``
    says. Raises EntryError for text of too many characters for a cell.
    """
    if len(text.removeprefix("'")) > MAX_ENTRY:
        raise EntryError(
            f"An entry can have {MAX_ENTRY:,} characters; this one has {len(text):,}."
            " Shorten it, or spread it over several cells."
        )
    if text.startswith("'"):
        return Entry(text[1:], form=TYPED_TEXT)
    if text.startswith("=") and len(text) > 1:
        return _formula(text, at, locale)
    if not text:
        return Entry(None)
    if text.strip().upper() in ("TRUE", "FALSE"):
        return Entry(text.strip().upper() == "TRUE")
    if entry := _amount(text, at, locale):
        return entry
    plain = neutral(text, locale) if locale else None
    if plain and (entry := _as_plain(text, plain, at)):
        return entry
    numeral = read_numeral(text)
    if numeral is None:
        return _unlike_number(text, at, locale)
    another = taken_number(text, numeral.value)
    says, others = (another.says, another.others) if another else ("", ())
    if locale and not says and not signs(locale).is_plain and set(text) & {".", ","}:
        plain = typed_again(number_text(numeral.value), numeral.form, locale)
        says, others = f"the number {plain}", (as_text(text),)
    typed_in = FORMATS[numeral.form]
    form = typed_in.name if typed_in.implied else None
    decimals = min(numeral.decimals, MAX_DECIMALS) if typed_in.counts_decimals else None
    return Entry(numeral.value, form, decimals, taken=says, others=others)


def _formula(text: str, at: Cell, locale: str) -> Entry:
    """Understand a formula; decimals take a comma in it where they do in the locale."""
    said = told(text) if takes_comma(locale) else Told(text, None)
    try:
        parsed = parse(said.text, at)
    except FormulaError as problem:
        return Entry(Unreadable(text), problem=problem)
    entry = Entry(Shape.of(parsed.tree), brackets_added=parsed.brackets_added)
    if not said.otherwise:
        return entry
    parted = spelled(said.otherwise)
    says = "a number with decimals: arguments are parted by semicolons"
    return replace(entry, taken=says, others=(Other(f"make it {parted[:60]}", parted),))


def _amount(text: str, at: Cell, locale: str) -> Entry | None:
    """Understand an amount of money; None where the text says none."""
    amount = amount_in(text, locale) if len(text) <= MAX_NUMERAL else None
    if not amount:
        return None
    entry = read_entry(amount.number, at, locale)
    others = tuple(
        as_text(text)
        if each.entry.startswith("'")
        else each._replace(entry=text.replace(amount.number, each.entry))
        for each in entry.others
    )
    if isinstance(entry.content, float) and entry.form in (None, "grouped"):
        plain = (neutral(amount.number, locale) if locale else None) or amount.number
        decimals = len(plain.partition(".")[2])
        more = min(decimals, MAX_DECIMALS) if decimals > own_decimals(amount.code) else None
        return replace(entry, form=currency_form(amount.code), decimals=more, others=others)
    is_near = isinstance(entry.content, str) and others
    return Entry(text, taken=entry.taken, others=others) if is_near else None


def _as_plain(text: str, plain: str, at: Cell) -> Entry | None:
    """Understand what is ``plain`` in neutral signs; None where it is no number and no date."""
    entry = read_entry(plain, at)
    if not isinstance(entry.content, float):
        return None
    if doubt := taken_year(text, plain):
        return replace(entry, taken=doubt.says, others=doubt.others)
    doubt = taken_number(plain.replace(",", ""), entry.content)
    return replace(
        entry, taken=doubt.says if doubt else "", others=(as_text(text),) if doubt else ()
    )


def _unlike_number(text: str, at: Cell, locale: str) -> Entry:
    """Understand text that is no plain number and does not begin as a formula."""
    stripped = text.strip()
    keep = (as_text(text),)
    if stripped.startswith("=") and len(stripped) > 1:
        entry = read_entry(stripped, at, locale)
        return replace(entry, taken="a formula, without the blank in front", others=keep)
    if stripped[:1] in ("+", "-"):
        entry = read_entry("=" + stripped, at, locale)
        if isinstance(entry.content, Shape) and _refers(entry.content):
            return replace(entry, taken=f"the formula ={stripped[:60]}", others=keep)
    found = taken(text)
    if found is None:
        return Entry(text)
    if found.entry == "'" + text:
        return Entry(text, taken=found.says, others=found.others)
    return replace(read_entry(found.entry, at), taken=found.says, others=found.others)


def _refers(shape: Shape) -> bool:
    """Whether a formula reads a cell or calls a function, as one does that is meant to be one."""
    return any(
        isinstance(node, tree.Call | CellReference | RangeReference)
        for node in tree.walk(shape.tree)
    )


def typed_text(
    content: Content | None, at: Cell, look: Look = PLAIN, locale: str = NEUTRAL
) -> str:
    """The text that, typed into ``at``, gives this content: what is shown for editing."""
    match content:
        case None:
            return ""
        case Shape():
            return spelled(content.text(at)) if takes_comma(locale) else content.text(at)
        case Unreadable():
            return content.text
        case bool():
            return "TRUE" if content else "FALSE"
        case float():
            text = format_named(look.form).edit(content) or number_text(content)
            return typed_again(text, look.form, locale) if locale else text
        case str():
            if look.form == "text":
                return content if not content.startswith(("=", "'")) else "'" + content
            plain = read_entry(content, at, locale)
            same = isinstance(plain.content, str) and plain.content == content
            return content if same else "'" + content
