"""The lines of a table that shows formulas before and after: names put in, lifts, mends."""

from __future__ import annotations

from collections.abc import Sequence

from dreieck.core.editing.rewriting import Rewriting
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet

_LISTED = 12


def line(sheet: Sheet, areas: Sequence[Area], before: str, after: str) -> dict[str, object]:
    """One line: where, how many cells, before and after."""
    listed = [area_text(area, sheet.name) for area in areas[:_LISTED]]
    rest = len(areas) - len(listed)
    more = f" and {rest:,} areas more" if rest else ""
    return {
        "place": ", ".join(listed) + more,
        "count": sum(area.size for area in areas),
        "before": before,
        "after": after,
    }


def before_after(each: Rewriting) -> dict[str, object]:
    """A rewriting as a line."""
    return line(each.sheet, each.areas, each.before.text(each.at), each.after.text(each.at))
