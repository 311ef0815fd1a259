"""The colours of references: the same on the desk, the grid and in the log."""

from __future__ import annotations

COLOURS = 6
"""How many there are; ``c0`` to ``c5`` in the styles."""


def colour_of(index: int) -> int:
    """The colour of the letter tag with a number, counted from 0."""
    return max(index, 0) % COLOURS
