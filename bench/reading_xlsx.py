"""Read Office Open XML of 100,000 cells, against the library's own reading."""

from __future__ import annotations

import io

import openpyxl

from bench.tables import written
from bench.timing import ratio
from dreieck.files import read

ASKED = 2.0
TITLE = "read Office Open XML of 100,000 cells / the library's own reading"


def measure() -> float:
    """How many times longer it takes."""
    data = written("xlsx")

    def own() -> None:
        openpyxl.load_workbook(io.BytesIO(data))

    return ratio(lambda: read(data, "figures"), own, rounds=3)
