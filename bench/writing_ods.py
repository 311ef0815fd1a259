"""Write OpenDocument, against the library's own writing.

That takes much longer than in proportion where a table is large, so both write 10,000 cells.
"""

from __future__ import annotations

import io

from odfdo import Document, Table

from bench.tables import numbers, table
from bench.timing import ratio
from dreieck.files import FORMATS, Progress, Wish, write

ASKED = 2.0
TITLE = "write OpenDocument of 10,000 cells / the library's own writing"
_ROWS = 1_000


def measure() -> float:
    """How many times longer it takes."""
    calculation = table(_ROWS)
    rows = [[*row, *row] for row in numbers(_ROWS)]

    def own() -> None:
        document = Document("spreadsheet")
        document.body.clear()
        made = Table("Loads")
        made.set_values(rows)
        document.body.append(made)
        document.save(io.BytesIO())

    return ratio(lambda: write(calculation, FORMATS["ods"], Wish(), Progress()), own, rounds=3)
