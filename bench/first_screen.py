"""The first screen of fresh fills of a million rows, against a bare request's round trip."""

from __future__ import annotations

from pathlib import Path

from bench.browser import bare, opened
from bench.columns import MANY, lists, works
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import ColumnRun
from dreieck.core.values.look import PLAIN
from dreieck.store import Database, Library

ASKED = 5.0
TITLE = "first screen of a fresh fill of 1,000,000 rows, the slowest / bare request"
_FIRST = 22
"""The column of the first formula; each has one of its own."""
_SHOW = """async ([sheet, cell]) => {
  const form = new FormData();
  const said = { sheet, revision: 1, anchor: cell, focus: cell, reveal: cell, width: 160 };
  for (const [name, value] of Object.entries({ ...said, height: 640 })) form.set(name, value);
  const began = performance.now();
  const answer = await fetch(`${location.pathname.split("/sheets")[0]}/act/show`, {
    method: "POST",
    body: form,
  });
  await answer.text();
  await new Promise(requestAnimationFrame);
  return performance.now() - began;
}"""


def measure() -> float:
    """How many times longer the slowest of the first screens takes."""
    with opened("/workbooks/1", _filled) as page:
        sheet = int(page.locator("#page-state").get_attribute("data-sheet") or 0)
        columns = range(_FIRST, _FIRST + len(works(MANY)))
        times = [page.evaluate(_SHOW, [sheet, f"{column_letters(at)}1"]) for at in columns]
        return max(times) / bare(page)


def _filled(data: Path) -> None:
    library = Library(Database(data))
    held = library.open(library.create("Figures"))
    sheet = held.workbook.sheets[0]
    columns = [(Area.parse(f"{letter}1").left, values) for letter, values in lists(MANY).items()]
    runs = [
        ColumnRun(column, 1, len(values), Cells.of(values), PLAIN)  # type: ignore[arg-type]  # values
        for column, values in columns
    ]
    held.furnish([SetCells(sheet.id, tuple(runs))])
    for column, work in enumerate(works(MANY), _FIRST):
        start, target = Cell(column, 1), Area(column, 1, column, MANY)
        content = held.workbook.read_entry(work.formula, start).content
        fill = plan_fill(held.workbook, sheet.id, Area.of(start), target, {start: content})
        held.furnish([fill.edit()])
    library.close()
