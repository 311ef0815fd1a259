"""What a sweep asks for: the values of its inputs, and the cells that are to be seen."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from dreieck.core.calculate import Calculation, look_at
from dreieck.core.checking.proofs.looking import Looking
from dreieck.core.checking.proofs.verdict import CannotJudge
from dreieck.core.editing.stating import stated
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.functions.sweeping import DRAWN, OVER, SWEEP
from dreieck.core.grid import Area
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error, Place
from dreieck.core.values.look import Look
from dreieck.core.words.headings import heading_of

MAX_RUNS = 100_000
"""How many runs a sweep may have."""
MAX_RESULTS = 500
"""How many cells of a sweep are seen."""
MAX_VALUES = 5_000_000
"""How many values may come out altogether."""
_DIGITS = 12


@dataclass(frozen=True)
class Swept:
    """An input, and the values over which it runs."""

    place: Place
    label: str
    values: Cells


@dataclass(frozen=True)
class Seen:
    """Cells that are to be seen: one, or those of a range, such as the steps of a chain."""

    label: str
    address: str
    places: tuple[Place, ...]


@dataclass(frozen=True)
class Asked:
    """A sweep: of two inputs the second one runs faster."""

    inputs: tuple[Swept, ...]
    seen: tuple[Seen, ...]

    @property
    def count(self) -> int:
        """How many runs there are."""
        return int(np.prod([len(each.values) for each in self.inputs]))

    @property
    def results(self) -> tuple[Place, ...]:
        """The cells that are seen, one after the other."""
        return tuple(place for each in self.seen for place in each.places)

    @property
    def labels(self) -> list[str]:
        """What each of the cells that are seen is called."""
        return [
            seen.label if len(seen.places) == 1 else f"{seen.label} {place.cell.text}"
            for seen in self.seen
            for place in seen.places
        ]

    def given(self, first: int, end: int) -> list[Cells]:
        """The values of each input in some runs."""
        runs = np.arange(first, min(end, self.count))
        if len(self.inputs) == 1:
            return [self.inputs[0].values.taken(runs)]
        inner = len(self.inputs[1].values)
        one, two = (each.values for each in self.inputs)
        return [one.taken(runs // inner), two.taken(runs % inner)]


def asked(calculation: Calculation, shape: Shape) -> Asked:
    """What a sweep asks for. Raises DreieckError where it cannot be run."""
    node = shape.tree
    if not isinstance(node, tree.Call) or node.function != SWEEP:
        raise DreieckError(f"A sweep is written {SWEEP}({OVER}(cell, from, to, step), results).")
    inputs = [each for each in node.arguments if _is_input(each)]
    results = [each for each in node.arguments if not _is_input(each)]
    if not 1 <= len(inputs) <= 2:
        raise DreieckError("A sweep has one input, or two.")
    if not results:
        raise DreieckError("Say which results are to be seen.")
    looking = Looking(calculation)
    try:
        made = Asked(
            tuple(_swept(looking, each) for each in inputs),
            tuple(seen for each in results for seen in _seen(looking, each)),
        )
    except CannotJudge as failure:
        raise DreieckError(f"The sweep cannot be run: {failure}.") from None
    _check(made)
    return made


def _check(made: Asked) -> None:
    places = [each.place for each in made.inputs]
    if len(set(places)) < len(places):
        raise DreieckError("Both inputs are the same cell.")
    if made.count > MAX_RUNS:
        raise DreieckError(f"A sweep can have {MAX_RUNS:,} runs; this one has {made.count:,}.")
    if len(made.results) > MAX_RESULTS:
        raise DreieckError(f"A sweep can show {MAX_RESULTS} cells.")
    if len(made.results) * made.count > MAX_VALUES:
        raise DreieckError(f"A sweep can come to {MAX_VALUES:,} values. Let it have fewer runs.")


def _is_input(node: tree.Node) -> bool:
    return isinstance(node, tree.Call) and node.function in (OVER, DRAWN)


def _swept(looking: Looking, node: tree.Node) -> Swept:
    assert isinstance(node, tree.Call)
    if not node.arguments:
        raise CannotJudge(f"{node.function} needs a cell and values")
    target = looking.cells_at(node.arguments[0])
    if target.area.size > 1:
        raise CannotJudge(f"{looking.said(node.arguments[0])} is more than one cell")
    place = Place(target.sheet, target.area.first)
    values = _drawn(looking, node) if node.function == DRAWN else _over(looking, node)
    return Swept(place, label_of(looking.calculation, place), values)


def _over(looking: Looking, node: tree.Call) -> Cells:
    if len(node.arguments) == 2:
        looked = looking.one(node.arguments[1])
        found = looked.cells.taken(looked.is_filled)
        wrong = next((each for each in found.values() if isinstance(each, Error)), None)
        if wrong or not len(found):
            raise CannotJudge("one of its values is an error" if wrong else "it has no values")
        return found
    if len(node.arguments) != 4:
        raise CannotJudge(f"{OVER} takes a cell and from, to, step, or a cell and values")
    first, last, step = (looking.number(each) for each in node.arguments[1:])
    if step == 0 or (last - first) / step < 0:
        raise CannotJudge("with this step it never gets from the first value to the last")
    count = (last - first) / step
    if count > MAX_RUNS:
        raise CannotJudge(f"it would take more than {MAX_RUNS:,} steps")
    steps = np.arange(int(count + 1e-9) + 1)
    return Cells.numbers(np.array([float(f"{first + n * step:.{_DIGITS}g}") for n in steps]))


def _drawn(looking: Looking, node: tree.Call) -> Cells:
    if not 4 <= len(node.arguments) <= 5:
        raise CannotJudge(f"{DRAWN} takes a cell, low, high, how many, and a seed")
    low, high, count, *seed = (looking.number(each) for each in node.arguments[1:])
    if not 1 <= count <= MAX_RUNS:
        raise CannotJudge(f"1 to {MAX_RUNS:,} numbers can be drawn")
    if low > high:
        raise CannotJudge("the smallest number is above the largest one")
    drawn = np.random.default_rng(abs(int(seed[0])) if seed else 1).uniform(low, high, int(count))
    return Cells.numbers(drawn)


def _seen(looking: Looking, node: tree.Node) -> Iterator[Seen]:
    target = looking.cells_at(node)
    calculation = looking.calculation
    sheet = calculation.workbook.sheet(target.sheet)
    if target.area.size > MAX_RESULTS:
        raise CannotJudge(f"{looking.said(node)} is more than {MAX_RESULTS} cells")
    places = tuple(Place(sheet.name, cell) for cell in target.area.cells())
    label = heading_of(sheet, target.area) or area_text(target.area, sheet.name)
    yield Seen(label, area_text(target.area, sheet.name), places)


def place_of(calculation: Calculation, text: str, home: Sheet) -> Place:
    """The cell that an address or a name means. Raises DreieckError."""
    shape = stated("=" + text.removeprefix("="), home)
    try:
        target = Looking(calculation).cells_at(shape.tree)
    except CannotJudge as failure:
        raise DreieckError(f"{failure}.") from None
    if target.area.size > 1:
        raise DreieckError(f"{text[:80]} is more than one cell.")
    return Place(calculation.workbook.sheet(target.sheet).name, target.area.first)


def number_format(calculation: Calculation, place: Place) -> Look:
    """How the numbers of a cell are written, without its style."""
    look = look_at(calculation.workbook.sheet(place.sheet), place.cell)
    return Look(look.form, look.decimals)


def label_of(calculation: Calculation, place: Place) -> str:
    """What a cell is called: by a name, by its headings, or else by its address."""
    for named in calculation.workbook.names.values():
        if named.place == (place.sheet, Area.of(place.cell)):
            return named.name
    sheet = calculation.workbook.sheet(place.sheet)
    return heading_of(sheet, Area.of(place.cell)) or place_text(place)
