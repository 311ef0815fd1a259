"""Typing into a workbook: what an entry makes of a cell, and whole workbooks of entries."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import NamedTuple

from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Content, Entry
from dreieck.core.sheet.names import named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook, checked_sheet_name
from dreieck.core.values.formats import format_named
from dreieck.core.values.look import Look


class Entered(NamedTuple):
    """An entry, and what the cell holds and how it looks with it."""

    entry: Entry
    content: Content | None
    look: Look


def entered(workbook: Workbook, cell: Cell, text: str, look: Look) -> Entered:
    """What typing ``text`` makes of a cell with this look.

    A number format that the typing implies is taken where the cell has none of its own. A cell
    that is for text takes all but formulas as text. Raises EntryError.
    """
    if look.form == "text" and text and not text.startswith(("=", "'")):
        text = "'" + text
    entry = workbook.read_entry(text, cell)
    if entry.form and format_named(look.form).gives_way:
        look = replace(look, form=entry.form, decimals=entry.decimals)
    return Entered(entry, entry.content, look)


def typed_workbook(
    sheets: Mapping[str, Mapping[str, str]], names: Mapping[str, str] | None = None
) -> Workbook:
    """A workbook of typed entries by sheet and address, and of names.

    Raises DreieckError for an address, a sheet or a name that cannot be.
    """
    workbook = Workbook()
    for number, name in enumerate(sheets, 1):
        taken = (sheet.name for sheet in workbook.sheets)
        workbook.sheets.append(Sheet(number, checked_sheet_name(name, taken)))
    for name, says in (names or {}).items():
        made = named(name, says)
        workbook.names[made.name.casefold()] = made
    for sheet, entries in zip(workbook.sheets, sheets.values(), strict=True):
        for address, text in entries.items():
            cell = Cell.parse(address)
            made_of = entered(workbook, cell, text, sheet.look(cell))
            sheet.put(cell, made_of.content, made_of.look)
    return workbook
