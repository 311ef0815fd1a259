"""The schema of a workbook as JSON; ``docs/workbook.schema.json`` is made from it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from dreieck.core.editing.stating import MAX_STATED
from dreieck.core.sheet.chart import MAX_CHART_TITLE, Kind
from dreieck.core.sheet.feed import MAX_CODE, MAX_FEEDS, MAX_READINGS
from dreieck.core.sheet.layout import MAX_HEADINGS, MAX_SIZE, MIN_SIZE
from dreieck.core.values.style import Tone

FORMAT = "dreieck workbook"
VERSION = 1
Number = Annotated[float, Field(allow_inf_nan=False)]
Short = Annotated[str, Field(max_length=200)]
Address = Annotated[str, Field(max_length=40)]
Formula = Annotated[str, Field(max_length=20_000, pattern="^=")]
Line = Annotated[int, Field(ge=1, le=1_000_000)]


class Model(BaseModel):
    """What all parts share: nothing that is not known."""

    model_config = ConfigDict(extra="forbid")


class CellModel(Model):
    """Cells below each other that hold the same and look the same; at most one of the contents.

    A ``formula`` is written as it stands in the first of them; ``unreadable`` is one that could
    not be read. ``look`` is a line of words with one blank between them: number format, decimals
    or nothing, role, then of the style what is not as usual, such as ``bold`` or ``ink=rose``.
    """

    number: Number | None = None
    text: Annotated[str, Field(max_length=10_000)] | None = None
    logical: bool | None = None
    formula: Formula | None = None
    unreadable: Annotated[str, Field(max_length=10_000)] | None = None
    look: Short | None = None


class LineModel(Model):
    """Columns or rows next to each other: their size in pixels, and whether they are hidden."""

    first: Line
    last: Line
    size: Annotated[int, Field(ge=MIN_SIZE, le=MAX_SIZE)] | None = None
    hidden: bool = False


class HeadingsModel(Model):
    """How many columns on the left and rows on top stay in view."""

    columns: Annotated[int, Field(ge=0, le=MAX_HEADINGS)] = 0
    rows: Annotated[int, Field(ge=0, le=MAX_HEADINGS)] = 0


class FormulaAt(Model):
    """A formula, as it is written in the cell ``at``."""

    formula: Formula
    at: Address


class RuleModel(FormulaAt):
    """A tone that the cells of an area take where a condition holds."""

    area: Address
    tone: Tone


class SourceModel(Model):
    """Cells that a chart shows; without a sheet they are on its own one."""

    sheet: Short | None = None
    area: Address


class ChartModel(Model):
    """A chart; each column, or row, of its sources is a series."""

    number: Annotated[int, Field(ge=1, le=1_000_000)]
    kind: Kind
    sources: Annotated[list[SourceModel], Field(max_length=100)]
    series: Literal["column", "row"]
    names: bool
    labels: bool
    place: Address
    title: Annotated[str, Field(max_length=MAX_CHART_TITLE)] = ""
    label_title: Annotated[str, Field(max_length=MAX_CHART_TITLE)] = ""
    value_title: Annotated[str, Field(max_length=MAX_CHART_TITLE)] = ""


class SheetModel(Model):
    """A sheet: its cells by their areas in one column, and how it is laid out."""

    name: Annotated[str, Field(max_length=64)]
    cells: dict[Address, CellModel] = {}
    columns: list[LineModel] = []
    rows: list[LineModel] = []
    headings: HeadingsModel = HeadingsModel()
    rules: Annotated[list[RuleModel], Field(max_length=10_000)] = []
    charts: Annotated[list[ChartModel], Field(max_length=1_000)] = []


class StatedModel(Model):
    """A proof or sweep; each reference of what it states names its sheet."""

    number: Annotated[int, Field(ge=1, le=1_000_000)]
    states: Formula


class ReadingModel(Model):
    """A figure: what it was, when, and who told it."""

    value: Number
    at: Address
    source: Short


class FeedModel(Model):
    """An outside figure by its code, its readings, and what was wrong when it was asked last."""

    code: Annotated[str, Field(max_length=MAX_CODE)]
    readings: Annotated[list[ReadingModel], Field(max_length=MAX_READINGS)] = []
    problem: Annotated[str, Field(max_length=1_000)] = ""


class WorkbookModel(Model):
    """A workbook.

    ``locale`` is how numbers and dates are written, such as ``de_CH``; ``seed`` what numbers
    drawn by chance follow from; ``left_out`` what a file had that it came from and we don't
    hold. ``history`` are the changes that can be taken back, as ``docs/files.md`` tells.
    """

    format: Literal["dreieck workbook"]
    version: Literal[1]
    name: Short = ""
    locale: Annotated[str, Field(max_length=20)] = ""
    seed: Annotated[int, Field(ge=0, lt=2**63)] = 0
    sheets: Annotated[list[SheetModel], Field(min_length=1, max_length=250)]
    names: dict[Annotated[str, Field(max_length=64)], FormulaAt] = {}
    feeds: Annotated[list[FeedModel], Field(max_length=MAX_FEEDS)] = []
    proofs: Annotated[list[StatedModel], Field(max_length=MAX_STATED)] = []
    sweeps: Annotated[list[StatedModel], Field(max_length=MAX_STATED)] = []
    answers: Annotated[list[StatedModel], Field(max_length=MAX_STATED)] = []
    history: dict[str, Any] | None = None
