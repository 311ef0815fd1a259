"""Typing into a workbook: what an entry makes of a cell, and whole workbooks of entries."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from dreieck.core.grid import Cell, column_letters, column_number
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.content import Content, Entry
from dreieck.core.sheet.entries import read_column
from dreieck.core.sheet.names import named
from dreieck.core.sheet.sheet import ColumnRun, Run, Sheet
from dreieck.core.sheet.workbook import Workbook, checked_sheet_name
from dreieck.core.values.formats import format_named
from dreieck.core.values.look import PLAIN, Look


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
    return Entered(entry, entry.content, _with_form(look, entry))


def _with_form(look: Look, entry: Entry) -> Look:
    """A look with the number format that an entry implies, if there is room for one."""
    if entry.form and format_named(look.form).gives_way:
        return replace(look, form=entry.form, decimals=entry.decimals)
    return look


def typed_down(
    workbook: Workbook, sheet: Sheet, start: Cell, texts: list[str], doubts: dict[Cell, str]
) -> Iterator[Run | ColumnRun]:
    """What typing texts into cells below each other makes of them, from a first one on.

    ``doubts`` takes in which of two readings were taken. Raises EntryError.
    """
    column, last = start.column, start.row + len(texts) - 1
    for top, bottom, look in sheet.looks_between(column, start.row, last):
        part = texts[top - start.row : bottom - start.row + 1]
        if look.form == "text":
            for row, text in enumerate(part, top):
                made = entered(workbook, Cell(column, row), text, look)
                yield Run(column, row, row, made.content, made.look)
            continue
        plain = not workbook.locale
        rows = range(top, bottom + 1)
        read = read_column(part, column, rows, workbook.read_entry, plain=plain)
        begin = 0
        cells = Cells.of(read.contents)  # type: ignore[arg-type]  # contents
        for index, entry in [*read.more.items(), (len(part), None)]:
            if begin < index:
                held = cells.taken(slice(begin, index))
                yield ColumnRun(column, top + begin, top + index - 1, held, look)
            if entry:
                row = top + index
                if entry.taken:
                    doubts[Cell(column, row)] = entry.taken
                yield Run(column, row, row, entry.content, _with_form(look, entry))
            begin = index + 1


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
        _type_in(workbook, sheet, entries)
    return workbook


_ADDRESSES = re.compile(r"^([A-Z]{1,3})([1-9]\d{0,5})$", re.MULTILINE)


def _type_in(workbook: Workbook, sheet: Sheet, entries: Mapping[str, str]) -> None:
    """Type entries by address into an empty sheet. Raises DreieckError."""
    addresses, texts = list(entries), list(entries.values())
    if rectangle := _rectangle(addresses):
        left, top, width, height = rectangle
        rows = range(top, top + height)
        for across in range(width):
            _type_column(workbook, sheet, left + across, rows, texts[across::width])
        return
    joined = "\n".join(addresses)
    found = _ADDRESSES.findall(joined)
    if len(found) == len(addresses) == joined.count("\n") + 1:
        columns: dict[str, tuple[list[int], list[str]]] = {}
        for (letters, row), text in zip(found, texts, strict=True):
            if letters not in columns:
                columns[letters] = ([], [])
            columns[letters][0].append(int(row))
            columns[letters][1].append(text)
        for letters, (numbers, column) in columns.items():
            _type_column(workbook, sheet, column_number(letters), numbers, column)
        return
    for address, text in entries.items():
        cell = Cell.parse(address)
        made_of = entered(workbook, cell, text, sheet.look(cell))
        sheet.put(cell, made_of.content, made_of.look)


def _rectangle(addresses: list[str]) -> tuple[int, int, int, int] | None:
    """Left column, top row, width and height of what addresses name row by row, and all of it."""
    first = _ADDRESSES.match(addresses[0]) if addresses else None
    if not first:
        return None
    left, top = column_number(first[1]), int(first[2])
    width = 1
    while width < len(addresses) and addresses[width] == f"{column_letters(left + width)}{top}":
        width += 1
    height, rest = divmod(len(addresses), width)
    rows = list(map(str, range(top, top + height)))
    for across in range(0 if rest else width):
        letters = column_letters(left + across)
        if addresses[across::width] != [letters + row for row in rows]:
            return None
    return None if rest else (left, top, width, height)


def _type_column(
    workbook: Workbook, sheet: Sheet, column: int, rows: Sequence[int], texts: list[str]
) -> None:
    """Type entries into rows of a column in which nothing stands yet."""
    read = read_column(texts, column, rows, workbook.read_entry, plain=not workbook.locale)
    cells, places = Cells.of(read.contents), np.array(rows)  # type: ignore[arg-type]  # contents
    cuts = np.flatnonzero(np.diff(places) != 1) + 1
    for stretch in np.split(np.arange(len(places)), cuts):
        sheet.put_cells(column, rows[stretch[0]], cells.taken(stretch))
    for index, entry in read.more.items():
        if entry.form:
            sheet.dress(column, rows[index], rows[index], _with_form(PLAIN, entry))
