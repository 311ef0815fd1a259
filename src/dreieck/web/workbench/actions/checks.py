"""What can be done about findings: mend them, and let a fill without any land at once."""

from __future__ import annotations

from pydantic import Field

from dreieck.core.checking.findings import Finding, Mend, missed_by
from dreieck.core.editing.answering import answer, answers
from dreieck.core.editing.stating import without
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.chart import chart_numbered
from dreieck.core.sheet.edits import SetCells
from dreieck.core.words.counting import addresses, both, many
from dreieck.web.workbench.actions.context import Context, Effect, Index, Steps, To, action
from dreieck.web.workbench.actions.fills import Landing, land
from dreieck.web.workbench.finding_cache import findings_on
from dreieck.web.workbench.page_state import Number
from dreieck.web.workbench.situation import Situation

_GONE = "This finding is no longer there; the panel is up to date now."


class Choice(Index, To):
    """A finding, by its ``rule``, reference and first cell, and which of its mends."""

    rule: str = ""
    mend: Number = 0


@action(Effect.REHEARSES)
def mend(context: Context, wish: Choice) -> str:
    """Make a mend of a finding, told by its rule, reference and first cell."""
    state, situation = context.state, context.situation()
    chosen = _chosen(situation, wish)
    if situation.rehearsing and situation.fill and isinstance(chosen.edits[0], SetCells):
        return _rehearse_mended(context, situation, chosen)
    context.change(f"mend: {chosen.says}", *chosen.edits)
    state.step = "check"
    edit = chosen.edits[0]
    where = f", in {addresses(joined(edit.areas()))}" if isinstance(edit, SetCells) else ""
    return f"Mended{where}: {chosen.says}. Ctrl+Z takes it back."


class Reason(Index, To):
    """A finding, by its ``rule``, reference and first cell, and why it is meant."""

    rule: str = Field("", max_length=60)
    reason: str = Field("", max_length=1_000)


@action()
def mean(context: Context, wish: Reason) -> str:
    """Answer a finding: it is meant, for a reason that stays with its cells."""
    finding = _found(context.situation(), wish)
    sheet = context.opened.workbook.sheet(finding.sheet)
    edit = answer(context.opened.workbook, sheet, finding.areas, finding.rule, wish.reason)
    where = addresses(joined(finding.areas))
    context.change(f"{where} is meant: {wish.reason.strip()}"[:200], edit)
    return f"{where} is meant, and said so. Ctrl+Z takes it back."


@action()
def ask_again(context: Context, wish: Reason) -> str:
    """Take back the answer that a finding is meant."""
    workbook, finding = context.opened.workbook, _found(context.situation(), wish)
    for each in answers(workbook):
        about = (each.rule, each.sheet) == (finding.rule, finding.sheet)
        if about and all(area.within(each.area) for area in finding.areas):
            context.change("asking again", without(workbook, "answers", each.number))
            return "It is asked again whether this is right."
    raise DreieckError("Nobody has answered this; the panel is up to date now.")


@action(Effect.MOVES)
def walk_findings(context: Context, wish: Steps) -> str:
    """Go to the cell of the next finding on the sheet, or the one before, round and round."""
    state = context.state
    context.check_nothing_open()
    found = [f for each in findings_on(context.opened, context.sheet) for f in each.findings]
    cells = sorted({f.areas[0].first for f in found if f.areas}, key=lambda c: (c.row, c.column))
    if not cells:
        return "Nothing is in doubt on this sheet."
    here = state.active
    places = [(cell.row, cell.column) for cell in cells]
    at = (here.row, here.column)
    if wish.rows > 0:
        index = next((n for n, place in enumerate(places) if place > at), 0)
    else:
        index = next((n for n in reversed(range(len(places))) if places[n] < at), -1)
    state.stand(cells[index])
    state.reveal, state.step = cells[index].text, "check"
    return f"Finding {index % len(cells) + 1} of {len(cells)}, at {cells[index].text}."


@action(Effect.MOVES, Effect.REHEARSES)
def release(context: Context) -> str:
    """The context let a pulled fill go: it lands unless something about it is in doubt."""
    situation = context.situation()
    fill = situation.fill
    if not (situation.rehearsing and fill) or situation.refusal:
        return ""
    doubts = [finding for finding in situation.findings if finding.state != "note"]
    over = fill.overwritten()
    broken = [each for each in situation.turned if each.after.fails]
    if context.state.wait or doubts or over or broken:
        if not doubts and not over and not broken:
            return ""
        one = len(over) == 1
        held = f"{many(len(over), 'cell')} that hold{'s' * one} something"
        told = many(len(doubts), "finding") if doubts else ""
        context.waits = True
        failing = f"{many(len(broken), 'proof')} that would fail" if broken else ""
        what = both([part for part in (failing, told, held if over else "") if part])
        return f"This fill waits, because of {what}. Look, then land it or drop it."
    return land(context, Landing())


def _chosen(situation: Situation, wish: Choice) -> Mend:
    mends = _found(situation, wish).mends
    if 0 <= wish.mend < len(mends):
        return mends[wish.mend]
    raise DreieckError(_GONE)


def _found(situation: Situation, wish: Choice | Reason) -> Finding:
    """The finding that a wish is about. Raises DreieckError where there is none by now."""
    for finding in _candidates(situation):
        where = finding.areas[0].first.text
        reference = -1 if finding.reference is None else finding.reference
        if (finding.rule, reference, where) == (wish.rule, wish.index, wish.to):
            return finding
    raise DreieckError(_GONE)


def _candidates(situation: Situation) -> list[Finding]:
    if situation.rehearsing:
        return list(situation.findings)
    checked = findings_on(situation.opened, situation.sheet)
    others = [finding for each in checked for finding in each.findings]
    chart = chart_numbered(situation.sheet.layout.charts, situation.state.chart)
    missed = missed_by(situation.calculation, situation.sheet, chart) if chart else None
    charts = [missed] if missed else []
    return [*charts, *situation.findings, *situation.pattern, *others]


def _rehearse_mended(context: Context, situation: Situation, chosen: Mend) -> str:
    """Change the rehearsal: another formula at the start, or an end further up."""
    state, fill = context.state, situation.fill
    assert fill is not None
    edit = chosen.edits[0]
    assert isinstance(edit, SetCells)
    if not chosen.after:
        bottom = edit.areas()[0].top - 1
        state.target = Area.parse(state.target)._replace(bottom=bottom).text
    else:
        start = fill.start_of(situation.start)
        shape = edit.runs[0].content
        text = shape.text(start) if isinstance(shape, Shape) else chosen.after
        state.flipped = state.flipped or state.text is None
        state.writing, state.text, state.caret = start.text, text, len(text)
        state.source = state.source or Area.of(Cell.parse(state.writing)).text
    return f"Rehearsed anew: {chosen.says}."
