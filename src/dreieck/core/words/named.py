"""What a name stands for, in words."""

from __future__ import annotations

from itertools import islice

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.grid import MAX_ROW
from dreieck.core.sheet.names import Named
from dreieck.core.values.look import shown_text

_ROOM = 16


def stands_for(each: Named) -> str:
    """What a name stands for: ``Prices from C5 down`` where it grows, else as it is written."""
    if each.kind != "growing range" or not each.place:
        return each.shape_text
    sheet, area = each.place
    if area.bottom == MAX_ROW:
        return f"{sheet} from {area._replace(bottom=area.top).text} down"
    return f"{sheet} from {area._replace(right=area.left).text} to the right"


def what_it_holds(calculation: Calculation, each: Named) -> str:
    """What a name holds, in short: its first values, or the formula that it stands for."""
    workbook = calculation.workbook
    if not each.place or not workbook.has_sheet(each.place[0]):
        return each.shape_text
    sheet, area = workbook.sheet(each.place[0]), each.place[1]
    found = [
        shown_text(
            calculation.value(sheet.name, cell),
            look_of(content, sheet.look(cell)),
            _ROOM,
            workbook.locale,
        )
        for cell, content in islice(sheet.filled(area), 3)
    ]
    more = " …" if sheet.count(area) > len(found) else ""
    return ", ".join(found) + more if found else "empty"
