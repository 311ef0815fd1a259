"""The desk: the reading of the formula and one card for each reference."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.budget import current
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.editing.stating import NEW
from dreieck.core.formula.locks import Lock, axes, lock_of, with_lock
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import RangeReference, Reference
from dreieck.core.formula.shift import Shift, shift_of, tag
from dreieck.core.grid import Area, Axis, Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.names import Named
from dreieck.core.values import Error, Place
from dreieck.core.values.look import PLAIN
from dreieck.core.words.headings import heading_of
from dreieck.core.words.held import held_said
from dreieck.core.words.named import stands_for, what_it_holds
from dreieck.core.words.outline import Piece, is_long, outline
from dreieck.core.words.phrases import Phrase
from dreieck.core.words.preview import Direction, next_reads, usual_directions
from dreieck.core.words.proving import stated
from dreieck.core.words.reading import reading
from dreieck.web.colours import colour_of
from dreieck.web.workbench.situation import Situation


@dataclass(frozen=True)
class Switch:
    """What can be chosen for one axis of a reference, and what is chosen."""

    axis: Axis
    chosen: Lock
    choices: tuple[tuple[Lock, str], ...]
    """Each choice, and what it would do."""

    @property
    def says(self) -> str:
        """What is chosen, in words."""
        corner = f"stays at the {self.chosen} corner"
        return f"{self.axis} {corner if self.chosen in ('first', 'last') else self.chosen}"


@dataclass(frozen=True)
class End:
    """What a reference reads from one cell."""

    label: str
    text: str
    shown: str
    is_landing: bool = False


@dataclass(frozen=True)
class Card:
    """A reference card."""

    index: int
    letter: int
    """The number of its letter tag."""
    tag: str
    colour: int
    times: int
    """How often it stands in the formula."""
    switches: tuple[Switch, ...]
    start: End
    here: End | None
    shift: Shift
    ahead: str
    """What it will read in the next landings."""


@dataclass(frozen=True)
class NameCard:
    """A name that the formula uses: what it stands for from here, and what it holds."""

    name: str
    kind: str
    stands_for: str
    holds: str
    stays: bool


@dataclass(frozen=True)
class Desk:
    """All that the lower part of the desk shows."""

    cell: str
    is_said: str
    phrases: list[Phrase]
    told: str
    kind: str
    cards: list[Card]
    names: list[NameCard]
    has_parts: bool
    """Whether the formula can be laid out part by part."""
    parts: tuple[Piece, ...]


def desk(situation: Situation) -> Desk:
    """The desk of a situation."""
    told, kind = _told(situation)
    shape = situation.shape
    place = Place(situation.home.name, situation.desk_cell)
    has_parts = bool(shape and not told and not situation.proof and is_long(shape))
    return Desk(
        cell=situation.desk_cell.text,
        is_said=_what_it_is(situation),
        phrases=_phrases(situation, place) if shape and not told else [],
        told=told,
        kind=kind,
        cards=[
            _card(situation, index, situation.mentions[index].reference)
            for index in situation.distinct
        ],
        names=[_name_card(situation, named) for named in situation.names],
        has_parts=has_parts,
        parts=_parts(situation, place) if has_parts else (),
    )


def _parts(situation: Situation, place: Place) -> tuple[Piece, ...]:
    """The parts of the formula in question, where they are asked for and there is time."""
    if not situation.state.parts or situation.shape is None or current().hurried:
        return ()
    return outline(situation.calculation, place, situation.shape.landed(place.cell))


def _phrases(situation: Situation, place: Place) -> list[Phrase]:
    """What the formula in question says, or the statement of a proof."""
    if situation.proof:
        return stated(situation.workbook, situation.proof)
    assert situation.shape
    return reading(situation.workbook, place, situation.shape)


def _name_card(situation: Situation, named: Named) -> NameCard:
    """A name as it is seen from the landing in question."""
    stays = named.kind != "formula by position"
    says = (
        stands_for(named) if stays else situation.workbook.typed(named.shape, situation.here)[1:]
    )
    if named.place and named.place[1].size == 1:
        sheet, area = named.place
        holds = situation.shown_value(area.first, sheet)
    elif stays:
        holds = what_it_holds(situation.calculation, named)
    else:
        place = Place(situation.home.name, situation.here)
        value = result_at(named.shape, place, situation.calculation)
        holds = situation.text_of(value)
    return NameCard(named.name, named.kind, says, "" if holds == says else holds, stays)


def moved_text(shift: Shift) -> tuple[str, str]:
    """How far a reference moved, in words, for columns and rows."""
    return (
        _distance(shift.columns, "column", "left", "right"),
        _distance(shift.rows, "row", "up", "down"),
    )


def _what_it_is(situation: Situation) -> str:
    if situation.rehearsing:
        return "the start"
    if situation.writing:
        return "writing" if situation.state.proving < NEW else "a statement"
    if situation.block_is_filled:
        start = situation.start.text
        return "the start" if situation.here == situation.start else f"lands from {start}"
    if situation.fan:
        origin = situation.fan.first
        is_origin = situation.here == origin
        return f"fills {situation.fan.text}" if is_origin else f"filled from {origin.text}"
    return "a formula" if situation.shape else ""


def _told(situation: Situation) -> tuple[str, str]:
    if situation.refusal:
        return situation.refusal, "problem"
    if situation.written and situation.written.problem:
        return str(situation.written.problem), "hint"
    if situation.shape:
        return "", ""
    content = situation.content_at(situation.desk_cell)
    if situation.writing or situation.rehearsing:
        return "", ""
    if content is None and situation.fan:
        start = situation.fan.first
        says = typed_text(situation.content_at(start), start, PLAIN, situation.workbook.locale)
        fills = f"{start.text}, which fills {situation.fan.text}"
        return f"This comes of the formula in {fills}: {says}", "hint"
    if content is None:
        return "An empty cell. Type a number, text, or = and a formula.", "hint"
    name = heading_of(situation.home, Area.of(situation.desk_cell))
    if isinstance(content, float):
        return (f"{name}: a number typed here." if name else "A number typed here."), "hint"
    if isinstance(content, str):
        return "Text typed here.", "hint"
    value = situation.value(situation.desk_cell)
    return (value.why, "problem") if isinstance(value, Error) else ("", "")


def _card(situation: Situation, index: int, reference: Reference) -> Card:
    start = situation.writing_cell if situation.writing else situation.start
    here = situation.here
    is_range = isinstance(reference, RangeReference)
    choices: tuple[Lock, ...] = (
        ("moves", "first", "last", "stays") if is_range else ("moves", "stays")
    )
    directions = usual_directions(situation.home, start)
    is_filled = situation.state.proving < NEW
    letter = situation.letters[index]
    shift = shift_of(tag(letter), reference, start, here)
    label = "here"
    if situation.rehearsing and situation.fill:
        label = "far corner" if here == situation.far_corner else here.text
    return Card(
        index=index,
        letter=letter,
        tag=tag(letter),
        colour=colour_of(letter),
        times=situation.letters.count(letter),
        switches=tuple(
            Switch(
                axis,
                lock_of(reference, start, axis),
                tuple(
                    (hold, _does(with_lock(reference, start, axis, hold), start, directions, hold))
                    for hold in choices
                ),
            )
            for axis in axes(reference)
            if is_filled
        ),
        start=_end(situation, reference, start, "start" if is_filled else "reads"),
        here=_end(situation, reference, here, label) if here != start else None,
        shift=shift,
        ahead=_ahead(reference, start, directions) if is_filled else "",
    )


def _does(changed: Reference, start: Cell, directions: tuple[Direction, ...], hold: Lock) -> str:
    """What a reference would do with a choice."""
    corner = f"only the {hold} corner stays; " if hold in ("first", "last") else ""
    return corner + _ahead(changed, start, directions)


def _ahead(reference: Reference, start: Cell, directions: tuple[Direction, ...]) -> str:
    return ", ".join(
        f"filled {direction} {next_reads(reference, start, direction)}" for direction in directions
    )


def _end(situation: Situation, reference: Reference, at: Cell, label: str) -> End:
    area = reference.area(at)
    if area is None:
        return End(label, "#REF!", "off the sheet")
    sheet = reference.sheet or situation.home.name
    text = reference_text(reference, at)
    fill = situation.fill
    same_sheet = sheet.casefold() == situation.home.name.casefold()
    is_landing = bool(situation.rehearsing and fill and same_sheet and area.common(fill.target))
    if area.size == 1:
        shown = "a landing" if is_landing else situation.shown_value(area.first, sheet)
    elif situation.workbook.has_sheet(sheet):
        shown = held_said(situation.calculation, sheet, area)
    else:
        shown = "no such sheet"
    return End(label, text, shown, is_landing)


def _distance(steps: int, axis: str, back: str, forth: str) -> str:
    plural = axis if abs(steps) == 1 else axis + "s"
    if not steps:
        return f"0 {plural}"
    return f"{abs(steps)} {plural} {back if steps < 0 else forth}"
