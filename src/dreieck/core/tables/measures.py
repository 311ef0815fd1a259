"""What labels say that a line is measured in: *min*, *kWh*, *EUR a kg*.

Names of units are those of the Unicode locale data, in the languages that most tables are written
in; what they are of each other is worked out by a library of units.
"""

from __future__ import annotations

import re
from functools import cache, lru_cache
from itertools import product
from typing import TYPE_CHECKING, Any

from babel.numbers import list_currencies
from babel.units import format_unit

from dreieck.core.tables.series import LANGUAGES

if TYPE_CHECKING:
    from pint import Quantity, UnitRegistry

_UNITS = {
    "duration-second": "second", "duration-minute": "minute", "duration-hour": "hour",
    "duration-day": "day", "duration-week": "week", "mass-gram": "gram",
    "mass-kilogram": "kilogram", "mass-milligram": "milligram", "mass-tonne": "metric_ton",
    "length-millimeter": "millimeter", "length-centimeter": "centimeter", "length-meter": "meter",
    "length-kilometer": "kilometer", "area-square-meter": "meter**2", "area-hectare": "hectare",
    "area-square-kilometer": "kilometer**2", "volume-liter": "liter",
    "volume-milliliter": "milliliter", "volume-centiliter": "centiliter",
    "volume-cubic-meter": "meter**3", "energy-kilowatt-hour": "kilowatt_hour",
    "energy-joule": "joule", "energy-kilojoule": "kilojoule", "power-watt": "watt",
    "power-kilowatt": "kilowatt", "power-megawatt": "megawatt",
}  # fmt: skip
"""Units of the locale data, and what the library calls them."""
_OTHERS = {
    "m2": "meter**2", "sqm": "meter**2", "m3": "meter**3", "t": "metric_ton", "l": "liter",
    "kwh": "kilowatt_hour", "mwh": "megawatt_hour", "wh": "watt_hour", "std": "hour",
    "hrs": "hour", "mins": "minute", "ct": "cent", "cts": "cent", "cent": "cent",
    "cents": "cent", "€": "EUR", "$": "USD", "£": "GBP",
}  # fmt: skip
_PER = re.compile(r"\s*/\s*|\s+(?:a|an|per|je|pro|par|por|al|each)\s+", re.IGNORECASE)
_PLACES = re.compile(r"\(([^()]+)\)|\[([^\[\]]+)\]|,\s*([^,]+)$|\bin\s+(.+)$")


@cache
def registry() -> UnitRegistry[Any]:
    """The units that are known, currencies among them; a cent is one of whichever is paid in."""
    from pint import UnitRegistry  # noqa: PLC0415 - heavy, and asked for in reviews alone

    made: UnitRegistry[Any] = UnitRegistry()
    made.define("EUR = [money]")
    made.define("cent = 0.01 * EUR")
    return made


@cache
def _names() -> dict[str, str]:
    """The units by their names and signs in all languages, without case."""
    found: dict[str, str] = {}
    for language, (key, unit) in product(LANGUAGES, _UNITS.items()):
        for count in (1, 5):
            for told in (
                format_unit(count, key, "long", locale=language),
                format_unit(count, key, "short", locale=language),
            ):
                name = re.sub(r"\d", "", told).strip().strip(".").casefold()
                found.setdefault(name, unit)
    return {**found, **_OTHERS}


@cache
def _currencies() -> frozenset[str]:
    return frozenset(list_currencies())


def _unit(text: str) -> str | None:
    """The unit that a word names; money of every currency is one, since none is changed here."""
    word = text.strip().strip(".")
    if word in _currencies():
        return "EUR"
    return _names().get(word.casefold())


@lru_cache(maxsize=4096)
def measured_in(label: str) -> str | None:
    """What a label says that its numbers are measured in, for the library of units.

    It stands in brackets, behind a comma or *in*, at the end, or is all of the label. None where
    it says nothing, or nothing that is known.
    """
    text = label.strip()
    places = [next(filter(None, found.groups())) for found in _PLACES.finditer(text)]
    words = text.split()
    ends = [
        " ".join(words[-count:])
        for count in (3, 2, 1)
        # What comes behind *per* is what the number is for one of.
        if len(words) > count and not _PER.fullmatch(f" {words[-count - 1]} ")
    ]
    for place in (text, *places, *ends):
        if found := _composed(place):
            return found
    return None


def _composed(text: str) -> str | None:
    parts = _PER.split(text.strip())
    units = [_unit(part) for part in parts]
    if len(parts) > 2 or not all(units):
        return None
    return " / ".join(unit for unit in units if unit)


def factor(unit: str, wanted: str) -> float | None:
    """What a number in one unit is multiplied by to be one in another; None if that cannot be."""
    known = registry()
    one: Quantity[Any] = known.Quantity(1.0, unit)
    if one.dimensionality != known.Quantity(1.0, wanted).dimensionality:
        return None
    return float(one.to(wanted).magnitude)
