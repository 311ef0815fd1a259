"""Read 300,000 rows of 5 numbers from CSV, ready to show, against csv.reader with float()."""

from __future__ import annotations

import csv
import io

from bench.tables import numbers
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.grid import Area
from dreieck.files import read

ASKED = 4.0
TITLE = "read CSV of 300,000 rows by 5, ready to show / csv.reader and float()"


def measure() -> float:
    """How many times longer it takes until the first screen's values are there."""
    stream = io.StringIO()
    csv.writer(stream).writerows(numbers(300_000))
    data = stream.getvalue().encode()

    def ours() -> None:
        workbook = read(data, "figures.csv").workbook
        for _ in Calculation(workbook).filled_values("figures", Area.parse("A1:E40")):
            pass

    def plain() -> None:
        [list(map(float, row)) for row in csv.reader(io.StringIO(data.decode()))]

    return ratio(ours, plain, rounds=3)
