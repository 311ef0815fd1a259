"""Names of a workbook part (18.2.5), read and written.

What a name reads by position is told as seen from A1, and wraps around at the end of a sheet.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from typing import Any

from openpyxl.workbook.defined_name import DefinedName

from dreieck.core.exceptions import FormulaError
from dreieck.core.formula.printer import pieces, written
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Cell, column_letters, column_number
from dreieck.core.sheet.names import Named
from dreieck.files.building import WorkbookBuilder
from dreieck.files.formulas import OpenXmlDialect
from dreieck.files.formulas.dialect import read_formula

_WIDTH, _HEIGHT = 16_384, 1_048_576
"""How many columns and rows a sheet has in such files."""
_BASE = Cell(9_000, 500_000)
"""In the middle of our sheets, from where all that wraps around is on the sheet."""
_ADDRESS = re.compile(
    r"""("(?:[^"]|"")*+"|'(?:[^']|'')*+'!?|["'].*|[\w.]++\()"""
    r"""|(?<![\w.$])(\$?)([A-Za-z]{1,3})(\$?)([0-9]{1,7})(?![\w.(!])"""
)
_RESERVED = "_xlnm."


def read_names(said: Iterable[Any], builder: WorkbookBuilder, dialect: OpenXmlDialect) -> None:
    """Take the names of a file; what they read from A1 is moved to a cell with room around."""
    for each in said:
        name, text = str(each.name), str(each.value or "")
        if name.lower().startswith(_RESERVED):
            what = name[len(_RESERVED) :].replace("_", " ").lower()
            builder.leavings.add(f"setting of the file ({what})")
            continue
        try:
            shape = read_formula(dialect, _rebased(text), _BASE)
        except FormulaError:
            builder.leavings.add("name that cannot be read", name[:60], "it stands for nothing")
            continue
        builder.name(name, shape)


def written_name(named: Named, dialect: OpenXmlDialect) -> DefinedName:
    """A name for the library to write."""

    def from_corner(reference: Reference, at: Cell) -> str:
        return _wrapped(dialect.reference(reference, at))

    laid_out = pieces(named.shape.tree, dialect.notation)
    text = written(laid_out, _BASE, from_corner)[1:]
    return DefinedName(named.name, attr_text=text)


def _rebased(text: str) -> str:
    """What is seen from A1, as it is seen from the middle."""
    return _moved(
        text,
        lambda column: _BASE.column + _signed(column - 1, _WIDTH),
        lambda row: _BASE.row + _signed(row - 1, _HEIGHT),
    )


def _wrapped(text: str) -> str:
    """What is seen from the middle, as it is seen from A1."""
    return _moved(
        text,
        lambda column: (column - _BASE.column) % _WIDTH + 1,
        lambda row: (row - _BASE.row) % _HEIGHT + 1,
    )


def _moved(text: str, column_of: Callable[[int], int], row_of: Callable[[int], int]) -> str:
    """A formula with all parts of its references moved that are not locked."""

    def moved(match: re.Match[str]) -> str:
        if match[1]:
            return match[1]
        _, lock_column, letters, lock_row, digits = match.groups()
        column, row = column_number(letters), int(digits)
        letters = column_letters(column if lock_column else column_of(column))
        return f"{lock_column}{letters}{lock_row}{row if lock_row else row_of(row)}"

    return _ADDRESS.sub(moved, text)


def _signed(steps: int, size: int) -> int:
    return steps - size if steps > size // 2 else steps
