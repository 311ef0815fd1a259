"""Currencies by their codes (ISO 4217): their signs, and how many decimals they have."""

from __future__ import annotations

from decimal import Decimal
from functools import lru_cache

from babel import Locale
from babel.numbers import (
    get_currency_name,
    get_currency_precision,
    get_currency_symbol,
    list_currencies,
)

from dreieck.core.values.decimals import fitted

_SPOKEN = Locale("en")
USUAL = ("EUR", "CHF", "USD", "GBP", "SEK", "NOK", "DKK", "PLN", "CZK", "HUF", "JPY", "CNY")
"""Those that are proposed first."""


@lru_cache
def codes() -> dict[str, str]:
    """The name of every currency by its code."""
    return {code: get_currency_name(code, locale=_SPOKEN) for code in list_currencies(_SPOKEN)}


def sign(code: str) -> str:
    """The sign of a currency; its code and a blank where it has none of its own."""
    found = get_currency_symbol(code, locale=_SPOKEN)
    return f"{code}\u00a0" if found == code else found


def own_decimals(code: str) -> int:
    """How many decimals amounts of a currency have."""
    return get_currency_precision(code)


def amount(number: Decimal, code: str, decimals: int | None, room: int) -> str:
    """An amount with its sign in front; without ``decimals`` it has those of its currency."""
    wanted = own_decimals(code) if decimals is None else decimals
    text = fitted(number, wanted, room, grouped=True)
    minus = "-" if text.startswith("-") else ""
    return minus + sign(code) + text.removeprefix("-")
