"""The rule about a formula whose label names another cell than the one that it reads."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

from dreieck.core.analysis.uses import Use
from dreieck.core.budget import spend
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.formula import tree
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import meaning, names_number
from dreieck.core.tables.labels import part_title
from dreieck.core.tables.series import order_of
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import label_on

_REACH = 24
"""So far from what is read another cell in its line may stand that the label means."""


@dataclass(frozen=True)
class _Rival:
    """A cell in line with one that is read, and what it is labelled."""

    cell: Cell
    told: str


@rule("misnamed")
def misnamed(subject: Subject) -> Iterator[Finding]:
    """A formula divides by, or always reads, a cell, though its label names another one."""
    if doubt(subject) or subject.block.size < 2:
        return
    told = _own_labels(subject)
    for use in subject.cell_uses:
        found = _rival(subject, use, told) if told else None
        if found:
            yield _finding(subject, use, found)
            return


def _own_labels(subject: Subject) -> list[str]:
    """What the labels of a block say of it as a whole: its heading, its row, its part's title."""
    sheet, start, area = subject.sheet, subject.start, subject.block.area
    title = part_title(subject.calculation, sheet, start)
    is_one = part_title(subject.calculation, sheet, area.last) == title
    told = [title] if is_one else []
    if area.width == 1:
        told.append(label_on(sheet, start, "column"))
    if area.height == 1:
        told.append(label_on(sheet, start, "row"))
    return [text for text in told if text]


def _rival(subject: Subject, use: Use, told: list[str]) -> _Rival | None:
    """The one cell in line with what is read that the label names, where it does not name that."""
    own = meaning(" ".join(told))
    sheet, area = subject.sheet_of(use.reference), use.reference.area(subject.start)
    divides, held = _is_below(subject, use), subject.stays(use.reference)
    if sheet is None or area is None:
        return None
    cell = area.first
    read = {
        (there, at)
        for each in subject.shape.references
        if (there := subject.sheet_of(each)) and (at := each.area(subject.start))
    }
    for axis in AXES:
        (part,) = use.reference.on(axis)
        if subject.block.area.length(axis) > 1 and not part.locked:
            continue
        now = label_on(sheet, cell, axis)
        line = list(_in_line(subject, sheet, cell, axis)) if now else []
        twin = _twin(subject, sheet, cell, line, (now, axis), told, read)
        if twin:
            return twin
        if not now or meaning(now) & own or not (divides or held):
            continue
        rivals = [
            each
            for each in line
            if (sheet, Area.of(each.cell)) not in read and each.told not in told
        ]
        named = [each for each in rivals if divides and meaning(each.told) < own]
        if len(named) != 1 and held and not divides:
            named = _unread(subject, sheet, cell, rivals, own)
        if len(named) == 1 and meaning(named[0].told):
            return named[0]
    return None


def _twin(
    subject: Subject,
    sheet: Sheet,
    cell: Cell,
    line: list[_Rival],
    label: tuple[str, Axis],
    told: list[str],
    read: set[tuple[Sheet, Area]],
) -> _Rival | None:
    """The cell that is labelled as what is read is but for a word, which the formula's label has.

    *Women members*, where the share of women is divided by *Men members*.
    """
    own, now, axis = meaning(" ".join(told)), meaning(label[0]), label[1]
    found: list[_Rival] = []
    for each in line:
        there = meaning(each.told)
        here, other = now - there, there - now
        if len(here) != 1 or len(other) != 1 or not now & there or each.told in told:
            continue
        if type(sheet.content(each.cell)) is not type(sheet.content(cell)):
            continue
        (mine,), (its,) = here, other
        if its not in own or mine in own:
            continue
        counted = any(order_of(word) or word.isdigit() for word in (mine, its))
        if counted and any(its in words for words in _labels_read(subject, axis)):
            # Another reference of the formula reads what is of that time as well.
            counted = False
        if not counted:
            if (sheet, Area.of(each.cell)) in read:
                return None
            found.append(each)
    return found[0] if len(found) == 1 else None


def _labels_read(subject: Subject, axis: Axis) -> Iterator[frozenset[str]]:
    """The words of the labels of all single cells that the formula reads."""
    for use in subject.cell_uses:
        sheet, area = subject.sheet_of(use.reference), use.reference.area(subject.start)
        if sheet and area:
            yield meaning(label_on(sheet, area.first, axis))


def _unread(
    subject: Subject, sheet: Sheet, cell: Cell, rivals: list[_Rival], own: frozenset[str]
) -> list[_Rival]:
    """Those that share a word with the label and that no formula reads: inputs left over."""
    typed = [each for each in rivals if _could_be(sheet, each.cell, cell)]
    named = [each for each in typed if meaning(each.told) & own]
    reading = subject.calculation.read_map().reading
    return [each for each in named if not any(reading(sheet.name, Area.of(each.cell)))]


def _could_be(sheet: Sheet, rival: Cell, cell: Cell) -> bool:
    """Whether a typed number could be read in place of another one, by its form and size."""
    number, other = sheet.content(rival), sheet.content(cell)
    if not isinstance(number, float):
        return False
    if not isinstance(other, float):
        return other is None
    same = sheet.look(rival).form == sheet.look(cell).form
    return same and 0.1 <= abs(number) / max(abs(other), 1e-9) <= 10


def _is_below(subject: Subject, use: Use) -> bool:
    """Whether a reference stands below a fraction line."""
    for node in tree.walk(subject.shape.tree):
        divides = isinstance(node, tree.Binary) and node.operator == "/"
        if isinstance(node, tree.Binary) and divides and tree.bare(node.right) == use.reference:
            return True
    return False


def _in_line(subject: Subject, sheet: Sheet, cell: Cell, axis: Axis) -> Iterator[_Rival]:
    """The other cells with numbers in the column of a cell, or in its row, and their labels."""
    used = sheet.used()
    if used is None:
        return
    low, high = used.on(axis)
    at = cell.on(axis)
    for n in range(max(low, at - _REACH), min(high, at + _REACH) + 1):
        other = Area.of(cell).spanning(axis, n, n).first
        if n == at or (sheet is subject.sheet and subject.block.holds(other)):
            continue
        spend(1)
        if not isinstance(subject.value(sheet, other), float):
            continue
        told = subject.calculation.recall(
            sheet.name, (label_on, other, axis), partial(label_on, sheet, other, axis)
        )
        if told and not names_number(told):
            yield _Rival(other, told)


def _finding(subject: Subject, use: Use, rival: _Rival) -> Finding:
    start = subject.start
    wanted = use.reference.reading(Area.of(rival.cell), start, start)
    changed = subject.shape.with_equals(use.number, wanted)
    read = subject.named(use.reference, start)
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(use.number)} reads {read}, though the label of the formula names"
        f" {quoted(rival.told)}: {subject.address(wanted, start)}.",
        "What a result is called and what it is worked out from should fit.",
        use.number,
        (refilled(subject, changed, f"read {subject.address(wanted, start)}"),),
        (f"{quoted(rival.told)} is named beside or above the formula",),
    )
