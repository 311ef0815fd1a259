"""What can be done about findings: mend them, and let a fill without any land at once."""

from __future__ import annotations

from dreieck.core.checking.aim import aimed
from dreieck.core.checking.findings import Finding, Mend
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import mentions
from dreieck.core.formula.locks import Relocked
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area, Cell
from dreieck.web.workbench.actions.cells import formula_at_hand, rewrite
from dreieck.web.workbench.actions.fills import land
from dreieck.web.workbench.actions.hands import Hands, action
from dreieck.web.workbench.checking import findings_on
from dreieck.web.workbench.situation import Situation


@action
def mend(hands: Hands) -> str:
    """Make a mend of a finding, told by its rule, reference and first cell."""
    wish, situation = hands.wish, hands.situation()
    chosen = _chosen(situation)
    if situation.rehearsing and situation.fill:
        return _rehearse_mended(hands, situation, chosen)
    hands.change(f"mend: {chosen.says}", *chosen.edits)
    wish.step = "check"
    areas = chosen.edits[0].areas()
    return f"Mended, in {areas[0].text}: {chosen.says}. Ctrl+Z takes it back."


@action
def release(hands: Hands) -> str:
    """The hands let a pulled fill go: it lands unless something about it is in doubt."""
    situation = hands.situation()
    fill = situation.fill
    if not (situation.rehearsing and fill) or situation.refusal:
        return ""
    doubts = [finding for finding in situation.findings if finding.state != "note"]
    over = fill.overwritten()
    if hands.wish.wait or doubts or over:
        if not doubts and not over:
            return ""
        one = len(over) == 1
        held = f"{len(over):,} cell{'' if one else 's'} that hold{'s' * one} something"
        told = f"{len(doubts)} finding{'s' * (len(doubts) != 1)}" if doubts else ""
        what = " and ".join(part for part in (told, held if over else "") if part)
        return f"This fill waits, because of {what}. Look, then land it or drop it."
    return land(hands)


@action
def aim(hands: Hands) -> str:
    """Begin, or with a negative ``index`` stop, to point at what a reference should read."""
    wish = hands.wish
    wish.aiming = -1 if wish.aiming == wish.index else wish.index
    if wish.aiming < 0:
        return ""
    landing = hands.situation().here.text
    return f"Point at the cell that {tag(wish.aiming)} should read in {landing}."


@action
def aim_at(hands: Hands) -> str:
    """Find the locks with which a landing reads what was pointed at."""
    wish, situation = hands.wish, hands.situation()
    at, text = formula_at_hand(situation)
    found = mentions(text, at)
    index = wish.aiming if wish.aiming >= 0 else wish.index
    if not 0 <= index < len(found):
        raise DreieckError("There is no such reference in this formula.")
    mention, landing = found[index], situation.here
    if landing == at:
        raise DreieckError("Choose a landing other than the start; any locks serve the start.")
    changed = reference_text(aimed(mention.reference, at, landing, Area.parse(wish.to)), at)
    wish.aiming = -1
    new = text[: mention.start] + changed + text[mention.end :]
    if new == text:
        return f"{tag(index)} reads {wish.to} in {landing.text} already."
    rewrite(hands, situation, Relocked(new, mention.start + len(changed)))
    return f"With {changed} in the start, {tag(index)} reads {wish.to} in {landing.text}."


@action
def advise(hands: Hands) -> str:
    """Show, or hide, the likely locks."""
    hands.wish.advice = not hands.wish.advice
    return ""


@action
def take_formula(hands: Hands) -> str:
    """Put a proposed formula into the start, and rehearse with it."""
    situation = hands.situation()
    hands.wish.advice = False
    rewrite(hands, situation, Relocked(hands.wish.to, len(hands.wish.to)))
    return ""


def _chosen(situation: Situation) -> Mend:
    wish = situation.bench
    for finding in _candidates(situation):
        where = finding.areas[0].first.text
        reference = -1 if finding.reference is None else finding.reference
        if (finding.rule, reference, where) == (wish.rule, wish.index, wish.to):  # type: ignore[attr-defined]
            mends = finding.mends
            if 0 <= wish.mend < len(mends):  # type: ignore[attr-defined]
                return mends[wish.mend]  # type: ignore[attr-defined]
    raise DreieckError("This finding is no longer there; the panel is up to date now.")


def _candidates(situation: Situation) -> list[Finding]:
    if situation.rehearsing:
        return list(situation.findings)
    checked = findings_on(situation.opened, situation.sheet)
    others = [finding for each in checked for finding in each.findings]
    return [*situation.findings, *situation.pattern, *others]


def _rehearse_mended(hands: Hands, situation: Situation, chosen: Mend) -> str:
    """Change the rehearsal: another formula at the start, or an end further up."""
    wish, fill = hands.wish, situation.fill
    assert fill is not None
    if not chosen.after:
        bottom = chosen.edits[0].areas()[0].top - 1
        wish.target = Area.parse(wish.target)._replace(bottom=bottom).text
    else:
        start = fill.start_of(situation.start)
        wish.flipped = wish.flipped or wish.text is None
        wish.writing, wish.text, wish.caret = start.text, chosen.after, len(chosen.after)
        wish.source = wish.source or Area.of(Cell.parse(wish.writing)).text
    return f"Rehearsed anew: {chosen.says}."
