"""Numbers by chance that are the same each time: each place of a workbook has its own.

They follow from the workbook's seed, the sheet, the cell and the call, and so are there tomorrow.
"""

from __future__ import annotations

from hashlib import blake2b

from dreieck.core.grid import Cell

MAX_SEED = 2**31 - 1
"""The largest seed; the smallest is 0."""
_BITS = 53
"""So many bits make every number from 0 to below 1 that a float holds evenly."""


def drawn(seed: int, sheet_id: int, cell: Cell, call: str) -> float:
    """A number from 0 to below 1, spread evenly, for one call in one cell."""
    said = f"{seed} {sheet_id} {cell.column} {cell.row} {call}".encode()
    number = int.from_bytes(blake2b(said, digest_size=8).digest())
    return float(number >> (64 - _BITS)) / float(1 << _BITS)


def next_seed(seed: int) -> int:
    """Another seed, by the same rule for everybody."""
    return int(drawn(seed, 0, Cell(1, 1), "next") * MAX_SEED)
