"""Number formats as codes (ISO/IEC 29500-1, 18.8.31), and what a code of a file means here."""

from __future__ import annotations

import re
from functools import lru_cache

from dreieck.core.values import currencies
from dreieck.core.values.formats import currency_form, currency_of

GENERAL = "General"
MAX_CODE = 1_000
"""Longer codes tell nothing; most programs take 255 characters."""
_MANY = 10
"""So many optional decimals a number has that shows as many as there are."""
_FIXED = {
    "general": GENERAL,
    "typed-text": GENERAL,
    "text": "@",
    "date": "yyyy-mm-dd",
    "time": "[h]:mm",
    "datetime": "yyyy-mm-dd h:mm",
    "duration": "[h]:mm:ss",
}
_QUOTED = re.compile(r'"[^"]*"|\\.|_.|\*.')
_CONDITION = re.compile(r"\[(?!\$)(?!h+\]|m+\]|s+\])[^\]]*\]", re.IGNORECASE)
_SIGN = re.compile(r"\[\$([^\]-]*)(?:-[^\]]*)?\]")


def code_of(form: str, decimals: int | None) -> str:
    """The code of a number format."""
    if form in _FIXED:
        return _FIXED[form]
    currency = currency_of(form)
    if decimals is None and currency:
        decimals = currencies.own_decimals(currency)
    behind = "." + ("#" * _MANY if decimals is None else "0" * decimals)
    behind = behind if len(behind) > 1 else ""
    if currency:
        return f"[${currencies.sign(currency)}]#,##0{behind}"
    return {
        "percent": f"0{behind}%",
        "grouped": f"#,##0{behind}",
        "number": f"0{behind}",
        "scientific": f"0{behind}E+0",
    }[form]


@lru_cache(4096)
def format_of(code: str) -> tuple[str, int | None]:
    """The number format that comes closest to a code, and its decimals."""
    if len(code) > MAX_CODE:
        return "general", None
    first = code.split(";", maxsplit=1)[0]
    sign = _SIGN.search(first)
    currency = currency_of_sign(sign[1]) if sign else None
    quoted = "".join(re.findall(r'"([^"]*)"', first))
    plain = _CONDITION.sub("", _QUOTED.sub("", _SIGN.sub("", first)))
    if plain.strip().casefold() in ("", "general", "standard"):
        return "general", None
    if plain.strip() == "@":
        return "text", None
    if not re.search(r"[0#?]", plain):
        return _moment(plain.casefold()), None
    decimals = _decimals(plain)
    if "%" in plain:
        return "percent", decimals
    if re.search(r"e[+-]", plain.casefold()):
        return "scientific", decimals
    for each in (quoted, plain):
        found = re.search(r"[€£¥₹$]|\b[A-Z]{3}\b", each)
        currency = currency or (currency_of_sign(found[0]) if found else None)
    if currency:
        return currency_form(currency), decimals
    return ("grouped" if "," in plain else "number"), decimals


def _decimals(plain: str) -> int | None:
    behind = re.search(r"\.([0#?]+)", plain)
    if not behind:
        return 0
    return None if set(behind[1]) == {"#"} else len(behind[1])


def _moment(plain: str) -> str:
    has_day = bool(re.search(r"[yd]|mmm", plain))
    has_clock = bool(re.search(r"[hs]", plain))
    if has_day or not has_clock:
        return (
            "datetime"
            if has_day and has_clock
            else "date"
            if re.search("[ymd]", plain)
            else "general"
        )
    lasts = re.search(r"\[[hms]+\]", plain)
    return "duration" if lasts and "s" in plain else "time"


@lru_cache
def _signs() -> dict[str, str]:
    """Currencies by their signs; the usual ones first."""
    every = [*sorted(currencies.codes(), reverse=True), *reversed(currencies.USUAL)]
    return {currencies.sign(code).strip(): code for code in every}


def currency_of_sign(sign: str) -> str | None:
    """The currency of a sign or code."""
    sign = sign.strip()
    if sign in currencies.codes():
        return sign
    return _signs().get(sign)
