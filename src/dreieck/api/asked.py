"""What a script asks of a workbook, whether it came as JSON, with an upload or from a file."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, datetime

from dreieck.api.shift import MAX_LANDINGS, MAX_MOVES, LandingMoves, ShiftAnswer, moves
from dreieck.core.calculate import block_at
from dreieck.core.editing.entering import entered
from dreieck.core.exceptions import AddressError, DreieckError
from dreieck.core.formula.printer import area_text, split_sheet
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import read_entry
from dreieck.core.sheet.feed import Reading, is_code
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
from dreieck.core.values.locales import NEUTRAL


def place(workbook: Workbook, text: str) -> Place:
    """The cell that a text names; without a sheet the first one is meant. Raises DreieckError.

    A name that stands for one cell will do.
    """
    named = workbook.names.get(text.strip().casefold())
    if named and named.place and named.place[1].size == 1:
        return Place(workbook.sheet(named.place[0]).name, named.place[1].first)
    name, address = split_sheet(text)
    sheet = workbook.sheets[0] if name is None else workbook.sheet(name)
    return Place(sheet.name, Cell.parse(address.replace("$", "")))


def enter(workbook: Workbook, entries: Iterable[str]) -> None:
    """Put entries such as ``Loads!C4=500`` into a workbook. Raises DreieckError."""
    for each in entries:
        text, equals, entry = each.partition("=")
        if not equals:
            raise DreieckError(f"“{each[:60]}” is not a cell and its entry, such as Loads!C4=500.")
        at = place(workbook, text)
        sheet = workbook.sheet(at.sheet)
        made = entered(workbook, at.cell, entry, sheet.look(at.cell))
        sheet.put(at.cell, made.content, made.look)


def feed_in(workbook: Workbook, told: Iterable[str]) -> None:
    """Let a workbook know outside figures such as ``fuel=1.8``. Raises DreieckError."""
    for each in told:
        code, equals, figure = each.partition("=")
        entry = read_entry(figure, Cell(1, 1), NEUTRAL).content
        if not equals or not is_code(code) or not isinstance(entry, float):
            raise DreieckError(f"“{each[:60]}” is no code and its figure, such as fuel=1.8.")
        known = workbook.feed(code)
        now = datetime.now(UTC).isoformat(timespec="seconds")
        workbook.feeds[known.key] = known.told(Reading(entry, now, "given"))


def log_of(workbook: Workbook, text: str) -> ShiftAnswer:
    """The shift log of the block that a cell belongs to. Raises DreieckError."""
    at = place(workbook, text)
    sheet = workbook.sheet(at.sheet)
    block = block_at(sheet, at.cell)
    if block is None:
        raise AddressError(f"{text} holds no formula, so there is no log of it.")
    count = block.size * max(len(block.shape.references), 1)
    if block.size > MAX_LANDINGS or count > MAX_MOVES:
        where = area_text(block.area, sheet.name)
        raise DreieckError(f"{where} has {block.size:,} landings, more than an answer lists.")
    return ShiftAnswer(
        landings=[
            LandingMoves(
                cell=cell.text,
                formula=block.shape.text(cell),
                references=moves(block.shape, block.start, cell),
            )
            for cell in block.cells()
        ]
    )
