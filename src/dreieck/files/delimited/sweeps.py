"""What came out of a sweep, as a table of text."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

from dreieck.core.checking.sweeps.running import Outcome
from dreieck.core.formula.printer import place_text
from dreieck.core.values.look import PLAIN
from dreieck.files.delimited.writing import exact_text, guarded


def sweep_text(outcome: Outcome) -> str:
    """A line for each run: the values of the inputs, then those of the results."""
    stream = io.StringIO()
    writer = csv.writer(stream, lineterminator="\n")
    for line in _lines(outcome):
        writer.writerow(line)
    return stream.getvalue()


def _lines(outcome: Outcome) -> Iterator[list[str]]:
    asked = outcome.asked
    yield [
        *(guarded(each.label) for each in asked.inputs),
        *(guarded(place_text(place)) for place in asked.results),
    ]
    given = asked.given(0, asked.count)
    for row in zip(*(cells.values() for cells in (*given, *outcome.columns)), strict=True):
        yield [guarded(exact_text(value, PLAIN)) for value in row]
