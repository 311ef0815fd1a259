"""What the texts of a table say: numbers, dates, logical values, or text that is kept."""

from __future__ import annotations

import re
from datetime import date
from typing import NamedTuple

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Content, read_entry
from dreieck.core.values.formats import TYPED_TEXT, read_numeral
from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.numerals import full_year
from dreieck.files.settings import Settings

_DAY = re.compile(
    r"(\d{1,4})([-/.])\s?(\d{1,2})\2\s?(\d{1,4})\.?(?:[ T](\d{1,2}:\d{2}(?::\d{2})?))?"
)
_SIGNS = {"−": "-", "\u00a0": " ", "\u202f": " ", "’": "'"}
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_MAX_KNOWN = 50_000
_CODE = re.compile(r"[-+]?0\d+|0\d{0,2}(?:[ '\u00a0\u202f’]\d{3})+")
"""Digits that nobody writes in front of a number, such as those of telephones."""


class Said(NamedTuple):
    """What a text says, and how that looks."""

    content: Content | None
    look: Look = PLAIN
    note: str = ""


class Meanings:
    """Tells what texts say; those that were met are known."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings
        self._known: dict[str, Said] = {}
        comma = settings.decimal == ","
        point, groups = (",", ". '") if comma else (r"\.", ", '")
        self._grouped = re.compile(
            rf"([-+]?)(\d{{1,3}}(?:[{groups}]\d{{3}})+|\d+)(?:{point}(\d*))?"
            r"([eE][-+]?\d{1,3})?( ?%)?"
        )

    def of(self, text: str, at: Cell) -> Said:
        """What a text says; formulas are seen from the cell ``at``."""
        known = self._known.get(text)
        if known is None:
            known = self._said(text, at)
            if len(self._known) < _MAX_KNOWN and not isinstance(known.content, Shape):
                self._known[text] = known
        return known

    def _said(self, text: str, at: Cell) -> Said:
        if not text:
            return Said(None)
        stripped = text.strip()
        if text.startswith("'") and text[1:].startswith(_FORMULA):
            return Said(text[1:], Look(TYPED_TEXT))
        if stripped.startswith("=") and len(stripped) > 1:
            return self._formula(text, stripped, at)
        if stripped.upper() in ("TRUE", "FALSE"):
            return Said(stripped.upper() == "TRUE")
        if not stripped or not (
            stripped[-1].isdigit() or stripped[-1] in "%." or stripped[0].isdigit()
        ):
            return Said(text)
        if _CODE.fullmatch(stripped):
            return Said(text, Look(TYPED_TEXT), "code with a 0 in front")
        return self._number(stripped) or self._day(stripped) or Said(text)

    def _formula(self, text: str, stripped: str, at: Cell) -> Said:
        if not self._settings.formulas:
            return Said(text, Look(TYPED_TEXT), "text with the sign of a formula in front")
        try:
            entry = read_entry(stripped, at)
        except DreieckError:
            return Said(text, Look(TYPED_TEXT), "text with the sign of a formula in front")
        return Said(entry.content, note="formula")

    def _number(self, text: str) -> Said | None:
        plain = "".join(_SIGNS.get(c, c) for c in text)
        match = self._grouped.fullmatch(plain)
        if not match:
            return None
        sign, whole, decimals, exponent, percent = match.groups()
        digits = re.sub(r"\D", "", whole)
        power = int((exponent or "e0")[1:]) - (2 if percent else 0)
        number = float(f"{sign}{digits}.{decimals or 0}e{power}")
        if abs(number) == float("inf"):
            return None
        if percent:
            return Said(number, Look("percent", len(decimals or "")))
        return Said(
            number, PLAIN if len(digits) == len(whole) else Look("grouped", len(decimals or ""))
        )

    def _day(self, text: str) -> Said | None:
        """A date, a time or both."""
        match = _DAY.fullmatch(text)
        if match:
            iso = self._iso(match[1], match[3], match[4])
            if iso is None:
                return None
            text = iso + (f" {match[5]}" if match[5] else "")
        numeral = read_numeral(text)
        if numeral is None or numeral.form not in ("date", "time", "datetime"):
            return None
        has_short_year = match and max(len(match[1]), len(match[4])) < len("2026")
        note = "date with two digits of a year" if has_short_year else ""
        return Said(numeral.value, Look(numeral.form), note)

    def _iso(self, one: str, two: str, three: str) -> str | None:
        """A date of three numbers, as in ISO 8601."""
        order = "ymd" if len(one) == 4 else self._settings.order
        if order == "none" or (order == "ymd" and len(one) != 4):
            return None
        year, month, day = {
            "ymd": (one, two, three), "dmy": (three, two, one), "mdy": (three, one, two),
        }[order]  # fmt: skip
        if len(year) not in (2, 4) or len(day) > 2 or len(month) > 2:
            return None
        try:
            return date(full_year(year), int(month), int(day)).isoformat()
        except ValueError:
            return None
