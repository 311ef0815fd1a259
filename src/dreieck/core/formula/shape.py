"""The shape of a formula: what a fill copies.

Equal formulas by position are one and the same object, so a block is recognised by
identity and a fill hands its shape to every landing without parsing anything.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from itertools import count
from threading import Lock
from weakref import WeakValueDictionary

from dreieck.core.formula import tree
from dreieck.core.formula.parser import parse
from dreieck.core.formula.printer import pieces, written
from dreieck.core.formula.reference import Reference, firsts, lettered
from dreieck.core.grid import AXES, EVERYWHERE, LAST, Area, Cell

_SHAPES: WeakValueDictionary[tree.Node, Shape] = WeakValueDictionary()
_KEEPING = Lock()


class Shape:
    """A formula said by position. Make one with ``Shape.of`` or ``Shape.parse``."""

    def __init__(self, node: tree.Node) -> None:
        self.tree = node
        self.references: tuple[Reference, ...] = tree.references(node)
        self._pieces = pieces(node)

    def __repr__(self) -> str:
        return f"<Shape {self._pieces!r}>"

    @classmethod
    def of(cls, node: tree.Node) -> Shape:
        """The one shape of this tree."""
        shape = _SHAPES.get(node)
        if shape is None:
            made = cls(node)
            # Of two threads that get here with one tree both would keep their own.
            with _KEEPING:
                shape = _SHAPES.setdefault(node, made)
        return shape

    @classmethod
    def parse(cls, text: str, at: Cell) -> Shape:
        """The shape of a formula typed into ``at``. Raises FormulaError."""
        return cls.of(parse(text, at).tree)

    def text(self, at: Cell) -> str:
        """The formula as it is written in the cell ``at``."""
        return written(self._pieces, at)

    @property
    def plain(self) -> Shape:
        """The shape that means the same, without anybody's spelling of numbers."""
        return self._plainer or self

    @cached_property
    def _plainer(self) -> Shape | None:
        # A shape that held itself would not be let go.
        shape = Shape.of(tree.plain(self.tree))
        return None if shape is self else shape

    @cached_property
    def home(self) -> Area | None:
        """The cells in which every reference stays on the sheet; None where there are none."""
        home = EVERYWHERE
        for axis in AXES:
            steps = [p.at for r in self.references for p in r.on(axis) if not p.locked]
            first, last = 1 - min(steps, default=0), LAST[axis] - max(steps, default=0)
            first, last = max(first, 1), min(last, LAST[axis])
            if first > last:
                return None
            home = home.spanning(axis, first, last)
        return home

    def fits(self, area: Area) -> bool:
        """Whether every reference stays on the sheet in all of an area."""
        return self.home is not None and area.within(self.home)

    def landed(self, at: Cell) -> Shape:
        """The shape that a fill leaves in ``at``.

        It is this shape itself, unless a reference falls off the sheet there: that one
        becomes ``#REF!`` for good.
        """
        if self.home and self.home.holds(at):
            return self
        return self.changed(lambda r: tree.Lost() if r.area(at) is None else r)

    def changed(self, change: Callable[[Reference], tree.Node]) -> Shape:
        """The shape with every reference replaced by what ``change`` makes of it."""
        return Shape.of(tree.with_references(self.tree, change))

    @cached_property
    def letters(self) -> tuple[int, ...]:
        """The number of each reference's letter tag: equal references share one."""
        return lettered(self.references)

    @cached_property
    def distinct(self) -> tuple[int, ...]:
        """The first reference with each letter tag, by its number."""
        return firsts(self.letters)

    def with_equals(self, number: int, changed: Reference) -> Shape:
        """The shape with a reference, counted from 0, replaced wherever an equal one stands."""
        return self.changed(lambda each: changed if each == self.references[number] else each)

    def with_reference(self, number: int, changed: Reference) -> Shape:
        """The shape with one of its references, counted from 0, replaced."""
        numbers = count()
        return self.changed(lambda each: changed if next(numbers) == number else each)

    def with_leaves(self, change: Callable[[tree.Node], tree.Node]) -> Shape:
        """The shape with every reference, name, number and text replaced."""
        return Shape.of(tree.with_leaves(self.tree, change))
