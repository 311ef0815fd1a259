"""Edits of a workbook. Applying one gives the edit that takes it back."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple, TypeVar

from dreieck.core.grid import Area, Cell, Lines
from dreieck.core.sheet.chart import Chart
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.feed import Feed
from dreieck.core.sheet.layout import PLAIN_LAYOUT, Layout, Rule
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import ColumnRun, Run, Sheet
from dreieck.core.sheet.stated import Sort, Stated
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import Look

Runs = tuple[Run | ColumnRun, ...]


@dataclass(frozen=True, slots=True)
class SetCells:
    """Put contents and looks into cells of one sheet; no cell is in two runs."""

    sheet_id: int
    runs: Runs

    @classmethod
    def of(cls, sheet_id: int, cells: Mapping[Cell, tuple[Content | None, Look]]) -> SetCells:
        """The edit that puts a content and a look into each of some cells."""
        return cls(
            sheet_id,
            tuple(
                Run(cell.column, cell.row, cell.row, content, look)
                for cell, (content, look) in cells.items()
            ),
        )

    @classmethod
    def with_content(
        cls, sheet: Sheet, areas: Iterable[Area], content: Content | None
    ) -> SetCells:
        """The edit that puts one content into areas; looks stay."""
        columns = (column for area in areas for column in area.lines("column"))
        runs = (run for column in columns for run in joined_runs(sheet.runs(column)))
        return cls(sheet.id, tuple(run._replace(content=content) for run in runs))

    def areas(self) -> list[Area]:
        """The areas that are written."""
        return [run.area for run in self.runs]

    def apply(self, workbook: Workbook) -> SetCells:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before = tuple(each for run in self.runs for each in sheet.runs(run.area))
        for run in self.runs:
            sheet.put_run(run)
        return SetCells(self.sheet_id, before)


@dataclass(frozen=True, slots=True)
class InsertLines:
    """Put rows or columns into a sheet, and what they hold. Formulas are not changed.

    ``layout`` is that of the sheet afterwards, None where it follows from the one before.
    """

    sheet_id: int
    lines: Lines
    runs: Runs = ()
    layout: Layout | None = None

    def apply(self, workbook: Workbook) -> DeleteLines:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before = sheet.layout
        sheet.insert(self.lines)
        for run in self.runs:
            sheet.put_run(run)
        sheet.layout = self.layout or sheet.layout
        return DeleteLines(self.sheet_id, self.lines, before)


@dataclass(frozen=True, slots=True)
class DeleteLines:
    """Take rows or columns out of a sheet. Formulas that read them are not changed.

    ``layout`` is that of the sheet afterwards, None where it follows from the one before.
    """

    sheet_id: int
    lines: Lines
    layout: Layout | None = None

    def apply(self, workbook: Workbook) -> InsertLines:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        inverse = InsertLines(
            self.sheet_id, self.lines, tuple(sheet.all_runs(self.lines.area)), sheet.layout
        )
        sheet.delete(self.lines)
        sheet.layout = self.layout or sheet.layout
        return inverse


@dataclass(frozen=True, slots=True)
class SetRules:
    """Give a sheet other rules. What it holds is not changed."""

    sheet_id: int
    rules: tuple[Rule, ...]

    def apply(self, workbook: Workbook) -> SetRules:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before, sheet.layout = sheet.layout.rules, replace(sheet.layout, rules=self.rules)
        return SetRules(self.sheet_id, before)


@dataclass(frozen=True, slots=True)
class SetCharts:
    """Give a sheet other charts. What it holds is not changed."""

    sheet_id: int
    charts: tuple[Chart, ...]

    def apply(self, workbook: Workbook) -> SetCharts:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before, sheet.layout = sheet.layout.charts, replace(sheet.layout, charts=self.charts)
        return SetCharts(self.sheet_id, before)


@dataclass(frozen=True, slots=True)
class AddSheet:
    """Put a sheet, with all that it holds, at a position counted from 0."""

    sheet_id: int
    name: str
    position: int
    runs: Runs = ()
    layout: Layout = PLAIN_LAYOUT

    def apply(self, workbook: Workbook) -> RemoveSheet:
        """Make the edit and return its inverse."""
        sheet = Sheet(self.sheet_id, self.name)
        sheet.layout = self.layout
        for run in self.runs:
            sheet.put_run(run)
        workbook.sheets.insert(self.position, sheet)
        return RemoveSheet(self.sheet_id)


@dataclass(frozen=True, slots=True)
class RemoveSheet:
    """Take a sheet out of the workbook. Formulas that read it are not changed."""

    sheet_id: int

    def apply(self, workbook: Workbook) -> AddSheet:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        position = workbook.sheets.index(sheet)
        del workbook.sheets[position]
        return AddSheet(sheet.id, sheet.name, position, tuple(sheet.all_runs()), sheet.layout)


class LookRun(NamedTuple):
    """Cells below each other that look the same."""

    column: int
    top: int
    bottom: int
    look: Look


@dataclass(frozen=True, slots=True)
class SetLooks:
    """Let cells of one sheet look otherwise, whatever they hold; no cell is in two runs."""

    sheet_id: int
    looks: tuple[LookRun, ...]

    def apply(self, workbook: Workbook) -> SetLooks:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before = tuple(
            LookRun(run.column, top, bottom, look)
            for run in self.looks
            for top, bottom, look in sheet.looks_between(run.column, run.top, run.bottom)
        )
        for run in self.looks:
            sheet.dress(*run)
        return SetLooks(self.sheet_id, before)


@dataclass(frozen=True, slots=True)
class SetLayout:
    """Lay a sheet out otherwise. What it holds is not changed."""

    sheet_id: int
    layout: Layout

    def apply(self, workbook: Workbook) -> SetLayout:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before, sheet.layout = sheet.layout, self.layout
        return SetLayout(self.sheet_id, before)


@dataclass(frozen=True, slots=True)
class ArrangeSheet:
    """Give a sheet its name and its position. Formulas that read it are not changed."""

    sheet_id: int
    name: str
    position: int

    def apply(self, workbook: Workbook) -> ArrangeSheet:
        """Make the edit and return its inverse. Raises SheetError."""
        sheet = workbook.sheet_by_id(self.sheet_id)
        before = ArrangeSheet(sheet.id, sheet.name, workbook.sheets.index(sheet))
        sheet.name = self.name
        workbook.sheets.remove(sheet)
        workbook.sheets.insert(self.position, sheet)
        return before


@dataclass(frozen=True, slots=True)
class SetName:
    """Let a name stand for something; without ``named`` the name is taken away."""

    key: str
    named: Named | None

    def apply(self, workbook: Workbook) -> SetName:
        """Make the edit and return its inverse."""
        before = workbook.names.pop(self.key, None)
        if self.named:
            workbook.names[self.named.key] = self.named
        return SetName(self.named.key if self.named else self.key, before)


@dataclass(frozen=True, slots=True)
class SetFeed:
    """Let a workbook know something else of a feed; without ``feed`` nothing any more."""

    key: str
    feed: Feed | None

    def apply(self, workbook: Workbook) -> SetFeed:
        """Make the edit and return its inverse."""
        before = workbook.feeds.pop(self.key, None)
        if self.feed:
            workbook.feeds[self.key] = self.feed
        return SetFeed(self.key, before)


@dataclass(frozen=True, slots=True)
class SetStated:
    """Let a workbook have other proofs, or sweeps. What cells hold is not changed."""

    sort: Sort
    stated: tuple[Stated, ...]

    def apply(self, workbook: Workbook) -> SetStated:
        """Make the edit and return its inverse."""
        before = workbook.stated(self.sort)
        setattr(workbook, self.sort, self.stated)
        return SetStated(self.sort, before)


@dataclass(frozen=True, slots=True)
class SetSeed:
    """Let the numbers that are drawn by chance follow from another seed."""

    seed: int

    def apply(self, workbook: Workbook) -> SetSeed:
        """Make the edit and return its inverse."""
        before, workbook.seed = workbook.seed, self.seed
        return SetSeed(before)


@dataclass(frozen=True, slots=True)
class SetLocale:
    """Let numbers and dates be written as in another locale. What cells hold is not changed."""

    locale: str

    def apply(self, workbook: Workbook) -> SetLocale:
        """Make the edit and return its inverse."""
        before, workbook.locale = workbook.locale, self.locale
        return SetLocale(before)


Edit = (
    SetName
    | SetFeed
    | SetStated
    | SetLocale
    | SetSeed
    | SetLayout
    | SetLooks
    | SetRules
    | SetCharts
    | SetCells
    | InsertLines
    | DeleteLines
    | AddSheet
    | RemoveSheet
    | ArrangeSheet
)


class Change(NamedTuple):
    """A change that was made: its label, when, and its edits in both directions."""

    label: str
    at: str
    forward: list[Edit]
    backward: list[Edit]


APPEARANCE = (SetLooks, SetLayout, SetRules, SetCharts)
"""The edits of what is seen alone: values and places stay as they are."""

AnyRun = TypeVar("AnyRun", Run, LookRun, Run | ColumnRun)


def same_look(one: Run | ColumnRun | LookRun, other: Run | ColumnRun | LookRun) -> bool:
    """Whether the cells of two runs look the same."""
    return one.look == other.look


def joined_runs(
    runs: Iterable[AnyRun], alike: Callable[[AnyRun, AnyRun], bool] = same_look
) -> Iterator[AnyRun]:
    """The same runs; those right below each other that are alike are one."""
    last: AnyRun | None = None
    for run in runs:
        below = last and (run.column, run.top) == (last.column, last.bottom + 1)
        if last and below and alike(last, run):
            last = last._replace(bottom=run.bottom)
        else:
            if last:
                yield last
            last = run
    if last:
        yield last
