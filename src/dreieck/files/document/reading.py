"""Reading a workbook from JSON, distrusted: what cannot be is refused with its place."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

from pydantic import ValidationError

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import LAST, Area, Axis, Cell
from dreieck.core.sheet.chart import Chart, Source
from dreieck.core.sheet.content import Content, Unreadable
from dreieck.core.sheet.feed import Feed, Reading, is_code
from dreieck.core.sheet.layout import Headings, Layout, LineLook, LineLooks, Rule
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.stated import SORTS
from dreieck.core.values.locales import identifier
from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.look_words import look_of
from dreieck.files.appearance import checked
from dreieck.files.arrived import Arrived
from dreieck.files.building import WorkbookBuilder
from dreieck.files.document.models import CellModel, LineModel, SheetModel, WorkbookModel
from dreieck.files.exceptions import FileRefused
from dreieck.files.progress import Progress


def read(data: bytes, progress: Progress) -> Arrived:
    """Read a workbook. Raises FileRefused."""
    try:
        said = WorkbookModel.model_validate_json(data)
    except ValidationError as error:
        first = error.errors(include_url=False, include_input=False)[0]
        where = " › ".join(str(each)[:60] for each in first["loc"]) or "the text"
        raise FileRefused(f"The workbook cannot be read: {where}: {first['msg']}.") from None
    builder = WorkbookBuilder(progress)
    workbook = builder.workbook
    workbook.name, workbook.seed = said.name, said.seed
    try:
        workbook.locale = identifier(said.locale)
    except KeyError:
        raise FileRefused(f"There is no way to write numbers called “{said.locale}”.") from None
    for number, each in enumerate(said.sheets):
        progress.at(0.2 + 0.8 * number / len(said.sheets), f"reading {each.name[:60]}")
        sheet = builder.add_sheet(each.name).sheet
        _fill(sheet, each, builder)
    for name, stands_for in said.names.items():
        builder.name(name, _formula(stands_for.formula, stands_for.at, "names › " + name))
    for feed in said.feeds:
        readings = (Reading(each.value, each.at, each.source) for each in feed.readings)
        made = Feed(feed.code, tuple(readings), feed.problem)
        if not is_code(made.code):
            raise FileRefused(f"The workbook cannot be read: “{made.code}” is no code of a feed.")
        workbook.feeds[made.key] = made
    for sort in SORTS:
        for stated in getattr(said, sort):
            builder.state(sort, stated.states, stated.number)
    return Arrived(builder.finish(), builder.leavings.listed(), history=said.history)


def _fill(sheet: Sheet, said: SheetModel, builder: WorkbookBuilder) -> None:
    filled: dict[int, list[tuple[int, int]]] = {}
    for address, cell in said.cells.items():
        where = f"sheets › {sheet.name} › cells › {address}"
        area = _area(address, where)
        if area.width != 1:
            raise FileRefused(f"The workbook cannot be read: {where}: more than one column.")
        look = _look(cell.look, where)
        content = _content(cell, area.first, where)
        if content is not None:
            builder.count(area.size)
        filled.setdefault(area.left, []).append((area.top, area.bottom))
        sheet.put_run(Run(area.left, area.top, area.bottom, content, look))
    for spans in filled.values():
        spans.sort()
        if any(before[1] >= after[0] for before, after in pairwise(spans)):
            raise FileRefused(f"In the sheet {sheet.name} a cell is told twice.")
    sheet.layout = Layout(
        _lines(said.columns, "column"),
        _lines(said.rows, "row"),
        Headings(said.headings.columns, said.headings.rows),
        tuple(
            Rule(_area(r.area, "rules"), _formula(r.formula, r.at, f"rules › {r.area}"), r.tone)
            for r in said.rules
        ),
        tuple(
            Chart(
                each.number,
                each.kind,
                tuple(Source(s.sheet, _area(s.area, "charts")) for s in each.sources),
                each.series,
                each.names,
                each.labels,
                _area(each.place, "charts"),
                each.title,
                each.label_title,
                each.value_title,
            )
            for each in said.charts
        ),
    )
    if len({chart.number for chart in sheet.layout.charts}) < len(sheet.layout.charts):
        raise FileRefused(f"Two charts of the sheet {sheet.name} have one number.")


def _content(cell: CellModel, at: Cell, where: str) -> Content | None:
    kinds = ("number", "text", "logical", "formula", "unreadable")
    told: list[Any] = [name for name in kinds if getattr(cell, name) is not None]
    if len(told) > 1:
        raise FileRefused(f"The workbook cannot be read: {where}: more than one content.")
    if cell.formula is not None:
        return _formula(cell.formula, at.text, where)
    if cell.unreadable is not None:
        return Unreadable(cell.unreadable)
    return getattr(cell, told[0]) if told else None


def _formula(text: str, at: str, where: str) -> Shape:
    try:
        return Shape.parse(text, Cell.parse(at))
    except DreieckError as error:
        raise FileRefused(f"The workbook cannot be read: {where}: {error}") from None


def _look(text: str | None, where: str) -> Look:
    if text is None:
        return PLAIN
    try:
        return checked(look_of(text))
    except (ValueError, TypeError, KeyError):
        raise FileRefused(f"The workbook cannot be read: {where}: no look “{text}”.") from None


def _area(text: str, where: str) -> Area:
    try:
        return Area.parse(text)
    except DreieckError as error:
        raise FileRefused(f"The workbook cannot be read: {where}: {error}") from None


def _lines(said: list[LineModel], axis: Axis) -> LineLooks:
    last = 0
    for each in said:
        if not last < each.first <= each.last <= LAST[axis]:
            raise FileRefused(f"The {axis}s of the workbook are not told in their order.")
        last = each.last
    return LineLooks.of((each.first, each.last, LineLook(each.size, each.hidden)) for each in said)
