"""Amounts of money as they are typed: a number with the sign or the code of a currency."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from babel import Locale
from babel.numbers import get_currency_symbol, get_territory_currencies

from dreieck.core.values import currencies
from dreieck.core.values.locales import unmarked

_AMOUNT = re.compile(
    r"(?P<before>[^\d.,]*?)(?P<number>[.,]?\d(?:.*\d)?)(?P<behind>\D*)", re.DOTALL
)
_SIGN = re.compile(r"[-+\u2212]")


class Amount(NamedTuple):
    """The code of a currency, and the number that is typed with it."""

    code: str
    number: str


def amount_in(text: str, locale: str) -> Amount | None:
    """The amount that a text says; None where it says none.

    A currency is known by its sign in the locale or in English; by its code if it is a usual one,
    or that of the place: others spell words, as in ``TOP 10``. One letter has to stand apart.
    """
    match = _AMOUNT.fullmatch(unmarked(text).strip())
    if not match:
        return None
    signs, before = _SIGN.findall(match["before"]), _SIGN.sub("", match["before"])
    if before.strip() and match["behind"]:
        return None
    beside = before if before.strip() else match["behind"]
    sign = beside.strip()
    code = _codes(locale).get(sign)
    stands_apart = len(sign) > 1 or not sign.isalpha() or beside != sign
    if code is None and "\u00a0" in beside and sign in currencies.codes():
        # So a code is shown, and nobody types it.
        code = sign
    if code is None or len(signs) > 1 or not stands_apart:
        return None
    return Amount(code, "".join(signs) + match["number"])


@lru_cache(64)
def _codes(locale: str) -> dict[str, str]:
    """The codes of currencies by what stands for them; of several with one sign the usual one."""
    told = Locale.parse(locale) if locale else Locale("en")
    own = get_territory_currencies(told.territory) if told.territory else []
    every = [*sorted(currencies.codes(), reverse=True), *reversed(currencies.USUAL), *own]
    english = {currencies.sign(code).strip(): code for code in every}
    local = {unmarked(get_currency_symbol(code, told)).strip(): code for code in every}
    known = {*currencies.USUAL, *own}
    return {
        sign: code for sign, code in {**english, **local}.items() if sign != code or code in known
    } | {code: code for code in known}
