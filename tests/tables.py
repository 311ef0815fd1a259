"""Small workbooks for tests, written as people would type them."""

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_sheet
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area
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


def apply(book, edits):
    """Apply edits, and return those that take them back."""
    inverse = []
    for edit in edits:
        inverse.insert(0, edit.apply(book))
    return inverse


def values(made, area, sheet=None):
    """The values of an area, row by row; errors as their codes."""
    calculation = Calculation(made)
    name = sheet or made.sheets[0].name
    found = [calculation.value(name, cell) for cell in Area.parse(area).cells()]
    return [value.code if isinstance(value, Error) else value for value in found]


def result(formula, at="Z99", **entries):
    """What a formula gives in a cell of a sheet with these entries."""
    return values(workbook(Loads={**entries, at: formula}), at)[0]


def raised(made, name="Loads"):
    """What is raised on a sheet, notes too: rule and cells."""
    calculation = Calculation(made)
    found = [f for checked in check_sheet(calculation, made.sheet(name)) for f in checked.findings]
    return {(f.rule, " ".join(area.text for area in f.areas)) for f in found}


ITEMS = ["Flour", "Lentils", "Potatoes", "Cheese", "Coffee", "Lamp oil"]
GRID = {
    "A3": "Item", "B3": "kg a guest-night", "C3": "Kestrel", "D3": "Larch", "E3": "Scree",
    "A4": "Guest-nights", "C4": "420", "D4": "280", "E4": "315",
    **{f"A{row}": item for row, item in enumerate(ITEMS, 5)},
    **{f"B{row}": str(row / 50) for row in range(5, 11)},
}  # fmt: skip
PRICES = {
    "A1": "Carrying price, per kg", "B1": "1.80", "A3": "Item", "B3": "Weight, kg", "C3": "Cost",
    **{f"A{row}": item for row, item in enumerate(ITEMS, 4)},
    **{f"B{row}": str(row * 7.5) for row in range(4, 10)},
}  # fmt: skip
WEEKS = {
    "A3": "Week", "B3": "Guests", "C3": "Total", "A1": "Guests by week",
    **{f"A{row}": f"Week {row - 3}" for row in range(4, 12)},
    **{f"B{row}": str(100 + row * row) for row in range(4, 12)},
}  # fmt: skip


def filled(entries, **fills):
    """A workbook with sheet Loads: entries, then areas filled from their first cells."""
    made = workbook(Loads=entries)
    for area, formula in fills.items():
        target = Area.parse(area.replace("_", ":"))
        content = made.read_entry(formula, target.first).content
        source = Area.of(target.first)
        plan_fill(made, 1, source, target, {target.first: content}).edit().apply(made)
    return made


def said(made):
    """All that is said about the first sheet: findings in their words, mends with their edits."""
    lines = []
    for checked in check_sheet(Calculation(made), made.sheets[0]):
        for each in checked.findings:
            areas = " ".join(area.text for area in each.areas)
            lines.append(f"{each.rule}, {each.state}, {each.sheet}!{areas}, {each.reference}")
            lines.append(f"    {each.says}")
            lines.append(f"    {each.why}")
            lines += [f"    because {reason}" for reason in each.because]
            lines += [f"    causes: {cause}" for cause in each.causes]
            for mend in each.mends:
                lines.append(f"    mend: {mend.says}: {mend.before} -> {mend.after}")
                for edit in mend.edits:
                    written = " ".join(area.text for area in edit.areas())
                    lines.append(f"        writes {written}")
    return "".join(f"{line}\n" for line in lines)
