"""How many findings there are after much has come in at once, and where the first one is."""

from __future__ import annotations

from collections.abc import Iterable

from dreieck.core.budget import WorkEnded
from dreieck.core.checking.findings import Finding
from dreieck.core.formula.printer import sheet_text
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import many
from dreieck.web.turns import time_for_drawing
from dreieck.web.workbench.actions.context import Context, Effect, To, action
from dreieck.web.workbench.actions.going import go_to
from dreieck.web.workbench.actions.offers import Offer
from dreieck.web.workbench.finding_cache import findings_on


@action(Effect.MOVES)
def look_around(context: Context) -> str:
    """Tell how many findings a workbook has that was opened from a file."""
    sheets = context.opened.workbook.sheets
    found = {sheet: _found(context, sheet, [sheet.used()]) for sheet in sheets}
    told = [f"{len(each)} on {sheet.name}" for sheet, each in found.items() if each]
    if not told:
        return "Opened. Nothing is in doubt, as far as was looked."
    sheet, first = next((sheet, each) for sheet, each in found.items() if each)
    _offer(context, sheet, first, sum(map(len, found.values())))
    return f"Opened, with findings: {', '.join(told)}."


def offer_findings(context: Context, areas: Iterable[Area | None]) -> None:
    """Offer to look at what is in doubt or broken in areas of the sheet that is shown."""
    found = _found(context, context.sheet, areas)
    if found:
        _offer(context, context.sheet, found, len(found))


@action(Effect.MOVES)
def check_at(context: Context, wish: To) -> str:
    """Go to a cell, and show what is found there."""
    context.check_nothing_open()
    go_to(context, wish)
    context.state.step = "check"
    return ""


def _found(context: Context, sheet: Sheet, areas: Iterable[Area | None]) -> list[Finding]:
    """What is in doubt or broken in areas; nothing where there is no time to look."""
    looked = [area for area in areas if area]
    try:
        with time_for_drawing():
            return [
                finding
                for checked in findings_on(context.opened, sheet)
                for finding in checked.findings
                if finding.state != "note"
                and any(area.common(each) for area in looked for each in finding.areas)
            ]
    except WorkEnded:
        return []


def _offer(context: Context, sheet: Sheet, found: list[Finding], count: int) -> None:
    place = f"{sheet_text(sheet.name)}!{found[0].areas[0].first.text}"
    asks = {"to": place}
    context.offers.append(Offer(f"{many(count, 'finding')}, look", "check-at", asks))
