"""Going to cells, areas and landings, and looking at them."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from dreieck.core.formula.printer import split_sheet
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.web.workbench.actions.context import Context, Effect, Steps, To, action
from dreieck.web.workbench.page_state import MAX_PLACES, PageState


@action()
def show(context: Context) -> str:
    """Show the page's state and nothing else."""
    return ""


@action(Effect.MOVES)
def jump(context: Context, wish: Steps) -> str:
    """Jump to the edge of the data; widening keeps the other end of the selection."""
    state = context.state
    origin = Cell.parse(state.focus if wish.widen else state.anchor)
    _reach(state, context.sheet.edge(origin, wish.columns, wish.rows), widen=wish.widen)
    return ""


class Far(BaseModel):
    """The end of what is filled in the ``row`` or on the ``sheet``."""

    end: Literal["row", "sheet"] = "row"
    widen: bool = False


@action(Effect.MOVES)
def go_far(context: Context, wish: Far) -> str:
    """Go to the last cell that is filled, in the row or on the sheet."""
    state, sheet = context.state, context.sheet
    here = Cell.parse(state.focus if wish.widen else state.anchor)
    used = context.opened.calculation.used(sheet.name) or Area.of(here)
    if wish.end == "sheet":
        last = used.last
    else:
        in_row = used._replace(top=here.row, bottom=here.row)
        calculation = context.opened.calculation
        filled = [cell.column for cell, _ in calculation.filled_values(sheet.name, in_row)]
        last = Cell(max(filled, default=1), here.row)
    _reach(state, last, widen=wish.widen)
    return ""


@action(Effect.MOVES)
def select_all(context: Context) -> str:
    """Select all that is filled, or the whole sheet where that is selected already."""
    state = context.state
    used = context.opened.calculation.used(context.sheet.name)
    whole = Area(1, 1, MAX_COLUMN, MAX_ROW)
    area = whole if used is None or state.selection == used else used
    state.anchor, state.focus, state.inner, state.also = area.first.text, area.last.text, "", ""
    return ""


@action(Effect.MOVES)
def go_to(context: Context, wish: To) -> str:
    """Select what an address, or several with commas, names.

    While something is written it is only brought into view.
    """
    state, workbook = context.state, context.opened.workbook
    further: list[Area] = []
    named = workbook.names.get(wish.to.strip().casefold())
    if named and named.place:
        name, area = named.place
        sheet = workbook.sheet(name)
    else:
        home, address = split_sheet(wish.to)
        sheet = context.sheet if home is None else workbook.sheet(home)
        *further, area = [Area.parse(each) for each in address.split(",")]
    if state.text is None and not state.target:
        context.show_sheet(sheet, area)
        state.also = ",".join(each.text for each in further[:MAX_PLACES])
        state.step = ""
    else:
        context.show_sheet(sheet)
    state.reveal = area.first.text
    return ""


@action(Effect.MOVES)
def look_at(context: Context, wish: To) -> str:
    """Look at one landing."""
    _look_at(context.state, Cell.parse(wish.to))
    return ""


@action(Effect.MOVES)
def walk(context: Context, wish: Steps) -> str:
    """Look at the landing so many ``rows`` further in reading order, round and round."""
    state, situation = context.state, context.situation()
    if situation.rehearsing and situation.fill:
        area, here = situation.fill.target, situation.here
        index = (here.row - area.top) * area.width + here.column - area.left + wish.rows
        row, column = divmod(index % area.size, area.width)
        _look_at(state, Cell(area.left + column, area.top + row))
    elif situation.block:
        _look_at(state, situation.block.stepped(situation.here, wish.rows))
    else:
        return "The selected cell holds no formula, so there are no landings to walk."
    return ""


def _reach(state: PageState, cell: Cell, *, widen: bool) -> None:
    """Select a cell, or everything up to it."""
    if widen:
        state.focus = cell.text
    else:
        state.stand(cell)
    state.reveal, state.step = cell.text, ""


def _look_at(state: PageState, landing: Cell) -> None:
    state.reveal = landing.text
    if state.target or state.rule_for:
        state.landing = landing.text
    else:
        state.stand(landing)
