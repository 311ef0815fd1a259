"""A sheet for paper: values, or formulas beside them, headings on each page, charts below."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from fastapi import APIRouter, HTTPException, Query, Request
from pydantic import BaseModel
from starlette.responses import Response

from dreieck.core.budget import current
from dreieck.core.calculate import look_of
from dreieck.core.calculate.ruled import tones
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import MAX_COLUMN, Area, Cell, column_letters
from dreieck.core.sheet.content import Unreadable
from dreieck.core.sheet.layout import LineLooks
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error, Value
from dreieck.core.values.look import shown_text
from dreieck.core.values.style import Tone
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page
from dreieck.web.turns import in_time
from dreieck.web.workbench.charts_shown import drawn_chart
from dreieck.web.workbench.dressed import dressed_as
from dreieck.web.workbench.window import USUAL_SIZES

router = APIRouter(include_in_schema=False)
MAX_CELLS = 60_000
"""How many cells a print can have."""
_PORTRAIT, _LANDSCAPE = 700, 1_030
"""So many pixels fit beside each other on a page of A4, upright or lying."""
_SIZES = (100, 90, 80, 70, 60, 50)


class Asked(BaseModel):
    """What is printed, and whether with letters of columns and numbers of rows."""

    show: Literal["values", "formulas"] = "values"
    heads: bool = False


@dataclass(frozen=True)
class Printed:
    """A cell on paper."""

    text: str
    formula: str
    classes: str
    span: int = 1


@dataclass(frozen=True)
class Part:
    """Columns that fit beside each other, with the headings of the sheet, and their rows."""

    widths: list[int]
    letters: list[str]
    heads: list[tuple[int, list[Printed]]]
    rows: list[tuple[int, list[Printed]]]


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/print")
def printed(
    request: Request, opened: TheWorkbook, sheet_id: int, asked: Annotated[Asked, Query()]
) -> Response:
    """A sheet as it prints."""
    with opened.lock:
        return in_time(
            lambda: page(request, "print.html", opened=opened, **on_paper(opened, sheet_id, asked))
        )


def on_paper(opened: OpenWorkbook, sheet_id: int, asked: Asked) -> dict[str, Any]:
    """What a page shows of a sheet as it prints; hold the lock of the workbook."""
    try:
        sheet = opened.workbook.sheet_by_id(sheet_id)
    except DreieckError as error:
        raise HTTPException(404, str(error)) from None
    used = opened.calculation.used(sheet.name)
    area = Area(1, 1, used.right, used.bottom) if used else Area(1, 1, 1, 1)
    if area.size > MAX_CELLS:
        raise HTTPException(
            422,
            f"{sheet.name} reaches to {area.last.text}; a print can have {MAX_CELLS:,} cells."
            " Save it as a file, or print a part of it from a copy.",
        )
    columns = _shown(sheet.layout.columns, area.left, area.right)
    wide = sum(_width(sheet, each, asked) for each in columns)
    lying = wide > _PORTRAIT
    room = _LANDSCAPE if lying else _PORTRAIT
    size = next((each for each in _SIZES if wide * each / 100 <= room), _SIZES[-1])
    parts = _parts(opened, sheet, area, columns, round(room * 100 / size), asked)
    charts = [
        drawn_chart(opened.calculation, sheet, each).model_dump() for each in sheet.layout.charts
    ]
    return {
        "workbook_name": opened.workbook.name, "sheet": sheet, "asked": asked, "parts": parts,
        "lying": lying, "size": size, "charts": charts, "hurried": current().hurried,
    }  # fmt: skip


def _shown(looks: LineLooks, first: int, last: int) -> list[int]:
    """The columns or rows that are not hidden."""
    return [
        number
        for run in looks.between(first, last)
        if not run.look.hidden
        for number in range(run.first, run.last + 1)
    ]


def _width(sheet: Sheet, column: int, asked: Asked) -> int:
    own = sheet.layout.columns.at(column).size or USUAL_SIZES["column"]
    return max(own, 150) if asked.show == "formulas" and column in sheet.columns else own


def _parts(
    opened: OpenWorkbook, sheet: Sheet, area: Area, columns: list[int], room: int, asked: Asked
) -> list[Part]:
    """The columns in parts that fit, each with the headings on the left."""
    headings = sheet.layout.headings
    kept = [each for each in columns if each <= headings.columns]
    rest = [each for each in columns if each > headings.columns]
    taken = sum(_width(sheet, each, asked) for each in kept)
    groups: list[list[int]] = [[]]
    used = taken
    for column in rest:
        width = _width(sheet, column, asked)
        if groups[-1] and used + width > room:
            groups.append([])
            used = taken
        groups[-1].append(column)
        used += width
    rows = _shown(sheet.layout.rows, area.top, area.bottom)
    toned = tones(opened.calculation, sheet.name, sheet.layout.rules, [area])
    parts: list[Part] = []
    for group in groups:
        numbers = [*kept, *group]
        lines = [(row, _row(opened, sheet, row, numbers, toned, asked)) for row in rows]
        parts.append(
            Part(
                [_width(sheet, each, asked) for each in numbers],
                [column_letters(each) for each in numbers],
                [line for line in lines if line[0] <= headings.rows],
                [line for line in lines if line[0] > headings.rows],
            )
        )
    return parts


def _row(
    opened: OpenWorkbook,
    sheet: Sheet,
    row: int,
    numbers: list[int],
    toned: dict[Cell, Tone],
    asked: Asked,
) -> list[Printed]:
    found: list[Printed] = []
    covered = 0
    for index, column in enumerate(numbers):
        if column <= covered:
            continue
        cell = Cell(column, row)
        content, own = sheet.content(cell), sheet.look(cell)
        value = opened.calculation.value(sheet.name, cell)
        text = shown_text(value, look_of(content, own), 40, opened.workbook.locale)
        is_formula = isinstance(content, Shape | Unreadable) and asked.show == "formulas"
        span = _span(sheet, cell, numbers[index:], value)
        covered = numbers[index + span - 1]
        tone = toned.get(cell)
        kinds = [_kind(value), own.role, *dressed_as(own.style)]
        kinds += [f"rule-{tone}"] if tone else []
        classes = " ".join(each for each in kinds if each != "plain")
        formula = opened.workbook.typed(content, cell) if is_formula else ""
        found.append(Printed(text, formula, classes, span))
    return found


def _span(sheet: Sheet, cell: Cell, numbers: list[int], value: Value) -> int:
    """Over how many cells a text reaches: those behind it that are empty."""
    look = sheet.look(cell)
    if not isinstance(value, str) or look.style.wrap or look.shows_empty:
        return 1
    span = 1
    while span < len(numbers) and numbers[span] <= MAX_COLUMN:
        behind = Cell(numbers[span], cell.row)
        if numbers[span] != cell.column + span or sheet.content(behind) is not None:
            break
        if sheet.look(behind).shows_empty and sheet.look(behind).style.across != "spanning":
            break
        span += 1
    return span


def _kind(value: Value) -> str:
    if isinstance(value, Error):
        return "error"
    return "number" if isinstance(value, float) and not isinstance(value, bool) else "text"
