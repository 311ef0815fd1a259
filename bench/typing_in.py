"""Read 100,000 typed entries, numbers and formulas, as the API and a paste do, against float()."""

from __future__ import annotations

from bench.timing import ratio
from dreieck.core.editing.copying import pasted_text
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.grid import Cell

ASKED = 10.0
TITLE = "read 100,000 typed entries, the slower of API and paste / float()"
ROWS, COLUMNS = 20_000, "ABCDE"


def measure() -> float:
    """How many times longer the slower of both takes."""
    numbers = [f"{row * 7919 % 100_003 / 100:g}" for row in range(ROWS * len(COLUMNS))]
    entries = {
        f"{letter}{row}": f"=A{row}*B{row}+$C$1" if letter in "DE" else numbers[row * 5 + place]
        for row in range(1, ROWS)
        for place, letter in enumerate(COLUMNS)
    }
    texts = list(entries.values())
    lines = [texts[at : at + len(COLUMNS)] for at in range(0, len(texts), len(COLUMNS))]
    pasted = "\n".join("\t".join(line) for line in lines)
    empty = typed_workbook({"Loads": {}})

    def floats() -> list[float]:
        return [float(number) for number in numbers]

    return max(
        ratio(lambda: typed_workbook({"Loads": entries}), floats),
        ratio(lambda: pasted_text(empty, empty.sheets[0], Cell(1, 1), pasted), floats),
    )
