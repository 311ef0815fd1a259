"""What a group mistook: its answers to a drill counted and drawn over the table."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from dreieck.core.calculate import text_at
from dreieck.core.checking.findings import check_workbook
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell
from dreieck.core.practice.judging import Given, judge
from dreieck.core.practice.misreading import read_instead
from dreieck.core.practice.question import CHOSEN, Question
from dreieck.core.sheet.sheet import Sheet
from dreieck.store import Answered, OpenWorkbook
from dreieck.web.drill_grid import Counted, DrillGrid, Figure, drill_grids, whole_if_small
from dreieck.web.small_sheet import SmallSheet
from dreieck.web.turns import in_time

_MOST_ANSWERS = 12
_MOST_WORKBOOKS = 60
_WIDTH, _HEIGHT, _HEAD = 370.0, 300.0, 24.0
_Key = tuple[str, Cell, str]
"""A sheet, a cell, and the rule of a finding."""


@dataclass(frozen=True)
class Counting:
    """An answer in words, and how often it was given."""

    text: str
    count: int
    is_right: bool
    mistake: str


@dataclass(frozen=True)
class Mistaken:
    """All answers to a drill: how many, how many right, each with its count, the table."""

    asks: str
    count: int
    right: int
    given: list[Counting]
    grids: list[DrillGrid]


def mistaken(question: Question, answers: list[Answered]) -> Mistaken:
    """The answers of a group to a question."""
    return in_time(lambda: _mistaken(question, answers))


def _mistaken(question: Question, answers: list[Answered]) -> Mistaken:
    alike = Counter((each.given, each.is_right, each.mistake) for each in answers)
    listed: list[Counting] = []
    read: Counter[Area] = Counter()
    for (given, is_right, mistake), count in alike.most_common():
        listed.append(Counting(_said(question, given), count, is_right, mistake))
        if not is_right:
            try:
                verdict = judge(question, given)
            except DreieckError:
                continue
            if verdict.given:
                for reference, area in read_instead(verdict.right, verdict.given, verdict.landing):
                    if reference.sheet is None:
                        read[area] += count
    areas = [question.exercise.target, *whole_if_small(question.exercise.sheet)]
    figure = Figure(question.landing, question.exercise.shape)
    marks = [Counted(area, count) for area, count in read.most_common(_MOST_ANSWERS)]
    grids = drill_grids(question, areas, figure, is_answered=True, marks=marks)
    right = sum(each.is_right for each in answers)
    return Mistaken(question.asks, len(answers), right, listed[:_MOST_ANSWERS], grids)


def _said(question: Question, given: Given) -> str:
    """An answer in words."""
    chosen = None
    if 0 <= given.choice < len(question.choices):
        chosen = question.choices[given.choice]
    if chosen and question.form in CHOSEN:
        if question.form == "drawing" and chosen.here:
            return f"the drawing of {chosen.here.text(question.exercise.start)}"
        return chosen.text
    parts = [given.cell, chosen.text if chosen and question.planted else "", given.formula]
    return "; ".join(part for part in parts if part)


@dataclass(frozen=True)
class FoundIn:
    """A finding that several copies have: where, what it says, what stands there, in how many."""

    sheet: str
    at: Cell
    says: str
    shows: str
    count: int


@dataclass(frozen=True)
class SheetFound:
    """A sheet in small, with how many copies have something in doubt at a place."""

    sheet: Sheet
    small: SmallSheet
    marks: list[tuple[float, float, int, str]]


def drawn_findings(opened: OpenWorkbook, found: list[FoundIn]) -> list[SheetFound]:
    """The sheets of the workbook that was handed out, with the findings of its copies."""
    pictures = []
    for sheet in opened.workbook.sheets:
        here = [each for each in found if each.sheet == sheet.name]
        used = sheet.used()
        if here and used:
            around = Area(1, 1, used.right, used.bottom + 1)
            for each in here:
                around = around.around(Area.of(each.at))
            small = SmallSheet(around, _WIDTH, _HEIGHT, _HEAD)
            counted = Counter({each.at: 0 for each in here})
            for each in here:
                counted[each.at] += each.count
            marks = [(*small.middle(at), count, at.text) for at, count in counted.items()]
            pictures.append(SheetFound(sheet, small, marks))
    return pictures


def findings_of(copies: list[OpenWorkbook]) -> list[FoundIn]:
    """What is in doubt or broken in copies of one workbook, the commonest first."""
    found: Counter[_Key] = Counter()
    says: dict[_Key, tuple[str, str]] = {}
    for opened in copies[:_MOST_WORKBOOKS]:
        with opened.lock:
            for key, told in in_time(lambda opened=opened: _found(opened)):  # type: ignore[misc]
                found[key] += 1
                says.setdefault(key, told)
    return [
        FoundIn(sheet, at, *says[sheet, at, rule], count)
        for (sheet, at, rule), count in found.most_common()
    ]


def _found(opened: OpenWorkbook) -> list[tuple[_Key, tuple[str, str]]]:
    listed = []
    for checked in check_workbook(opened.calculation):
        for finding in checked.findings:
            if finding.state != "note" and finding.areas:
                cell = finding.areas[0].first
                sheet = opened.workbook.sheet(finding.sheet)
                shows = text_at(opened.calculation, sheet, cell, 16)
                listed.append(((finding.sheet, cell, finding.rule), (finding.says, shows)))
    return listed
