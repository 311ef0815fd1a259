"""Which formulas may fan out: a function gives them many values, which fill the cells they need.

A range that stands alone, or that operators take, gives the cell that is level with the formula.
"""

from __future__ import annotations

from functools import lru_cache

from dreieck.core.analysis.binding import written_out
from dreieck.core.analysis.lifting import Named, takes_single
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Speech, Trait, find


def fans(shape: Shape, named: Named) -> bool:
    """Whether a formula may give more than one value; some that do not may be among them."""
    known = _by_itself(shape)
    return _Search(named).finds(shape.tree) if known is None else known


@lru_cache(maxsize=8_192)
def _by_itself(shape: Shape) -> bool | None:
    """The same, None where it depends on what names stand for."""
    if any(isinstance(each, tree.Name) for each in tree.walk(shape.tree)):
        return None
    return _Search(lambda _: None).finds(shape.tree)


class _Search:
    """The search for a part that gives many values, where a formula takes its value.

    Each part and each name is looked at once, however often it stands there.
    """

    def __init__(self, named: Named) -> None:
        self._named = named
        self._names: set[str] = set()
        self._seen: set[int] = set()
        self._waiting: list[tree.Node] = []
        self._kept: list[tree.Node] = []
        """Trees that are made for the search, so that the identities of their parts last."""

    def finds(self, root: tree.Node) -> bool:
        """Whether there is one."""
        self._waiting.append(root)
        while self._waiting:
            if self._gives_many(self._waiting.pop()):
                return True
        return False

    def _gives_many(self, node: tree.Node) -> bool:
        if id(node) in self._seen:
            return False
        self._seen.add(id(node))
        match node:
            case tree.Group() | tree.Prefix() | tree.Percent() | tree.Binary():
                return any(map(self._gives_many, tree.children(node)))
            case tree.Name():
                key, shape = node.text.casefold(), self._named(node.text)
                if shape is not None and key not in self._names:
                    self._names.add(key)
                    self._waiting.append(shape.tree)
                return False
            case tree.Call():
                return self._call_gives_many(node)
            case _:
                return False

    def _call_gives_many(self, call: tree.Call) -> bool:
        function, count = find(call.function), len(call.arguments)
        if function is None or not function.parameters:
            return False
        if Trait.BINDS in function.traits:
            plain = written_out(call)
            if plain is None or plain is call:
                return False
            self._kept.append(plain)
            return self._gives_many(plain)
        chooses = Trait.CHOOSES in function.traits
        for index, argument in enumerate(call.arguments):
            is_value = chooses or takes_single(function, index, count)
            if is_value and self._gives_many(argument):
                return True
        if function.speech is Speech.BESIDE:
            return count > 2 and _has_rows_of_many(call.arguments[2])
        is_cut = Trait.REFERS in function.traits or Trait.TELLS_PLACE in function.traits
        return Trait.FANNED in function.traits or (Trait.MANY in function.traits and not is_cut)


def _has_rows_of_many(node: tree.Node) -> bool:
    """Whether a list has several rows as well as several columns."""
    node = tree.bare(node)
    if not isinstance(node, RangeReference) or not node.columns or not node.rows:
        return False
    return node.columns.one != node.columns.two and node.rows.one != node.rows.two
