"""Findings that somebody answered: they are meant, and known to similar places."""

from __future__ import annotations

from dataclasses import replace

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.editing.answering import Answered, answers
from dreieck.core.grid import Area
from dreieck.core.sheet.workbook import Workbook


def answered(workbook: Workbook, found: list[Finding]) -> list[Finding]:
    """Findings with what is said about them: those that are meant become notes."""
    known = list(answers(workbook))
    return [_with_answer(each, known) for each in found] if known else found


def _with_answer(finding: Finding, known: list[Answered]) -> Finding:
    about = [each for each in known if each.rule == finding.rule]
    for each in about:
        if each.sheet == finding.sheet and all(a.within(each.area) for a in finding.areas):
            return replace(finding, state="note", meant=each.reason)
    alike = next((each for each in about if _is_similar(each, finding)), None)
    if alike is None or finding.state == "note":
        return finding
    here = alike.area.text if alike.sheet == finding.sheet else f"{alike.sheet}!{alike.area.text}"
    return replace(
        finding, because=(*finding.because, f"the same in {here} is meant: {alike.reason}")
    )


def _is_similar(answer: Answered, finding: Finding) -> bool:
    """Whether an answer is about the column or row of a finding, or its place on another sheet."""
    if answer.sheet != finding.sheet:
        return any(area.common(answer.area) for area in finding.areas)
    return any(_in_line(area, answer.area) for area in finding.areas)


def _in_line(one: Area, other: Area) -> bool:
    return (one.left, one.right) == (other.left, other.right) or (
        (one.top, one.bottom) == (other.top, other.bottom)
    )
