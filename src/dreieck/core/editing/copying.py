"""Copy and paste: cells of the application's own, and text from and to other programs."""

from __future__ import annotations

import csv
from collections.abc import Iterator, Sequence
from itertools import groupby, zip_longest
from typing import Literal, NamedTuple

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.editing.entering import typed_down
from dreieck.core.editing.target import MAX_FILL, check_target
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import MAX_ENTRY, Content
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import ColumnRun, Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import LOOP, ROOM, Error, Value
from dreieck.core.values.ambiguous import one_order
from dreieck.core.values.look import shown_text

What = Literal["all", "formulas", "values", "looks"]
MAX_TEXT_CELLS = 100_000
"""How many cells text from outside can fill."""


def pasted(
    calculation: Calculation, source: Sheet, area: Area, target: Sheet, at: Area, what: What
) -> SetCells:
    """Paste copies of an area; an area of several times its size is filled with it.

    References move as in a fill. ``what`` tells what of the cells is pasted. Raises
    DreieckError where the copy would leave the sheet or is too large.
    """
    used = calculation.used(source.name) or Area.of(area.first)
    if area.height > used.bottom or area.width > used.right:
        area = area.common(used) or Area.of(area.first)
    across = max(at.width // area.width, 1) if at.width % area.width == 0 else 1
    down = max(at.height // area.height, 1) if at.height % area.height == 0 else 1
    size = Area(
        at.left, at.top, at.left + area.width * across - 1, at.top + area.height * down - 1
    )
    check_target(size)
    runs: list[Run] = []
    copied = list(_copied(calculation, source, area, what))
    for column in range(size.left, size.right + 1, area.width):
        for row in range(size.top, size.bottom + 1, area.height):
            for run in copied:
                moved = run._replace(
                    column=run.column - area.left + column,
                    top=run.top - area.top + row,
                    bottom=run.bottom - area.top + row,
                )
                runs.extend(_pasted_run(calculation, source, run, target, moved, what))
                if len(runs) > MAX_FILL:
                    raise DreieckError(f"At most {MAX_FILL:,} cells can be pasted at once.")
    return SetCells(target.id, tuple(runs))


def _copied(calculation: Calculation, source: Sheet, area: Area, what: What) -> Iterator[Run]:
    """What is copied of an area: values that a formula fills in count as typed without it."""
    fans = [
        fan
        for fan in calculation.fans_in(source.name, area)
        if what == "values" or not area.holds(fan.first)
    ]
    for run in source.runs(area):
        if run.content is not None or what == "looks":
            yield run
            continue
        top = run.top
        for fan in sorted(fans, key=lambda fan: fan.top):
            part = fan.common(run.area._replace(top=top))
            if part is None:
                continue
            if top < part.top:
                yield run._replace(top=top, bottom=part.top - 1)
            for row in range(part.top, part.bottom + 1):
                value = calculation.value(source.name, Cell(run.column, row))
                yield run._replace(top=row, bottom=row, content=_frozen(value))
            top = part.bottom + 1
        if top <= run.bottom:
            yield run._replace(top=top)


def _pasted_run(
    calculation: Calculation, source: Sheet, run: Run, target: Sheet, moved: Run, what: What
) -> Iterator[Run]:
    """What a run of copied cells leaves where it is pasted."""
    content = run.content
    if what == "looks":
        for there in target.runs(moved.area):
            yield there._replace(look=run.look)
        return
    if what == "values" and isinstance(content, Shape):
        for offset in range(run.bottom - run.top + 1):
            value = calculation.value(source.name, Cell(run.column, run.top + offset))
            row = moved.top + offset
            look = look_of(content, run.look)
            yield moved._replace(top=row, bottom=row, content=_frozen(value), look=look)
        return
    for each in target.runs(moved.area) if what == "formulas" else [moved]:
        yield from landed_run(each._replace(content=content))


def landed_run(run: Run) -> Iterator[Run]:
    """What a run of copies holds where it lands: a reference may fall off the sheet there."""
    content = run.content
    if isinstance(content, Shape) and not _fits(content, run.area):
        for cell in run.area.cells():
            yield Run(cell.column, cell.row, cell.row, content.landed(cell), run.look)
    else:
        yield run


def _fits(shape: Shape, area: Area) -> bool:
    home = shape.home
    return home is not None and home.holds(area.first) and home.holds(area.last)


def _frozen(value: Value) -> Content | None:
    """A value as a content; an error stays one that is typed."""
    if not isinstance(value, Error):
        return value
    code = value.code
    return code if code in (LOOP, ROOM) else Shape.parse(f"={code}", Cell(1, 1))


def copy_text(calculation: Calculation, sheet: Sheet, area: Area) -> str:
    """The cells of an area as tab-separated text, as they are shown.

    Raises DreieckError where they are too many.
    """
    used = calculation.used(sheet.name)
    clipped = area.common(used.around(Area.of(area.first))) if used else Area.of(area.first)
    area = clipped or Area.of(area.first)
    if area.size > MAX_TEXT_CELLS:
        raise DreieckError(f"Text for other programs can have {MAX_TEXT_CELLS:,} cells.")
    lines = _Lines()
    writer = csv.writer(lines, delimiter="\t", lineterminator="\n")
    for row in range(area.top, area.bottom + 1):
        writer.writerow(
            [
                _copied_text(calculation, sheet, Cell(column, row))
                for column in range(area.left, area.right + 1)
            ]
        )
    return "".join(lines)


class _Lines(list[str]):
    """Where a writer puts its lines."""

    write = list.append


def _copied_text(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    value = calculation.value(sheet.name, cell)
    look = look_of(sheet.content(cell), sheet.look(cell))
    return shown_text(value, look, 400, calculation.workbook.locale)


class TypedText(NamedTuple):
    """Text as it is typed into cells, and what was taken for one of two readings."""

    edit: SetCells
    doubts: dict[Cell, str]


def pasted_text(workbook: Workbook, sheet: Sheet, at: Cell, text: str) -> TypedText:
    """Type tab-separated text into the cells from ``at`` on. Raises DreieckError."""
    text = text.rstrip("\r\n")
    try:
        rows = _rows(text)
    except csv.Error:
        raise DreieckError(
            f"One piece of this text is too long for a cell, which can have {MAX_ENTRY:,}"
            " characters. Is a quotation mark missing?"
        ) from None
    count = sum(len(row) for row in rows)
    if count > MAX_TEXT_CELLS:
        raise DreieckError(f"Text can fill {MAX_TEXT_CELLS:,} cells; this one has {count:,}.")
    width = max((len(row) for row in rows), default=0)
    if not width:
        raise DreieckError("There is no text to paste.")
    check_target(Area(at.column, at.row, at.column + width - 1, at.row + len(rows) - 1))
    typed: list[Run | ColumnRun] = []
    doubts: dict[Cell, str] = {}
    for across, column in enumerate(zip_longest(*rows)):
        fields = column if workbook.locale else one_order(column)
        for first, texts in _stretches(fields):
            start = at.offset(across, first)
            typed += typed_down(workbook, sheet, start, texts, doubts)
    return TypedText(SetCells(sheet.id, tuple(typed)), doubts)


def _rows(text: str) -> list[list[str]]:
    """The fields of tab-separated text. Raises csv.Error."""
    lines = text.split("\n")
    if '"' in text or "\r" in text:
        return list(csv.reader([line + "\n" for line in lines], delimiter="\t"))
    return [line.split("\t") if line else [] for line in lines]


def _stretches(fields: Sequence[str | None]) -> Iterator[tuple[int, list[str]]]:
    """The texts of a column that follow each other, and where each such row of them begins."""
    if None not in fields:
        yield 0, list(fields)  # type: ignore[arg-type]  # texts
        return
    for is_text, group in groupby(enumerate(fields), lambda each: each[1] is not None):
        if is_text:
            held = list(group)
            yield held[0][0], [text or "" for _, text in held]
