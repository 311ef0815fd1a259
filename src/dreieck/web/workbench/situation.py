"""What the hands are at: the formula in question, its start, its landing, its block."""

from __future__ import annotations

from functools import cached_property

from dreieck.core.analysis.reads import read_names
from dreieck.core.budget import current
from dreieck.core.calculate import Block, Calculation, Dependents, block_at, dependents, look_of
from dreieck.core.calculate.blocks import patches_in
from dreieck.core.checking.findings import Finding, block_findings
from dreieck.core.checking.trial import Trial, tried
from dreieck.core.editing.entering import entered
from dreieck.core.editing.fill import Fill, plan_fill
from dreieck.core.editing.stating import on_sheets
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Mention, Shape, mentions
from dreieck.core.formula.reference import firsts, lettered
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Content, Entry, Unreadable, typed_text
from dreieck.core.sheet.layout import Rule
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import Proof
from dreieck.core.values import UNFINISHED, Place, Value
from dreieck.core.values.look import PLAIN, Look, shown_text
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.finding_cache import breaks_on, findings_of
from dreieck.web.workbench.page_state import PageState, held
from dreieck.web.workbench.proof_cache import Turned, turned

_MAX_BLOCKS = 40
"""So many blocks of one fill are looked at."""


class Situation:
    """One page's state, looked up in its workbook. Raises DreieckError for unusable state."""

    def __init__(self, opened: OpenWorkbook, state: PageState) -> None:
        self.opened = opened
        self.workbook = opened.workbook
        self.sheet: Sheet = self.workbook.sheet_by_id(state.sheet)
        """The sheet that is shown."""
        self.home = self.workbook.sheet_by_id(state.home) if state.home else self.sheet
        """The sheet of the formula in question: the one that is written or rehearsed on."""
        self.state = state
        self.selection = state.selection
        self.active = state.active
        self.written: Entry | None = None
        self.fill: Fill | None = None
        self.refusal: str | None = None
        try:
            self._plan()
        except DreieckError as error:
            self.refusal = str(error)

    def _plan(self) -> None:
        """Understand what is written, and plan the rehearsal; writing is one of one cell."""
        state = self.state
        if self.writing:
            self.written = self.workbook.read_entry(state.text or "", self.writing_cell)
        if self.rehearsing:
            source, target = Area.parse(state.source), Area.parse(state.target)
        elif self.writing:
            source = target = Area.of(self.writing_cell)
        else:
            return
        if self.rule_area or self.state.proving >= 0:
            return
        contents = {self.writing_cell: self.written.content} if self.written else {}
        if self.rehearsing or contents[self.writing_cell] is not None:
            self.fill = plan_fill(
                self.workbook,
                self.home.id,
                source,
                target,
                contents,
                values=state.values,
                looks_travel=not state.bare,
            )

    @property
    def writing(self) -> bool:
        """Whether something is being written."""
        return self.state.text is not None

    @property
    def rehearsing(self) -> bool:
        """Whether a fill is rehearsed."""
        return bool(self.state.target)

    @cached_property
    def rule_area(self) -> Area | None:
        """The area of the rule whose condition is being written."""
        return Area.parse(self.state.rule_for) if self.writing and self.state.rule_for else None

    @cached_property
    def rule(self) -> Rule | None:
        """The rule that is being written, as far as its condition can be read."""
        if not self.rule_area or not self.written or not isinstance(self.written.content, Shape):
            return None
        return Rule(self.rule_area, self.written.content, self.state.rule_tone)

    @cached_property
    def proof(self) -> Proof | None:
        """The proof that is being written, as far as its statement can be read."""
        content = self.written.content if self.written else None
        if self.state.proving < 0 or not self.writing or not isinstance(content, Shape):
            return None
        return Proof(self.state.proving, on_sheets(content, self.home))

    @cached_property
    def turned(self) -> list[Turned]:
        """The proofs that would turn with what is rehearsed or tried."""
        if not self.trial and not (self.rehearsing and self.fill):
            return []
        return turned(self.opened, self.calculation)

    @cached_property
    def writing_cell(self) -> Cell:
        """The cell that is written into."""
        return self.state.writing_cell

    @cached_property
    def calculation(self) -> Calculation:
        """The values as they are, or as they would be with what is written or rehearsed."""
        if self.trial:
            return self.trial.calculation
        calculation = self.opened.calculation
        return calculation.with_edits([self.fill.edit()]) if self.fill else calculation

    @cached_property
    def trial(self) -> Trial | None:
        """The trial value that a cell holds, with what comes of it."""
        place = self.tried_place
        if place is None:
            return None
        sheet = self.workbook.sheet(place.sheet)
        made = entered(self.workbook, place.cell, self.state.trial, sheet.look(place.cell))
        return tried(self.opened.calculation, sheet, place.cell, made.content)

    @cached_property
    def tried_place(self) -> Place | None:
        """The cell that holds a trial value."""
        found = held(self.state.tried_at) if self.state.trying else None
        if found is None:
            return None
        sheets = (each for each in self.workbook.sheets if each.id == found[0])
        return next((Place(each.name, Cell.parse(found[1])) for each in sheets), None)

    @property
    def is_input(self) -> bool:
        """Whether the selected cell holds a plain value that can be tried out."""
        held = self.sheet.content(self.active)
        single = self.selection.size == 1 and not self.writing and not self.rehearsing
        return single and isinstance(held, float | bool)

    @cached_property
    def block(self) -> Block | None:
        """The block of the selected cell, unless something is written or rehearsed."""
        if self.writing or self.rehearsing:
            return None
        return block_at(self.sheet, self.active)

    @cached_property
    def fan(self) -> Area | None:
        """The cells that one formula fills, among them the selected one, with its cell first."""
        if self.writing or self.rehearsing:
            return None
        found = self.opened.calculation.fans_in(self.sheet.name, Area.of(self.active))
        return found[0] if found else None

    @cached_property
    def start(self) -> Cell:
        """The start of the fill or block in question."""
        if self.rehearsing and self.fill:
            return self.fill.start_of(self.here)
        if self.block:
            return self.block.start
        return self.writing_cell if self.writing else self.active

    @cached_property
    def here(self) -> Cell:
        """The landing in question: the one that is looked at, or the far corner."""
        if self.rehearsing and self.fill:
            return self._landing_in(self.fill.target) or self.far_corner
        if self.rule:
            return self._landing_in(self.rule.area) or self.rule.area.last
        return self.writing_cell if self.writing else self.active

    def _landing_in(self, area: Area) -> Cell | None:
        """The landing that is looked at, if it is one of an area."""
        landing = Cell.parse(self.state.landing) if self.state.landing else None
        return landing if landing and area.holds(landing) else None

    @cached_property
    def far_corner(self) -> Cell:
        """The corner of the rehearsed area that is farthest from the source."""
        assert self.fill
        source, target = self.fill.source, self.fill.target
        column = target.left if target.left < source.left else target.right
        return Cell(column, target.top if target.top < source.top else target.bottom)

    @cached_property
    def shape(self) -> Shape | None:
        """The formula in question."""
        if self.rule:
            return self.rule.shape
        if self.proof:
            return self.proof.shape
        content = self.content_at(self.start)
        return content if isinstance(content, Shape) else None

    def content_at(self, cell: Cell) -> Content | None:
        """What a cell of the sheet in question holds, or would hold."""
        return self.calculation.workbook.content(self.home.name, cell)

    @cached_property
    def desk_cell(self) -> Cell:
        """The cell whose entry stands on the desk."""
        return self.start if self.rehearsing or self.rule else self.here

    @cached_property
    def desk_text(self) -> str:
        """The entry on the desk, as it would be typed."""
        if self.state.text is not None:
            return self.state.text
        cell, look = self.desk_cell, self.home.look(self.desk_cell)
        return typed_text(self.content_at(cell), cell, look, self.workbook.locale)

    @cached_property
    def mentions(self) -> list[Mention]:
        """The references written on the desk."""
        cell = self.writing_cell if self.writing else self.desk_cell
        return mentions(self.desk_text, cell)

    @cached_property
    def letters(self) -> tuple[int, ...]:
        """The numbers of their letter tags; equal references share one."""
        return lettered(mention.reference for mention in self.mentions)

    @property
    def distinct(self) -> tuple[int, ...]:
        """The first reference with each letter tag, by its number."""
        return firsts(self.letters)

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """What is in doubt or broken about the block, or would be with the fill."""
        if current().hurried:
            return ()
        if self.rehearsing and self.fill:
            sheet = self.calculation.workbook.sheet_by_id(self.fill.sheet_id)
            every = (block_findings(self.calculation, sheet, b) for b in self._filled(sheet))
            return tuple(finding for found in every for finding in found)
        return findings_of(self.opened, self.sheet, self.block) if self.block else ()

    def _filled(self, sheet: Sheet) -> list[Block]:
        """The blocks that a fill leads to, the one of its source first."""
        assert self.fill is not None
        found: dict[Cell, Block] = {}
        source, target = self.fill.source, self.fill.target
        areas = (patch.area.common(target) for _, patch in patches_in(sheet, target))
        for cell in (source.first, *(area.first for area in areas if area)):
            block = block_at(sheet, cell)
            if block and len(found) < _MAX_BLOCKS:
                found.setdefault(block.start, block)
        return list(found.values())

    @cached_property
    def rest(self) -> tuple[Area, ...]:
        """What would be left of an older, larger fill from the same start."""
        fill = self.fill
        if not self.rehearsing or not fill or fill.source.size > 1:
            return ()
        block = block_at(self.home, fill.source.first)
        if not block or len(block.parts) > 1 or block.start != fill.source.first:
            return ()
        area, target = block.area, fill.target
        below = area._replace(top=target.bottom + 1)
        beside = area._replace(left=target.right + 1, bottom=min(area.bottom, target.bottom))
        return tuple(
            part for part in (below, beside) if part.top <= part.bottom and part.left <= part.right
        )

    @cached_property
    def pattern(self) -> tuple[Finding, ...]:
        """What is in doubt about the pattern around the selected cell."""
        if self.writing or self.rehearsing or self.selection.size > 1:
            return ()
        return tuple(
            finding
            for finding in breaks_on(self.opened, self.sheet)
            if any(area.holds(self.active) for area in finding.areas)
        )

    @cached_property
    def names(self) -> list[Named]:
        """The names that the formula in question uses, in their order."""
        if self.shape is None:
            return []
        keys = dict.fromkeys(name.casefold() for name in read_names(self.shape))
        return [self.workbook.names[key] for key in keys if key in self.workbook.names]

    @cached_property
    def dependents(self) -> Dependents | None:
        """Who reads the selected cell, if it is one that holds something."""
        single = self.selection.size == 1 and not self.writing and not self.rehearsing
        is_filled = self.sheet.content(self.active) is not None or self.fan
        if not single or not is_filled or self.block_is_filled:
            return None
        return dependents(self.opened.calculation, Place(self.sheet.name, self.active))

    @property
    def block_is_filled(self) -> bool:
        """Whether the selected cell belongs to a block of several cells."""
        return bool(self.block and self.block.size > 1)

    def value(self, cell: Cell, sheet: str | None = None) -> Value:
        """The value of a cell, or what it would be."""
        return self.calculation.value(sheet or self.home.name, cell)

    def shown_value(self, cell: Cell, sheet: str | None = None) -> str:
        """The value of a cell as text; ``empty`` where there is none."""
        name = sheet or self.home.name
        if not self.workbook.has_sheet(name):
            return "no such sheet"
        content = self.calculation.workbook.content(name, cell)
        look = look_of(content, self.workbook.sheet(name).look(cell))
        if isinstance(content, Unreadable):
            return "unreadable"
        value = self.value(cell, name)
        return "…" if value is UNFINISHED else self.text_of(value, look, 14) or "empty"

    def text_of(self, value: Value, look: Look = PLAIN, room: int = 40) -> str:
        """The text that shows a value in this workbook."""
        return shown_text(value, look, room, self.workbook.locale)
