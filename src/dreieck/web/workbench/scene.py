"""What the grid draws: cells in view, frames, ties between start and landing."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel

from dreieck.core.analysis.reads import shared_areas
from dreieck.core.calculate import look_of
from dreieck.core.calculate.ruled import tones
from dreieck.core.editing.stating import NEW
from dreieck.core.formula import Shape, may_point, touched
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Content, Unreadable, typed_text
from dreieck.core.values import UNFINISHED, Error, Value
from dreieck.core.values.look import Look
from dreieck.core.values.style import Tone
from dreieck.web.colours import COLOURS, colour_of
from dreieck.web.workbench.charts_shown import ChartShown, charts_in_view
from dreieck.web.workbench.dressed import dressed_as
from dreieck.web.workbench.heard import Heard
from dreieck.web.workbench.measuring import fits, room_in
from dreieck.web.workbench.page_state import PageState, held
from dreieck.web.workbench.situation import Situation
from dreieck.web.workbench.window import AxisShown, Window, window

_MAX_SPANNED = 60
TOO_WIDE = "↔"
"""Stands for a number that has no room in its column."""


class CellShown(BaseModel):
    """A cell in view that shows something.

    ``hidden`` is a number for which it is too narrow, ``spans`` counts the cells to the right
    over which its text is centred, too.
    """

    column: int
    row: int
    shown: str
    typed: str
    hidden: str = ""
    spans: int = 0
    kind: str


class Frame(BaseModel):
    """Rails around what a reference or name reads; an edge that is locked is solid.

    ``index`` is the number of the reference, -1 for a name; ``letter`` that of its tag.
    """

    index: int
    letter: int
    tag: str
    colour: int
    area: Area
    solid: tuple[bool, bool, bool, bool]
    at_start: bool


class Tie(BaseModel):
    """The figure of one reference: the start, the landing, and what each of them reads."""

    letter: int
    colour: int
    start: Cell
    start_reads: Area
    here: Cell
    here_reads: Area


class Chip(BaseModel):
    """A reference in the text of the desk."""

    start: int
    end: int
    index: int
    """The number of its letter tag."""
    colour: int


class Scene(BaseModel):
    """All that the grid needs for one picture.

    Pictures are numbered. ``cells`` are all that hold something, or with ``since`` those that
    differ from that picture, of which ``gone`` are no longer there.
    """

    picture: int = 0
    since: int = 0
    gone: list[tuple[int, int]] = []
    revision: int
    began: int = 0
    """The revision before the action that this picture answers."""
    unfinished: bool = False
    """Whether some values had to wait; the page asks for them again."""
    refused: bool = False
    """Whether what was asked for was not done."""
    moved: bool = False
    """Whether others let lines come or go since the page was told of its places."""
    insists: bool
    heard: Heard = Heard()
    state: dict[str, Any]
    columns: AxisShown
    rows: AxisShown
    used: tuple[int, int]
    cells: list[CellShown]
    charts: list[ChartShown]
    text: str
    chips: list[Chip]
    may_point: bool
    frames: list[Frame]
    shared: list[Area]
    """What crossing references share."""
    ties: list[Tie]
    dependents: list[Area]
    block: Area | None
    fan: Area | None
    """The cells that one formula fills, among them the selected one."""
    rehearsed: Area | None
    copied: Area | None
    start: Cell | None
    here: Cell | None


def scene(situation: Situation, *, insists: bool = False) -> Scene:
    """The picture of a situation. A page that went on since takes the state if it insists."""
    state = situation.state
    in_view = window(state, situation.sheet.layout)
    used = situation.opened.calculation.used(situation.sheet.name) or Area(1, 1, 1, 1)
    block = situation.block.area if situation.block else situation.rule_area
    at_home = situation.home is situation.sheet
    in_cells = state.proving < NEW
    in_question = at_home and in_cells and (situation.shape is not None or situation.rehearsing)
    return Scene(
        revision=situation.opened.revision,
        insists=insists,
        state=_state(state),
        columns=in_view.columns,
        rows=in_view.rows,
        used=(used.right, used.bottom),
        cells=_cells(situation, in_view),
        charts=charts_in_view(situation, in_view),
        text=situation.desk_text,
        chips=[
            Chip(start=mention.start, end=mention.end, index=letter, colour=colour_of(letter))
            for letter, mention in zip(situation.letters, situation.mentions, strict=True)
        ],
        may_point=_may_point(situation),
        frames=_frames(situation),
        shared=_shared(situation),
        ties=_ties(situation),
        dependents=_dependents(situation),
        block=block if block and block.size > 1 else None,
        fan=situation.fan,
        rehearsed=situation.fill.target
        if situation.fill and situation.rehearsing and at_home
        else None,
        copied=_copied(state),
        start=situation.start if in_question else None,
        here=situation.here if in_question else None,
    )


def _may_point(situation: Situation) -> bool:
    """Whether what is pressed is pointed at; on another sheet the reference at the caret is."""
    text, caret = situation.desk_text, situation.state.caret
    if not situation.writing or situation.rehearsing:
        return False
    elsewhere = situation.home is not situation.sheet
    here = situation.writing_cell
    return may_point(text, caret) or (elsewhere and touched(text, here, caret) is not None)


def _shared(situation: Situation) -> list[Area]:
    """What crossing references of the formula in question share on the shown sheet."""
    if situation.shape is None:
        return []
    shared = shared_areas(situation.shape, situation.here)
    home, here = situation.home.name, situation.sheet.name.casefold()
    return [area for sheet, area in shared if (sheet or home).casefold() == here]


def _answers(situation: Situation, cell: Cell) -> bool:
    """Whether a cell of the shown sheet answers to the trial value."""
    assert situation.trial is not None
    name = situation.sheet.name
    return any(sheet == name and area.holds(cell) for sheet, area in situation.trial.changed)


def _copied(state: PageState) -> Area | None:
    """The area on the shown sheet that was copied last."""
    copied = held(state.copied)
    return Area.parse(copied[1]) if copied and copied[0] == state.sheet else None


def _dependents(situation: Situation) -> list[Area]:
    """The areas on this sheet whose formulas read the selected cell."""
    found = situation.dependents.direct if situation.dependents else ()
    return [area for name, area in found if name == situation.sheet.name]


def _state(state: PageState) -> dict[str, Any]:
    """What the page is to say of itself from now on; the size of its window is its own."""
    own = {"revision", "width", "height", "reveal", "view"}
    return state.model_dump(include=set(PageState.model_fields) - own)


def _cells(situation: Situation, in_view: Window) -> list[CellShown]:
    widths = {line.number: line.size for line in in_view.columns.lines}
    sheet = situation.sheet
    made = situation.calculation.workbook.sheet(sheet.name)
    ruled = _ruled(situation, in_view)
    found: list[CellShown] = []
    for area in in_view.areas():
        filled: dict[Cell, Content | None] = dict(made.filled(area))
        for fan in situation.calculation.fans_in(sheet.name, area):
            part = fan.common(area)
            cells = part.cells() if part else ()
            filled.update({cell: None for cell in cells if cell not in filled})
        found.extend(
            _cell(situation, cell, content, widths[cell.column], ruled.get(cell))
            for cell, content in filled.items()
        )
        seen = [cell for cell, look in sheet.looked(area) if look.shows_empty]
        toned = [cell for cell in ruled if area.holds(cell)]
        for cell in dict.fromkeys([*seen, *toned]):
            if cell not in filled:
                kinds = " ".join(_dress(sheet.look(cell), ruled.get(cell)))
                found.append(
                    CellShown(column=cell.column, row=cell.row, shown="", typed="", kind=kinds)
                )
    return found


def _ruled(situation: Situation, in_view: Window) -> dict[Cell, Tone]:
    """The tones of the cells in view by the rules of the sheet, and the one that is written."""
    rules = list(situation.sheet.layout.rules)
    if situation.rule and situation.home is situation.sheet:
        index = situation.state.rule_index
        rules[max(index, 0) : index + 1] = [situation.rule]
    if not rules:
        return {}
    return tones(situation.calculation, situation.sheet.name, rules, in_view.areas())


def _dress(look: Look, tone: Tone | None) -> list[str]:
    return [look.role, *dressed_as(look.style), *([f"rule-{tone}"] if tone else [])]


def _cell(
    situation: Situation, cell: Cell, content: Content | None, width: int, tone: Tone | None
) -> CellShown:
    look = look_of(content, situation.sheet.look(cell))
    value = situation.value(cell, situation.sheet.name)
    kinds = [_kind(value), *_dress(look, tone)]
    if situation.trial and _answers(situation, cell):
        kinds.append("answers")
    if isinstance(content, Shape):
        kinds.append("formula")
    if content is None:
        kinds.append("fanned")
    text = full = situation.text_of(value, look, room_in(width))
    if isinstance(value, float) and not fits(text, width):
        text = TOO_WIDE
    if value is UNFINISHED:
        text, kinds = "…", ["waits"]
    if isinstance(content, Unreadable):
        text, kinds = content.text, ["unreadable"]
    return CellShown(
        column=cell.column,
        row=cell.row,
        shown=text[:400],
        typed=typed_text(content, cell, look, situation.workbook.locale),
        hidden=full if text == TOO_WIDE else "",
        spans=_spanned(situation, cell) if look.style.across == "spanning" else 0,
        kind=" ".join(kinds),
    )


def _spanned(situation: Situation, cell: Cell) -> int:
    """Over how many empty cells to the right the text of a cell is centred."""
    sheet = situation.sheet
    count = 0
    while count < _MAX_SPANNED:
        beside = cell.offset(count + 1, 0)
        if sheet.content(beside) is not None or sheet.look(beside).style.across != "spanning":
            break
        count += 1
    return count


def _kind(value: Value) -> str:
    if isinstance(value, Error):
        return "error"
    if isinstance(value, bool):
        return "logical"
    return "text" if isinstance(value, str) else "number"


def _frames(situation: Situation) -> list[Frame]:
    frames: list[Frame] = []
    for told in _distinct(situation):
        written_at, (*_, reference) = _written_at(situation), told
        start, here = reference.area(written_at), reference.area(situation.here)
        if start and start != here:
            frames.append(_frame(told, written_at, start, at_start=True))
        if here:
            frames.append(_frame(told, situation.here, here, at_start=False))
    return frames + _name_frames(situation)


def _name_frames(situation: Situation) -> list[Frame]:
    """Frames of the places that names stand for; all edges are solid, since they never move."""
    return [
        Frame(
            index=-1,
            letter=-1,
            tag="n",
            colour=COLOURS - 1,
            area=named.place[1],
            solid=(True, True, True, True),
            at_start=False,
        )
        for named in situation.names
        if named.place and named.place[0].casefold() == situation.sheet.name.casefold()
    ]


_Told = tuple[int, int, Reference]
"""The number of a reference in its formula, that of its letter tag, and the reference."""


def _distinct(situation: Situation) -> Iterator[_Told]:
    """The references that read the sheet that is shown, equal ones once."""
    for letter, index in enumerate(situation.distinct):
        reference = situation.mentions[index].reference
        if _is_here(situation, reference):
            yield index, letter, reference


def _frame(told: _Told, at: Cell, area: Area, *, at_start: bool) -> Frame:
    index, letter, reference = told
    first, last = reference.corners(at)[0], reference.corners(at)[-1]
    return Frame(
        index=index,
        letter=letter,
        tag=tag(letter),
        colour=colour_of(letter),
        area=area,
        solid=(first.column, first.row, last.column, last.row),
        at_start=at_start,
    )


def _ties(situation: Situation) -> list[Tie]:
    start = _written_at(situation)
    if start == situation.here or situation.home is not situation.sheet:
        return []
    ties: list[Tie] = []
    for _, letter, reference in _distinct(situation):
        start_reads, here_reads = reference.area(start), reference.area(situation.here)
        if start_reads and here_reads:
            ties.append(
                Tie(
                    letter=letter,
                    colour=colour_of(letter),
                    start=start,
                    start_reads=start_reads,
                    here=situation.here,
                    here_reads=here_reads,
                )
            )
    return ties


def _written_at(situation: Situation) -> Cell:
    return situation.writing_cell if situation.writing else situation.start


def _is_here(situation: Situation, reference: Reference) -> bool:
    """Whether a reference reads the sheet that is shown."""
    read = reference.sheet or situation.home.name
    return read.casefold() == situation.sheet.name.casefold()
