"""Number formats as data styles (part 3, 16.29), and back."""

from __future__ import annotations

from typing import Any

from dreieck.core.values import currencies
from dreieck.core.values.formats import currency_form, currency_of
from dreieck.files.number_codes import GENERAL, code_of, currency_of_sign, format_of
from dreieck.files.open_document.tags import add, element, tag

_MANY = 10


def data_style(name: str, code: str) -> Any:
    """The data style of a number format; None for the general one."""
    form, decimals = format_of(code)
    currency = currency_of(form)
    said: dict[str, str | None] = {"style:name": name}
    if code == GENERAL:
        return None
    if form == "text":
        style = element("number:text-style", said)
        add(style, "number:text-content")
    elif form in ("date", "datetime"):
        style = element("number:date-style", said)
        _moment(style, ["year", "-", "month", "-", "day"])
        if form == "datetime":
            _moment(style, [" ", "hours", ":", "minutes"])
    elif form in ("time", "duration"):
        style = element("number:time-style", said | {"number:truncate-on-overflow": "false"})
        _moment(
            style, ["hours", ":", "minutes", *([":", "seconds"] if form == "duration" else [])]
        )
    elif form == "scientific":
        style = element("number:number-style", said)
        exponent = {"number:min-exponent-digits": "1"}
        add(style, "number:scientific-number", {**_digits(decimals), **exponent})
    elif currency:
        style = element("number:currency-style", said)
        add(style, "number:currency-symbol", {}, currencies.sign(currency))
        add(style, "number:number", {**_digits(decimals), "number:grouping": "true"})
    else:
        kind = "percentage" if form == "percent" else "number"
        style = element(f"number:{kind}-style", said)
        grouping = {"number:grouping": "true"} if form == "grouped" else {}
        add(style, "number:number", {**_digits(decimals), **grouping})
        if form == "percent":
            add(style, "number:text", {}, "%")
    return style


def _digits(decimals: int | None) -> dict[str, str | None]:
    least = 0 if decimals is None else decimals
    return {
        "number:decimal-places": str(_MANY if decimals is None else decimals),
        "number:min-decimal-places": str(least),
        "number:min-integer-digits": "1",
    }


def _moment(style: Any, parts: list[str]) -> None:
    for part in parts:
        if part.isalpha():
            short = part in ("hours",)
            add(style, f"number:{part}", {} if short else {"number:style": "long"})
        else:
            add(style, "number:text", {}, part)


def code_of_style(style: Any) -> str:
    """The code of the number format that a data style is."""
    kind = str(style.tag).rpartition("}")[2]
    number = style.find(tag("number:number"))
    decimals = _decimals(number)
    if kind == "text-style":
        return code_of("text", None)
    if kind == "percentage-style":
        return code_of("percent", decimals)
    if kind == "currency-style":
        symbol = style.find(tag("number:currency-symbol"))
        code = currency_of_sign((symbol.text or "") if symbol is not None else "")
        return code_of(currency_form(code) if code else "grouped", decimals)
    if kind == "date-style":
        has_clock = style.find(tag("number:hours")) is not None
        return code_of("datetime" if has_clock else "date", None)
    if kind == "time-style":
        lasts = style.get(tag("number:truncate-on-overflow")) == "false"
        has_seconds = style.find(tag("number:seconds")) is not None
        return code_of("duration" if lasts and has_seconds else "time", None)
    power = style.find(tag("number:scientific-number"))
    if power is not None:
        return code_of("scientific", _decimals(power))
    if number is None or (
        number.get(tag("number:decimal-places")) is None
        and number.get(tag("number:grouping")) is None
    ):
        return GENERAL
    grouped = number.get(tag("number:grouping")) == "true"
    return code_of("grouped" if grouped else "number", decimals)


def _decimals(number: Any) -> int | None:
    if number is None:
        return None
    most = int(number.get(tag("number:decimal-places")) or 0)
    least = number.get(tag("number:min-decimal-places"))
    return None if least == "0" and most == _MANY else min(most, 30)
