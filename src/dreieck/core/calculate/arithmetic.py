"""Plain arithmetic on tables of numbers that are used over and over, without making new ones.

Memory that is asked for anew costs more than the arithmetic in it. What leads to anything but
finite numbers is refused here, and worked out by the rules for cells.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.formula import tree

Numbers = NDArray[np.float64]
_UFUNCS: dict[str, np.ufunc] = {
    "+": np.add,
    "-": np.subtract,
    "*": np.multiply,
    "/": np.divide,
}


class NotPlain(Exception):
    """Raised where something is no finite number."""


class Room:
    """Tables of one size, lent and taken back."""

    def __init__(self, runs: int, rows: int) -> None:
        self.shape = (runs, rows)
        self._free: list[Numbers] = []
        self._kept: dict[object, Numbers] = {}

    def kept(self, key: object, made: Numbers) -> Numbers:
        """A table that stays, in place of the one that was kept under the same key."""
        before = self._kept.get(key)
        if before is not None and before is not made:
            self._free.append(before)
        self._kept[key] = made
        return made

    def lend(self) -> Numbers:
        """A table to write into."""
        return self._free.pop() if self._free else np.empty(self.shape)

    def take_back(self, table: Numbers) -> None:
        """A table is no longer used."""
        self._free.append(table)


def is_arithmetic(node: tree.Node) -> bool:
    """Whether a node adds, subtracts, multiplies or divides."""
    match node:
        case tree.Group():
            return is_arithmetic(node.inner)
        case tree.Binary():
            return node.operator in _UFUNCS
    return isinstance(node, tree.Prefix | tree.Percent)


def worked_out(node: tree.Node, leaf: Callable[[tree.Node], Any], room: Room) -> Numbers | None:
    """What a node comes to as a table of a room's size; None where that is not plain.

    ``leaf`` gives the numbers of what is no arithmetic: one, or those of each run, of each row,
    or of both. It raises NotPlain where there are none. The table is lent by the room.
    """
    work = _Work(leaf, room)
    try:
        with np.errstate(all="ignore"):
            found, own = work.out(node)
            table = found if own and np.shape(found) == room.shape else work.fresh()
            # 0 has no sign.
            found = np.add(found, 0.0, out=table)
            if not np.isfinite(np.add.reduce(found, axis=None)):
                raise NotPlain
    except NotPlain:
        for table in work.lent:
            room.take_back(table)
        return None
    for table in work.lent:
        if table is not found:
            room.take_back(table)
    result: Numbers = found
    return result


class _Work:
    """The arithmetic of one formula, with the tables that it has borrowed."""

    def __init__(self, leaf: Callable[[tree.Node], Any], room: Room) -> None:
        self.leaf = leaf
        self.room = room
        self.lent: list[Numbers] = []
        self.idle: list[Numbers] = []

    def fresh(self) -> Numbers:
        """A table to write into."""
        if self.idle:
            return self.idle.pop()
        table = self.room.lend()
        self.lent.append(table)
        return table

    def out(self, node: tree.Node) -> tuple[Any, bool]:
        """What a node comes to, and whether that is a table of our own."""
        match node:
            case tree.Group():
                return self.out(node.inner)
            case tree.Number():
                return node.value, False
            case tree.Prefix(sign="+"):
                return self.out(node.operand)
            case tree.Prefix():
                return self._put(np.negative, self.out(node.operand))
            case tree.Percent():
                return self._put(np.divide, self.out(node.operand), (100.0, False))
            case tree.Binary() if node.operator in _UFUNCS:
                left, right = self.out(node.left), self.out(node.right)
                if node.operator == "/":
                    _check_divisor(right[0])
                return self._put(_UFUNCS[node.operator], left, right)
        return self.leaf(node), False

    def _put(self, ufunc: np.ufunc, *operands: tuple[Any, bool]) -> tuple[Any, bool]:
        values = [value for value, _ in operands]
        own = [value for value, is_own in operands if is_own]
        if np.broadcast_shapes(*map(np.shape, values)) != self.room.shape:
            return ufunc(*values), False
        target = own[0] if own else self.fresh()
        self.idle.extend(own[1:])
        return ufunc(*values, out=target), True


def _check_divisor(divisor: Any) -> None:
    """Raise NotPlain where something is divided by 0, or by what is no finite number."""
    if not np.all(divisor) or not np.isfinite(np.add.reduce(divisor, axis=None)):
        raise NotPlain
