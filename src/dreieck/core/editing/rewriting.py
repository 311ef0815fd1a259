"""Rewriting formulas shape by shape: forty filled cells are one rewriting."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from dreieck.core.calculate.blocks import areas_by_shape
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Value


@dataclass(frozen=True, slots=True)
class Rewriting:
    """One shape before and after, and where it stands."""

    sheet: Sheet
    areas: tuple[Area, ...]
    before: Shape
    after: Shape

    @property
    def at(self) -> Cell:
        """The first cell."""
        return self.areas[0].first

    @property
    def count(self) -> int:
        """How many cells."""
        return sum(area.size for area in self.areas)


def rewritings(sheet: Sheet, change: Callable[[Shape], Shape]) -> list[Rewriting]:
    """The formulas of a sheet that become others."""
    return [
        Rewriting(sheet, areas, shape, after)
        for shape, areas in areas_by_shape(sheet).items()
        if (after := change(shape)) is not shape
    ]


def edits_of(made: Iterable[Rewriting]) -> list[Edit]:
    """The edits that make rewritings."""
    return [SetCells.with_content(each.sheet, each.areas, each.after) for each in made]


def proven(calculation: Calculation, edits: list[Edit], made: Iterable[Rewriting]) -> bool:
    """Whether all rewritten formulas have the same values after the edits; nothing is changed."""
    after = calculation.with_edits(edits)
    return all(
        _values(calculation, each.sheet, column) == _values(after, each.sheet, column)
        for each in made
        for area in each.areas
        for column in area.lines("column")
    )


def _values(calculation: Calculation, sheet: Sheet, column: Area) -> list[Value]:
    return calculation.cells(sheet.name, column.left, column.top, column.bottom).values()
