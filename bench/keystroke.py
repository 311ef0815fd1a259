"""One keystroke at the desk with 100,000 formulas in the workbook, against an empty one."""

from __future__ import annotations

import tempfile
from pathlib import Path

from fastapi.testclient import TestClient

from bench.timing import ratio
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area
from dreieck.store import NewSheet
from dreieck.web.app import create_app
from dreieck.web.settings import Settings

ASKED = 2.0
TITLE = "a keystroke among 100,000 formulas / in an empty workbook"


def measure() -> float:
    """How many times longer the answer takes."""
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(data=Path(folder) / "data.db", hosts=["testserver"]))
        library = app.state.library
        empty = library.create("Empty")
        full = library.create("Full", [NewSheet("Loads", {"A1": "1", "B1": "=A1*2"})])
        opened = library.open(full)
        sheet = opened.workbook.sheets[0]
        fill = plan_fill(opened.workbook, sheet.id, Area.parse("B1"), Area.parse("B1:B100000"))
        opened.change("fill", [fill.edit()], 1)
        with TestClient(app) as client:

            def keystroke(workbook: int, sheet_id: int) -> None:
                state = {
                    "sheet": sheet_id,
                    "writing": "D5",
                    "text": "=B5*C$4",
                    "anchor": "D5",
                    "focus": "D5",
                }
                for _ in range(20):
                    client.post(f"/workbooks/{workbook}/act/show", data=state)

            keystroke(full, sheet.id)
            return ratio(
                lambda: keystroke(full, sheet.id),
                lambda: keystroke(empty, library.open(empty).workbook.sheets[0].id),
            )
