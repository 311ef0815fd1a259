"""Three small sheets, and the formulas that tests say and work out in words: ``LINES``."""

from pathlib import Path

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.values import Place
from dreieck.core.words.working import told


def rows(*lines):
    """Entries below each other, cells split by ``|``."""
    return {
        f"{'ABCDEFGH'[column]}{row}": entry.strip()
        for row, line in enumerate(lines, 1)
        for column, entry in enumerate(line.split("|"))
        if entry.strip()
    }


SHEETS = {
    "Helpers": rows(
        "Helper | Hut | Task | Nights | Fee | | Hut | Nights",
        "Ada | Kestrel | Cook | 4 | 12 | | Larch |",
        "Ben | Larch | Wood | 2 | 9 | | |",
        "Cora | Kestrel | Cook | 6 | 12 | | At least | 3",
        "Dan | Scree | Guide | 3 | 15 | | |",
        "Eve | Larch | Cook | 5 | 12 | | Code |",
        "Finn | Kestrel | Wood | 1 | 9 | | P2 |",
        "Total | | | =SUM(D2:D7) | | | |",
    ),
    "Codes": rows(
        "Code | Item | Price | | From kg | Rate",
        "P1 | Flour | 1.2 | | 0 | 0.1",
        "P2 | Lentils | 2.4 | | 10 | 0.2",
        "P3 | Cheese | 9.5 | | 50 | 0.3",
    ),
    "Weeks": rows(
        "Item / week | Week 1 | Week 2 | Week 3",
        "Flour | 6 | 6 | 6",
        "Lentils | 9 | 9 | 9",
        "Cheese | 12 | 12 | 12",
        "Total | =SUM(B2:B4) | |",
    ),
}
NAMES = {
    "nights": "Helpers!$D$2:$D$7", "huts": "Helpers!$B$2:$B$7", "fee": "Helpers!$E$2",
    "codes": "Codes!$A$2:$C$4", "nights_left": "Helpers!$D$8",
}  # fmt: skip
_FILE = Path(__file__).parent / "core" / "words" / "readings.txt"
LINES = _FILE.read_text("utf-8").splitlines()[1:]
HERE = Cell.parse("J3")


def calculated(formula):
    """The sheets with their values, and the shape of a formula that stands in ``HERE``."""
    made = typed_workbook(SHEETS, NAMES)
    return Calculation(made), made.read_entry(formula, HERE).content


def ways_to_tell(part, calculation):
    """What a part of a formula may be told to come to: one value, or the first ones of many."""

    def worth(text):
        return result_at(Shape.parse(f"={text}", HERE), Place("Helpers", HERE), calculation)

    # An empty cell is told as what it counts as.
    ways = [told(worth(part)), f"{told(worth(part))} (empty)"]
    count = worth(f"ROWS({part})")
    if isinstance(count, float) and worth(f"COLUMNS({part})") == 1:
        first = [told(worth(f"INDEX({part},{row})")) for row in range(1, min(int(count), 4) + 1)]
        more = f" and {int(count) - 4} more" if count > 4 else ""
        ways.append(f"({', '.join(first)}{more})")
    return ways
