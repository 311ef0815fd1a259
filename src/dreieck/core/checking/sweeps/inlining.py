"""One formula for what a whole workbook works out: from the inputs to a result.

The formulas between them are put into one another, so that it reads nothing that depends on the
inputs but the cells that stand for them.
"""

from __future__ import annotations

from collections.abc import Mapping

from dreieck.core.analysis.reads import read_names
from dreieck.core.calculate import Calculation
from dreieck.core.calculate.read_map import touched_areas
from dreieck.core.exceptions import DreieckError, FormulaError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.parser import MAX_DEPTH
from dreieck.core.formula.printer import place_text
from dreieck.core.formula.reference import CellReference, RangeReference, staying
from dreieck.core.functions import Takes, Trait, calls, find
from dreieck.core.grid import Area, Cell
from dreieck.core.values import Place

MAX_NODES = 4_000
"""How many parts one formula may have."""
_MAX_CELLS = 200
_TOO_LONG = "As one formula it would be too long to be read."
_TOTALS = (Takes.TOTALS, Takes.NUMBERS)


def inlined(
    calculation: Calculation, result: Place, inputs: Mapping[Place, tree.Node], at: Cell
) -> Shape:
    """The formula of a result in which ``inputs`` are replaced by nodes of their own.

    It is the one for a cell ``at``; all that it reads else never moves. Raises DreieckError where
    there is no such formula.
    """
    node = _Inlining(calculation, inputs).cell(result)
    shape = Shape.of(node.inner if isinstance(node, tree.Group) else node)
    try:
        # What is kept is read again from its text.
        return Shape.parse(shape.text(at), at)
    except FormulaError:
        raise DreieckError(_TOO_LONG) from None


class _Inlining:
    def __init__(self, calculation: Calculation, inputs: Mapping[Place, tree.Node]) -> None:
        self.calculation = calculation
        self.inputs = inputs
        self.path: list[Place] = []
        self.size = self.depth = 0
        self.touched: dict[str, list[Area]] = {}
        for place in inputs:
            area = Area.of(place.cell)
            touched = touched_areas(calculation.read_map(), place.sheet, [area])
            for sheet, found in ((place.sheet, area), *touched):
                self.touched.setdefault(sheet, []).append(found)

    def cell(self, place: Place) -> tree.Node:
        """What a cell comes to, as one formula."""
        if place in self.inputs:
            return self.inputs[place]
        content = self.calculation.workbook.content(place.sheet, place.cell)
        if not self._depends(place.sheet, Area.of(place.cell)) or not isinstance(content, Shape):
            return staying(Area.of(place.cell), place.sheet)
        if place in self.path:
            raise DreieckError(f"{place_text(place)} reads itself.")
        if calls(content.tree, Trait.HERE, Trait.MOVES_ALONG, Trait.READS_ELSEWHERE, Trait.DRAWS):
            raise DreieckError(f"The formula in {place_text(place)} depends on where it stands.")
        self.path.append(place)
        made = self.node(content.tree, place)
        self.path.pop()
        return tree.closed(made)

    def node(self, node: tree.Node, at: Place) -> tree.Node:
        """A node of the formula in a cell, with all put in that depends on the inputs."""
        self.size += 1
        if self.size > MAX_NODES or self.depth >= MAX_DEPTH:
            raise DreieckError(_TOO_LONG)
        self.depth += 1
        match node:
            case CellReference() | RangeReference():
                made = self._reference(node, at)
            case tree.Name():
                made = self._name(node, at)
            case tree.Call():
                made = tree.Call(node.function, tuple(self._arguments(node, at)))
            case _:
                made = tree.with_children(node, lambda each: self.node(each, at))
        self.depth -= 1
        is_sum = isinstance(made, tree.Binary) and made.operator in ("+", "-")
        return tree.with_children(made, _opened) if is_sum else made

    def _arguments(self, call: tree.Call, at: Place) -> list[tree.Node]:
        function = find(call.function)
        found: list[tree.Node] = []
        for index, each in enumerate(call.arguments):
            area = each.area(at.cell) if isinstance(each, RangeReference) else None
            sheet = (each.sheet if isinstance(each, RangeReference) else None) or at.sheet
            if area is None or not self._depends(sheet, area):
                found.append(self.node(each, at))
                continue
            takes = function.parameter(index).takes if function and function.parameters else None
            if takes not in _TOTALS or area.size > _MAX_CELLS:
                raise DreieckError(
                    f"The formula in {place_text(at)} reads {area.text} as a range, in which the"
                    " inputs count."
                )
            held = self.calculation.workbook.sheet(sheet)
            cells = (cell for cell in area.cells() if held.content(cell) is not None)
            found += [self.cell(Place(held.name, cell)) for cell in cells]
        return [each.inner if isinstance(each, tree.Group) else each for each in found]

    def _reference(self, reference: CellReference | RangeReference, at: Place) -> tree.Node:
        area = reference.area(at.cell)
        sheet = reference.sheet or at.sheet
        if area is None or not self.calculation.workbook.has_sheet(sheet):
            raise DreieckError(f"A reference in {place_text(at)} is lost.")
        name = self.calculation.workbook.sheet(sheet).name
        if isinstance(reference, CellReference):
            return self.cell(Place(name, area.first))
        if self._depends(name, area):
            raise DreieckError(
                f"The formula in {place_text(at)} reads {area.text} as a range, in which the"
                " inputs count."
            )
        return staying(area, name)

    def _name(self, node: tree.Name, at: Place) -> tree.Node:
        shape = self.calculation.workbook.named(node.text)
        if shape is None or not shape.references:
            return node
        if node.text.casefold() in map(str.casefold, read_names(shape)):
            raise DreieckError(f"The name {node.text} stands for itself.")
        return tree.closed(self.node(shape.tree, at))

    def _depends(self, sheet: str, area: Area) -> bool:
        name = self.calculation.workbook.sheet(sheet).name
        return any(area.common(each) for each in self.touched.get(name, ()))


def _opened(node: tree.Node) -> tree.Node:
    """A product or quotient without the brackets that it does not need beside + and -."""
    inner = node.inner if isinstance(node, tree.Group) else node
    is_product = isinstance(inner, tree.Binary) and inner.operator in ("*", "/")
    return inner if is_product else node


def cell_node(text: str, at: Cell) -> tree.Node:
    """A reference, written as it stands in a cell."""
    return Shape.parse("=" + text, at).tree
