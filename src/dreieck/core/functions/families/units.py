"""Numbers in other units of measure."""

from __future__ import annotations

from decimal import Decimal
from fractions import Fraction

from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import NA, exact

_UNITS: dict[str, dict[str, str]] = {
    "length": {
        "m": "1", "in": "0.0254", "ft": "0.3048", "yd": "0.9144", "mi": "1609.344",
        "Nmi": "1852", "ang": "1e-10", "Pica": "0.0254/72", "ly": "9460730472580800",
        "parsec": "30856775814913673", "survey_mi": "6336000/3937",
    },
    "weight": {
        "g": "1", "lbm": "453.59237", "ozm": "28.349523125", "stone": "6350.29318",
        "ton": "907184.74", "uk_ton": "1016046.9088", "grain": "0.06479891",
        "cwt": "45359.237", "uk_cwt": "50802.34544", "u": "1.66053906660e-24",
        "sg": "14593.902937206",
    },
    "time": {
        "sec": "1", "s": "1", "mn": "60", "min": "60", "hr": "3600", "day": "86400",
        "d": "86400", "yr": "31557600",
    },
    "volume": {
        "m3": "1000", "l": "1", "L": "1", "lt": "1", "tsp": "0.00492892159375",
        "tbs": "0.01478676478125", "oz": "0.0295735295625", "cup": "0.2365882365",
        "pt": "0.473176473", "us_pt": "0.473176473", "uk_pt": "0.56826125",
        "qt": "0.946352946", "uk_qt": "1.1365225", "gal": "3.785411784", "uk_gal": "4.54609",
        "in3": "0.016387064", "ft3": "28.316846592", "yd3": "764.554857984",
        "barrel": "158.987294928", "bushel": "35.23907016688",
    },
}  # fmt: skip
"""What one of each unit is in the first unit of its kind, exactly where that is defined so."""
_DEGREES = {
    "C": ("1", "273.15"), "cel": ("1", "273.15"), "K": ("1", "0"), "kel": ("1", "0"),
    "F": ("5/9", "45967/180"), "fah": ("5/9", "45967/180"), "Rank": ("5/9", "0"),
    "Reau": ("5/4", "273.15"),
}  # fmt: skip
"""What a degree is in kelvin, and where its scale begins."""
_PREFIXES = {
    "Y": 24, "Z": 21, "E": 18, "P": 15, "T": 12, "G": 9, "M": 6, "k": 3, "h": 2, "e": 1,
    "da": 1, "d": -1, "c": -2, "m": -3, "u": -6, "n": -9, "p": -12, "f": -15, "a": -18,
}  # fmt: skip
_METRIC = {"m", "g", "sec", "s", "l", "L", "lt", "m3", "K", "kel", "ang", "parsec", "u", "ly"}
"""The units that take a prefix such as k for a thousand."""


@function("CONVERT")
def _convert(number: float, source: str, target: str) -> float:
    kind, one, begins = _measure(source)
    other_kind, other, other_begins = _measure(target)
    if kind != other_kind:
        raise Failure(NA, f"{source} is a unit of {kind}, {target} one of {other_kind}.")
    return float((Fraction(exact(number)) * one + begins - other_begins) / other)


def _measure(unit: str) -> tuple[str, Fraction, Fraction]:
    """The kind of a unit, its size and where its scale begins. Raises Failure."""
    for prefix, power in (("", 0), *_PREFIXES.items()):
        name = unit.removeprefix(prefix)
        if not unit.startswith(prefix) or (prefix and name not in _METRIC):
            continue
        # A cube with a prefix is a cube of what the prefix makes.
        factor = Fraction(10) ** (power * 3 if name.endswith("3") else power)
        for kind, units in _UNITS.items():
            if name in units:
                return kind, Fraction(_exact(units[name])) * factor, Fraction(0)
        if name in _DEGREES:
            size, begins = _DEGREES[name]
            return "temperature", _exact(size) * factor, _exact(begins)
    raise Failure(NA, f"There is no unit “{unit[:20]}”; km, kg, hr, l and C are such.")


def _exact(text: str) -> Fraction:
    above, _, below = text.partition("/")
    return Fraction(Decimal(above)) / Fraction(below or 1)
