"""What a file says that its formulas come to, against what they come to here."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator
from itertools import chain, islice
from typing import NamedTuple

from dreieck.core.budget import working
from dreieck.core.calculate import Calculation, look_of
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import place_text
from dreieck.core.functions import find
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Content, Unreadable, typed_text
from dreieck.core.values import Error, Place, Value
from dreieck.core.values.look import shown_text
from dreieck.files.arrived import Arrived
from dreieck.files.exceptions import TookTooLong
from dreieck.files.progress import Progress

MAX_LISTED = 500
"""How many differences are told one by one."""
LONGEST = 10.0
"""So many seconds of the processor the comparison may take."""
_CLOSE = 1e-9
_LOOKED_THROUGH = 2_000
_ANOTHER_FILE = re.compile(r"'#|\][^\[\]]*!")
_MOMENT = ("TODAY", "NOW", "RAND", "RANDBETWEEN")


class Difference(NamedTuple):
    """A formula that comes to something else here, and the likely reason."""

    place: Place
    formula: str
    stored: str
    ours: str
    reason: str


class Compared(NamedTuple):
    """How many values of a file were compared, how many differ, and the first that do.

    It ``is_whole`` where no values were left out for want of time.
    """

    compared: int
    differing: int
    listed: tuple[Difference, ...]
    is_whole: bool = True


def compared(arrived: Arrived, progress: Progress) -> Compared:
    """Compare the values that a file has with ours.

    Programs that work nothing out write 0 for every formula: such a file has no values.
    """
    held = chain.from_iterable(each.values() for each in arrived.stored.values())
    if all(each.value == 0.0 for each in chain.from_iterable(held)):
        return Compared(0, 0, ())
    calculation = Calculation(arrived.workbook)
    differing: dict[Place, tuple[Value, Value]] = {}
    count, is_whole = 0, True
    with working(progress), progress.within(LONGEST):
        try:
            for taken in _take(arrived, calculation, differing):
                count += taken
        except TookTooLong:
            is_whole = False
    listed = islice(differing.items(), MAX_LISTED)
    found = tuple(_difference(arrived, differing, place, *both) for place, both in listed)
    return Compared(count, len(differing), found, is_whole)


def _take(
    arrived: Arrived, calculation: Calculation, differing: dict[Place, tuple[Value, Value]]
) -> Iterator[int]:
    """Compare column by column, and tell how many values each has."""
    for name, columns in arrived.stored.items():
        for column, stored in columns.items():
            top, bottom = min(each.row for each in stored), max(each.row for each in stored)
            values = calculation.cells(name, column, top, bottom).values()
            for row, value in stored:
                if not _alike(value, values[row - top]):
                    differing[Place(name, Cell(column, row))] = (value, values[row - top])
            yield len(stored)


def _difference(
    arrived: Arrived, differing: Collection[Place], place: Place, stored: Value, ours: Value
) -> Difference:
    sheet = arrived.workbook.sheet(place.sheet)
    content = sheet.content(place.cell)
    look = look_of(content, sheet.look(place.cell))
    is_array = place.cell in arrived.array_formulas.get(place.sheet, ())
    reason = _reason(content, stored, ours, place, is_array=is_array)
    if not reason:
        read = isinstance(content, Shape) and _read(content, place, differing)
        reason = f"it reads {read}, which differs" if read else "nothing in the formula tells why"
    texts = (shown_text(stored, look), shown_text(ours, look))
    return Difference(place, typed_text(content, place.cell), *texts, reason)


def _read(shape: Shape, place: Place, differing: Collection[Place]) -> str:
    """A cell that a formula reads and that differs itself."""
    for reference in shape.references:
        area, sheet = reference.area(place.cell), reference.sheet or place.sheet
        if area and area.size <= _LOOKED_THROUGH:
            for cell in area.cells():
                if Place(sheet, cell) in differing:
                    return place_text(Place(sheet, cell))
    return ""


def _alike(stored: Value, ours: Value) -> bool:
    if isinstance(stored, Error) or isinstance(ours, Error):
        same = isinstance(stored, Error) and isinstance(ours, Error)
        return same and stored.code == ours.code  # type: ignore[union-attr]
    if isinstance(stored, float) and isinstance(ours, float) and not isinstance(stored, bool):
        return abs(stored - ours) <= _CLOSE * max(abs(stored), abs(ours), 1.0)
    # Files have no value that is empty: it is 0 there, or no text.
    if ours is None:
        return stored in (0.0, "")
    return type(stored) is type(ours) and stored == ours


def _reason(
    content: Content | None, stored: Value, ours: Value, place: Place, *, is_array: bool
) -> str:
    """Why a value is likely another one here, as far as the formula alone tells."""
    if isinstance(content, Unreadable):
        is_foreign = _ANOTHER_FILE.search(content.text)
        return "it reads another file" if is_foreign else "the formula cannot be read here"
    if not isinstance(content, Shape):
        return "the cell holds no formula here"
    names = [node.function for node in tree.walk(content.tree) if isinstance(node, tree.Call)]
    unknown = next((name for name in names if not find(name)), None)
    if unknown:
        return f"there is no function {unknown} here"
    if is_array:
        return "it fills several cells in the file; here each of them takes its own item"
    if any(name in _MOMENT for name in names):
        return "it depends on the moment, or on chance"
    if isinstance(ours, Error):
        if ours.origin and ours.origin != place:
            return f"it reads {ours.origin.sheet}!{ours.origin.cell.text}: {ours.why or ours.code}"
        return ours.why or f"it is {ours.code} here"
    if isinstance(stored, Error):
        return f"the file has {stored.code}; that is worked out here"
    numbers = isinstance(stored, float) and isinstance(ours, float)
    if numbers and abs(stored - ours) <= 1e-5 * abs(stored):  # type: ignore[operator, arg-type]
        return "only the last digits differ: it is rounded or worked out in another way"
    return ""
