"""The first screen of the shift log of 100,000 landings, against that of 100."""

from __future__ import annotations

import tempfile
from pathlib import Path

from fastapi.testclient import TestClient

from bench.timing import ratio
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell
from dreieck.web.app import create_app
from dreieck.web.settings import Settings

ASKED = 1.5
TITLE = "first screen of the shift log of 100,000 landings / of 100"


def measure() -> float:
    """How many times longer the long log takes."""
    with tempfile.TemporaryDirectory() as folder:
        settings = Settings(data=Path(folder) / "data.db", hosts=["testserver"])
        app = create_app(settings)
        with TestClient(app) as client:
            library = app.state.library
            opened = library.open(library.create("Figures"))
            sheet = opened.workbook.sheets[0]
            for column, rows in ((3, 100), (6, 100_000)):
                start = Cell(column, 1)
                content = opened.workbook.read_entry("=$A1*2", start).content
                target = Area(column, 1, column, rows)
                fill = plan_fill(
                    opened.workbook, sheet.id, Area.of(start), target, {start: content}
                )
                opened.change("fill", [fill.edit()], opened.revision)
            log = f"/workbooks/{opened.id}/sheets/{sheet.id}/log"

            def first(cell: str) -> None:
                assert client.get(log, params={"cell": cell}).status_code == 200

            first("C1")
            first("F1")
            return ratio(lambda: first("F1"), lambda: first("C1"))
