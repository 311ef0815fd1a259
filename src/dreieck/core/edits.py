"""Edits of a workbook. Applying one gives the edit that takes it back."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.address import Cell
from dreieck.core.content import Content
from dreieck.core.look import Look
from dreieck.core.workbook import Workbook


@dataclass(frozen=True, slots=True)
class SetCells:
    """Put contents and looks into cells of one sheet; a content of None empties a cell."""

    sheet_id: int
    cells: dict[Cell, tuple[Content | None, Look]]

    def apply(self, workbook: Workbook) -> SetCells:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before = {cell: (sheet.content(cell), sheet.look(cell)) for cell in self.cells}
        for cell, (content, look) in self.cells.items():
            sheet.put(cell, content, look)
        return SetCells(self.sheet_id, before)


Edit = SetCells
