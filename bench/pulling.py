"""From a step of the pulled grip to the painted rehearsal, against a bare request's round trip."""

from __future__ import annotations

import statistics
from typing import Any

from bench.browser import bare, opened, settle

ASKED = 3.0
TITLE = "pulled step to painted rehearsal, median of 100 / bare request"
_STEP = """async ([column, row]) => {
  const box = document.querySelector(`td[data-cell="${column}${row}"]`).getBoundingClientRect();
  const grid = document.getElementById("grid");
  const at = { clientX: box.x + 9, clientY: box.y + 9, pointerId: 1, button: 0, bubbles: true };
  const before = document.querySelector(".overlay .rehearsal")?.getAttribute("height");
  const began = performance.now();
  grid.dispatchEvent(new PointerEvent("pointermove", at));
  while (document.querySelector(".overlay .rehearsal")?.getAttribute("height") === before)
    await new Promise(requestAnimationFrame);
  return performance.now() - began;
}"""


def measure() -> float:
    """How many times longer a step takes."""
    with opened("/workbooks/1") as page:
        page.locator('td[data-cell="C5"]').click()
        settle(page)
        grip: Any = page.locator(".grip").bounding_box()
        page.mouse.move(grip["x"] + 3, grip["y"] + 3)
        page.mouse.down()
        steps = [("F", 6 + step % 8) for step in range(101)]
        times = [page.evaluate(_STEP, list(step)) for step in steps][1:]
        return statistics.median(times) / bare(page)
