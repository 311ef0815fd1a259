"""Numbers typed inside formulas, found once for a sheet."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.address import Area
from dreieck.core.calculate.blocks import patches
from dreieck.core.findings.finding import Finding
from dreieck.core.findings.subject import joined, listed
from dreieck.core.formula import Shape, tree
from dreieck.core.functions import Takes, Trait, calls, find
from dreieck.core.sheet import Sheet
from dreieck.core.values import number_text

PLAIN_NUMBERS = {0.0, 1.0, 2.0, 4.0, 7.0, 10.0, 12.0, 24.0, 60.0, 100.0, 365.0, 1000.0}
"""Numbers that belong to a formula: growth rates, squares, percents, hours, months."""


def number_findings(sheet: Sheet) -> Iterator[Finding]:
    """``number-inside``: the same number typed inside several formulas."""
    areas: dict[float, list[Area]] = {}
    for patch in patches(sheet):
        for number in dict.fromkeys(numbers_inside(patch.shape)):
            areas.setdefault(number, []).append(patch.area)
    for number, where in areas.items():
        cells = joined(where)
        count = sum(area.size for area in cells)
        if number not in PLAIN_NUMBERS and count > 1:
            text = number_text(number)
            yield Finding(
                "number-inside",
                "note",
                sheet.name,
                cells,
                f"{text} is typed inside {count:,} formulas: {listed(cells)}.",
                "Whoever changes it has to find all of them. A cell of its own holds it once.",
            )


def numbers_inside(shape: Shape) -> Iterator[float]:
    """The numbers that a formula calculates with; counts and places are not among them."""
    if not calls(shape.tree, Trait.TELLS_PLACE):
        yield from _inside(shape.tree)


def _inside(node: tree.Node) -> Iterator[float]:
    if isinstance(node, tree.Number):
        yield node.value
    for index, child in enumerate(tree.children(node)):
        if not counts_or_places(node, index):
            yield from _inside(child)


def counts_or_places(node: tree.Node, index: int) -> bool:
    """Whether a number below a node only counts or tells a place: an exponent, a column."""
    child = tree.children(node)[index]
    if not isinstance(child, tree.Number):
        return False
    if isinstance(node, tree.Binary):
        return node.operator == "^" and index == 1
    function = find(node.function) if isinstance(node, tree.Call) else None
    if function is None or not function.parameters:
        return False
    return function.parameter(index).takes is not Takes.NUMBER
