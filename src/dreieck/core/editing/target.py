"""The area that a fill writes into: how far it may reach, how keys stretch it."""

from __future__ import annotations

from dreieck.core.exceptions import FillError
from dreieck.core.grid import LAST, MAX_ROW, Area, Axis

MAX_FILL = 1_000_000
"""How many cells one fill can write."""


def check_target(target: Area) -> None:
    """Raise FillError where an area leaves the sheet or is too large for one fill."""
    if not (target.first.on_sheet and target.last.on_sheet):
        raise FillError(
            "The fill would leave the sheet: columns go from A to ZZZ,"
            f" rows from 1 to {MAX_ROW:,}."
        )
    if target.size > MAX_FILL:
        raise FillError(
            f"{target.text} has {target.size:,} cells; one fill can write {MAX_FILL:,}."
            " Choose a smaller area."
        )


def stretched(source: Area, target: Area, columns: int, rows: int) -> Area:
    """A rehearsal's target, stretched by one key: its far edge moves so many cells.

    The target shrinks where the edge moves back towards the source, which it always
    holds; it never leaves the sheet.
    """
    moves: tuple[tuple[Axis, int], ...] = (("column", columns), ("row", rows))
    for axis, steps in moves:
        (low, high), (first, last) = target.on(axis), source.on(axis)
        if (steps > 0 and low < first) or (steps < 0 and high <= last):
            low = min(max(low + steps, 1), first)
        else:
            high = max(min(high + steps, LAST[axis]), last)
        target = target.spanning(axis, low, high)
    return target
