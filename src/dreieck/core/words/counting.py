"""Counts and areas in words."""

from __future__ import annotations

from collections.abc import Sequence

from dreieck.core.grid import Area

_LISTED = 3


def many(count: int, thing: str) -> str:
    """So many things: ``1 landing``, ``1,250 landings``."""
    return f"{count:,} {thing}{'s' * (count != 1)}"


def listed(areas: Sequence[Area]) -> str:
    """Areas in words: the first ones, and how many cells more."""
    named = ", ".join(area.text for area in areas[:_LISTED])
    rest = sum(area.size for area in areas[_LISTED:])
    return f"{named} and {rest:,} more" if rest else named


def addresses(areas: Sequence[Area]) -> str:
    """Areas by their addresses, or their count where they are many."""
    few = len(areas) <= _LISTED
    return ", ".join(area.text for area in areas) if few else f"{len(areas)} places"


def quoted(text: str) -> str:
    """A text of the user in quotes, once."""
    return f"“{text.strip('“”')}”"


def both(things: Sequence[str]) -> str:
    """Things in a sentence: ``a``, ``a and b``, ``a, b and c``."""
    return " and ".join(filter(None, (", ".join(things[:-1]), *things[-1:])))
