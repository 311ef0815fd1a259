"""Scrolling a long dressed table with headings and a chart in view, against a bare request."""

from __future__ import annotations

import statistics
from dataclasses import replace
from pathlib import Path

from bench.browser import bare, opened
from dreieck.core.formula import Shape
from dreieck.core.grid import Area
from dreieck.core.sheet.chart import Chart, Source
from dreieck.core.sheet.layout import Headings, Layout, Rule
from dreieck.core.values.look import Look
from dreieck.store import Database, Library, NewSheet

ASKED = 3.0
TITLE = "a step of scrolling with headings in view / bare request"
ROWS = 600
_STEP = """async (down) => {
  const grid = document.getElementById("grid");
  const first = () => grid.querySelectorAll("tbody th")[3].textContent;
  const before = first();
  const began = performance.now();
  grid.dispatchEvent(new WheelEvent("wheel", { deltaY: down * 120, bubbles: true }));
  while (first() === before) await new Promise(requestAnimationFrame);
  return performance.now() - began;
}"""


def measure() -> float:
    """How many times longer a step takes."""
    with opened("/workbooks/1", _long_table) as page:
        times = [page.evaluate(_STEP, 1) for _ in range(101)][1:]
        return statistics.median(times) / bare(page)


def _long_table(data: Path) -> None:
    entries = {f"{letter}3": f"Week of {letter}" for letter in "ABCDEFGH"}
    looks = {address: Look(role="heading") for address in entries}
    for row in range(4, ROWS):
        entries[f"A{row}"] = f"Week {row}"
        for before, letter in zip("ABCDEF", "BCDEFG", strict=True):
            entries[f"{letter}{row}"] = str(row) if before == "A" else f"={before}{row}*1.1"
            looks[f"{letter}{row}"] = Look("grouped", 1)
    area = Area.parse(f"B4:G{ROWS}")
    rule = Rule(area, Shape.parse("=B4>$B$3*200", area.first), "lake")
    chart = Chart(
        1, "lines", (Source(None, Area.parse("A3:C103")),), "column", names=True, labels=True,
        place=Area.parse(f"H4:J{ROWS}"),
    )  # fmt: skip
    layout = replace(Layout(), headings=Headings(1, 3), rules=(rule,), charts=(chart,))
    library = Library(Database(data))
    library.create("Guests", [NewSheet("Weeks", entries, looks, layout)])
    library.close()
