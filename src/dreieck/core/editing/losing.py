"""Which formulas would lose a reference for good: directly, or by a name that they use."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from dreieck.core.analysis.reads import read_names
from dreieck.core.calculate.blocks import patches
from dreieck.core.editing.following import Movement, followed_names, same_sheet
from dreieck.core.editing.following_lines import LinesMovement, following_lines
from dreieck.core.editing.sheets import SheetMovement
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import EVERYWHERE, Area, LineChange, Lines
from dreieck.core.grid.areas import covered
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook


@dataclass(frozen=True, slots=True)
class Losses:
    """Areas of formulas that stay and lose a reference, and the names that lose theirs."""

    areas: tuple[tuple[Sheet, Area], ...]
    names: tuple[str, ...]

    @property
    def count(self) -> int:
        """How many formulas lose a reference."""
        return covered((sheet.name, area) for sheet, area in self.areas)

    @property
    def texts(self) -> list[str]:
        """The areas as they would be written."""
        return [area_text(area, sheet.name) for sheet, area in self.areas]


def losing_lines(workbook: Workbook, sheet: Sheet, lines: Lines) -> Losses:
    """What would be lost if rows or columns were deleted."""
    change = LineChange(lines, comes=False)
    following = following_lines(workbook, sheet, change)
    direct = [(each.sheet, each.before) for each in following if each.loses]
    return _with_names(workbook, LinesMovement(sheet.name, change), sheet, lines.area, direct)


def losing_sheet(workbook: Workbook, sheet: Sheet) -> Losses:
    """What would be lost elsewhere if a sheet were deleted."""
    direct = [
        (other, patch.area)
        for other in workbook.sheets
        if other is not sheet
        for patch in patches(other)
        if any(same_sheet(each.sheet or "", sheet.name) for each in patch.shape.references)
    ]
    return _with_names(workbook, SheetMovement(sheet.name, None), sheet, EVERYWHERE, direct)


def _with_names(
    workbook: Workbook,
    movement: Movement,
    sheet: Sheet,
    going: Area,
    direct: Iterable[tuple[Sheet, Area]],
) -> Losses:
    """The losses, with those by names; ``going`` is what goes itself with the movement."""
    lost = _lost_names(workbook, movement)
    found = list(direct)
    for home in workbook.sheets if lost else ():
        for patch in patches(home):
            if not _uses(patch.shape, lost):
                continue
            parts = patch.area.without(going) if home is sheet else (patch.area,)
            found.extend((home, part) for part in parts)
    names = tuple(each.name for each in workbook.names.values() if each.key in lost)
    return Losses(tuple(dict.fromkeys(found)), names)


def _lost_names(workbook: Workbook, movement: Movement) -> set[str]:
    """The names, without case, that lose a reference of theirs, or use one that does."""
    lost = {
        edit.key
        for edit in followed_names(workbook, movement)
        if edit.named
        and len(edit.named.shape.references) < len(workbook.names[edit.key].shape.references)
    }
    found = len(lost) - 1
    while found < len(lost):
        found = len(lost)
        lost |= {each.key for each in workbook.names.values() if _uses(each.shape, lost)}
    return lost


def _uses(shape: Shape, names: set[str]) -> bool:
    """Whether a formula uses one of the names, which are told without case."""
    return not names.isdisjoint(name.casefold() for name in read_names(shape))
