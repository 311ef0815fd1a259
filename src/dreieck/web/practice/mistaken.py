"""What a group mistook: its answers to a drill counted and drawn over the table."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from dreieck.core.calculate import text_at
from dreieck.core.checking.findings import check_workbook
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area
from dreieck.core.practice.judging import Verdict, judge
from dreieck.core.practice.question import CHOSEN, Question
from dreieck.store import Answered, OpenWorkbook
from dreieck.web.drill_grid import Counted, DrillGrid, Figure, drill_grids
from dreieck.web.turns import in_time

_MOST_ANSWERS = 12
_MOST_WORKBOOKS = 60


@dataclass(frozen=True)
class Given:
    """An answer as it was given, and how often."""

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
    given: list[Given]
    grids: list[DrillGrid]


def mistaken(question: Question, answers: list[Answered]) -> Mistaken:
    """The answers of a group to a question."""
    return in_time(lambda: _mistaken(question, answers))


def _mistaken(question: Question, answers: list[Answered]) -> Mistaken:
    alike = Counter((each.given, each.is_right, each.mistake) for each in answers)
    listed: list[Given] = []
    read: Counter[Area] = Counter()
    for (given, is_right, mistake), count in alike.most_common():
        listed.append(Given(_said(question, given), count, is_right, mistake))
        if not is_right:
            try:
                verdict = judge(question, given)
            except DreieckError:
                continue
            for area in _misread(verdict):
                read[area] += count
    used = question.exercise.sheet.used()
    areas = [question.exercise.target, *([Area(1, 1, used.right, used.bottom)] if used else [])]
    figure = Figure(question.landing, question.exercise.shape)
    marks = [Counted(area, count) for area, count in read.most_common(_MOST_ANSWERS)]
    grids = drill_grids(question, areas, figure, is_answered=True, marks=marks)
    right = sum(each.is_right for each in answers)
    return Mistaken(question.asks, len(answers), right, listed[:_MOST_ANSWERS], grids)


def _said(question: Question, given: object) -> str:
    """An answer in words."""
    choice = getattr(given, "choice", -1)
    if question.form == "drawing" and 0 <= choice < len(question.choices):
        here = question.choices[choice].here
        return f"the drawing of {here.text(question.exercise.start) if here else ''}"
    if question.form in CHOSEN and 0 <= choice < len(question.choices):
        return question.choices[choice].text
    parts = [getattr(given, "cell", ""), getattr(given, "formula", "")]
    if question.planted and 0 <= choice < len(question.choices):
        parts.insert(1, question.choices[choice].text)
    return "; ".join(part for part in parts if part)


def _misread(verdict: Verdict) -> Iterable[Area]:
    """The areas on the sheet of the fill that an answer reads, and the right one does not."""
    if verdict.given is None:
        return
    meant = {(each.sheet, each.area(verdict.landing)) for each in verdict.right.references}
    for number in verdict.given.distinct:
        reference = verdict.given.references[number]
        area = reference.area(verdict.landing)
        if area and reference.sheet is None and (None, area) not in meant:
            yield area


@dataclass(frozen=True)
class FoundIn:
    """A finding that several copies have: its rule, where, what it says, in how many."""

    sheet: str
    at: str
    says: str
    shows: str
    count: int


def findings_of(copies: list[OpenWorkbook]) -> list[FoundIn]:
    """What is in doubt or broken in copies of one workbook, the commonest first."""
    found: Counter[tuple[str, str, str]] = Counter()
    says: dict[tuple[str, str, str], tuple[str, str]] = {}
    for opened in copies[:_MOST_WORKBOOKS]:
        with opened.lock:
            for key, told in in_time(lambda opened=opened: _found(opened)):  # type: ignore[misc]
                found[key] += 1
                says.setdefault(key, told)
    return [
        FoundIn(sheet, at, *says[sheet, at, rule], count)
        for (sheet, at, rule), count in found.most_common()
    ]


def _found(opened: OpenWorkbook) -> list[tuple[tuple[str, str, str], tuple[str, str]]]:
    listed = []
    for checked in check_workbook(opened.calculation):
        for finding in checked.findings:
            if finding.state != "note" and finding.areas:
                cell = finding.areas[0].first
                sheet = opened.workbook.sheet(finding.sheet)
                shows = text_at(opened.calculation, sheet, cell, 16)
                listed.append(((finding.sheet, cell.text, finding.rule), (finding.says, shows)))
    return listed
