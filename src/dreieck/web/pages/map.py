"""The shape map: a sheet in small, each shape its own tone and pattern, breaks within reach."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from fastapi import APIRouter, HTTPException, Request
from starlette.responses import Response

from dreieck.core.budget import current
from dreieck.core.calculate.blocks import areas_by_shape, patches
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, column_letters
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.reading import by_position
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page
from dreieck.web.navigation import Entry
from dreieck.web.turns import in_time
from dreieck.web.workbench.finding_cache import findings_on
from dreieck.web.workbench.findings_shown import Found, shown

router = APIRouter(include_in_schema=False)
ENTRY = Entry(2, "map", "Shape map", "/workbooks/{workbook}/sheets/{sheet}/map")

WIDTH, HEIGHT = 840.0, 620.0
_HEAD = 22.0
_MAX_COLUMNS = 60
_MAX_BOXES = 4_000
_MAX_MARKS = 400
_TONES = ("#b9621b", "#167a86", "#a83267", "#5f6f12", "#6d3f91", "#4c5d75", "#3d3a94", "#8a5a2b")
_PATTERNS = ("plain", "down", "up", "across", "dots", "cross")


@dataclass(frozen=True)
class Box:
    """A rectangle of the map: an area of cells, and where it is drawn."""

    area: str
    x: float
    y: float
    width: float
    height: float
    look: str
    says: str


@dataclass(frozen=True)
class Tone:
    """One shape in the list beside the map."""

    look: str
    formula: str
    says: str
    cells: int
    areas: str
    at: str


class _Scale:
    """Where cells lie on the map."""

    def __init__(self, used: Area) -> None:
        self.columns = min(used.right, _MAX_COLUMNS)
        self.rows = used.bottom
        self.column = (WIDTH - _HEAD) / max(self.columns, 6)
        self.row = (HEIGHT - _HEAD) / max(self.rows, 20)

    def shows(self, found: Found) -> bool:
        """Whether the first cell of a finding is on the map."""
        return Area.parse(found.at).left <= self.columns

    def mark(self, found: Found) -> Box:
        """The first cell of a finding."""
        return self.box(Area.parse(found.at), found.state, f"{found.state_said}: {found.says}")

    def box(self, area: Area, look: str, says: str) -> Box:
        x, y = _HEAD + (area.left - 1) * self.column, _HEAD + (area.top - 1) * self.row
        width, height = area.width * self.column, max(area.height * self.row, 1.2)
        return Box(
            area.text, round(x, 1), round(y, 2), round(width, 1), round(height, 2), look, says
        )


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/map")
def shape_map(request: Request, opened: TheWorkbook, sheet_id: int, mended: int = 0) -> Response:
    """The page of the map; ``mended`` tells how many mends were made just now."""
    with opened.lock:
        try:
            sheet = opened.workbook.sheet_by_id(sheet_id)
        except DreieckError as error:
            raise HTTPException(404, str(error)) from None
        return in_time(lambda: map_page(request, opened, sheet, mended=mended))


def map_page(request: Request, opened: OpenWorkbook, sheet: Sheet, **told: Any) -> Response:
    """The page of the map, with what it tells besides: a preview of mends, a problem."""
    used = opened.calculation.used(sheet.name) or Area(1, 1, 1, 1)
    scale = _Scale(used)
    looks = _looks(sheet)
    fans = opened.calculation.fans_in(sheet.name, used)
    every = [
        shown(f, opened.workbook.locale)
        for each in findings_on(opened, sheet)
        for f in each.findings
    ]
    broken = [each for each in every if each.rule in ("shape-break", "typed-over")]
    return page(
        request, "map.html", opened=opened, sheet=sheet, used=used,
        values=_values(sheet, scale), blocks=_blocks(sheet, scale, looks, fans),
        marks=[scale.mark(each) for each in every[:_MAX_MARKS] if scale.shows(each)],
        broken=broken, others=[each for each in every if each not in broken],
        mendable=any(each.mends for each in every),
        tones=_tones(opened, sheet, looks), headings=_headings(scale), patterns=_PATTERNS[1:],
        colours=list(enumerate(_TONES)), width=WIDTH, height=HEIGHT,
        hurried=current().hurried, **told,
    )  # fmt: skip


def _looks(sheet: Sheet) -> dict[Shape, str]:
    """The tone and pattern of each shape: eight tones, then the same with another pattern."""
    looks: dict[Shape, str] = {}
    for patch in patches(sheet):
        if patch.shape not in looks:
            number = len(looks)
            pattern = _PATTERNS[number // len(_TONES) % len(_PATTERNS)]
            looks[patch.shape] = f"{pattern}-{number % len(_TONES)}"
    return looks


def _blocks(
    sheet: Sheet, scale: _Scale, looks: dict[Shape, str], fans: Sequence[Area]
) -> list[Box]:
    """The formulas, but for those alone that are drawn with all that they fill."""
    drawn = {Area.of(fan.first) for fan in fans[:_MAX_BOXES]}
    formulas = [
        scale.box(
            patch.area,
            looks[patch.shape],
            f"{patch.area.text}: {patch.shape.text(patch.area.first)}",
        )
        for patch in patches(sheet)[:_MAX_BOXES]
        if patch.area.left <= scale.columns and patch.area not in drawn
    ]
    return formulas + list(_fans(sheet, scale, looks, fans))


def _fans(
    sheet: Sheet, scale: _Scale, looks: dict[Shape, str], fans: Sequence[Area]
) -> Iterator[Box]:
    """What formulas fill, in the tone of the formula."""
    for fan in fans[:_MAX_BOXES]:
        shape = sheet.content(fan.first)
        if isinstance(shape, Shape) and fan.left <= scale.columns:
            yield scale.box(fan, looks[shape], f"{fan.text}: filled by {shape.text(fan.first)}")


def _values(sheet: Sheet, scale: _Scale) -> list[Box]:
    """Runs of numbers and of texts, as far as they can be told apart on the map."""
    boxes: list[Box] = []
    least = max(int(1.0 / scale.row), 1)
    for number in sorted(sheet.columns):
        column = sheet.columns[number]
        extent = column.extent()
        if number > scale.columns or not extent:
            continue
        kinds = column.cells(*extent).kinds
        if least > 1:
            kinds = kinds[::least]
        edges = np.concatenate(([0], np.flatnonzero(kinds[1:] != kinds[:-1]) + 1, [len(kinds)]))
        for first, end in zip(edges[:-1].tolist(), edges[1:].tolist(), strict=True):
            look = {Kind.NUMBER: "value", Kind.TEXT: "text", Kind.LOGICAL: "value"}.get(
                int(kinds[first])
            )
            if look and len(boxes) < _MAX_BOXES:
                area = Area(number, extent[0] + first * least, number, extent[0] + end * least - 1)
                boxes.append(scale.box(area, look, ""))
    return boxes


def _tones(opened: OpenWorkbook, sheet: Sheet, looks: dict[Shape, str]) -> list[Tone]:
    tones = [
        Tone(
            looks[shape],
            opened.workbook.typed(shape, where[0].first),
            by_position(opened.workbook, shape, where[0].first),
            sum(area.size for area in where),
            ", ".join(area.text for area in where[:3]) + (" …" if len(where) > 3 else ""),
            where[0].first.text,
        )
        for shape, where in areas_by_shape(sheet).items()
    ]
    return sorted(tones, key=lambda tone: -tone.cells)[:60]


def _headings(scale: _Scale) -> list[tuple[float, float, str, str]]:
    """Column letters on top and row numbers at the side: place, text, and its anchor."""
    columns = [
        (_HEAD + (number - 0.5) * scale.column, 15.0, column_letters(number), "middle")
        for number in range(1, scale.columns + 1)
        if scale.column > 14 or number % 5 == 1
    ]
    step = max(1, round(24 / scale.row))
    rows = [
        (_HEAD - 4, _HEAD + (row - 0.5) * scale.row + 4, f"{row:,}", "end")
        for row in range(1, scale.rows + 1, step)
    ]
    return columns + rows
