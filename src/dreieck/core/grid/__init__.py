"""The grid: cells, areas, lines, and the limits of a sheet. Columns and rows count from 1."""

from dreieck.core.grid.address import (
    AXES,
    CROSSING,
    LAST,
    MAX_COLUMN,
    MAX_ROW,
    Axis,
    Cell,
    column_letters,
    column_number,
)
from dreieck.core.grid.area import EVERYWHERE, Area
from dreieck.core.grid.lines import LineChange, LineMove, Lines

__all__ = [
    "AXES",
    "CROSSING",
    "EVERYWHERE",
    "LAST",
    "MAX_COLUMN",
    "MAX_ROW",
    "Area",
    "Axis",
    "Cell",
    "LineChange",
    "LineMove",
    "Lines",
    "column_letters",
    "column_number",
]
