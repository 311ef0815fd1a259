"""One mistake, one finding: what comes of another finding is folded into it.

An error belongs to the finding about the cell where it began. A finding that is gone once
another one is mended is a consequence of that one.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.answered import answered
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.outcome import changes, errors_gone, tried, wrongs
from dreieck.core.grid import Area
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.words.counting import listed, many

_MOST_TRIED = 10
"""So many findings of a list are asked whether others are gone with them."""
_FEW_TRIED = 2
"""So many of a workbook with many formulas."""
_MANY = 20_000
_MOST_TOLD = 60
"""The mends of so many are tried for what comes of them."""
_MOST_FOLLOWED = 20
"""Of so many findings it is asked whether their mends lead on to others."""
_WEIGHED = ("input-slid", "all-same", "heading-unread")
"""Rules whose mends are the best of all locks: what they lead to was weighed before."""
_ORDER = {"broken": 0, "doubt": 1, "note": 2}

Look = Callable[[Finding], Iterable[Finding]]
"""Looks once more at what a finding is about."""
Again = Callable[[Calculation], Look]
"""How to look once more, with other values."""


def reviewed(calculation: Calculation, found: list[Finding], again: Again) -> list[Finding]:
    """The findings of a list that stand for a mistake each, with their consequences."""
    left, folded = _without_errors(_once(found))
    if len(left) <= _MOST_FOLLOWED:
        left = [(n, _followed_up(calculation, finding, again)) for n, finding in left]
    left = _without_vanishing(calculation, left, again)
    told: list[Finding] = []
    doubts = 0
    for index, finding in left:
        doubts += finding.state != "note"
        if finding.state == "note":
            told.append(finding)
        else:
            errors = tuple(folded.get(index, ()))
            told.append(_told(calculation, finding, errors, with_mend=doubts <= _MOST_TOLD))
    # What comes of a finding that is meant is folded into it before.
    told = answered(calculation.workbook, told)
    return sorted(told, key=lambda finding: _ORDER[finding.state])


def _followed_up(calculation: Calculation, finding: Finding, again: Again) -> Finding:
    """A finding whose mend leaves another doubt about the same reference: one mend does both."""
    if finding.state == "note" or not finding.mends or finding.rule in _WEIGHED:
        return finding
    mend = finding.mends[0]
    after = tried(calculation, mend)
    further = _left_by(finding, after, again)
    last = tried(after, further) if after and further else None
    if not further or not last or _left_by(finding, last, again):
        return finding
    same = mend.says.partition(" to ")[0] == further.says.partition(" to ")[0]
    says = further.says if same else f"{mend.says}, and then {further.says}"
    both = Mend(says, mend.before, further.after, (*mend.edits, *further.edits))
    return replace(finding, mends=(both, *finding.mends[1:]))


def _left_by(finding: Finding, after: Calculation | None, again: Again) -> Mend | None:
    """The mend of a doubt that is left about the cells of a finding and its reference."""
    for each in again(after)(finding) if after else ():
        is_other = each.state != "note" and each.rule != finding.rule
        is_same = each.sheet == finding.sheet and each.reference == finding.reference
        if is_other and is_same and each.mends and all(_covers(finding, a) for a in each.areas):
            return each.mends[0]
    return None


def _once(found: list[Finding]) -> list[Finding]:
    """The findings whose first mend is not that of one before them."""
    mends: dict[object, list[object]] = {}
    left: list[Finding] = []
    for finding in found:
        if finding.mends:
            edits = finding.mends[0].edits
            known = mends.setdefault(_first_written(edits), [])
            if edits in known:
                continue
            known.append(edits)
        left.append(finding)
    return left


def _first_written(edits: Sequence[Edit]) -> object:
    """Where edits begin to write: only those that begin alike are compared as a whole."""
    first = edits[0] if edits else None
    if not isinstance(first, SetCells) or not first.runs:
        return None
    return first.sheet_id, first.runs[0].column, first.runs[0].top


def _without_errors(
    found: list[Finding],
) -> tuple[list[tuple[int, Finding]], dict[int, list[Finding]]]:
    """The findings without the errors that come of others, and those errors by their cause."""
    errors = [(n, each) for n, each in enumerate(found) if each.rule == "error"]
    others = [(n, each) for n, each in enumerate(found) if each.rule != "error"]
    folded: dict[int, list[Finding]] = {}
    left = [(n, each) for n, each in others]
    for number, error in errors:
        cause = next((n for n, each in others if brings(each, error)), None)
        if cause is None:
            cause = next((n for n, each in errors if n != number and _begins(each, error)), None)
        if cause is None:
            left.append((number, error))
        else:
            folded.setdefault(cause, []).append(error)
    return left, folded


def brings(cause: Finding, error: Finding) -> bool:
    """Whether an error comes of what a finding is about."""
    if cause.state == "note":
        return False
    if cause.sheet == error.sheet and all(_covers(cause, area) for area in error.areas):
        return True
    return _begins(cause, error)


def _begins(cause: Finding, error: Finding) -> bool:
    """Whether an error began in the cells of a finding, and stands in others."""
    began = error.began
    return (
        began is not None
        and began.sheet == cause.sheet
        and any(area.holds(began.cell) for area in cause.areas)
        and not (cause.sheet == error.sheet and error.holds(began.cell))
    )


def _covers(cause: Finding, area: Area) -> bool:
    return any(area.within(each) for each in cause.areas)


def _without_vanishing(
    calculation: Calculation,
    found: list[tuple[int, Finding]],
    again: Again,
) -> list[tuple[int, Finding]]:
    """The findings without those that are gone once one before them is mended."""
    gone: set[int] = set()
    ranked = sorted(found, key=lambda each: -each[1].strength)
    doubts = [each for each in ranked if each[1].state != "note"]
    if len(doubts) < 2:
        return found
    formulas = sum(sheet.count_formulas() for sheet in calculation.workbook.sheets)
    most = _MOST_TRIED if formulas <= _MANY else _FEW_TRIED
    for number, cause in doubts[:most]:
        if number in gone or not cause.mends:
            continue
        after = tried(calculation, cause.mends[0])
        if after is None:
            continue
        look = again(after)
        for other, finding in doubts:
            if (
                other in gone
                or other == number
                or not _touches(calculation, after, cause, finding)
            ):
                continue
            if not _stays(finding, look(finding)):
                gone.add(other)
    return [each for each in found if each[0] not in gone]


def _touches(
    calculation: Calculation, after: Calculation, cause: Finding, finding: Finding
) -> bool:
    """Whether a mend writes or changes anything in the cells that another finding is about."""
    written = [
        # What stands beside a block is told by what the block holds.
        Area(area.left - 1, area.top - 1, area.right + 1, area.bottom + 1)
        for edit in cause.mends[0].edits
        if isinstance(edit, SetCells)
        for area in edit.areas()
    ]
    if finding.sheet == cause.sheet and any(
        one.common(two) for one in finding.areas for two in written
    ):
        return True
    return changes(calculation, after, finding)


def _stays(finding: Finding, after: Iterable[Finding]) -> bool:
    """Whether a finding is raised again."""
    return any(
        each.rule == finding.rule and any(one.common(two) for one in each.areas
                                          for two in finding.areas)
        for each in after
    )  # fmt: skip


def _told(
    calculation: Calculation, finding: Finding, errors: tuple[Finding, ...], *, with_mend: bool
) -> Finding:
    """A finding with what comes of it, and what its mend does for it, if that is tried."""

    def told() -> Finding:
        # Tried in here, so that whatever it looks at is known of what is kept.
        after = tried(calculation, finding.mends[0]) if finding.mends and with_mend else None
        return _with_causes(calculation, after, finding, errors)

    return calculation.recall(finding.sheet, (finding, errors, with_mend), told)


def _with_causes(
    calculation: Calculation,
    after: Calculation | None,
    finding: Finding,
    errors: tuple[Finding, ...],
) -> Finding:
    causes: list[str] = []
    because = list(finding.because)
    if after is not None:
        causes += wrongs(calculation, after, finding)
        cells = errors_gone(calculation, after, (finding, *errors))
        if cells:
            because.append(
                f"with the mend {many(cells, 'error')} {'is' if cells == 1 else 'are'} gone"
            )
    elsewhere: dict[str, list[Area]] = {}
    for error in errors:
        if not (error.sheet == finding.sheet and all(_covers(finding, a) for a in error.areas)):
            elsewhere.setdefault(error.sheet, []).extend(error.areas)
    for sheet, areas in elsewhere.items():
        where = listed(joined(areas))
        if sheet != finding.sheet:
            where += f" on “{sheet}”"
        one = sum(area.size for area in areas) == 1
        them = "it" if finding.count == 1 else "them"
        causes.append(f"{where} {'fails' if one else 'fail'} because of {them}")
    broken = tuple(a for e in errors if e.sheet == finding.sheet for a in e.areas)
    state = "broken" if errors else finding.state
    return replace(
        finding, state=state, because=tuple(because), causes=tuple(causes), broken=broken
    )
