"""The tables that questions are asked about: what mountain huts need, made up from a seed.

Each function lays out one sort of table and gives the right formula for its first cell. All
numbers of a table differ, so that a value tells which cells were read, and products and shares
come out with few decimals, so that nothing hangs on rounding.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from random import Random
from types import MappingProxyType
from typing import NamedTuple

from dreieck.core.calculate import Calculation
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.practice.exercise import Exercise
from dreieck.core.practice.skills import SkillKey
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import Look, Role

Maker = Callable[[Random], Exercise]

ITEMS = (
    "Flour", "Lentils", "Potatoes", "Cheese", "Coffee", "Lamp oil", "Rice", "Oats", "Tea",
    "Salt", "Onions", "Apples", "Candles", "Firewood", "Soap",
)  # fmt: skip
HUTS = ("Kestrel", "Larch", "Scree", "Tarn")
_PRICES = (0.8, 0.95, 1.2, 1.35, 1.6, 2.4, 2.75, 3.6, 4.25, 5.5, 6.75, 7.2)
_RATES = (1.4, 1.8, 2.2, 2.5, 3.2, 3.5)
_SHEET = "Loads"


@dataclass
class _Table:
    """A table that is being laid out on one or two sheets."""

    sheets: dict[str, dict[str, str]] = field(default_factory=dict)
    roles: dict[tuple[str, Cell], Role] = field(default_factory=dict)
    names: dict[str, str] = field(default_factory=dict)

    def put(self, sheet: str, cell: Cell, text: object, role: Role = "plain") -> None:
        """Write into a cell."""
        self.sheets.setdefault(sheet, {})[cell.text] = str(text)
        if role != "plain":
            self.roles[sheet, cell] = role

    def down(self, sheet: str, cell: Cell, texts: list[str], role: Role = "plain") -> None:
        """Write below each other."""
        for index, text in enumerate(texts):
            self.put(sheet, cell.step("row", index), text, role)

    def across(self, sheet: str, cell: Cell, texts: list[str], role: Role = "plain") -> None:
        """Write beside each other."""
        for index, text in enumerate(texts):
            self.put(sheet, cell.step("column", index), text, role)

    def workbook(self) -> Workbook:
        """The workbook of it."""
        names: Mapping[str, str] = MappingProxyType(self.names)
        workbook = typed_workbook(self.sheets, names)
        for (name, cell), role in self.roles.items():
            sheet = workbook.sheet(name)
            look: Look = replace(sheet.look(cell), role=role)
            sheet.dress(cell.column, cell.row, cell.row, look)
        return workbook


class _Goods(NamedTuple):
    """Items with their kilograms and prices, and where their table begins."""

    items: list[str]
    weights: list[str]
    prices: list[str]
    corner: Cell


def _texts(numbers: Iterable[float]) -> list[str]:
    return [f"{number:g}" for number in numbers]


def _goods(rng: Random) -> _Goods:
    count = rng.randint(4, 6)
    return _Goods(
        rng.sample(ITEMS, count),
        _texts(rng.sample(range(12, 96), count)),
        _texts(rng.sample(_PRICES, count)),
        Cell(rng.choice((1, 1, 2)), rng.randint(3, 5)),
    )


def _titled(sheet: str, title: str) -> _Table:
    table = _Table()
    table.put(sheet, Cell(1, 1), title, "title")
    return table


def _exercise(
    table: _Table, target: Area, formula: str, task: str, skill: SkillKey, number: int
) -> Exercise:
    start = target.first
    shape = Shape.parse(formula, start)
    calculation = Calculation(table.workbook())
    return Exercise(calculation, _SHEET, start, target, shape, task, skill, number)


def amounts(rng: Random) -> Exercise:
    """Kilograms times the price of each item, all in one row."""
    goods = _goods(rng)
    table, corner = _titled(_SHEET, f"Goods for {rng.choice(HUTS)}"), goods.corner
    heads = ["Item", "kg", "Price per kg", "Cost"]
    table.across(_SHEET, corner.step("row", -1), heads, "heading")
    table.down(_SHEET, corner, goods.items)
    table.down(_SHEET, corner.offset(1, 0), goods.weights)
    table.down(_SHEET, corner.offset(2, 0), goods.prices)
    target = Area.spanned(corner.offset(3, 0), corner.offset(3, len(goods.items) - 1))
    formula = f"={corner.offset(1, 0).text}*{corner.offset(2, 0).text}"
    task = "what each item costs: its kilograms times its price"
    return _exercise(table, target, formula, task, "relative", rng.randrange(2))


def amounts_across(rng: Random) -> Exercise:
    """The same, with the items side by side."""
    goods = _goods(rng)
    table, corner = _titled(_SHEET, f"Goods for {rng.choice(HUTS)}"), goods.corner
    table.down(_SHEET, corner.step("row", -1), ["Item", "kg", "Price per kg", "Cost"], "heading")
    first = corner.offset(1, -1)
    table.across(_SHEET, first, goods.items, "heading")
    table.across(_SHEET, first.offset(0, 1), goods.weights)
    table.across(_SHEET, first.offset(0, 2), goods.prices)
    target = Area.spanned(first.offset(0, 3), first.offset(len(goods.items) - 1, 3))
    formula = f"={first.offset(0, 1).text}*{first.offset(0, 2).text}"
    task = "what each item costs: its kilograms times its price"
    return _exercise(table, target, formula, task, "relative", rng.randrange(2))


def _rated(rng: Random) -> _Table:
    """A lone carrying price in B2."""
    table = _titled(_SHEET, "Carrying up")
    table.put(_SHEET, Cell(1, 2), "Carrying price, per kg")
    table.put(_SHEET, Cell(2, 2), f"{rng.choice(_RATES):g}", "input")
    return table


def _listed(table: _Table, goods: _Goods, head: str) -> Area:
    """Items with their kilograms, and the column beside that is to be filled."""
    # An input above the list needs a row more.
    top = goods.corner.row + ("B2" in table.sheets[_SHEET])
    table.across(_SHEET, Cell(1, top - 1), ["Item", "kg", head], "heading")
    table.down(_SHEET, Cell(1, top), goods.items)
    table.down(_SHEET, Cell(2, top), goods.weights)
    return Area(3, top, 3, top + len(goods.items) - 1)


_CARRYING = "what carrying each item costs: its kilograms times the carrying price"


def rate(rng: Random) -> Exercise:
    """One carrying price above a list."""
    table = _rated(rng)
    target = _listed(table, _goods(rng), "Carrying")
    formula = f"=B{target.top}*$B$2"
    return _exercise(table, target, formula, _CARRYING, "absolute", 1)


def rate_beside(rng: Random) -> Exercise:
    """One carrying price beside a list, with another input below it."""
    table = _titled(_SHEET, "Carrying up")
    target = _listed(table, _goods(rng), "Carrying")
    top = target.top
    table.down(_SHEET, Cell(5, top), ["Carrying price, per kg", "By lift, per kg"])
    table.down(_SHEET, Cell(6, top), _texts(rng.sample(_RATES, 2)), "input")
    return _exercise(table, target, f"=B{top}*$F${top}", _CARRYING, "absolute", 1)


def rate_across(rng: Random) -> Exercise:
    """One carrying price above a list whose items stand side by side."""
    table, goods = _rated(rng), _goods(rng)
    table.down(_SHEET, Cell(1, 4), ["Item", "kg", "Carrying"], "heading")
    table.across(_SHEET, Cell(2, 4), goods.items, "heading")
    table.across(_SHEET, Cell(2, 5), goods.weights)
    target = Area(2, 6, 1 + len(goods.items), 6)
    return _exercise(table, target, "=B5*$B$2", _CARRYING, "absolute", 1)


class _Grid(NamedTuple):
    """Items by huts: the table, and its inner part, which is to be filled."""

    table: _Table
    target: Area


def _crossed(
    rng: Random,
    title: str,
    beside: tuple[str, Sequence[float]],
    above: tuple[str, Sequence[float]],
    sheet: str = _SHEET,
) -> _Grid:
    """Numbers beside items, numbers above huts, and room for what both come to."""
    down, across = rng.randint(3, 5), rng.randint(2, 4)
    top = rng.randint(4, 5)
    table = _titled(_SHEET, title)
    table.across(_SHEET, Cell(1, top - 1), ["Item", beside[0]], "heading")
    table.put(_SHEET, Cell(1, top), above[0])
    table.across(_SHEET, Cell(3, top - 1), rng.sample(HUTS, across), "heading")
    table.across(_SHEET, Cell(3, top), _texts(rng.sample(list(above[1]), across)), "input")
    items = rng.sample(ITEMS, down)
    table.down(_SHEET, Cell(1, top + 1), items)
    numbers = _texts(rng.sample(list(beside[1]), down))
    if sheet != _SHEET:
        table.put(sheet, Cell(1, 1), title, "title")
        table.across(sheet, Cell(1, top), ["Item", beside[0]], "heading")
        table.down(sheet, Cell(1, top + 1), items)
    table.down(sheet, Cell(2, top + 1), numbers, "input")
    return _Grid(table, Area(3, top + 1, 2 + across, top + down))


_NIGHTS = range(120, 480)
_A_NIGHT = tuple(number / 100 for number in range(3, 30))
_NEEDED = "what each hut needs: kilograms a guest-night times its guest-nights"


def _mixed(rng: Random, skill: SkillKey) -> Exercise:
    number = 0 if skill == "mixed-column" else 1
    if rng.random() < 0.3:
        grid = _crossed(
            rng, "Prices at the huts", ("Price below", _PRICES), ("Carrying, per kg", _RATES)
        )
        task, sign = "the price at each hut: the price below plus the carrying price there", "+"
    else:
        grid = _crossed(rng, "Load, kg", ("kg a night", _A_NIGHT), ("Guest-nights", _NIGHTS))
        task, sign = _NEEDED, "*"
    row = grid.target.top
    formula = f"=$B{row}{sign}C${row - 1}"
    return _exercise(grid.table, grid.target, formula, task, skill, number)


def grid_by_row(rng: Random) -> Exercise:
    """A mixed grid; the question is about the heading row that it reads."""
    return _mixed(rng, "mixed-row")


def grid_by_column(rng: Random) -> Exercise:
    """A mixed grid; the question is about the heading column that it reads."""
    return _mixed(rng, "mixed-column")


def _priced(rng: Random) -> _Grid:
    grid = _crossed(rng, "Carrying up", ("kg a night", _A_NIGHT), ("Guest-nights", _NIGHTS))
    grid.table.put(_SHEET, Cell(1, 2), "Carrying price, per kg")
    grid.table.put(_SHEET, Cell(2, 2), f"{rng.choice(_RATES):g}", "input")
    return grid


def grid_priced(rng: Random) -> Exercise:
    """A mixed grid that reads a lone input besides."""
    grid = _priced(rng)
    row = grid.target.top
    return _exercise(
        grid.table, grid.target, f"=$B{row}*C${row - 1}*$B$2",
        "what carrying costs: kilograms a night, times guest-nights, times the carrying price",
        "absolute", 2,
    )  # fmt: skip


def _parts(rng: Random, goods: _Goods) -> _Goods:
    """The same items with other kilograms, whose shares have three decimals at most."""
    count, total = len(goods.items), rng.choice((200, 400, 500, 1000))
    while True:
        cuts = sorted(rng.sample(range(1, total), count - 1))
        parts = [high - low for low, high in zip([0, *cuts], [*cuts, total], strict=True)]
        if len({*parts}) == count:
            return goods._replace(weights=_texts(parts))


def _shares(rng: Random, *, with_total: bool) -> Exercise:
    table = _titled(_SHEET, f"Load of {rng.choice(HUTS)}")
    target = _listed(table, _parts(rng, _goods(rng)), "Share")
    top, last = target.top, target.bottom
    task = "the share of each item: its kilograms divided by all kilograms"
    if not with_total:
        formula = f"=B{top}/SUM(B${top}:B${last})"
        return _exercise(table, target, formula, task, "corners", 1)
    table.put(_SHEET, Cell(1, last + 1), "Total", "heading")
    table.put(_SHEET, Cell(2, last + 1), f"=SUM(B{top}:B{last})")
    return _exercise(table, target, f"=B{top}/$B${last + 1}", task, "absolute", 1)


def shares_of_total(rng: Random) -> Exercise:
    """Shares of a total that stands below."""
    return _shares(rng, with_total=True)


def shares_of_range(rng: Random) -> Exercise:
    """Shares of a sum over the whole list."""
    return _shares(rng, with_total=False)


def _weeks(rng: Random, count: int) -> list[str]:
    first = rng.randint(20, 30)
    return [f"Week {first + index}" for index in range(count)]


def _growing(rng: Random, *, to_come: bool, huts: int) -> Exercise:
    count, top = rng.randint(4, 6), rng.randint(4, 5)
    table = _titled(_SHEET, "Guests")
    names = rng.sample(HUTS, huts)
    guests = _texts(rng.sample(range(40, 240), count * huts))
    table.across(_SHEET, Cell(1, top - 1), ["Week", *names], "heading")
    table.down(_SHEET, Cell(1, top), _weeks(rng, count))
    for index in range(huts):
        table.down(_SHEET, Cell(2 + index, top), guests[index * count : (index + 1) * count])
    left, last = 2 + huts, top + count - 1
    said = "Still to come" if to_come else "So far"
    heads = [said] if huts == 1 else [f"{name}, {said.lower()}" for name in names]
    table.across(_SHEET, Cell(left, top - 1), heads, "heading")
    formula = f"=SUM(B{top}:B${last})" if to_come else f"=SUM(B${top}:B{top})"
    task = (
        "the guests still to come: those of the week and of all weeks after it"
        if to_come
        else "the guests so far: those of the week and of all weeks before it"
    )
    target = Area(left, top, left + huts - 1, last)
    return _exercise(table, target, formula, task, "corners", 0)


def running(rng: Random) -> Exercise:
    """A running total: its first corner stays."""
    return _growing(rng, to_come=False, huts=1)


def to_come(rng: Random) -> Exercise:
    """What is left: its last corner stays."""
    return _growing(rng, to_come=True, huts=1)


def running_by_hut(rng: Random) -> Exercise:
    """Running totals of several columns: rows are locked, columns are not."""
    return _growing(rng, to_come=rng.random() < 0.4, huts=2)


def stock(rng: Random) -> Exercise:
    """What is left week by week: from the cell above, what came, what went."""
    count, top = rng.randint(4, 6), rng.randint(3, 4)
    table = _titled(_SHEET, f"Flour at {rng.choice(HUTS)}, kg")
    table.across(_SHEET, Cell(1, top), ["Week", "Came", "Used", "Left"], "heading")
    numbers = _texts(rng.sample(range(11, 60), 2 * count))
    table.down(_SHEET, Cell(1, top + 1), ["Before", *_weeks(rng, count)])
    table.down(_SHEET, Cell(2, top + 2), numbers[:count])
    table.down(_SHEET, Cell(3, top + 2), numbers[count:])
    table.put(_SHEET, Cell(4, top + 1), rng.randint(300, 500), "input")
    row = top + 2
    return _exercise(
        table, Area(4, row, 4, row + count - 1), f"=D{row - 1}+B{row}-C{row}",
        "what is left each week: what was left before, plus what came, minus what was used",
        "relative", rng.randrange(3),
    )  # fmt: skip


def takings(rng: Random) -> Exercise:
    """What is in the cash box week by week: the cell above, and guests times a lone fee."""
    count, top = rng.randint(4, 6), 5
    table = _titled(_SHEET, f"Cash box of {rng.choice(HUTS)}")
    table.put(_SHEET, Cell(1, 2), "Fee, per guest")
    table.put(_SHEET, Cell(2, 2), rng.choice((3, 4, 6, 7)), "input")
    table.across(_SHEET, Cell(1, top - 1), ["Week", "Guests", "In the box"], "heading")
    table.down(_SHEET, Cell(1, top), ["Before", *_weeks(rng, count)])
    table.down(_SHEET, Cell(2, top + 1), _texts(rng.sample(range(11, 60), count)))
    table.put(_SHEET, Cell(3, top), rng.randint(500, 900), "input")
    row = top + 1
    return _exercise(
        table, Area(3, row, 3, row + count - 1), f"=C{row - 1}+B{row}*$B$2",
        "what is in the box each week: what was in it before, plus guests times the fee",
        "absolute", 2,
    )  # fmt: skip


def _searched(rng: Random, *, place: str, by_match: bool) -> Exercise:
    goods = _goods(rng)
    table = _titled(_SHEET, "Goods")
    target = _listed(table, goods, "Cost")
    top = target.top
    listed = list(zip(goods.items, goods.prices, strict=True))
    rng.shuffle(listed)
    sheet, left = (_SHEET, 5) if place == "here" else ("Prices", 1)
    table.across(sheet, Cell(left, top - 1), ["Item", "Price per kg"], "heading")
    table.down(sheet, Cell(left, top), [item for item, _ in listed])
    table.down(sheet, Cell(left + 1, top), [price for _, price in listed], "input")
    last = top + len(listed) - 1
    one, two = ("$E", "$F") if place == "here" else ("Prices!$A", "Prices!$B")
    end_one, end_two = one.split("!")[-1], two.split("!")[-1]
    whole = f"{one}${top}:{end_two}${last}"
    if by_match:
        keys, prices = f"{one}${top}:{end_one}${last}", f"{two}${top}:{end_two}${last}"
        found, number = f"INDEX({prices},MATCH(A{top},{keys},0))", 1
    else:
        found, number = f"VLOOKUP(A{top},{whole},2,FALSE)", 2
    return _exercise(
        table, target, f"=B{top}*{found}",
        "what each item costs: its kilograms times the price that the list has for it",
        "corners" if place == "here" else "sheets", number,
    )  # fmt: skip


def looked_up(rng: Random) -> Exercise:
    """Prices looked up in a list beside."""
    return _searched(rng, place="here", by_match=False)


def matched(rng: Random) -> Exercise:
    """Prices looked up in two ranges beside."""
    return _searched(rng, place="here", by_match=True)


def looked_up_elsewhere(rng: Random) -> Exercise:
    """Prices looked up in a list on another sheet."""
    return _searched(rng, place="there", by_match=False)


def rate_elsewhere(rng: Random) -> Exercise:
    """One carrying price on another sheet."""
    table, row = _titled(_SHEET, "Carrying up"), rng.randint(2, 4)
    target = _listed(table, _goods(rng), "Carrying")
    table.put("Prices", Cell(1, 1), "Prices", "title")
    table.put("Prices", Cell(1, row), "Carrying price, per kg")
    table.put("Prices", Cell(2, row), f"{rng.choice(_RATES):g}", "input")
    formula = f"=B{target.top}*Prices!$B${row}"
    return _exercise(table, target, formula, _CARRYING, "sheets", 1)


def list_elsewhere(rng: Random) -> Exercise:
    """Prices of the same items, in the same order, on another sheet."""
    goods = _goods(rng)
    table, there = _titled(_SHEET, "Goods"), rng.randint(3, 6)
    target = _listed(table, goods, "Cost")
    table.put("Prices", Cell(1, 1), "Prices", "title")
    table.across("Prices", Cell(1, there - 1), ["Item", "Price per kg"], "heading")
    table.down("Prices", Cell(1, there), goods.items)
    table.down("Prices", Cell(2, there), goods.prices, "input")
    task = "what each item costs: its kilograms times its price on Prices"
    formula = f"=B{target.top}*Prices!B{there}"
    return _exercise(table, target, formula, task, "sheets", 1)


def grid_elsewhere(rng: Random) -> Exercise:
    """A mixed grid whose heading column is on another sheet."""
    grid = _crossed(
        rng, "Load, kg", ("kg a night", _A_NIGHT), ("Guest-nights", _NIGHTS), sheet="Items"
    )
    row = grid.target.top
    formula = f"=Items!$B{row}*C${row - 1}"
    return _exercise(grid.table, grid.target, formula, _NEEDED, "sheets", 0)


def named_rate(rng: Random) -> Exercise:
    """One carrying price that has a name."""
    table = _rated(rng)
    table.names["carry_price"] = f"{_SHEET}!$B$2"
    target = _listed(table, _goods(rng), "Carrying")
    formula = f"=B{target.top}*carry_price"
    return _exercise(table, target, formula, _CARRYING, "names", 0)


def named_list(rng: Random) -> Exercise:
    """Shares of a list that has a name."""
    table = _titled(_SHEET, f"Load of {rng.choice(HUTS)}")
    target = _listed(table, _parts(rng, _goods(rng)), "Share")
    top, last = target.top, target.bottom
    table.names["all_kg"] = f"{_SHEET}!$B${top}:$B${last}"
    task = "the share of each item: its kilograms divided by the sum of all_kg"
    formula = f"=B{top}/SUM(all_kg)"
    return _exercise(table, target, formula, task, "names", 0)


def named_grid(rng: Random) -> Exercise:
    """A mixed grid with a named input."""
    grid = _priced(rng)
    grid.table.names["carry_price"] = f"{_SHEET}!$B$2"
    row = grid.target.top
    return _exercise(
        grid.table, grid.target, f"=$B{row}*C${row - 1}*carry_price",
        "what carrying costs: kilograms a night, times guest-nights, times the carrying price",
        "names", rng.randrange(2),
    )  # fmt: skip
