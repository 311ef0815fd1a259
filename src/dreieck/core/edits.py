"""Edits of a workbook. Applying one gives the edit that takes it back."""

from __future__ import annotations

from dataclasses import dataclass, field

from dreieck.core.address import Cell
from dreieck.core.content import Content
from dreieck.core.look import Look
from dreieck.core.sheet import Sheet
from dreieck.core.workbook import Workbook

Cells = dict[Cell, tuple[Content | None, Look]]
"""Contents and looks by cell; a content of None empties a cell."""


@dataclass(frozen=True, slots=True)
class SetCells:
    """Put contents and looks into cells of one sheet."""

    sheet_id: int
    cells: Cells

    def apply(self, workbook: Workbook) -> SetCells:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before = {cell: (sheet.content(cell), sheet.look(cell)) for cell in self.cells}
        for cell, (content, look) in self.cells.items():
            sheet.put(cell, content, look)
        return SetCells(self.sheet_id, before)


@dataclass(frozen=True, slots=True)
class AddSheet:
    """Put a sheet, with all that it holds, at a position counted from 0."""

    sheet_id: int
    name: str
    position: int
    cells: Cells = field(default_factory=dict)
    widths: dict[int, int] = field(default_factory=dict)

    def apply(self, workbook: Workbook) -> RemoveSheet:
        """Make the edit and return its inverse."""
        sheet = Sheet(self.sheet_id, self.name)
        sheet.widths = dict(self.widths)
        for cell, (content, look) in self.cells.items():
            sheet.put(cell, content, look)
        workbook.sheets.insert(self.position, sheet)
        return RemoveSheet(self.sheet_id)


@dataclass(frozen=True, slots=True)
class RemoveSheet:
    """Take a sheet out of the workbook. Formulas that read it are not changed."""

    sheet_id: int

    def apply(self, workbook: Workbook) -> AddSheet:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        position = workbook.sheets.index(sheet)
        del workbook.sheets[position]
        return AddSheet(sheet.id, sheet.name, position, all_cells(sheet), dict(sheet.widths))


@dataclass(frozen=True, slots=True)
class ArrangeSheet:
    """Give a sheet its name and its position. Formulas that read it are not changed."""

    sheet_id: int
    name: str
    position: int

    def apply(self, workbook: Workbook) -> ArrangeSheet:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before = ArrangeSheet(sheet.id, sheet.name, workbook.sheets.index(sheet))
        sheet.name = self.name
        workbook.sheets.remove(sheet)
        workbook.sheets.insert(self.position, sheet)
        return before


Edit = SetCells | AddSheet | RemoveSheet | ArrangeSheet


def all_cells(sheet: Sheet) -> Cells:
    """All that a sheet holds, and all its looks."""
    cells: Cells = {cell: (None, look) for cell, look in sheet.looks.items()}
    used = sheet.used()
    for cell, content in sheet.filled(used) if used else ():
        cells[cell] = (content, sheet.look(cell))
    return cells
