"""Cells below each other that hold different numbers or texts, stored together in one row.

So a list of 300,000 numbers is some forty rows, which move in no time when lines are inserted
above them. Where one of the cells changes, its row is parted.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator

import numpy as np

from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import Runs
from dreieck.core.sheet.sheet import ColumnRun, Run

NUMBERS = 33
"""The kind of a row of numbers, eight bytes each, the lowest first."""
TEXTS = 34
"""The kind of a row of texts, a list in JSON."""
_FEWEST = 8
"""Fewer cells than this stand alone."""
_MOST = {Kind.NUMBER: 8_192, Kind.TEXT: 1_024}
"""How many cells a row holds."""
_KINDS: dict[type, int] = {float: Kind.NUMBER, str: Kind.TEXT}


def packed(cells: Cells) -> tuple[int, bytes | str]:
    """The kind and the data of a row that holds cells, all numbers or all texts."""
    if cells.all_numbers:
        return NUMBERS, cells.payload.astype("<f8").tobytes()
    return TEXTS, json.dumps(cells.values(), ensure_ascii=False)


def unpacked(kind: int, data: bytes | str) -> Cells:
    """The cells that ``packed`` packed."""
    if kind == NUMBERS:
        assert isinstance(data, bytes)
        return Cells.numbers(np.frombuffer(data, "<f8").astype(np.float64))
    return Cells.of(json.loads(data))


def parted(kind: int, data: bytes | str, at: int) -> tuple[bytes | str, bytes | str]:
    """The data of the first so many cells of a row, and those of the others."""
    cells = unpacked(kind, data)
    return packed(cells.taken(slice(0, at)))[1], packed(cells.taken(slice(at, len(cells))))[1]


def together(runs: Runs | Iterable[Run]) -> Iterator[Run | ColumnRun]:
    """Runs as they are stored: numbers and texts that follow each other together."""
    waiting: list[Run] = []
    for run in runs:
        if isinstance(run, ColumnRun):
            yield from _packed_runs(waiting)
            waiting = []
            yield from _told(run) if isinstance(run.content, Cells) else [run]
            continue
        if waiting and not _goes_on(waiting[-1], run):
            yield from _packed_runs(waiting)
            waiting = []
        if type(run.content) in _KINDS and run.bottom - run.top < _FEWEST:
            waiting.append(run)
        else:
            yield run
    yield from _packed_runs(waiting)


def _goes_on(before: Run, run: Run) -> bool:
    return (
        (run.column, run.top) == (before.column, before.bottom + 1)
        and run.look == before.look
        and type(run.content) is type(before.content)
        and run.bottom - run.top < _FEWEST
    )


def _packed_runs(runs: list[Run]) -> Iterator[Run | ColumnRun]:
    """Short runs of numbers, or of texts, that follow each other."""
    if not runs or runs[-1].bottom - runs[0].top + 1 < _FEWEST:
        yield from runs
        return
    first = runs[0]
    values = [run.content for run in runs for _ in range(run.top, run.bottom + 1)]
    cells = Cells.of(values)  # type: ignore[arg-type]  # numbers or texts
    yield from _chunks(ColumnRun(first.column, first.top, runs[-1].bottom, cells, first.look))


def _told(run: ColumnRun) -> Iterator[Run | ColumnRun]:
    """Cells that hold this and that, in stretches that are stored in one row each."""
    cells = run.cells
    same = cells.kinds[1:] == cells.kinds[:-1]
    mixed = (cells.kinds == Kind.NUMBER) | (cells.kinds == Kind.TEXT)
    goes_on = same & (mixed[1:] | (cells.payload[1:] == cells.payload[:-1]))
    starts = [0, *(np.flatnonzero(~goes_on) + 1).tolist()]
    for start, end in zip(starts, [*starts[1:], len(cells)], strict=True):
        part, top = cells.taken(slice(start, end)), run.top + start
        is_mixed = mixed[start] and (part.payload != part.payload[0]).any()
        if is_mixed and end - start >= _FEWEST:
            yield from _chunks(ColumnRun(run.column, top, top + end - start - 1, part, run.look))
        elif is_mixed:
            yield from ColumnRun(run.column, top, top + end - start - 1, part, run.look).apart()
        else:
            content: Content = part.value(0)  # type: ignore[assignment]  # a content
            yield Run(run.column, top, top + end - start - 1, content, run.look)


def _chunks(run: ColumnRun) -> Iterator[ColumnRun]:
    """Cells of one kind in rows that are not too long."""
    cells = run.cells
    most = _MOST[int(cells.kinds[0])]
    for start in range(0, len(cells), most):
        part = cells.taken(slice(start, start + most))
        top = run.top + start
        yield ColumnRun(run.column, top, top + len(part) - 1, part, run.look)
