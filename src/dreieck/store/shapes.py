"""The numbers under which the shapes of a workbook are stored.

A shape is written as the formula that it is in one cell, which is all that is needed to
read it back.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable

from sqlalchemy import insert
from sqlmodel import Session, col, select

from dreieck.core.formula import Shape, tree
from dreieck.core.grid import Cell
from dreieck.store.tables import ShapeRow

NumberOf = Callable[[Shape, Cell], int]
ShapeOf = Callable[[int], Shape]


class Shapes:
    """Shapes by number and numbers by shape, for one workbook."""

    def __init__(self, workbook_id: int) -> None:
        self._workbook_id = workbook_id
        self._numbers: dict[Shape, int] = {}
        self._shapes: dict[int, Shape] = {}
        self._unwritten: dict[int, Cell] = {}
        self._used: Counter[str] = Counter()
        self._counted = 0

    def read(self, session: Session) -> None:
        """Learn all shapes that are stored."""
        stored = col(ShapeRow.workbook_id) == self._workbook_id
        for row in session.exec(select(ShapeRow).where(stored)):
            shape = Shape.parse(row.formula, Cell(row.column, row.row))
            self._shapes[row.number] = shape
            self._numbers[shape] = row.number

    def shape_of(self, number: int) -> Shape:
        """The shape with this number."""
        return self._shapes[number]

    def number_of(self, shape: Shape, at: Cell) -> int:
        """The number of a shape; ``at`` is a cell that it stands in."""
        number = self._numbers.get(shape)
        if number is None:
            number = len(self._shapes) + 1
            self._numbers[shape] = number
            self._shapes[number] = shape
            self._unwritten[number] = at
        return number

    def used_functions(self) -> Counter[str]:
        """In how many shapes each function stands."""
        if self._counted != len(self._shapes):
            self._counted = len(self._shapes)
            self._used = Counter(
                node.function
                for shape in self._shapes.values()
                for node in tree.walk(shape.tree)
                if isinstance(node, tree.Call)
            )
        return self._used

    def write_new(self, session: Session) -> None:
        """Write the shapes that are not stored yet. Call ``written`` once that is kept."""
        rows = [
            {
                "workbook_id": self._workbook_id,
                "number": number,
                "formula": self._shapes[number].text(at),
                "column": at.column,
                "row": at.row,
            }
            for number, at in self._unwritten.items()
        ]
        if rows:
            session.execute(insert(ShapeRow), rows)

    def written(self) -> None:
        """All shapes are stored now."""
        self._unwritten.clear()
