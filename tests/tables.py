"""Small workbooks for tests, written as people would type them."""

from dreieck.core.address import Area
from dreieck.core.calculate import Calculation
from dreieck.core.entering import typed_workbook
from dreieck.core.values import Error

LOADS = {
    "A1": "Load for the first week, kg",
    "A3": "Item",
    "B3": "kg a guest-night",
    "C3": "Kestrel",
    "D3": "Larch",
    "A4": "Guest-nights",
    "C4": "420",
    "D4": "280",
    "A5": "Flour",
    "B5": "0.12",
    "A6": "Lentils",
    "B6": "0.08",
}


def workbook(**sheets):
    """A workbook of sheets that map addresses to entries."""
    return typed_workbook({name.replace("_", " "): each for name, each in sheets.items()})


def values(made, area, sheet=None):
    """The values of an area, row by row; errors as their codes."""
    calculation = Calculation(made)
    name = sheet or made.sheets[0].name
    found = [calculation.value(name, cell) for cell in Area.parse(area).cells()]
    return [value.code if isinstance(value, Error) else value for value in found]


def result(formula, at="Z99", **entries):
    """What a formula gives in a cell of a sheet with these entries."""
    return values(workbook(Loads={**entries, at: formula}), at)[0]
