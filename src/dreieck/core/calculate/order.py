"""In which order pieces are worked out: each after those that it reads.

Pieces that read each other in a ring are found as strongly connected components, by Tarjan's
method without recursion. A ring that only goes one way (a chain, a running balance) is worked
out line by line in that direction. Any other ring is split into its cells; those that still
read each other in a ring read themselves, and become ``#LOOP!``.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import takewhile
from typing import Protocol

from dreieck.core.address import Area
from dreieck.core.calculate.directions import run_in_direction
from dreieck.core.calculate.pieces import Knows, Piece, Pieces, SinglePieces
from dreieck.core.calculate.strips import work_out
from dreieck.core.ranges import Reader
from dreieck.core.values import LOOP, Error, Place


class UnsettledError(Exception):
    """A formula asks for cells that are not worked out, and that its references do not tell."""

    def __init__(self, sheet: str, area: Area) -> None:
        super().__init__(sheet, area)
        self.sheet = sheet
        self.area = area


class Values(Knows, Reader, Protocol):
    """Who knows the values so far, and reads them."""


@dataclass(slots=True)
class _Visit:
    piece: Piece
    reads: Iterator[Piece]
    number: int
    lowest: int
    reads_itself: bool = False


class Order:
    """One question for values, and all that has to be settled before it."""

    def __init__(self, values: Values, pieces: Pieces) -> None:
        self.values = values
        self.pieces = pieces
        self._numbers: dict[Piece, int] = {}
        self._open: list[Piece] = []
        self._done: set[Piece] = set()

    def settle(self, sheet: str, area: Area) -> None:
        """Work out all pieces that lie in an area, and before them those that they read."""
        for piece in list(self.pieces.within(sheet, area)):
            if piece not in self._done:
                self._settle(piece)

    def _settle(self, piece: Piece) -> None:
        path = [self._visit(piece)]
        while path:
            current = path[-1]
            for read in current.reads:
                if read in self._done:
                    continue
                if read == current.piece:
                    current.reads_itself = True
                elif read in self._numbers:
                    current.lowest = min(current.lowest, self._numbers[read])
                else:
                    path.append(self._visit(read))
                    break
            else:
                if current.lowest == current.number:
                    try:
                        self._close(current)
                    except UnsettledError as asked:
                        current.reads = self.pieces.within(asked.sheet, asked.area)
                        continue
                path.pop()
                if path:
                    path[-1].lowest = min(path[-1].lowest, current.lowest)

    def _visit(self, piece: Piece) -> _Visit:
        number = self._numbers[piece] = len(self._numbers)
        self._open.append(piece)
        return _Visit(piece, self.pieces.read_by(piece), number, number)

    def _close(self, visit: _Visit) -> None:
        """Work out a piece, or a ring of pieces, whose readings are all settled."""
        ring = list(takewhile(lambda piece: piece != visit.piece, reversed(self._open)))
        ring.append(visit.piece)
        if len(ring) == 1 and not visit.reads_itself:
            work_out(visit.piece, self.values)
        elif isinstance(self.pieces, SinglePieces):
            for piece in ring:
                why = "This cell reads itself, directly or over other cells."
                place = Place(piece.sheet, piece.area.first)
                self.values.results(piece.sheet).put(place.cell, Error(LOOP, why, place))
        elif not self._one_way(ring):
            for piece in ring:
                Order(self.values, SinglePieces(self.values)).settle(piece.sheet, piece.area)
        del self._open[-len(ring) :]
        self._done.update(ring)

    def _one_way(self, ring: list[Piece]) -> bool:
        try:
            return run_in_direction(ring, self.values)
        except UnsettledError:
            return False
