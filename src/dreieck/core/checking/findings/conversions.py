"""The rule about results whose unit is not that of their heading: minutes, divided by 100."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.measures import factor, measured_in
from dreieck.core.values import number_text
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import label_on

_NEAR = 1e-6


class _Product(NamedTuple):
    """What a formula multiplies: the units above and below the line, and the numbers typed."""

    above: tuple[str, ...]
    below: tuple[str, ...]
    number: float
    typed: tuple[tree.Number, ...]

    @property
    def unit(self) -> str:
        """The unit that comes out."""
        return " * ".join(("1", *self.above)) + "".join(f" / ({each})" for each in self.below)


@rule("wrong-unit")
def wrong_unit(subject: Subject) -> Iterator[Finding]:
    """A product of numbers with units does not give the unit that its heading tells."""
    own = _measured(subject.sheet, subject.start)
    if own is None or not subject.cell_uses or subject.range_uses:
        return
    product = _product(subject, subject.shape.tree)
    if product is None or not (product.above or product.below):
        return
    wanted = factor(product.unit, own[0])
    # In one and the same unit a number is a factor like any other.
    if wanted is None or abs(wanted - 1) < _NEAR or abs(product.number / wanted - 1) < _NEAR:
        return
    if len(product.typed) > 1:
        return
    changed, says = _with_factor(subject.shape, product, wanted)
    if changed is None:
        return
    yield Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} is headed {quoted(own[1])}: by the units of what it reads it comes"
        f" out {number_text(round(product.number / wanted, 6))} times as large as it should.",
        "A number in another unit than its heading looks right and is not.",
        None,
        (refilled(subject, changed, says),),
        (f"to come from one unit to the other one has to {says}",),
    )


def _measured(sheet: Sheet, cell: Cell) -> tuple[str, str] | None:
    """The unit of a cell by its heading or label, and that; None where none or both tell one."""
    told = [label_on(sheet, cell, axis) for axis in AXES]
    found = [(unit, text) for text in told if text and (unit := measured_in(text))]
    return found[0] if len(found) == 1 else None


def _product(subject: Subject, node: tree.Node) -> _Product | None:
    match node:
        case tree.Group():
            return _product(subject, node.inner)
        case tree.Number() if node.value > 0:
            return _Product((), (), node.value, (node,))
        case CellReference():
            sheet, area = subject.sheet_of(node), node.area(subject.start)
            found = _measured(sheet, area.first) if sheet and area else None
            return _Product((found[0],), (), 1.0, ()) if found else None
        case tree.Binary(operator="*" | "/"):
            one, other = _product(subject, node.left), _product(subject, node.right)
            if one is None or other is None:
                return None
            if node.operator == "/":
                other = _Product(other.below, other.above, 1 / other.number, other.typed)
            return _Product(
                one.above + other.above,
                one.below + other.below,
                one.number * other.number,
                one.typed + other.typed,
            )
        case _:
            return None


def _with_factor(shape: Shape, product: _Product, wanted: float) -> tuple[Shape | None, str]:
    """The formula with the number that its units take, and what that does."""
    if not product.typed:
        number = wanted if wanted > 1 else 1 / wanted
        if abs(number - round(number)) > _NEAR:
            return None, ""
        sign = "*" if wanted > 1 else "/"
        does = "multiply" if sign == "*" else "divide"
        inner = shape.tree if isinstance(shape.tree, tree.Binary) else tree.closed(shape.tree)
        changed = tree.Binary(sign, inner, tree.Number(float(round(number))))
        return Shape.of(changed), f"{does} by {round(number)}"
    (typed,) = product.typed
    divides = _is_divisor(shape.tree, typed)
    off = product.number / wanted
    made = tree.Number(float(f"{typed.value * (off if divides else 1 / off):.12g}"))
    does = "divide" if divides else "multiply"
    return Shape.of(tree.swapped(shape.tree, typed, made)), f"{does} by {number_text(made.value)}"


def _is_divisor(node: tree.Node, typed: tree.Number) -> bool:
    """Whether a number stands below a fraction line."""
    below = [
        each.right
        for each in tree.walk(node)
        if isinstance(each, tree.Binary) and each.operator == "/"
    ]
    return sum(any(inner is typed for inner in tree.walk(each)) for each in below) % 2 == 1
