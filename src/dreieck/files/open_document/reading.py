"""Reading a document, a package or one XML text (part 2 and 3), into our workbook."""

from __future__ import annotations

import io
import posixpath
from collections.abc import Iterator
from dataclasses import replace
from typing import IO, Any
from zipfile import ZipFile

from lxml import etree

from dreieck.core.budget import spend
from dreieck.core.calculate import Calculation
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.sheet.chart import Chart
from dreieck.core.sheet.layout import MAX_HEADINGS, Headings
from dreieck.core.sheet.stated import SORTS, one_of
from dreieck.files.arrived import Arrived
from dreieck.files.building import WorkbookBuilder
from dreieck.files.charts import charted, without_told_title
from dreieck.files.exceptions import FileRefused
from dreieck.files.formulas import OpenFormulaDialect
from dreieck.files.formulas.dialect import read_formula
from dreieck.files.open_document.charts import read_chart
from dreieck.files.open_document.rows import PREFIX, RowReader
from dreieck.files.open_document.styles import Looks
from dreieck.files.open_document.tags import STATED, tag
from dreieck.files.progress import Progress
from dreieck.files.zipped import check_text, missing, opened, part

WHAT = "OpenDocument spreadsheet"
_SPREADSHEET = "application/vnd.oasis.opendocument.spreadsheet"
_KEPT_OUT = (
    ("Pictures/", "picture", ""),
    ("Basic/", "macro program", "it is never run"),
    ("Scripts/", "macro program", "it is never run"),
    ("media/", "picture", ""),
)
_TOLD = {
    "content-validation": ("rule for what may be entered", ""),
    "data-pilot-table": ("pivot table", "its cells stay as values"),
    "tracked-changes": ("record of changes", "the last state is read"),
    "table-source": ("link to another file", "it is never followed"),
    "cell-range-source": ("link to another file", "it is never followed"),
    "dde-link": ("link to another program", "it is never followed"),
    "scenario": ("scenario", ""),
    "form": ("form control", ""),
}
_DIGITS = 8
_FRAME = 100
"""So many steps it takes to look at a frame."""
_PARTS = ("table-column", "table-row", "table", "table-header-rows", "table-header-columns")
_WALKED = (
    *_PARTS, *_TOLD, "styles", "automatic-styles", "shapes", "named-range", "named-expression",
    "database-range",
)  # fmt: skip
"""What is told of on the way; all else is looked at inside of these."""


def read(data: bytes, progress: Progress) -> Arrived:
    """Read a package. Raises FileRefused."""
    archive = opened(data, WHAT)
    kind = part(archive, "mimetype", WHAT).decode("ascii", "replace").strip()
    if not kind.startswith(_SPREADSHEET):
        raise FileRefused(f"The file is no {WHAT}: it says that it is “{kind[:80]}”.")
    _check_encryption(archive)
    if "content.xml" not in archive.namelist():
        raise missing("content.xml", WHAT)
    size = archive.getinfo("content.xml").file_size
    with archive.open("content.xml") as content:
        return _Reading(progress, archive).read(content, size)


def read_flat(data: bytes, progress: Progress) -> Arrived:
    """Read a document that is one XML text. Raises FileRefused."""
    check_text(iter([data]), "file")
    return _Reading(progress, None).read(io.BytesIO(data), len(data))


def _check_encryption(archive: ZipFile) -> None:
    name = "META-INF/manifest.xml"
    if name in archive.namelist() and b"encryption-data" in archive.read(name):
        raise FileRefused(
            "The file is locked with a password. Save it without one, then open it again."
        )


class _Reading:
    """Reads the content as it comes."""

    def __init__(self, progress: Progress, package: ZipFile | None) -> None:
        self.progress = progress
        self.package = package
        self.builder = WorkbookBuilder(progress)
        self.looks = Looks()
        self.dialect = OpenFormulaDialect(self._sheet_named)
        self.arrived = Arrived(self.builder.workbook)
        self.headings: dict[str, Headings] = {}
        self.frames: list[tuple[str, Any, int, int]] = []
        self.rows: RowReader | None = None
        self.depth = 0

    def read(self, content: IO[bytes], size: int) -> Arrived:
        """The workbook of the content."""
        if self.package:
            styles = self._part("styles.xml")
            if styles is not None:
                for group in ("office:styles", "office:automatic-styles"):
                    for each in styles.iter(tag(group)):
                        self.looks.learn(each)
            settings = self._part("settings.xml")
            if settings is not None:
                self._read_settings(settings)
            self._leave_out()
        for event, element in self._walk(content, size):
            if event == "start":
                self._begin(element)
            else:
                self._end(element)
        self._read_charts()
        self._read_stated()
        for sheet in self.builder.workbook.sheets:
            known = self.headings.get(sheet.name.casefold())
            if known:
                sheet.layout = replace(sheet.layout, headings=known)
        self.builder.finish()
        self.arrived.left_out = self.builder.leavings.listed()
        return self.arrived

    def _read_stated(self) -> None:
        """The proofs and sweeps that the metadata of a package carry."""
        about = self._part("meta.xml") if self.package else None
        if about is None or not self.builder.workbook.sheets:
            return
        sorts = {f"{STATED}{one_of(sort)}": sort for sort in SORTS}
        for each in about.iter(tag("meta:user-defined")):
            name, _, number = (each.get(tag("meta:name")) or "").rpartition(" ")
            if name in sorts and number.isdecimal() and len(number) < _DIGITS:
                self.builder.state(sorts[name], each.text or "", int(number))

    def _walk(self, content: IO[bytes], size: int) -> Iterator[tuple[str, Any]]:
        events = etree.iterparse(
            content,
            events=("start", "end"),
            tag=[f"{{*}}{name}" for name in _WALKED],
            resolve_entities=False,
            no_network=True,
        )
        for count, (event, element) in enumerate(events):
            yield event, element
            if count % 256 == 0:
                self.progress.at(0.9 * content.tell() / max(size, 1))

    def _begin(self, element: Any) -> None:
        if element.tag == tag("table:table"):
            self.depth += 1
            if self.depth == 1:
                name = element.get(tag("table:name")) or ""
                # Formulas may read sheets that come later.
                builder = self.builder.add_sheet(name)
                self.rows = RowReader(builder, self.looks, self.dialect)
                if element.get(tag("table:protected")) == "true":
                    note = "the cells can be changed here"
                    self.builder.leavings.add("protected sheet", builder.sheet.name, note)

    def _end(self, element: Any) -> None:
        name = str(element.tag).rpartition("}")[2] if isinstance(element.tag, str) else ""
        if name in ("styles", "automatic-styles") and element.tag == tag(f"office:{name}"):
            self.looks.learn(element)
            element.clear()
        elif self.rows and self.depth == 1 and name in _PARTS:
            self._end_part(name, element, self.rows)
        elif name == "table":
            self.depth -= 1
        elif name == "shapes" and self.rows:
            frames = element.iter(tag("draw:frame"))
            self.frames += [(self.rows.builder.sheet.name, each, 1, 1) for each in frames]
        elif name in ("named-range", "named-expression"):
            self._read_name(element)
        elif name in _TOLD:
            what, note = _TOLD[name]
            self.builder.leavings.add(what, note=note)
        elif name == "database-range" and element.get(tag("table:display-filter-buttons")):
            self.builder.leavings.add("filter", note="all rows are there; hidden ones stay hidden")

    def _end_part(self, name: str, element: Any, rows: RowReader) -> None:
        sheet = rows.builder.sheet
        if name == "table-column":
            rows.take_column(element)
        elif name == "table-row":
            rows.take_row(element)
            element.clear()
            # What lies behind is no longer needed.
            while element.getprevious() is not None:
                del element.getparent()[0]
        elif name == "table-header-rows":
            count = rows.row
            self._keep_in_view(sheet.name, rows=count if count <= MAX_HEADINGS else 0)
        elif name == "table-header-columns":
            count = rows.column
            self._keep_in_view(sheet.name, columns=count if count <= MAX_HEADINGS else 0)
        else:
            self.depth -= 1
            rows.finish()
            self.arrived.stored[sheet.name] = rows.stored
            self.arrived.array_formulas[sheet.name] = rows.arrays
            self.frames += [(sheet.name, *each) for each in rows.charts]
            self.rows = None

    def _keep_in_view(self, sheet: str, *, columns: int = 0, rows: int = 0) -> None:
        known = self.headings.get(sheet.casefold(), Headings())
        self.headings[sheet.casefold()] = Headings(columns or known.columns, rows or known.rows)

    def _sheet_named(self, name: str) -> str:
        return self.builder.renamed.get(name.casefold(), name)

    def _part(self, name: str) -> Any:
        assert self.package is not None
        if name not in self.package.namelist():
            return None
        parser = etree.XMLParser(resolve_entities=False, no_network=True)
        return etree.fromstring(part(self.package, name, WHAT), parser)

    def _leave_out(self) -> None:
        assert self.package is not None
        names = self.package.namelist()
        for begin, what, note in _KEPT_OUT:
            count = sum(n.startswith(begin) and not n.endswith((".xml", "/")) for n in names)
            count = count or sum(n.startswith(begin) and "Module" in n for n in names)
            if count:
                self.builder.leavings.add(what, note=note, count=count)

    def _read_settings(self, settings: Any) -> None:
        """Which rows and columns stay in view, where a program has noted it."""
        for entry in settings.iter(tag("config:config-item-map-entry")):
            name = entry.get(tag("config:name"))
            said = {
                each.get(tag("config:name")): each.text or ""
                for each in entry.iterfind(tag("config:config-item"))
            }
            if not name or "HorizontalSplitMode" not in said:
                continue
            found = [
                int(said.get(f"{axis}SplitPosition") or 0)
                if said.get(f"{axis}SplitMode") == "2"
                else 0
                for axis in ("Horizontal", "Vertical")
            ]
            columns, rows = (min(max(each, 0), MAX_HEADINGS) for each in found)
            if columns or rows:
                self.headings[name.casefold()] = Headings(columns, rows)

    def _read_name(self, element: Any) -> None:
        name = element.get(tag("table:name")) or ""
        said = element.get(tag("table:cell-range-address"))
        text = f"[{said}]" if said else (element.get(tag("table:expression")) or "")
        base = element.get(tag("table:base-cell-address")) or ""
        try:
            at = Cell.parse(base.rpartition(".")[2].replace("$", ""))
        except DreieckError:
            at = Cell(1, 1)
        try:
            shape: Shape = read_formula(self.dialect, PREFIX.sub("", text, count=1), at)
        except DreieckError:
            self.builder.leavings.add(
                "name that cannot be read", name[:60], "it stands for nothing"
            )
            return
        self.builder.name(name, shape)

    def _read_charts(self) -> None:
        calculation = Calculation(self.builder.workbook)
        in_order = sorted(self.frames, key=lambda each: _depth(each[1]))
        for sheet_name, frame, column, row in in_order:
            spend(_FRAME)
            sheet = self.builder.workbook.sheet(sheet_name)
            held = next(frame.iter(tag("draw:object")), None)
            if held is None:
                if next(frame.iter(tag("draw:image")), None) is None:
                    self.builder.leavings.add("drawing", sheet_name)
                continue
            made = self._chart(held, frame, sheet_name, column, row)
            if made is None:
                self.builder.leavings.add("chart of a kind that is not here", sheet_name)
                continue
            made = replace(made, number=len(sheet.layout.charts) + 1)
            made = without_told_title(calculation, sheet, made)
            sheet.layout = replace(sheet.layout, charts=(*sheet.layout.charts, made))

    def _chart(self, held: Any, frame: Any, sheet: str, column: int, row: int) -> Chart | None:
        address = held.get(tag("xlink:href")) or ""
        name = posixpath.normpath(f"{address}/content.xml").removeprefix("./")
        if not self.package or name not in self.package.namelist():
            return None
        text = part(self.package, name, WHAT)
        end = frame.get(tag("table:end-cell-address")) or ""
        try:
            # The end lies in the cell behind the last one that is covered whole.
            last = Cell.parse(end.rpartition(".")[2].replace("$", ""))
            last = Cell(max(last.column - 1, column), max(last.row - 1, row))
        except DreieckError:
            last = Cell(min(column + 5, MAX_COLUMN), min(row + 14, MAX_ROW))
        told = read_chart(text, Area.spanned(Cell(column, row), last), self.dialect)
        return told and charted(told, sheet, 1)


def _depth(frame: Any) -> int:
    """How far in front a frame stands, which is the order of charts."""
    text = frame.get(tag("draw:z-index")) or ""
    return int(text) if text.isdecimal() and len(text) < 9 else 0
