"""What can be done with cells on the workbench: enter, clear, fill, lock, go, look."""

from __future__ import annotations

from dreieck.core.calculate.chance import next_seed
from dreieck.core.editing.entering import entered
from dreieck.core.editing.fill import MAX_FILL
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.locks import Relocked, mention_at, relock
from dreieck.core.formula.printer import split_sheet
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Entry, typed_text
from dreieck.core.sheet.edits import SetCells, SetSeed
from dreieck.core.sheet.sheet import Sheet
from dreieck.web.workbench.actions.hands import Hands, action
from dreieck.web.workbench.situation import Situation
from dreieck.web.workbench.state import MAX_PLACES, Bench, Wish, said

_MOVES = {"down": (0, 1), "up": (0, -1), "right": (1, 0), "left": (-1, 0)}


@action
def show(hands: Hands) -> str:
    """Show the page's state and nothing else."""
    return ""


@action
def enter(hands: Hands) -> str:
    """Keep what is written, and move the selection."""
    wish, sheet = hands.wish, hands.home
    if wish.text is None:
        _step(wish)
        return ""
    cell = hands.writing_cell
    entry = _keep(hands, sheet, cell, wish.text)
    wish.stop_writing()
    if sheet.id != wish.sheet:
        wish.sheet, wish.insists = sheet.id, True
    wish.select(Area.of(cell))
    if entry.problem:
        wish.insists = True
        return ""
    _step(wish)
    hands.offers.extend((cell.text, other) for other in entry.others)
    if entry.brackets_added == 1:
        return f"{cell.text}: a closing bracket was missing at the end and has been added."
    if entry.brackets_added:
        return f"{cell.text}: {entry.brackets_added} closing brackets were added at the end."
    return f"{cell.text} was taken for {entry.taken}." if entry.taken else ""


@action
def enter_instead(hands: Hands) -> str:
    """Let a cell hold another reading of what was entered there; the selection stays."""
    sheet, cell = hands.sheet, Cell.parse(hands.wish.to)
    if hands.wish.offered != hands.opened.revision:
        raise DreieckError(
            f"The workbook has changed since this was offered. Go to {cell.text} and enter it"
            " there."
        )
    entry = _keep(hands, sheet, cell, hands.wish.says)
    if isinstance(entry.content, str):
        return f"{cell.text} holds text now."
    return f"{cell.text} holds {typed_text(entry.content, cell, sheet.look(cell))} now."


def _keep(hands: Hands, sheet: Sheet, cell: Cell, text: str) -> Entry:
    """Keep typed text in a cell, if it changes anything; tell how it was understood."""
    entry, content, look = entered(hands.opened.workbook, cell, text, sheet.look(cell))
    if (sheet.content(cell), sheet.look(cell)) != (content, look):
        edit = SetCells.of(sheet.id, {cell: (content, look)})
        hands.change(f"entry in {cell.text}", edit)
    return entry


@action
def draw_again(hands: Hands) -> str:
    """Draw all numbers of the workbook anew that are drawn by chance."""
    hands.change("numbers drawn again", SetSeed(next_seed(hands.opened.workbook.seed)))
    return "Drawn again. Ctrl+Z brings the numbers back that were there before."


@action
def clear(hands: Hands) -> str:
    """Empty the selected cells; their looks stay."""
    sheet, places = hands.sheet, hands.wish.places
    if sum(sheet.count(area) for area in places) > MAX_FILL:
        raise DreieckError(f"At most {MAX_FILL:,} cells can be cleared at once.")
    cells = {cell: (None, sheet.look(cell)) for area in places for cell, _ in sheet.filled(area)}
    if cells:
        hands.change(f"clearing of {said(places)}", SetCells.of(sheet.id, cells))
    return ""


@action
def undo(hands: Hands) -> str:
    """Take the last action back."""
    hands.wish.drop_rehearsal()
    label = hands.opened.undo(hands.wish.revision)
    return f"Taken back: {label}." if label else "There is nothing to undo."


@action
def redo(hands: Hands) -> str:
    """Make the last action again that was taken back."""
    hands.wish.drop_rehearsal()
    label = hands.opened.redo(hands.wish.revision)
    return f"Made again: {label}." if label else "There is nothing to redo."


@action
def lock(hands: Hands) -> str:
    """Set what of a reference stays; an index below 0 means the one at the caret.

    In a formula that is being written its text changes. In a kept formula the change is
    rehearsed over its whole block, or kept at once where the block is one cell.
    """
    wish, situation = hands.wish, hands.situation()
    at, text = formula_at_hand(situation)
    index = wish.index if wish.index >= 0 else mention_at(text, at, wish.caret)
    changed = relock(text, at, index, wish.axis, wish.hold)
    if changed is None:
        return "There is no reference here whose lock could be switched."
    rewrite(hands, situation, changed)
    return ""


def formula_at_hand(situation: Situation) -> tuple[Cell, str]:
    """The cell of the formula in question, and its text: the start of a fill or block."""
    at = situation.writing_cell if situation.writing else situation.start
    text = situation.bench.text
    return at, typed_text(situation.content_at(at), at) if text is None else text


def rewrite(hands: Hands, situation: Situation, changed: Relocked) -> None:
    """Give the formula in question other locks: while written, rehearsed, or kept."""
    wish, (at, _) = hands.wish, formula_at_hand(situation)
    block, here = situation.block, situation.here
    if block and block.size == 1:
        entry = hands.opened.workbook.read_entry(changed.text, at)
        edit = SetCells.of(hands.home.id, {at: (entry.content, situation.home.look(at))})
        hands.change(f"locks of {at.text}", edit)
        return
    wish.flipped = wish.flipped or not situation.writing
    wish.writing, wish.text, wish.caret = at.text, changed.text, changed.caret
    if block:
        wish.source = at.text
        wish.rehearse(block.area)
        wish.landing = "" if here == at else here.text


@action
def jump(hands: Hands) -> str:
    """Jump to the edge of the data; widening keeps the other end of the selection."""
    wish = hands.wish
    origin = Cell.parse(wish.focus if wish.widen else wish.anchor)
    edge = hands.sheet.edge(origin, wish.columns, wish.rows)
    if wish.widen:
        wish.focus = edge.text
    else:
        wish.stand(edge)
    wish.reveal, wish.step = edge.text, ""
    return ""


@action
def go_to(hands: Hands) -> str:
    """Select what an address, or several with commas, names.

    While something is written it is only brought into view.
    """
    wish, workbook = hands.wish, hands.opened.workbook
    further: list[Area] = []
    named = workbook.names.get(wish.to.strip().casefold())
    if named and named.place:
        name, area = named.place
        sheet = workbook.sheet(name)
    else:
        home, address = split_sheet(wish.to)
        sheet = hands.sheet if home is None else workbook.sheet(home)
        *further, area = [Area.parse(each) for each in address.split(",")]
    if wish.text is None and not wish.target:
        hands.show_sheet(sheet, area)
        wish.also = ",".join(each.text for each in further[:MAX_PLACES])
        wish.step = ""
    else:
        hands.show_sheet(sheet)
    wish.reveal = area.first.text
    return ""


@action
def look_at(hands: Hands) -> str:
    """Look at one landing."""
    _look_at(hands.wish, Cell.parse(hands.wish.to))
    return ""


@action
def walk(hands: Hands) -> str:
    """Look at the landing so many ``rows`` further in reading order, round and round."""
    wish, situation = hands.wish, hands.situation()
    if situation.rehearsing and situation.fill:
        area, here = situation.fill.target, situation.here
        index = (here.row - area.top) * area.width + here.column - area.left + wish.rows
        row, column = divmod(index % area.size, area.width)
        _look_at(wish, Cell(area.left + column, area.top + row))
    elif situation.block:
        _look_at(wish, situation.block.stepped(situation.here, wish.rows))
    else:
        return "The selected cell holds no formula, so there are no landings to walk."
    return ""


def _look_at(bench: Bench, landing: Cell) -> None:
    bench.reveal = landing.text
    if bench.target:
        bench.landing = landing.text
    else:
        bench.stand(landing)


def _step(wish: Wish) -> None:
    if wish.move:
        cell = Cell.parse(wish.anchor).moved(*_MOVES[wish.move])
        if cell.on_sheet:
            wish.stand(cell)
        wish.reveal, wish.step = wish.anchor, ""
