"""Numbers as exact decimals: rounded, and written with as many digits as there is room for.

What is shown is the shortest decimal text of the number, rounded: it never differs from the
value by more than half a unit of its last digit.
"""

from __future__ import annotations

from decimal import ROUND_DOWN, ROUND_HALF_UP, ROUND_UP, Context, Decimal

_EXACT = Context(prec=700)
_DIGITS = 10
"""So many digits a number without a number format of its own shows."""
LARGE, SMALL = 15, -5
"""Beyond these powers of ten a number is shown as a power of ten."""


def rounded(number: float, decimals: int) -> float:
    """A number rounded to so many decimals, a half away from zero.

    The half is that of the shortest text of the number, which is what people see.
    """
    return _quantized(number, decimals, ROUND_HALF_UP)


def rounded_towards(number: float, decimals: int, *, away: bool) -> float:
    """A number rounded to so many decimals, away from zero or towards it."""
    return _quantized(number, decimals, ROUND_UP if away else ROUND_DOWN)


def _quantized(number: float, decimals: int, rounding: str) -> float:
    return float(quantized(exact(number), decimals, rounding))


def exact(number: float) -> Decimal:
    """The shortest decimal number that reads as this float, which is what people see."""
    return Decimal(repr(number))


def quantized(number: Decimal, decimals: int, rounding: str = ROUND_HALF_UP) -> Decimal:
    """A decimal number with so many decimals, a half away from zero."""
    places = Decimal(1).scaleb(-max(-310, min(310, decimals)))
    return number.quantize(places, rounding, _EXACT)


def number_text(number: float) -> str:
    """The shortest text that reads as exactly this number."""
    text = joined_text(number)
    return text if float(text) == number else _tidy(repr(number))


def joined_text(number: float) -> str:
    """A number as part of a text: with 15 digits, so that 0.1+0.2 is 0.3."""
    if number == int(number) and abs(number) < 1e15:
        return str(int(number))
    return _tidy(format(number, ".15g"))


def _tidy(text: str) -> str:
    mantissa, e, exponent = text.partition("e")
    return f"{mantissa}E{int(exponent):+d}" if e else mantissa


def fitted(
    number: Decimal, decimals: int | None, room: int, *, grouped: bool = False, sign: str = ""
) -> str:
    """A number with so many decimals, None for as many as it has, and a sign behind it.

    Only a number with as many decimals as it has, or one that is a power of ten anyway, is
    rounded to what there is room for.
    """
    text = _written(number, decimals, grouped=grouped) + sign
    is_power = number != 0 and number.adjusted() >= LARGE
    if len(text) <= room or (decimals is not None and not is_power):
        return text
    return _shortened(number, max(room, 6) - len(sign)) + sign


def _written(number: Decimal, decimals: int | None, *, grouped: bool) -> str:
    power = number.adjusted() if number else 0
    if power >= LARGE or (decimals is None and power < SMALL):
        return _significant(number, _DIGITS)
    found = quantized(
        number, max(_DIGITS - 1 - max(power, 0), 0) if decimals is None else decimals
    )
    if decimals is None:
        found = found.normalize()
    return format(abs(found) if found == 0 else found, ",f" if grouped else "f")


def _shortened(number: Decimal, room: int) -> str:
    """A number with as many digits as there is room for."""
    for digits in range(min(room, LARGE), 0, -1):
        text = _significant(number, digits)
        if len(text) <= room:
            return text
    return power_text(_to_digits(number, 1))


def _significant(number: Decimal, digits: int) -> str:
    """A number with so many digits, in powers of ten where it is very large or small."""
    found = _to_digits(number, digits).normalize()
    if not found:
        return "0"
    return f"{found:f}" if SMALL < found.adjusted() < digits else power_text(found)


def _to_digits(number: Decimal, digits: int) -> Decimal:
    return quantized(number, digits - 1 - number.adjusted()) if number else number


def power_text(number: Decimal) -> str:
    """A number as a power of ten."""
    mantissa = number.scaleb(-number.adjusted()).normalize()
    return f"{mantissa:f}E{number.adjusted():+d}"
