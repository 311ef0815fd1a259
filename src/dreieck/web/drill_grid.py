"""The grid of a drill: the sheet as the workbench shows it, with rails and ties."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from dreieck.core.calculate import Calculation, text_at
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import reads_on
from dreieck.core.formula.shift import tag
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.practice.misreading import differing, read_instead
from dreieck.core.practice.question import Question
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error
from dreieck.web.colours import colour_of
from dreieck.web.ties import Frame, Line, Rail, Tied, lines

_HEAD: dict[Axis, float] = {"column": 40, "row": 26}
_LEAST, _MOST, _BESIDE = 84.0, 260.0, 26.0
_LETTER, _FORMULA_LETTER, _SMALL_LETTER = 8.4, 7.4, 6.8
_ROW, _ROW_OF_BOTH = 36.0, 52.0
_BESIDE_NUMBERS, _BESIDE_FORMULAS = 0.15, 0.92
"""Where ties run in the cells: numbers stand on the right, formulas on the left."""
_ROOM, _ROOM_OF_VALUES = 26, 10
_SMALL = (9, 18)
"""Sheets of so many columns and rows are shown as a whole."""


@dataclass(frozen=True)
class DrillCell:
    """A cell: its address, what it shows, its formula where that is shown, its classes."""

    at: str
    text: str
    formula: str
    kind: str


@dataclass(frozen=True)
class Letter:
    """The letter of a reference in the corner of what it reads."""

    tag: str
    colour: int
    x: float
    y: float


@dataclass(frozen=True)
class Counted:
    """An area of the sheet of the fill that so many answers take for what is read."""

    area: Area
    count: int


@dataclass
class Lines:
    """What is drawn over the cells.

    ``yours`` are the lines to what the learner's formula reads, and ``boxes`` frames around that;
    ``counts`` tell how many answers read it so, each at a place.
    """

    rails: list[Rail] = field(default_factory=list)
    ties: list[Tied] = field(default_factory=list)
    letters: list[Letter] = field(default_factory=list)
    yours: list[tuple[float, float, float, float]] = field(default_factory=list)
    boxes: list[tuple[float, float, float, float]] = field(default_factory=list)
    counts: list[tuple[float, float, int]] = field(default_factory=list)


@dataclass(frozen=True)
class DrillGrid:
    """A sheet as it is drawn."""

    name: str
    is_home: bool
    columns: list[Line]
    rows: list[Line]
    cells: list[list[DrillCell]]
    width: float
    height: float
    lines: Lines
    target: tuple[float, float, float, float] | None


@dataclass(frozen=True)
class Figure:
    """What is drawn of formulas: a landing, what stands there rightly, and what was given."""

    landing: Cell
    right: Shape
    given: Shape | None = None


@dataclass(frozen=True)
class _Shown:
    """What is shown of a question: with a figure that tells what is right the fill is there."""

    question: Question
    figure: Figure | None
    is_answered: bool
    marks: list[Counted]
    texts: dict[tuple[int, Cell], tuple[str, str]] = field(default_factory=dict)

    @property
    def calculation(self) -> Calculation:
        """The values that are shown."""
        if not self.is_answered or self.question.form in ("lock", "find"):
            return self.question.shown
        return self.question.exercise.with_fill(self.question.exercise.shape)

    def told(self, cell: Cell) -> bool:
        """Whether what stands in a landing is shown."""
        question = self.question
        if question.planted or question.form == "lock":
            return True
        if self.is_answered and self.figure:
            return cell in (question.exercise.start, self.figure.landing)
        return question.form != "write" and cell == question.exercise.start

    @property
    def shows_formulas(self) -> bool:
        """Whether the landings show their formulas instead of their values."""
        return self.as_formula(self.figure.landing if self.figure else self.question.landing)

    def as_formula(self, cell: Cell) -> bool:
        """Whether a landing shows its formula instead of its value."""
        if self.question.form in ("lock", "find"):
            return False
        valued = self.question.form in ("shows", "write") and self.is_answered
        return not valued or cell == self.question.exercise.start


def drill_grids(
    question: Question,
    areas: list[Area],
    figure: Figure | None,
    *,
    is_answered: bool,
    marks: Sequence[Counted] = (),
) -> list[DrillGrid]:
    """The sheets of a question: that of the fill first, then the others that it reads.

    ``areas`` are what has to be seen of the sheet of the fill.
    """
    exercise, shown = question.exercise, _Shown(question, figure, is_answered, [*marks])
    workbook = shown.calculation.workbook
    home = workbook.sheet(exercise.sheet_name)
    grids = [_grid(shown, home, areas)]
    read = {each.sheet.casefold() for each in exercise.shape.references if each.sheet}
    for sheet in workbook.sheets:
        if sheet is not home and sheet.name.casefold() in read and (used := sheet.used()):
            grids.append(_grid(shown, sheet, _cut(shown, sheet, used)))
    return grids


def whole_if_small(sheet: Sheet) -> list[Area]:
    """All of a sheet that is small enough to be shown, else nothing."""
    used = sheet.used()
    if used is None or used.width > _SMALL[0] or used.height > _SMALL[1]:
        return []
    return [Area(1, 1, used.right, used.bottom)]


def _cut(shown: _Shown, sheet: Sheet, used: Area) -> list[Area]:
    """What is shown of another sheet: all of a small one, and what is read there."""
    found = whole_if_small(sheet)
    exercise, figure = shown.question.exercise, shown.figure
    ends = [(exercise.shape, exercise.start), (exercise.shape, shown.question.landing)]
    if figure and figure.given:
        ends.append((figure.given, figure.landing))
    for shape, at in ends:
        for reference in shape.references:
            area = reference.area(at)
            if area and reference.sheet and reads_on(reference, sheet.name):
                found.append(area)
    return found or [used]


def _grid(shown: _Shown, sheet: Sheet, areas: list[Area]) -> DrillGrid:
    question, figure = shown.question, shown.figure
    exercise = question.exercise
    is_home = sheet.name == exercise.sheet_name
    needed = [Area.of(exercise.start), Area.of(question.landing)] if is_home else areas

    def size(axis: Axis, number: int) -> float:
        if axis == "row":
            both = (
                question.planted
                and is_home
                and exercise.target.holds(Cell(exercise.target.left, number))
            )
            return _ROW_OF_BOTH if both else _ROW
        return _width(shown, sheet, number, areas)

    drawn_on = {axis: lines(axis, areas, needed, _HEAD[axis], size) for axis in AXES}
    across = _BESIDE_FORMULAS if shown.shows_formulas else _BESIDE_NUMBERS
    frame = Frame(drawn_on["column"], drawn_on["row"], across)
    cells = [
        [_cell(shown, sheet, Cell(column.at, row.at), is_home=is_home) for column in frame.columns]
        for row in frame.rows
    ]
    drawn = _lines(frame, question, sheet, figure) if figure else Lines()
    for mark in shown.marks if is_home else ():
        _draw_count(frame, drawn, mark)
    target = None
    if is_home:
        left, top, right, bottom = frame.box(exercise.target)
        target = (left, top, right - left, bottom - top)
    return DrillGrid(
        sheet.name, is_home, frame.columns, frame.rows, cells, frame.width, frame.height, drawn,
        target,
    )  # fmt: skip


def _width(shown: _Shown, sheet: Sheet, column: int, areas: list[Area]) -> float:
    """The width of a column: that of its longest text but for titles."""
    longest = 0.0
    for area in areas:
        if not area.left - 1 <= column <= area.right:
            continue
        for row in range(area.top, area.bottom + 1):
            cell = Cell(column, row)
            if sheet.look(cell).role != "title":
                text, formula = _texts(shown, sheet, cell)
                letter = _FORMULA_LETTER if text.startswith("=") else _LETTER
                longest = max(longest, letter * len(text), _SMALL_LETTER * len(formula))
    if not longest:
        return _LEAST / 2
    return min(max(longest + _BESIDE, _LEAST), _MOST)


def _texts(shown: _Shown, sheet: Sheet, cell: Cell) -> tuple[str, str]:
    """What a cell shows, and its formula where that is shown, too."""
    key = sheet.id, cell
    if key not in shown.texts:
        shown.texts[key] = _worked_out(shown, sheet, cell)
    return shown.texts[key]


def _worked_out(shown: _Shown, sheet: Sheet, cell: Cell) -> tuple[str, str]:
    exercise, content = shown.question.exercise, sheet.content(cell)
    is_value = isinstance(shown.calculation.value(sheet.name, cell), float)
    text = text_at(shown.calculation, sheet, cell, _ROOM_OF_VALUES if is_value else _ROOM)
    if sheet.name != exercise.sheet_name or not exercise.target.holds(cell):
        return text, ""
    if not shown.told(cell):
        return "", ""
    formula = content.text(cell) if isinstance(content, Shape) else ""
    if formula and shown.as_formula(cell):
        return formula, ""
    return text, formula if shown.question.planted else ""


def _cell(shown: _Shown, sheet: Sheet, cell: Cell, *, is_home: bool) -> DrillCell:
    if not cell.column or not cell.row:
        return DrillCell("", "", "", "between")
    question, exercise = shown.question, shown.question.exercise
    text, formula = _texts(shown, sheet, cell)
    value = shown.calculation.value(sheet.name, cell)
    kinds = ["number" if isinstance(value, float) else "text", sheet.look(cell).role]
    if isinstance(value, Error):
        kinds[0] = "error"
    if is_home and exercise.target.holds(cell):
        kinds.append("landing")
        if question.form == "lock":
            kinds.append("rehearsed")
        if text.startswith("="):
            kinds.append("as-formula")
        asked = shown.figure.landing if shown.figure else question.landing
        if cell == exercise.start:
            kinds.append("start")
        elif cell == asked and (shown.figure or question.asks_of_landing):
            kinds.append("asked")
    if kinds[1] == "title":
        kinds.append("spill")
    return DrillCell(cell.text, text, formula, " ".join(kinds))


def _lines(frame: Frame, question: Question, sheet: Sheet, figure: Figure) -> Lines:
    """Rails around what start and landing read, ties between, and the learner's own lines."""
    exercise, landing = question.exercise, figure.landing
    is_home = sheet.name == exercise.sheet_name
    drawn = Lines()
    differ = differing(figure.right, figure.given, landing) if figure.given else []
    for letter, number in enumerate(figure.right.distinct):
        reference = figure.right.references[number]
        one, two = reference.area(exercise.start), reference.area(landing)
        here = reads_on(reference, sheet.name) if reference.sheet else is_home
        if not here or two is None or (differ and number not in differ):
            continue
        if one and one != two:
            drawn.rails += frame.rails(reference, letter, exercise.start, one)
        drawn.rails += frame.rails(reference, letter, landing, two)
        left, top, _, _ = frame.box(two)
        drawn.letters.append(Letter(tag(letter), colour_of(letter), left + 4, top + 6))
        if is_home and one and landing != exercise.start:
            drawn.ties.append(frame.tie(letter, exercise.start, one, landing, two))
    if figure.given:
        _draw_given(frame, drawn, figure, sheet, is_home=is_home)
    return drawn


def _draw_count(frame: Frame, drawn: Lines, mark: Counted) -> None:
    left, top, right, bottom = frame.box(mark.area)
    if right - left > 2 and bottom - top > 2:
        drawn.boxes.append((left + 1, top + 1, right - left - 2, bottom - top - 2))
        drawn.counts.append((right - 9, top + 9, mark.count))


def _draw_given(
    frame: Frame, drawn: Lines, figure: Figure, sheet: Sheet, *, is_home: bool
) -> None:
    """Frames around what the learner's formula reads in the landing, and lines there."""
    assert figure.given is not None
    for reference, area in read_instead(figure.right, figure.given, figure.landing):
        if not (reads_on(reference, sheet.name) if reference.sheet else is_home):
            continue
        left, top, right, bottom = frame.box(area)
        if right - left > 2 and bottom - top > 2:
            drawn.boxes.append((left + 1, top + 1, right - left - 2, bottom - top - 2))
        if is_home:
            drawn.yours.append((*frame.low(Area.of(figure.landing)), *frame.low(area)))
