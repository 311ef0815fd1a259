"""What is asked of some rows of one column that all hold one formula."""

from __future__ import annotations

from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from dreieck.core.calculate.arguments import Operand
from dreieck.core.calculate.evaluation import Evaluation
from dreieck.core.formula import tree
from dreieck.core.functions import Takes
from dreieck.core.ranges.operands import CellValues
from dreieck.core.sheet.cells import Cells
from dreieck.core.values import Place, Value

Column = Cells | list[Any] | Operand
"""What a node is in all rows: cells, one operand for each row, or one for all rows."""


class Rows(Protocol):
    """Rows from top to bottom; an index counts them from 0."""

    values: CellValues
    root: tree.Node
    sheet: str
    rows: range | NDArray[np.intp]
    height: int
    first: int
    last: int

    def part(self, which: NDArray[np.intp]) -> Rows:
        """Some of the rows."""

    def cells(self, node: tree.Node) -> Cells:
        """The single values of a node in all rows."""

    def single(self, node: tree.Node) -> Cells | Value:
        """The single values of a node; one that is the same in all rows stands alone."""

    def down(self, node: tree.Node, *, single: bool = True) -> Column:
        """What a node is in all rows; ``single`` where only its value counts."""

    def plain(self, column: Column) -> Cells | Value:
        """Single values, without ranges."""

    def stays(self, node: tree.Node, takes: Takes) -> bool:
        """Whether an argument that is no single value stands for the same in all rows."""

    def place(self, index: int) -> Place:
        """The place of a row."""

    def at(self, index: int) -> Evaluation:
        """The formula in one row."""

    def read(self, sheet: str, column: int, row: int) -> Cells:
        """The cells that move along with the rows, the first of them in a row of a sheet."""
