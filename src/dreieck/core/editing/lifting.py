"""Lift: turn a number typed inside formulas into a labelled input cell, values staying equal."""

from __future__ import annotations

from dataclasses import dataclass, replace

from dreieck.core.analysis.typed_numbers import PLAIN_NUMBERS, numbers_in, with_number
from dreieck.core.calculate.blocks import areas_by_shape
from dreieck.core.editing.naming import area_said
from dreieck.core.editing.naming import given as given_name
from dreieck.core.editing.rewriting import Rewriting, edits_of
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, Part
from dreieck.core.grid import EVERYWHERE, Area, Cell
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import number_text


@dataclass(frozen=True, slots=True)
class Inside:
    """A number that is typed inside formulas of one shape, and where these stand.

    ``belongs`` says that it is one of the plain numbers that belong to a formula.
    """

    number: float
    sheet: Sheet
    shape: Shape
    areas: tuple[Area, ...]

    @property
    def belongs(self) -> bool:
        """Whether it belongs to the formula: 1 of a growth rate, 100 of a percent."""
        return self.number in PLAIN_NUMBERS

    @property
    def count(self) -> int:
        """How many cells."""
        return sum(area.size for area in self.areas)


def numbers_inside(workbook: Workbook) -> list[Inside]:
    """All numbers typed inside formulas, by number and shape; the frequent ones first."""
    found: list[Inside] = []
    for sheet in workbook.sheets:
        for shape, where in areas_by_shape(sheet).items():
            for number in dict.fromkeys(numbers_in(shape.tree)):
                found.append(Inside(number, sheet, shape, where))
    totals: dict[float, int] = {}
    for each in found:
        totals[each.number] = totals.get(each.number, 0) + each.count
    return sorted(found, key=lambda each: (-totals[each.number], each.number, -each.count))


def free_place(sheet: Sheet) -> Cell:
    """A cell for an input, with a free cell for its label to the left: below all that there is."""
    used = sheet.used()
    return Cell(2, used.bottom + 2) if used else Cell(2, 1)


def lifted(
    workbook: Workbook, chosen: list[Inside], sheet: Sheet, cell: Cell, label: str, name: str
) -> tuple[list[Edit], list[Rewriting]]:
    """Put the number of the chosen formulas into a cell, and let them read it there.

    With ``name`` the cell gets a name, and the formulas use that. Raises DreieckError where
    nothing is chosen, or the cell or the one for its label holds something else.
    """
    numbers = {each.number for each in chosen}
    if len(numbers) != 1:
        raise DreieckError("Choose formulas with one number to lift.")
    (number,) = numbers
    if sheet.content(cell) not in (None, number):
        raise DreieckError(f"{cell.text} holds something else. Choose an empty cell.")
    cells = {cell: (number, replace(sheet.look(cell), role="input"))}
    edits: list[Edit] = [*labelled(sheet, cell, label), SetCells.of(sheet.id, cells)]
    there = CellReference(Part(True, cell.column), Part(True, cell.row), sheet.name)
    if name:
        edits.extend(given_name(workbook, name, area_said(sheet, Area.of(cell))))
    rewritings = [
        Rewriting(each.sheet, each.areas, each.shape, _replaced(each, there, sheet, name))
        for each in chosen
    ]
    return edits + edits_of(rewritings), rewritings


def labelled(sheet: Sheet, cell: Cell, label: str) -> list[SetCells]:
    """Put a label, if there is one, into the cell to the left.

    Raises DreieckError where that is taken.
    """
    beside = cell.offset(-1, 0)
    if not label:
        return []
    if not beside.on_sheet or sheet.content(beside) not in (None, label):
        raise DreieckError(f"There is no free cell to the left of {cell.text} for the label.")
    return [SetCells.of(sheet.id, {beside: (label, sheet.look(beside))})]


def _replaced(each: Inside, there: CellReference, sheet: Sheet, name: str) -> Shape:
    reads: tree.Node = tree.Name(name) if name else there
    if not name and each.sheet is sheet:
        reads = there.on_own_sheet()
    return Shape.of(with_number(each.shape.tree, each.number, reads))


def said(number: float) -> str:
    """A number as it is typed."""
    return number_text(number)


def input_cells(sheet: Sheet) -> list[Cell]:
    """The cells of a sheet that are marked as inputs, in reading order."""
    cells = [cell for cell, look in sheet.looked(EVERYWHERE) if look.role == "input"]
    return sorted(cells, key=lambda cell: (cell.row, cell.column))
