"""What a name stands for, in words."""

from __future__ import annotations

from itertools import islice

from dreieck.core.formula import Shape
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.workbook import Workbook


def what_it_holds(workbook: Workbook, each: Named) -> str:
    """What a name holds, in short: its first plain values, or the formula that it stands for."""
    if not each.place or not workbook.has_sheet(each.place[0]):
        return each.shape_text
    sheet, area = workbook.sheet(each.place[0]), each.place[1]
    found = [
        content.text(cell) if isinstance(content, Shape) else typed_text(content, cell)
        for cell, content in islice(sheet.filled(area), 3)
    ]
    more = " …" if sheet.count(area) > len(found) else ""
    return ", ".join(found) + more if found else "empty"
