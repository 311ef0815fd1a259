"""The workbook *Hut supplies*: prices, loads, the season, and a sheet to mend."""

from __future__ import annotations

from dataclasses import replace

from dreieck.core.formula import Shape
from dreieck.core.grid import Area
from dreieck.core.sheet.chart import Chart, Source
from dreieck.core.sheet.feed import Feed, Reading
from dreieck.core.sheet.layout import Layout, Rule
from dreieck.core.sheet.stated import Sort
from dreieck.core.values.look import Look
from dreieck.core.values.style import Edges, Style
from dreieck.store import NewSheet

NAME = "Hut supplies"
OPEN_SHEET = "Loads"
NAMES = {
    "carry_price": "Prices!$B$3",
    "reserve": "Prices!$B$4",
    "items": "Prices!$A$7:$A$12",
    "costs": "Prices!$F$7:$F$12",
}
OUTSIDE = "valley"
"""What the source of the outside figures is called."""
FEEDS = (Feed("fuel", (Reading(1.71, "2026-11-20T06:00:00+00:00", OUTSIDE),)),)
STATED: dict[Sort, tuple[str, ...]] = {
    "proofs": (
        "=ADDS.UP(Prices!G7:G12,100%)",
        "=ADDS.UP(Prices!F7:F12,Prices!D13:E13)",
        "=KNOWN.CASE(GIVEN(Loads!C4:F4=100,reserve=0),GIVES(Prices!C7=48))",
    ),
    "sweeps": (
        "=SWEEP(OVER(Prices!B4,0%,30%,5%),Prices!F13,Prices!E13)",
        "=SWEEP(OVER(Prices!B4,0%,30%,5%),OVER(Prices!B3,1,3,0.25),Prices!F13)",
    ),
}

_TITLE = Look(role="title")
_HEADING = Look(role="heading")
_INPUT = Look(role="input")
_INPUT_2 = Look("number", 2, "input")
_ONE = Look("grouped", 1)
_TWO = Look("grouped", 2)
_PERCENT = Look("percent", 1)
_TOTAL = Style(bold=True, edges=Edges(top="thin"))

_ITEMS = (
    ("Flour", "0.12", "0.95"),
    ("Lentils", "0.08", "2.40"),
    ("Potatoes", "0.30", "0.80"),
    ("Cheese", "0.06", "14.50"),
    ("Coffee", "0.02", "11.20"),
    ("Lamp oil", "0.03", "3.60"),
)
_HUTS = (("Kestrel", "420"), ("Larch", "280"), ("Scree", "315"), ("Tarn", "196"))
_GUESTS = (118, 134, 127, 151, 163, 188, 204, 197, 176, 142, 109, 86)


def sheets() -> list[NewSheet]:
    """The sheets of the workbook, in their order."""
    return [_prices(), _loads(), _season(), _to_mend()]


def _shown(*areas: str) -> tuple[Source, ...]:
    return tuple(Source(None, Area.parse(area)) for area in areas)


def _filled(sheet: NewSheet, area: str, formula: str, look: Look) -> None:
    """Write a formula for each cell of an area; {c} and {r} stand for its column and row."""
    for cell in Area.parse(area).cells():
        letters = cell.text.rstrip("0123456789")
        sheet.entries[cell.text] = formula.format(c=letters, r=cell.row, above=cell.row - 1)
        sheet.looks[cell.text] = look


def _row(sheet: NewSheet, row: int, texts: dict[str, str], look: Look) -> None:
    for column, text in texts.items():
        sheet.entries[f"{column}{row}"] = text
        sheet.looks[f"{column}{row}"] = look


def _prices() -> NewSheet:
    costs = Chart(
        1, "stacked", _shown("A6:A12", "D6:E12"), "column", names=True, labels=True,
        place=Area.parse("A17:F29"), title="What each item costs", value_title="for the week",
    )  # fmt: skip
    layout = replace(Layout.wide({1: 176, 7: 80}), charts=(costs,))
    sheet = NewSheet("Prices", layout=layout)
    _row(sheet, 1, {"A": "Prices and weights, first week"}, _TITLE)
    sheet.entries |= {"A3": "Carrying price, per kg", "B3": "1.80"}
    sheet.entries |= {"A4": "Reserve", "B4": "10%"}
    sheet.looks |= {"B3": _INPUT_2, "B4": Look("percent", 0, "input")}
    headings = ("Item", "Price per kg", "Weight, kg", "Goods", "Carrying", "Cost", "Share")
    _row(sheet, 6, dict(zip("ABCDEFG", headings, strict=True)), _HEADING)
    for row, (item, _, price) in enumerate(_ITEMS, 7):
        sheet.entries |= {f"A{row}": item, f"B{row}": price}
        sheet.looks[f"B{row}"] = _INPUT_2
    for row in range(7, 13):
        sheet.entries[f"C{row}"] = f"=SUM(Loads!C{row - 2}:F{row - 2})*(1+reserve)"
        sheet.looks[f"C{row}"] = _ONE
    _filled(sheet, "D7:D12", "=B{r}*C{r}", _TWO)
    _filled(sheet, "E7:E12", "=C{r}*carry_price", _TWO)
    _filled(sheet, "F7:F12", "=D{r}+E{r}", _TWO)
    _filled(sheet, "G7:G13", "=F{r}/F$13", _PERCENT)
    sheet.entries["A13"] = "Total"
    sheet.looks["A13"] = _HEADING
    _filled(sheet, "C13:F13", "=SUM({c}7:{c}12)", _TWO)
    sheet.looks["C13"] = _ONE
    for column in "ABCDEFG":
        look = sheet.looks.get(f"{column}13", Look())
        sheet.looks[f"{column}13"] = replace(look, style=_TOTAL)
    sheet.entries |= {"D15": "Fuel for the lift", "E15": '=FEED("fuel")', "F15": "=40*E15"}
    sheet.looks |= {"E15": Look("number", 2), "F15": _TWO}
    sheet.entries |= {"A15": "Dearest item", "B15": "=INDEX(items,MATCH(MAX(costs),costs,0))"}
    sheet.looks["B15"] = Look(role="result")
    return sheet


def _loads() -> NewSheet:
    area = Area.parse("C5:F10")
    # More than a sixth of what its hut needs.
    heavy = Rule(area, Shape.parse("=C5>C$12/6", area.first), "larch")
    sheet = NewSheet("Loads", layout=replace(Layout.wide({}), rules=(heavy,)))
    _row(sheet, 1, {"A": "Load for the first week, kg"}, _TITLE)
    _row(sheet, 3, {"A": "Item", "B": "kg a guest-night"}, _HEADING)
    sheet.entries["A4"] = "Guest-nights"
    for column, (hut, nights) in zip("CDEF", _HUTS, strict=True):
        sheet.entries |= {f"{column}3": hut, f"{column}4": nights}
        sheet.looks |= {f"{column}3": _HEADING, f"{column}4": _INPUT}
    for row, (item, weight, _) in enumerate(_ITEMS, 5):
        sheet.entries |= {f"A{row}": item, f"B{row}": weight}
        sheet.looks[f"B{row}"] = _INPUT_2
    _filled(sheet, "C5:F10", "=$B{r}*{c}$4", _ONE)
    sheet.entries["A12"] = "Total"
    sheet.looks["A12"] = _HEADING
    _filled(sheet, "C12:F12", "=SUM({c}5:{c}10)", _ONE)
    return sheet


def _season() -> NewSheet:
    weeks = Chart(
        1, "lines", _shown("A3:B15"), "column", names=True, labels=True,
        place=Area.parse("F3:I14"),
    )  # fmt: skip
    layout = replace(Layout.wide({1: 96, 2: 76, 4: 96, 5: 20}), charts=(weeks,))
    sheet = NewSheet("Season", layout=layout)
    _row(sheet, 1, {"A": "Guests week by week"}, _TITLE)
    headings = ("Week", "Guests", "Running total", "Change")
    _row(sheet, 3, dict(zip("ABCD", headings, strict=True)), _HEADING)
    for row, guests in enumerate(_GUESTS, 4):
        sheet.entries |= {f"A{row}": f"Week {row - 3}", f"B{row}": str(guests)}
        sheet.looks[f"B{row}"] = _INPUT
    _filled(sheet, "C4:C15", "=SUM(B$4:B{r})", Look())
    _filled(sheet, "D5:D15", "=B{r}/B{above}-1", _PERCENT)
    return sheet


def _to_mend() -> NewSheet:
    sheet = NewSheet("To mend", layout=Layout.wide({1: 172, 3: 124, 4: 124}))
    _row(sheet, 1, {"A": "Fills with something wrong in each"}, _TITLE)
    sheet.entries |= {"A3": "Carrying price, per kg", "B3": "1.80"}
    sheet.looks["B3"] = _INPUT_2
    headings = ("Item", "Weight, kg", "Carrying", "Share")
    _row(sheet, 5, dict(zip("ABCD", headings, strict=True)), _HEADING)
    for row, (item, weight) in enumerate(
        (("Flour", "145.3"), ("Lentils", "96.9"), ("Potatoes", "363.3"), ("Cheese", "72.7")), 6
    ):
        sheet.entries |= {f"A{row}": item, f"B{row}": weight}
        sheet.looks[f"B{row}"] = Look("number", 1, "input")
        sheet.entries[f"C{row}"] = f"=B{row}*B{row - 3}"
        sheet.entries[f"D{row}"] = f"=B{row}/B{row + 4}"
        sheet.looks |= {f"C{row}": _TWO, f"D{row}": _PERCENT}
    sheet.entries |= {"A10": "Total", "B10": "=SUM(B6:B8)"}
    sheet.looks |= {"A10": _HEADING, "B10": _ONE}
    _row(sheet, 13, {"A": "Guest-nights", "C": "Kestrel", "D": "Larch", "E": "Scree"}, _HEADING)
    sheet.entries |= {"C14": "420", "D14": "280", "E14": "315"}
    sheet.looks |= {f"{column}14": _INPUT for column in "CDE"}
    for row, (item, weight, _) in enumerate(_ITEMS[:3], 15):
        sheet.entries |= {f"A{row}": item, f"B{row}": weight}
        sheet.looks[f"B{row}"] = _INPUT_2
    for column, before in zip("CDE", "BCD", strict=True):
        _filled(sheet, f"{column}15:{column}17", f"={before}{{r}}*{column}$14", _ONE)
    return sheet
