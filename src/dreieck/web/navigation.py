"""The bar that all pages of a workbook share: its entries, in one order."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.sheet.sheet import Sheet
from dreieck.store import OpenWorkbook


@dataclass(frozen=True, order=True)
class Entry:
    """An entry of the bar, for the page ``name``.

    ``rank`` is its place in the order of the design: 1 workbench, 2 shape map, 3 reads map,
    4 names, 5 proofs, 6 sweeps, 7 four ways, 8 practice, 9 guide. In ``address`` stand
    ``{workbook}`` and ``{sheet}`` for their numbers.
    """

    rank: int
    name: str
    says: str
    address: str

    @property
    def is_of_sheet(self) -> bool:
        """Whether it leads to another address when another sheet is shown."""
        return "{sheet}" in self.address

    def leads_to(self, opened: OpenWorkbook, sheet: Sheet) -> str:
        """Where it leads from a page that shows a sheet of a workbook."""
        return self.address.format(workbook=opened.id, sheet=sheet.id)
