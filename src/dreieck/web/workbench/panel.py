"""The panel: the step that the hands are at, and what it needs to show."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from dreieck.core.calculate import Block, Dependents, look_of
from dreieck.core.checking.likely import Likely, likely_locks
from dreieck.core.editing.fill import Fill, can_count_on
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.formula.shift import circled
from dreieck.core.functions import Trait, calls
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Entry, Unreadable
from dreieck.core.values import UNFINISHED, Error, Place
from dreieck.core.values.decimals import joined_text
from dreieck.core.values.formats import TYPED_TEXT, read_number
from dreieck.core.values.locales import neutral, typed_again
from dreieck.core.words.counting import many
from dreieck.core.words.explain import Explanation, explain
from dreieck.web.workbench.actions.offers import Offer, other_readings
from dreieck.web.workbench.chart_card import ChartCard, chart_card
from dreieck.web.workbench.desk import Card, Desk, moved_text
from dreieck.web.workbench.feeds_shown import FeedShown, feeds_here
from dreieck.web.workbench.findings_shown import Found, States, elsewhere, found, states_of
from dreieck.web.workbench.proofs_shown import (
    ProofWritten,
    TurnedShown,
    proof_written,
    turned_shown,
)
from dreieck.web.workbench.rules_shown import RuleShown, RuleWritten, rule_written, rules_here
from dreieck.web.workbench.situation import Situation
from dreieck.web.workbench.trial_shown import TrialShown, trial_shown
from dreieck.web.workbench.working_shown import WorkingShown, working_shown

TILE_COLUMNS = 8
TILE_ROWS = 10
_NAMED = 6
_NAMES = 24


@dataclass(frozen=True)
class Tile:
    """One landing in the miniature; ``cell`` is None where the block has a gap."""

    cell: str | None
    state: str
    says: str


@dataclass(frozen=True)
class Row:
    """One reference in the shift log."""

    card: Card
    moved: str


@dataclass(frozen=True)
class Panel:
    """What the panel shows. ``step`` is "write", "fill" or "check"."""

    step: str
    cell: str
    writing: bool
    would_give: str
    problem: str
    problem_before: str
    problem_at: str
    problem_after: str
    title: str
    landings: int
    target: str
    occupied: str
    here: str
    rows: list[Row]
    tiles: list[list[Tile]]
    part_shown: str
    counts: dict[str, int]
    rehearsing: bool
    value: str
    holds: str
    error: Explanation | None
    error_began: str
    dependents: Dependents | None
    dependent_areas: list[str]
    perhaps: list[str]
    waits: bool
    bare: bool
    is_input: bool
    tried: str
    trial: TrialShown | None
    aiming: int
    aiming_tag: str
    aimed_at: str
    advice: list[Likely]
    advising: bool
    counting: str
    rest: str
    findings: list[Found]
    on_sheet: list[Found]
    taken: str
    readings: list[Offer]
    draws: bool
    is_formula: bool
    in_numbers: bool
    working: WorkingShown | None
    names: list[str]
    feeds: list[FeedShown]
    rule: RuleWritten | None
    rules: list[RuleShown]
    proof: ProofWritten | None
    turned: list[TurnedShown]
    chart: ChartCard | None


def panel(situation: Situation, desk: Desk) -> Panel:
    """The panel of a situation."""
    fill = situation.fill if situation.rehearsing else None
    block = situation.block
    landings, counts = _landings(situation)
    tiles, part = _tiles(situation)
    before, at, after, problem = _problem(situation)
    explanation, began = _error(situation)
    area = fill.target if fill else block.area if block else None
    entry = _two_readings(situation)
    dependents = situation.dependents
    return Panel(
        step=_step(situation),
        cell=situation.desk_cell.text,
        writing=situation.writing,
        would_give=_would_give(situation),
        problem=problem,
        problem_before=before,
        problem_at=at,
        problem_after=after,
        title=area.text if area else "",
        landings=landings,
        target=situation.state.target or (block.area.text if block else ""),
        occupied=_occupied(fill) if fill else "",
        here=situation.here.text,
        rows=[Row(card, _moved(card)) for card in desk.cards],
        tiles=tiles,
        part_shown=part,
        counts=counts,
        rehearsing=bool(fill),
        value=_value(situation),
        holds=_holds(situation),
        error=explanation,
        error_began=began,
        dependents=dependents,
        dependent_areas=_areas(dependents.direct if dependents else (), situation),
        perhaps=_areas(dependents.perhaps if dependents else (), situation),
        waits=situation.state.wait,
        bare=situation.state.bare,
        is_input=situation.is_input,
        tried=place_text(Place(situation.sheet.name, situation.active)),
        trial=trial_shown(situation),
        aiming=situation.state.aiming,
        aiming_tag=circled(situation.letters[situation.state.aiming])
        if 0 <= situation.state.aiming < len(situation.letters)
        else "",
        aimed_at=situation.state.aimed_at.partition(" ")[2],
        advice=_advice(situation),
        advising=situation.state.advice,
        counting=_counting(fill),
        rest=", ".join(area.text for area in situation.rest),
        findings=found(situation),
        on_sheet=_on_sheet(situation),
        taken=entry.taken if entry else "",
        readings=_readings(situation, entry),
        draws=_draws(situation),
        is_formula=situation.shape is not None,
        in_numbers=situation.state.working,
        working=working_shown(situation),
        names=_names(situation),
        feeds=feeds_here(situation),
        rule=rule_written(situation),
        rules=rules_here(situation),
        proof=proof_written(situation),
        turned=turned_shown(situation),
        chart=chart_card(situation),
    )


def _two_readings(situation: Situation) -> Entry | None:
    """The entry that is written, or a text in the cell in question, if it has two readings."""
    if situation.rehearsing:
        return None
    if situation.writing:
        return situation.written
    content = situation.content_at(situation.here)
    # What was typed as text on purpose, behind an apostrophe, has one reading only.
    on_purpose = situation.home.look(situation.here).form in ("text", TYPED_TEXT)
    if not isinstance(content, str) or on_purpose or situation.desk_text != content:
        return None
    return situation.workbook.read_entry(content, situation.here)


def _readings(situation: Situation, entry: Entry | None) -> list[Offer]:
    """The other readings of what a cell holds; what is still written has none yet."""
    if entry is None or situation.writing:
        return []
    return other_readings(situation.desk_cell, entry.others, situation.opened.revision)


def _draws(situation: Situation) -> bool:
    """Whether the formula in question draws by chance, itself or by a name."""
    shapes = [situation.shape, *(named.shape for named in situation.names)]
    drawn = any(calls(shape.tree, Trait.DRAWS) for shape in shapes if shape)
    return drawn and not situation.writing


def _names(situation: Situation) -> list[str]:
    """The names that can be put into the formula that is written."""
    if not situation.writing or situation.rehearsing or not situation.desk_text.startswith("="):
        return []
    names = sorted(situation.workbook.names.values(), key=lambda each: each.key)
    return [each.name for each in names[:_NAMES]]


def _advice(situation: Situation) -> list[Likely]:
    """The likely locks of what is rehearsed or filled, if they are asked for."""
    if not situation.state.advice or not situation.shape:
        return []
    fill, block = situation.fill, situation.block
    target = fill.target if fill and situation.rehearsing else block.area if block else None
    if target is None or target.size < 2:
        return []
    calculation = situation.opened.calculation
    return likely_locks(calculation, situation.home, situation.start, situation.shape, target)


def _counting(fill: Fill | None) -> str:
    """Whether the plain values of a rehearsal count on or are copied; empty if they cannot."""
    if not fill or not can_count_on(fill):
        return ""
    return "count on" if fill.lines else "copy"


def _on_sheet(situation: Situation) -> list[Found]:
    """The findings of the sheet, where the panel checks and no formula is in question."""
    busy = situation.writing or situation.rehearsing or situation.block
    return [] if busy or _step(situation) != "check" else elsewhere(situation)


def _step(situation: Situation) -> str:
    if situation.state.step:
        return situation.state.step
    if situation.rehearsing:
        return "fill"
    if situation.block_is_filled:
        return "check"
    return "write"


def _would_give(situation: Situation) -> str:
    entry, begun = situation.written, situation.desk_text.strip() == "="
    if not entry or entry.problem or not situation.fill or begun:
        return ""
    # What goes on being written is no error yet.
    if entry.brackets_added and isinstance(situation.value(situation.writing_cell), Error):
        return ""
    return situation.shown_value(situation.writing_cell)


def _value(situation: Situation) -> str:
    """The value of the cell in question."""
    if situation.value(situation.here) is UNFINISHED:
        return "… it is still being worked out"
    return situation.shown_value(situation.here)


def _holds(situation: Situation) -> str:
    """The number in the cell in question, where its look shows another one, or no plain one."""
    value, shown = situation.value(situation.here), situation.shown_value(situation.here)
    content = situation.content_at(situation.here)
    form = look_of(content, situation.home.look(situation.here)).form
    if not isinstance(value, float) or form == "general":
        return ""
    locale = situation.workbook.locale
    told = neutral(shown, locale) if locale else None
    is_plain = form in ("number", "grouped") and read_number(told or shown) == value
    text = joined_text(value)
    return "" if is_plain else typed_again(text, "general", locale) if locale else text


def _error(situation: Situation) -> tuple[Explanation | None, str]:
    """The error of the cell in words, and where it began if that is another cell."""
    value = situation.value(situation.here)
    is_unreadable = isinstance(situation.content_at(situation.here), Unreadable)
    waits = value is UNFINISHED
    if not isinstance(value, Error) or waits or is_unreadable or situation.writing:
        return None, ""
    began = value.origin
    here = Place(situation.home.name, situation.here)
    return explain(value), "" if began in (None, here) or began is None else place_text(began)


def _areas(found: Sequence[tuple[str, Area]], situation: Situation) -> list[str]:
    return [
        area_text(area, None if name == situation.sheet.name else name)
        for name, area in found[:_NAMED]
    ]


def _problem(situation: Situation) -> tuple[str, str, str, str]:
    """The text before, at and after the place of a problem, and what it is."""
    text = situation.desk_text
    content = situation.content_at(situation.desk_cell)
    if situation.writing or not isinstance(content, Unreadable):
        return "", "", "", ""
    problem = situation.workbook.read_entry(text, situation.desk_cell).problem
    if problem is None:
        return "", "", "", ""
    end = problem.position + max(problem.length, 1)
    at = text[problem.position : end] or "␣"
    return text[: problem.position][-60:], at[:60], text[end:][:60], str(problem)


def _landings(situation: Situation) -> tuple[int, dict[str, int]]:
    """How many landings there are, and how many are sound, in doubt, broken."""
    if situation.rehearsing and situation.fill:
        target = situation.fill.target
        return target.size, _states(situation, (target,)).counted((target,))
    if not situation.block:
        return 0, {}
    parts = situation.block.parts
    return situation.block.size, _states(situation, parts).counted(parts)


def _states(situation: Situation, landings: Sequence[Area]) -> States:
    return states_of(situation.calculation, situation.home.name, landings, situation.findings)


def _moved(card: Card) -> str:
    columns, rows = moved_text(card.shift)
    if not card.shift.columns and not card.shift.rows:
        return "stays"
    parts = [
        said.replace(" columns", "")
        .replace(" column", "")
        .replace(" rows", "")
        .replace(" row", "")
        for said, steps in ((columns, card.shift.columns), (rows, card.shift.rows))
        if steps
    ]
    return ", ".join(parts)


def _occupied(fill: Fill) -> str:
    """How many landings hold something else now, and which."""
    cells = fill.overwritten()
    others = fill.target.size - (1 if fill.target.holds(fill.source.first) else 0)
    if not cells:
        return "The landings are empty, or hold the same already." if others else ""
    named = ", ".join(cell.text for cell in cells[:_NAMED])
    more = f" and {len(cells) - _NAMED:,} more" if len(cells) > _NAMED else ""
    verb = "holds" if len(cells) == 1 else "hold"
    return f"{many(len(cells), 'landing')} {verb} something else now: {named}{more}."


def _tiles(situation: Situation) -> tuple[list[list[Tile]], str]:
    """The landings around the one that is looked at, and a word if they are not all."""
    if situation.rehearsing and situation.fill:
        area, block = situation.fill.target, None
    elif situation.block:
        area, block = situation.block.area, situation.block
    else:
        return [], ""
    here = situation.here
    left = _first(here.column, area.left, area.right, TILE_COLUMNS)
    top = _first(here.row, area.top, area.bottom, TILE_ROWS)
    view = Area(
        left, top, min(left + TILE_COLUMNS - 1, area.right), min(top + TILE_ROWS - 1, area.bottom)
    )
    known = States.of(situation.findings, ())
    tiles = [
        [
            _tile(situation, Cell(column, row), block, known)
            for column in range(view.left, view.right + 1)
        ]
        for row in range(view.top, view.bottom + 1)
    ]
    return tiles, "" if view == area else f"{view.text} is shown; all of it is {area.text}"


def _first(here: int, low: int, high: int, room: int) -> int:
    return max(low, min(here - room // 2, high - room + 1))


def _tile(situation: Situation, cell: Cell, block: Block | None, known: States) -> Tile:
    if block and not block.holds(cell):
        return Tile(None, "gap", "")
    value = situation.value(cell)
    states = ["broken" if isinstance(value, Error) else known.of_cell(cell)]
    if cell == situation.start:
        states.append("start")
    if cell == situation.here:
        states.append("here")
    says = f"{cell.text}: {situation.text_of(value, situation.home.look(cell))}"
    return Tile(cell.text, " ".join(states), says)
