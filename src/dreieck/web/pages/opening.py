"""Opening a file: it is shown as it will be read, and becomes a workbook when somebody says so."""

from __future__ import annotations

from contextlib import ExitStack
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Annotated, Any

from fastapi import APIRouter, Depends, File, HTTPException, Request, UploadFile
from starlette.background import BackgroundTask
from starlette.responses import FileResponse, Response

from dreieck.core.calculate import Calculation, look_at
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import shown_text
from dreieck.files import FORMATS
from dreieck.files.delimited import preview
from dreieck.files.formats import read_endings, shown_name
from dreieck.files.settings import ENCODINGS, SEPARATORS, Settings
from dreieck.web.answers import TheForm, TheLibrary, page
from dreieck.web.incoming import Coming, Incoming

router = APIRouter(include_in_schema=False)
ORDERS = {
    "ymd": "2026-03-01 only", "dmy": "day first: 1.3.2026", "mdy": "month first: 3/1/2026",
    "none": "kept as text",
}  # fmt: skip
_ROWS, _COLUMNS = 8, 7


def _incoming(request: Request) -> Incoming:
    incoming: Incoming = request.app.state.incoming
    return incoming


TheIncoming = Annotated[Incoming, Depends(_incoming)]


def _coming(token: str, incoming: TheIncoming, library: TheLibrary) -> Coming:
    found = incoming.find(token, library)
    if found is None:
        raise HTTPException(404, "This file is not held any more. Open it again.")
    return found


TheComing = Annotated[Coming, Depends(_coming)]


@router.get("/files")
def ask(request: Request) -> Response:
    """The dialog that asks for a file."""
    return page(request, "file_ask.html", problem="", formats=_readable())


@router.post("/files")
def take(
    request: Request,
    incoming: TheIncoming,
    library: TheLibrary,
    file: Annotated[UploadFile | None, File()] = None,
) -> Response:
    """Take a file."""
    try:
        if file is None or not file.filename:
            raise DreieckError("No file came along. Choose one, or drop one on the page.")
        return _state(request, incoming.take(file.file.read(), file.filename, library))
    except DreieckError as refusal:
        return page(request, "file_ask.html", problem=str(refusal), formats=_readable())


@router.get("/files/{token}")
def look(request: Request, coming: TheComing) -> Response:
    """How far a file is, and what it holds."""
    return _state(request, coming)


@router.post("/files/{token}/settings")
def settle(request: Request, coming: TheComing, form: TheForm) -> Response:
    """Read a table of text in another way."""
    if coming.settings and not coming.is_busy:
        coming.settings = _settings(form, coming.settings)
    return _state(request, coming)


@router.post("/files/{token}/keep")
def keep(request: Request, coming: TheComing, incoming: TheIncoming) -> Response:
    """Make a workbook of a file."""
    incoming.keep(coming)
    return _state(request, coming)


@router.post("/files/{token}/stop")
def stop(request: Request, token: str, incoming: TheIncoming, library: TheLibrary) -> Response:
    """Give a file up."""
    if incoming.find(token, library):
        incoming.drop(token)
    said = "Reading was stopped; nothing has changed."
    return page(request, "file_ask.html", problem=said, formats=_readable())


@router.get("/data-file")
def carry_away(library: TheLibrary) -> Response:
    """All workbooks as one file."""
    folder = ExitStack()
    try:
        path = Path(folder.enter_context(TemporaryDirectory())) / "dreieck.db"
        library.copy_all(path)
    except DreieckError as refusal:
        folder.close()
        raise HTTPException(403, str(refusal)) from None
    except OSError as error:
        folder.close()
        raise HTTPException(503, f"No copy could be made: {error.strerror}.") from None
    except BaseException:
        folder.close()
        raise
    return FileResponse(
        path,
        media_type="application/vnd.sqlite3",
        filename="dreieck-workbooks.db",
        background=BackgroundTask(folder.close),
    )


def _readable() -> str:
    return ",".join([*read_endings(), ".db"])


def _state(request: Request, coming: Coming) -> Response:
    """The page of a file as it is now."""
    if coming.is_busy:
        return page(request, "file_progress.html", coming=coming)
    if coming.workbooks:
        several = len(coming.workbooks) > 1
        address = "/" if several else f"/workbooks/{coming.workbooks[0]}?came=yes"
        return Response(headers={"HX-Redirect": address})
    if coming.problem:
        return page(request, "file_ask.html", problem=coming.problem, formats=_readable())
    if coming.is_text:
        return _text_page(request, coming)
    if coming.kind == "data":
        return page(request, "file_data.html", coming=coming)
    return page(request, "file_preview.html", coming=coming, says=_says(coming), **_shown(coming))


def _says(coming: Coming) -> str:
    return FORMATS[coming.kind].says


def _text_page(request: Request, coming: Coming) -> Response:
    assert coming.settings is not None
    problem = ""
    try:
        shown = preview(coming.data, coming.settings)
    except DreieckError as refusal:
        problem, shown = str(refusal), None
    return page(
        request, "file_table.html", coming=coming, settings=coming.settings, preview=shown,
        problem=problem, separators=SEPARATORS, encodings=ENCODINGS, orders=ORDERS,
        called=shown_name(coming.name),
    )  # fmt: skip


def _settings(form: Any, before: Settings) -> Settings:
    """The settings of a form; what cannot be stays as it was."""
    said = {
        name: str(form.get(name, getattr(before, name)))
        for name in ("separator", "quote", "encoding", "decimal", "order")
    }
    ticks = {name: form.get(name) == "true" for name in ("header", "formulas")}
    try:
        return replace(before, **said, **ticks).checked()  # type: ignore[arg-type]
    except DreieckError:
        return replace(before, **ticks)


def _shown(coming: Coming) -> dict[str, Any]:
    """What a workbook that was read holds, and the first cells of its first filled sheet."""
    assert coming.arrived is not None
    workbook = coming.arrived.workbook
    calculation = Calculation(workbook)
    sheets = [_line(sheet) for sheet in workbook.sheets]
    first = next((sheet for sheet in workbook.sheets if sheet.used()), None)
    rows: list[tuple[int, list[tuple[str, bool]]]] = []
    letters: list[str] = []
    if first and (used := first.used()):
        area = Area(used.left, used.top, min(used.right, used.left + _COLUMNS - 1),
                    min(used.bottom, used.top + _ROWS - 1))  # fmt: skip
        letters = [column_letters(number) for number in range(area.left, area.right + 1)]
        for line in area.lines("row"):
            rows.append((line.top, [_cell(calculation, first, cell) for cell in line.cells()]))
    return {
        "sheets": sheets, "names": len(workbook.names), "rows": rows, "letters": letters,
        "first": first.name if first else "",
    }  # fmt: skip


def _cell(calculation: Calculation, sheet: Sheet, cell: Cell) -> tuple[str, bool]:
    """What a cell shows, and whether that is a number."""
    value = calculation.value(sheet.name, cell)
    look, locale = look_at(sheet, cell), calculation.workbook.locale
    return shown_text(value, look, 14, locale), isinstance(value, float)


def _line(sheet: Sheet) -> tuple[str, str, int, int]:
    """A sheet by its name, where it is filled, its cells and its formulas."""
    used = sheet.used()
    return sheet.name, used.text if used else "", len(sheet), sheet.count_formulas()
