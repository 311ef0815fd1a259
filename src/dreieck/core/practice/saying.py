"""What becomes of a reference on its way from the start to a landing, in words."""

from __future__ import annotations

from dreieck.core.formula import Shape
from dreieck.core.formula.locks import axes
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Locks, Reference
from dreieck.core.formula.shift import circled
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.words.counting import both

_WAYS: dict[Axis, tuple[str, str]] = {
    "column": ("to the right", "to the left"),
    "row": ("down", "up"),
}


def way_said(start: Cell, landing: Cell) -> str:
    """How far a fill goes from the start to a landing: ``2 to the right and 3 down``."""
    return both([said for axis in AXES if (said := _steps(axis, start, landing))])


def _steps(axis: Axis, start: Cell, landing: Cell) -> str:
    count = landing.on(axis) - start.on(axis)
    return f"{abs(count)} {_WAYS[axis][count < 0]}" if count else ""


def named(shape: Shape, number: int, at: Cell) -> str:
    """A reference with its letter, as it is written in a cell."""
    letter = circled(shape.letters[number])
    return f"{letter} {reference_text(shape.references[number], at)}"


def moved_said(shape: Shape, number: int, start: Cell, landing: Cell) -> str:
    """What of one reference stays and what goes along, and what that leads to."""
    reference = shape.references[number]
    corners = reference.corners(start)
    if len(set(corners)) == 1:
        said = _corner_said(reference, corners[0], start, landing)
    else:
        each = [_corner_said(reference, locks, start, landing) for locks in corners]
        said = f"of the first corner {each[0]}; of the last corner {each[1]}"
    read = read_said(reference, landing)
    return f"{named(shape, number, start)}: {said}. So {landing.text} reads {read}."


def _corner_said(reference: Reference, locks: Locks, start: Cell, landing: Cell) -> str:
    held = [axis for axis in axes(reference) if locks.on(axis)]
    # A free part does not move where the fill stays in its column or row.
    free = [
        axis
        for axis in axes(reference)
        if not locks.on(axis) and start.on(axis) != landing.on(axis)
    ]
    said = []
    if held:
        said.append(f"{_the(held)} locked and {'stays' if len(held) == 1 else 'stay'}")
    if free:
        goes = "goes along" if len(free) == 1 else "go along"
        way = both([_steps(axis, start, landing) for axis in free])
        said.append(f"{_the(free)} free and {goes}, {way}")
    return ", ".join(said) or "nothing of it moves"


def _the(parts: list[Axis]) -> str:
    return f"{both([f'the {axis}' for axis in parts])} {'is' if len(parts) == 1 else 'are'}"


def read_said(reference: Reference, at: Cell) -> str:
    """What a reference reads in a cell, without locks; a range of one cell by that cell."""
    text, area = reference_text(reference, at).replace("$", ""), reference.area(at)
    return text.split(":")[0] if area and area.size == 1 else text


def all_read(shape: Shape, at: Cell) -> str:
    """What a formula reads in a cell."""
    said = [read_said(shape.references[number], at) for number in shape.distinct]
    found = list(dict.fromkeys(said))
    return f"nothing but {found[0]}" if len(found) == 1 < len(said) else both(found)


def compared(one: Area, other: Area) -> str:
    """What two areas that a reference reads have in common."""
    if one == other:
        return "the same both times"
    if one.size > 1 or other.size > 1:
        ends = [("begin", one.first == other.first), ("end", one.last == other.last)]
        if same := next((end for end, holds in ends if holds), None):
            return f"both {same} at the same cell"
        rows = [("begin", one.top, other.top), ("end", one.bottom, other.bottom)]
        line = next(((end, row) for end, row, there in rows if row == there), None)
        return f"both {line[0]} in row {line[1]}" if line else "another range"
    axis = next((axis for axis in AXES if one.on(axis) == other.on(axis)), None)
    return f"the same {axis}, not the same {CROSSING[axis]}" if axis else "another cell"
