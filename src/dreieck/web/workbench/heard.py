"""What the page says aloud: where the hands are, and what came of it, in one or two sentences."""

from __future__ import annotations

from collections.abc import Iterator

from pydantic import BaseModel

from dreieck.core.calculate import look_of
from dreieck.core.formula.shift import CIRCLED, tag, uncircled
from dreieck.core.grid import Area
from dreieck.core.values import Error
from dreieck.core.words.counting import addresses, many
from dreieck.core.words.headings import heading_of
from dreieck.web.workbench.desk import Card, Desk
from dreieck.web.workbench.foot import Foot
from dreieck.web.workbench.panel import Panel
from dreieck.web.workbench.situation import Situation


class Heard(BaseModel):
    """What is said of the cell that the hands are at."""

    cell: str = ""
    says: str = ""


def heard(situation: Situation, desk: Desk, panel: Panel, foot: Foot) -> Heard:
    """What is said of a situation."""
    if situation.rehearsing and situation.fill:
        parts = _rehearsal(panel, desk)
    elif situation.writing:
        parts = _writing(situation, desk, panel)
    elif situation.selection.size > 1 or situation.state.also:
        parts = _areas(situation, foot)
    else:
        parts = _cell(situation, desk, panel)
    cell = situation.state.writing or situation.active.text
    says = ". ".join(part for part in parts if part) + "."
    # Tags are said as letters.
    return Heard(cell=cell, says=CIRCLED.sub(lambda found: tag(uncircled(found[0])), says))


def _rehearsal(panel: Panel, desk: Desk) -> Iterator[str]:
    yield f"Rehearsal of {panel.title}, {many(panel.landings, 'landing')}"
    yield from _findings(panel)
    for each in panel.turned:
        yield f"A proof would {'fail' if each.fails else 'hold again'}: {each.says}"
    yield f"{panel.here} would show {panel.value}"
    yield _reads(desk)


def _writing(situation: Situation, desk: Desk, panel: Panel) -> Iterator[str]:
    yield f"Writing {'a statement' if panel.proof else desk.cell}"
    if desk.told:
        yield desk.told.rstrip(".")
    elif panel.would_give and situation.shape:
        yield f"would give {panel.would_give}"
        for card in desk.cards:
            locks = ", ".join(switch.says for switch in card.switches)
            yield f"{card.tag} {card.start.text}{', ' * bool(locks)}{locks}"


def _areas(situation: Situation, foot: Foot) -> Iterator[str]:
    facts = [foot.where.rpartition("!")[2].replace(":", " to "), *foot.facts]
    yield f"Selected {', '.join(facts)}"
    if situation.state.inner:
        value = situation.shown_value(situation.active, situation.sheet.name)
        yield f"{situation.active.text}: {value}"


def _cell(situation: Situation, desk: Desk, panel: Panel) -> Iterator[str]:
    sheet, cell = situation.sheet, situation.active
    content = situation.content_at(cell)
    called = "" if isinstance(content, str) else heading_of(sheet, Area.of(cell)) or ""
    role = look_of(content, sheet.look(cell)).role
    marked = f", {role}" if role != "plain" else ""
    yield f"{cell.text}{', ' * bool(called)}{called}{marked}"
    value = situation.value(cell)
    if isinstance(value, Error):
        yield f"error {value.code}: {value.why.rstrip('.')}"
    else:
        yield panel.value
    if situation.shape:
        yield f"formula {situation.desk_text}"
        if situation.block and situation.block.size > 1:
            areas = addresses(list(situation.block.parts))
            is_start = cell == situation.start
            yield f"start of {areas}" if is_start else f"landing of {areas}"
            yield "" if is_start else _reads(desk)
    if situation.fan:
        yield desk.is_said
    yield from _findings(panel)
    if panel.trial:
        yield f"trying {panel.trial.value} in {panel.trial.place}"


def _findings(panel: Panel) -> Iterator[str]:
    """The findings on top; the others are counted."""
    told = [each for each in panel.findings if each.state != "note"]
    if told:
        yield f"{told[0].state_said.capitalize()}: {told[0].says.rstrip('.')}"
    if len(told) > 1:
        yield f"{many(len(told) - 1, 'finding')} more"
    if told and told[0].mends:
        yield f"Alt D mends it: {told[0].mends[0].says}"


def _reads(desk: Desk) -> str:
    """What each reference reads in the landing."""
    return "; ".join(_read(card) for card in desk.cards)


def _read(card: Card) -> str:
    end = card.here or card.start
    return f"{card.tag} reads {end.text}, {end.shown}"
