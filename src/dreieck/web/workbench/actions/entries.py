"""What is entered into cells: kept, cleared, drawn again."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, Field

from dreieck.core.calculate import Block, block_at
from dreieck.core.calculate.chance import next_seed
from dreieck.core.editing import laying_out
from dreieck.core.editing.entering import entered
from dreieck.core.editing.taking_along import same_shape
from dreieck.core.editing.target import MAX_FILL, check_target
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import LAST, Area, Axis, Cell, Lines
from dreieck.core.sheet.content import Entry, typed_text
from dreieck.core.sheet.edits import Edit, SetCells, SetSeed
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import addresses, many
from dreieck.web.workbench.actions.context import Context, To, action
from dreieck.web.workbench.actions.offers import Offer, other_readings
from dreieck.web.workbench.actions.proofs import keep_proof
from dreieck.web.workbench.actions.rules import keep_rule
from dreieck.web.workbench.measuring import fitting_height
from dreieck.web.workbench.page_state import MAX_PLACES, Number, PageState
from dreieck.web.workbench.window import USUAL_SIZES

Towards = Literal["", "down", "up", "right", "left"]
_STEPS: dict[Towards, tuple[Axis, int]] = {
    "down": ("row", 1), "up": ("row", -1), "right": ("column", 1), "left": ("column", -1),
}  # fmt: skip


class Move(BaseModel):
    """Where the selection goes afterwards."""

    move: Towards = ""


class Reading(To):
    """Another reading of an entry, and the revision at which it was offered."""

    says: str = Field("", max_length=10_001)
    offered: Number = -1


@action()
def enter(context: Context, wish: Move) -> str:
    """Keep what is written, and move the selection."""
    state, sheet = context.state, context.home
    if state.text is None:
        _step(state, sheet, wish)
        return ""
    if state.rule_for:
        return keep_rule(context)
    if state.proving >= 0:
        return keep_proof(context)
    cell = context.writing_cell
    block = block_at(sheet, cell)
    fans = context.opened.calculation.fans_in(sheet.name, Area.of(cell))
    entry = _keep(context, sheet, cell, state.text)
    over = _one_area(state)
    state.stop_writing()
    if sheet.id != state.sheet:
        state.sheet, context.insists = sheet.id, True
    state.select(over or Area.of(cell))
    if over:
        state.inner = state.reveal = cell.text
    if entry.problem:
        context.insists = True
        return ""
    _step(state, sheet, wish)
    context.offers += other_readings(cell, entry.others, context.opened.revision)
    if entry.brackets_added == 1:
        return f"{cell.text}: a closing bracket was missing at the end and has been added."
    if entry.brackets_added:
        return f"{cell.text}: {entry.brackets_added} closing brackets were added at the end."
    if entry.taken:
        return f"{cell.text} was taken for {entry.taken}."
    if fans and fans[0].first != cell and sheet.content(cell) is not None:
        return _in_the_way(context, cell, fans[0])
    return _differing(context, sheet, cell, block) if block and block.size > 1 else ""


def _in_the_way(context: Context, cell: Cell, fan: Area) -> str:
    """Tell that a formula has no room any more for what it filled, and offer to take it back."""
    context.offers.append(Offer(f"Give {cell.text} back", "undo", {}))
    return (
        f"{cell.text} was filled by the formula in {fan.first.text}, which has no room for"
        f" {fan.text} now."
    )


def _differing(context: Context, sheet: Sheet, cell: Cell, block: Block) -> str:
    """Tell that a landing of a block differs now, and offer the same in all of them."""
    content = sheet.content(cell)
    if isinstance(content, Shape) and content.plain is block.shape.plain:
        return ""
    others = f"the other {many(block.size - 1, 'landing')} of {block.area.text}"
    if not isinstance(content, Shape):
        return f"{cell.text} holds no formula any more, unlike {others}."
    if len(block.parts) <= MAX_PLACES:
        asks = {
            "to": cell.text,
            "says": ",".join(part.text for part in block.parts),
            "offered": str(context.opened.revision),
        }
        context.offers.append(Offer(f"The same in all {block.size:,}", "same-in-all", asks))
    return f"{cell.text} differs now from {others}."


@action()
def same_in_all(context: Context, wish: Reading) -> str:
    """Put the formula of a cell into the areas that are said; the selection stays."""
    sheet, cell = context.sheet, Cell.parse(wish.to)
    content = sheet.content(cell)
    if wish.offered != context.opened.revision or not isinstance(content, Shape):
        raise DreieckError(
            f"The workbook has changed since this was offered. Fill from {cell.text} instead."
        )
    parts = [Area.parse(each) for each in wish.says.split(",")[:MAX_PLACES]]
    for part in parts:
        check_target(part)
    context.change(f"same formula in {addresses(parts)}", same_shape(sheet, parts, content))
    size = sum(part.size for part in parts)
    return f"{many(size, 'landing')} of {addresses(parts)} are the same now. Ctrl+Z takes it back."


@action()
def enter_instead(context: Context, wish: Reading) -> str:
    """Let a cell hold another reading of what was entered there; the selection stays."""
    sheet, cell = context.sheet, Cell.parse(wish.to)
    if wish.offered != context.opened.revision:
        raise DreieckError(
            f"The workbook has changed since this was offered. Go to {cell.text} and enter it"
            " there."
        )
    entry = _keep(context, sheet, cell, wish.says)
    if isinstance(entry.content, str):
        return f"{cell.text} holds text now."
    locale = context.opened.workbook.locale
    return f"{cell.text} holds {typed_text(entry.content, cell, sheet.look(cell), locale)} now."


def _keep(context: Context, sheet: Sheet, cell: Cell, text: str) -> Entry:
    """Keep typed text in a cell, if it changes anything; tell how it was understood."""
    entry, content, look = entered(context.opened.workbook, cell, text, sheet.look(cell))
    if isinstance(content, str) and "\n" in content:
        look = replace(look, style=replace(look.style, wrap=True))
    if (sheet.content(cell), sheet.look(cell)) != (content, look):
        edit = SetCells.of(sheet.id, {cell: (content, look)})
        context.change(f"entry in {cell.text}", edit, *_room_for_lines(context, sheet, cell, edit))
    return entry


def _room_for_lines(context: Context, sheet: Sheet, cell: Cell, edit: SetCells) -> list[Edit]:
    """The edit that makes a row high enough for a text of several lines, where it is not."""
    content = edit.runs[0].content
    if not isinstance(content, str) or "\n" not in content:
        return []
    calculation = context.opened.calculation.with_edits([edit])
    needed = fitting_height(calculation, calculation.workbook.sheet(sheet.name), cell.row)
    if (needed or 0) <= (sheet.layout.rows.at(cell.row).size or USUAL_SIZES["row"]):
        return []
    return [laying_out.fitted(sheet, [Lines("row", cell.row, 1)], {cell.row: needed})]


@action()
def draw_again(context: Context) -> str:
    """Draw all numbers of the workbook anew that are drawn by chance."""
    context.change("numbers drawn again", SetSeed(next_seed(context.opened.workbook.seed)))
    return "Drawn again. Ctrl+Z brings the numbers back that were there before."


@action()
def clear(context: Context) -> str:
    """Empty the selected cells; their looks stay."""
    sheet, places = context.sheet, context.state.places
    if sum(sheet.count(area) for area in places) > MAX_FILL:
        raise DreieckError(f"At most {MAX_FILL:,} cells can be cleared at once.")
    cells = {cell: (None, sheet.look(cell)) for area in places for cell, _ in sheet.filled(area)}
    if cells:
        context.change(f"clearing of {addresses(places)}", SetCells.of(sheet.id, cells))
    return ""


@action()
def enter_in_all(context: Context) -> str:
    """Keep what is written in all cells that were selected; a formula as a fill would put it."""
    state, sheet = context.state, context.home
    if state.text is None or state.rule_for or state.proving >= 0:
        return enter(context, Move())
    cell = context.writing_cell
    areas = [Area.parse(each) for each in state.over.split(",") if each] or [Area.of(cell)]
    for area in areas:
        check_target(area)
    entry, content, look = entered(context.opened.workbook, cell, state.text, sheet.look(cell))
    over = state.over
    if isinstance(content, Shape):
        edit = same_shape(sheet, areas, content)
    else:
        cells = {each: sheet.look(each) for area in areas for each in area.cells()}
        if look != cells[cell]:
            # A percent sign that was typed, say, is meant for all of them.
            cells = {
                each: replace(own, form=look.form, decimals=look.decimals)
                for each, own in cells.items()
            }
        edit = SetCells.of(sheet.id, {each: (content, own) for each, own in cells.items()})
    context.change(f"entry in {addresses(areas)}", edit)
    state.stop_writing()
    state.sheet = sheet.id
    state.select(areas[-1])
    state.also = over.rpartition(",")[0]
    context.insists = bool(entry.problem)
    count = sum(area.size for area in areas)
    return f"Kept in {many(count, 'cell')}: {addresses(areas)}." if count > 1 else ""


def _one_area(state: PageState) -> Area | None:
    """The area in which entries go round, if one was selected when this one was begun."""
    return Area.parse(state.over) if state.over and "," not in state.over else None


def next_within(area: Area, cell: Cell, move: Towards) -> Cell:
    """The cell of an area that comes after one, or before it, round and round."""
    axis, step = _STEPS[move]
    width, height = area.width, area.height
    across, down = cell.column - area.left, cell.row - area.top
    if axis == "row":
        index = (across * height + down + step) % area.size
        across, down = divmod(index, height)
    else:
        index = (down * width + across + step) % area.size
        down, across = divmod(index, width)
    return Cell(area.left + across, area.top + down)


def _step(state: PageState, sheet: Sheet, wish: Move) -> None:
    """Go on to the next cell, past what is hidden; in a selected area to its next one."""
    if wish.move and state.selection.size > 1 and not state.also:
        state.inner = next_within(state.selection, state.active, wish.move).text
        state.reveal, state.step = state.inner, ""
    elif wish.move:
        axis, step = _STEPS[wish.move]
        here = Cell.parse(state.anchor)
        there = sheet.layout.on(axis).next_shown(here.on(axis) + step, step)
        if 1 <= there <= LAST[axis]:
            state.stand(here.step(axis, there - here.on(axis)))
        state.reveal, state.step = state.anchor, ""
