"""Read OpenDocument of 100,000 cells, against the library's own reading."""

from __future__ import annotations

import io

from odfdo import Document

from bench.tables import written
from bench.timing import ratio
from dreieck.files import read

ASKED = 2.0
TITLE = "read OpenDocument of 100,000 cells / the library's own reading"


def measure() -> float:
    """How many times longer it takes."""
    data = written("ods")

    def own() -> None:
        document = Document(io.BytesIO(data))
        document.body.tables[0].get_values()

    return ratio(lambda: read(data, "figures"), own, rounds=3)
