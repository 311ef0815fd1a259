"""Counts in words."""

from __future__ import annotations


def many(count: int, thing: str) -> str:
    """So many things: ``1 landing``, ``1,250 landings``."""
    return f"{count:,} {thing}{'s' * (count != 1)}"
