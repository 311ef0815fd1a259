"""How numbers and dates are written in a language and place, as the CLDR tells by Babel.

A text is made without one first: with a decimal point, commas between thousands, dates as in
ISO 8601. So what a number is rounded to never depends on where it is shown. A locale is told by
its identifier, such as ``de_CH``; the empty one is that neutral way.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from typing import Literal

from babel import Locale, UnknownLocaleError
from babel.dates import format_skeleton
from babel.localedata import locale_identifiers
from babel.numbers import (
    get_currency_symbol,
    get_decimal_symbol,
    get_group_symbol,
    get_minus_sign_symbol,
)

from dreieck.core.values.numerals import full_year

NEUTRAL = ""
MAX_IDENTIFIER = 20
Order = Literal["dmy", "mdy", "ymd"]
_NUMERAL = re.compile(r"(-?)(\D*?)(\d[\d,]*)(?:\.(\d+))?(E[+-]\d+)?(%?)")
_BLANKS = " \u00a0\u2009\u202f"
_QUOTES = "'’"
_MINUS = "\u2212"
_BLANK = f"[{_BLANKS}]"
_DIRECTIONS = re.compile("[\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]")
_TYPED_DATE = re.compile(r"(\d{1,4})([-/.])\s?(\d{1,2})\2\s?(\d{1,4})\.?(?:\sг\.)?")


@dataclass(frozen=True, slots=True)
class Signs:
    """The signs of a locale: ``sizes`` are those of the first group of digits and of others.

    ``percent`` and ``currency`` are what stands before and behind a number; ``¤`` is the sign
    of a currency.
    """

    point: str
    group: str
    sizes: tuple[int, int]
    minus: str
    percent: tuple[str, str]
    currency: tuple[str, str]
    order: Order

    @property
    def is_plain(self) -> bool:
        """Whether numbers are written with the neutral signs."""
        return (self.point, self.group, self.sizes) == (".", ",", (3, 3))


def identifier(text: str) -> str:
    """The identifier of a locale, however it is spelled. Raises KeyError where it is unknown."""
    text = text.strip().replace("-", "_")
    if len(text) > MAX_IDENTIFIER:
        raise KeyError(text)
    try:
        return str(Locale.parse(text)) if text else NEUTRAL
    except (ValueError, UnknownLocaleError):
        raise KeyError(text) from None


@lru_cache(1)
def known() -> dict[str, str]:
    """The locales of languages in their places, with their names, in the order of those."""
    found = {name: Locale.parse(name) for name in locale_identifiers() if name.count("_") == 1}
    named = {
        name: locale.get_display_name("en") or name
        for name, locale in found.items()
        if locale.territory and len(locale.territory) == 2
    }
    return dict(sorted(named.items(), key=lambda each: each[1]))


@lru_cache(64)
def signs(locale: str) -> Signs:
    """The signs of a locale."""
    told = Locale.parse(locale)
    number, percent = told.decimal_formats[None], told.percent_formats[None]
    currency = told.currency_formats["standard"]
    return Signs(
        get_decimal_symbol(told),
        get_group_symbol(told),
        number.grouping,
        get_minus_sign_symbol(told),
        (percent.prefix[0], percent.suffix[0]),
        (currency.prefix[0], currency.suffix[0]),
        _order(told.datetime_skeletons["yMd"].pattern),
    )


def takes_comma(locale: str) -> bool:
    """Whether decimals take a comma in a locale."""
    return bool(locale) and signs(locale).point == ","


def localized(text: str, form: str, locale: str) -> str:
    """A neutral text of a number in a format, as it is written in a locale."""
    if form in ("date", "datetime"):
        return _date_written(text, locale)
    match = _NUMERAL.fullmatch(text)
    if not match:
        return text
    told = signs(locale)
    minus, _, whole, decimals, exponent, percent = match.groups()
    written = _grouped(whole, told) + (told.point + decimals if decimals else "")
    written += exponent or ""
    before, behind = told.percent if percent else ("", "")
    if code := form.partition("currency:")[2]:
        before, behind = _money(told, code, locale)
    return (told.minus if minus else "") + before + written + behind


def typed_again(text: str, form: str, locale: str) -> str:
    """The neutral text of an entry as it is typed in a locale; it reads as the same."""
    if form in ("date", "datetime"):
        written = _date_written(text, locale)
        return written if neutral(written, locale) == text else text
    if not _NUMERAL.fullmatch(text) or ":" in text:
        return text
    return text.replace(".", signs(locale).point)


def neutral(text: str, locale: str) -> str | None:
    """The neutral text of a number or date typed in a locale; None where it is neither."""
    told, text = signs(locale), unmarked(text).strip()
    if moment := _moment(text, told.order):
        return moment
    alike = next((each for each in (_BLANKS, _QUOTES) if told.group in each), told.group)
    group, (first, further) = f"[{re.escape(alike)}]", told.sizes
    # Who begins with a zero and goes on in groups writes no number, as of a telephone.
    grouped = rf"[1-9]\d{{0,2}}(?:{group}\d{{{further}}})*{group}\d{{{first}}}"
    pattern = (
        rf"%?{_BLANK}*([-+\u2212]?)(?:%{_BLANK}*)?({grouped}|\d+|(?=.\d))"
        rf"(?:{re.escape(told.point)}(\d*))?([eE][+-]?\d{{1,3}})?{_BLANK}*%?"
    )
    match = re.fullmatch(pattern, text)
    if not match or text.count("%") > 1:
        return None
    sign, whole, decimals, exponent = match.groups()
    percent = "%" * text.count("%")
    digits = re.sub(r"\D", "", whole)
    if len(digits) < len(whole):
        digits = f"{int(digits):,}"
    point = "." if decimals is not None else ""
    return f"{sign.replace(_MINUS, '-')}{digits}{point}{decimals or ''}{exponent or ''}{percent}"


def _order(pattern: str) -> Order:
    first = next((letter for letter in pattern if letter in "dMy"), "y")
    orders: dict[str, Order] = {"d": "dmy", "M": "mdy", "y": "ymd"}
    return orders[first]


def unmarked(text: str) -> str:
    """A text without the marks that only say in which direction it is written."""
    return _DIRECTIONS.sub("", text)


def _moment(text: str, order: Order) -> str | None:
    """A date of numbers in the order of a locale, perhaps with a time, as in ISO 8601."""
    day, blank, time = text.rpartition(" ")
    if ":" not in time:
        day, blank, time = text, "", ""
    found = _day(day, order)
    return found and found + blank + time


def _day(text: str, order: Order) -> str | None:
    match = _TYPED_DATE.fullmatch(text)
    # Nobody writes the month first before a point.
    if not match or (match[2], order) == (".", "mdy"):
        return None
    one, two, three = match[1], match[3], match[4]
    year, month, day = {
        "dmy": (three, two, one),
        "mdy": (three, one, two),
        "ymd": (one, two, three),
    }[order if len(one) < len("2026") else "ymd"]
    if len(year) not in (2, 4) or len(day) > 2:
        return None
    try:
        return date(full_year(year), int(month), int(day)).isoformat()
    except ValueError:
        return None


def _date_written(text: str, locale: str) -> str:
    try:
        day = date.fromisoformat(text[:10])
    except ValueError:
        return text
    written = format_skeleton("yMd", day, locale=locale)
    # What could not be read for sure is written as everywhere.
    return (written if neutral(written, locale) == text[:10] else text[:10]) + text[10:]


def _grouped(whole: str, told: Signs) -> str:
    """Digits with the sign between groups where there are commas."""
    if "," not in whole:
        return whole
    digits = whole.replace(",", "")
    first, further = told.sizes
    parts = [digits[-first:]]
    digits = digits[:-first]
    while digits:
        parts.insert(0, digits[-further:])
        digits = digits[:-further]
    return told.group.join(parts)


def _money(told: Signs, code: str, locale: str) -> tuple[str, str]:
    """What stands before and behind an amount; a sign of letters keeps its distance."""
    sign = get_currency_symbol(code, locale)
    before, behind = (part.replace("¤", sign) for part in told.currency)
    if before and before[-1].isalpha():
        before += "\u00a0"
    return before, behind
