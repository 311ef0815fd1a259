"""The rule about classes that share their borders, so that what lies there counts twice."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell

_SIGNED = re.compile(r"\s*(<=|>=|<|>)\s*(\S+)\s*")


class _Bound(NamedTuple):
    """A criterion of a list: the sign in its text, the cell joined to it, and its node."""

    listed: RangeReference
    sign: str
    bound: CellReference
    node: tree.Binary


@rule("both-borders")
def both_borders(subject: Subject) -> Iterator[Finding]:
    """A class takes its upper border, which is the lower one of the next, as the next does."""
    bounds = list(_bounds(subject.shape.tree))
    for low in bounds:
        for high in bounds:
            pair = (low.sign, high.sign)
            if low.listed != high.listed or pair not in ((">=", "<="), (">", "<")):
                continue
            axis = next((a for a in AXES if _follows(subject, low, high, a)), None)
            if axis:
                yield _finding(subject, high, axis, twice=pair == (">=", "<="))
                return
    for axis in AXES:
        yield from _beside_typed(subject, axis)


class _Typed(NamedTuple):
    """A criterion of a list that is typed as a whole: ``"<=18"``."""

    listed: Area
    sign: str
    bound: str
    node: tree.Text


def _beside_typed(subject: Subject, axis: Axis) -> Iterator[Finding]:
    """The same for borders that are typed: the formula in the next cell begins where it ends."""
    beside = subject.start.step(axis, 1)
    content = subject.sheet.content(beside) if beside.on_sheet else None
    if subject.block.size > 1 or not isinstance(content, Shape):
        return
    nexts = list(_typed(content, beside))
    for high in _typed(subject.shape, subject.start):
        for low in nexts:
            pair = (low.sign, high.sign)
            same = (low.listed, low.bound) == (high.listed, high.bound)
            if same and pair in ((">=", "<="), (">", "<")):
                yield _finding(subject, high, axis, twice=pair == (">=", "<="))
                return


def _typed(shape: Shape, at: Cell) -> Iterator[_Typed]:
    """The criteria of a formula that are typed as a whole."""
    for listed, told in _criteria(shape.tree):
        found = _SIGNED.fullmatch(told.value) if isinstance(told, tree.Text) else None
        if found and isinstance(told, tree.Text) and (area := listed.area(at)):
            yield _Typed(area, found[1], found[2], told)


def _bounds(node: tree.Node) -> Iterator[_Bound]:
    """The criteria of a formula that are a sign joined to a cell."""
    for listed, told in _criteria(node):
        if isinstance(told, tree.Binary) and told.operator == "&":
            sign, bound = told.left, told.right
            if isinstance(sign, tree.Text) and isinstance(bound, CellReference):
                yield _Bound(listed, sign.value.strip(), bound, told)


def _criteria(node: tree.Node) -> Iterator[tuple[RangeReference, tree.Node]]:
    """The lists of a formula that have to fit, each with what it is asked for."""
    for call in tree.walk(node):
        if isinstance(call, tree.Call) and has(call.function, Trait.FITS):
            for listed, told in zip(call.arguments, call.arguments[1:], strict=False):
                if isinstance(listed, RangeReference):
                    yield listed, told


def _follows(subject: Subject, low: _Bound, high: _Bound, axis: Axis) -> bool:
    """Whether the upper border of a landing is the lower one of the next."""
    (one,), (other,) = low.bound.on(axis), high.bound.on(axis)
    free = not one.locked and not other.locked and other.at == one.at + 1
    same = low.bound.on(CROSSING[axis]) == high.bound.on(CROSSING[axis])
    return free and same and subject.block.area.length(axis) > 1


def _finding(subject: Subject, high: _Bound | _Typed, axis: Axis, *, twice: bool) -> Finding:
    sign = "<" if twice else "<="
    if isinstance(high, _Bound):
        changed: tree.Node = tree.Binary("&", tree.Text(sign), high.bound)
        number = subject.shape.references.index(high.bound)
        read = subject.address(high.bound, subject.start)
        border = subject.what_is_in(high.bound, subject.start)
        what = f"{subject.tag(number)} ends"
    else:
        changed, number = tree.Text(f"{sign}{high.bound}"), None
        read = border = high.bound
        what = f"“{high.sign}{high.bound}” ends"
    shape = Shape.of(tree.swapped(subject.shape.tree, high.node, changed))
    counts = "counts in both" if twice else "counts in none of them"
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{what} the class of {subject.start.text} with {read}, where the next {axis} begins:"
        f" what is just {border} {counts}.",
        "Classes that follow each other take one of their borders each.",
        number,
        (refilled(subject, shape, f"let the class end {'before' if twice else 'with'} {read}"),),
        (f"both borders are {'taken' if twice else 'left out'}, and the next {axis} begins with"
         f" {read}",),
    )  # fmt: skip
