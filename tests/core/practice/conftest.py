import pytest

from dreieck.core.calculate import Calculation
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.formula import Shape
from dreieck.core.grid import Area
from dreieck.core.practice.exercise import Exercise

GRID = {
    "A3": "Item", "B3": "kg a night", "C3": "Kestrel", "D3": "Larch", "E3": "Scree",
    "A4": "Guest-nights", "C4": "420", "D4": "280", "E4": "315",
    "A5": "Flour", "B5": "0.12", "A6": "Lentils", "B6": "0.08", "A7": "Tea", "B7": "0.02",
}  # fmt: skip
RATED = {
    "A2": "Carrying price", "B2": "1.8", "A4": "Item", "B4": "kg", "C4": "Carrying",
    "A5": "Flour", "B5": "50", "A6": "Lentils", "B6": "33", "A7": "Tea", "B7": "8",
}  # fmt: skip


def exercise(entries, formula, target, skill="mixed-row", number=0, names=None):
    area = Area.parse(target)
    workbook = typed_workbook({"Loads": entries}, names or {})
    shape = Shape.parse(formula, area.first)
    return Exercise(
        Calculation(workbook),
        "Loads",
        area.first,
        area,
        shape,
        "the load of each hut",
        skill,
        number,
    )


@pytest.fixture
def grid():
    return exercise(GRID, "=$B5*C$4", "C5:E7", number=1)


@pytest.fixture
def rated():
    return exercise(RATED, "=B5*$B$2", "C5:C7", "absolute", 1)
