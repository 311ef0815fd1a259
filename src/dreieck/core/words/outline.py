"""A formula laid out by its structure: branches and arguments, with what each part is worth.

Of a choice the way is told that is taken, and why; the other ways are not worked out.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from dreieck.core.calculate import Calculation
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Speech, find, speech_of
from dreieck.core.ranges.operands import Table
from dreieck.core.values import Place
from dreieck.core.words.phrases import Phrase
from dreieck.core.words.reading import Spoken
from dreieck.core.words.working import WAYS, Worker

MAX_LINES = 80
_LONG = 26
"""Calls longer than this are laid out argument by argument, so that a line is read at a glance."""
_DEEP = 7


@dataclass(frozen=True, slots=True)
class Piece:
    """One part of a formula.

    ``depth`` counts the parts around it, ``role`` is what it is for there: *if*, *then*, *else*,
    or the name of a parameter. ``text`` is how it is written; of a part that is laid out below,
    only its beginning. ``says`` is how it reads, ``worth`` what it comes to. A part that is not
    ``taken`` was not worked out; ``why`` tells which way a choice took.
    """

    depth: int
    role: str
    text: str
    says: tuple[Phrase, ...]
    worth: str
    taken: bool
    why: str = ""


def is_long(shape: Shape) -> bool:
    """Whether a formula is worth laying out: it has parts of its own."""
    calls = [node for node in tree.walk(shape.tree) if isinstance(node, tree.Call)]
    return len(calls) > 1 or any(speech_of(call.function) in WAYS for call in calls)


def outline(calculation: Calculation, place: Place, shape: Shape) -> tuple[Piece, ...]:
    """The parts of the formula that stands at ``place``, in the order in which it is written."""
    layer = _Layer(calculation, place, shape)
    layer.lay(shape.tree, 0, "", taken=True)
    return tuple(layer.parts[:MAX_LINES])


class _Layer:
    def __init__(self, calculation: Calculation, place: Place, shape: Shape) -> None:
        self.parts: list[Piece] = []
        self.place = place
        self.worker = Worker(calculation, place, shape)
        self.reader = Spoken(calculation.workbook, place, shape.tree)

    def lay(self, node: tree.Node, depth: int, role: str, *, taken: bool) -> None:
        """Tell a part, and below it the parts of its own."""
        if len(self.parts) >= MAX_LINES:
            return
        call = self._laid_out(node) if depth < _DEEP else None
        if call is None:
            says = tuple(self.reader.node(node))
            self._tell(node, depth, role, self._text(node), says, taken=taken)
            return
        way, why = self._way(call) if taken else (None, "")
        begins = f"{call.function}( …"
        if node is not call:
            begins = self._text(node).replace(self._text(call), begins)
        self._tell(node, depth, role, begins, (), taken=taken, why=why)
        is_choice = speech_of(call.function) in WAYS
        each_way = taken and is_choice and isinstance(self.worker.value(call), Table)
        for index, (each, name) in enumerate(self._named(call)):
            met = taken and (not is_choice or each_way or self._met(call, index, each, way))
            self.lay(each, depth + 1, name, taken=met)

    def _tell(
        self, node: tree.Node, depth: int, role: str, text: str, says: tuple[Phrase, ...],
        *, taken: bool, why: str = "",
    ) -> None:  # fmt: skip
        worth = self._worth(node) if taken else ""
        self.parts.append(Piece(depth, role, text, says, worth, taken, why))

    def _laid_out(self, node: tree.Node) -> tree.Call | None:
        """The call that is laid out for a part: itself, or the only long one in it."""
        if isinstance(node, tree.Call):
            is_choice = speech_of(node.function) in WAYS
            below = (other for each in tree.children(node) for other in tree.walk(each))
            calls = any(isinstance(each, tree.Call) for each in below)
            is_long = calls and len(self._text(node)) > _LONG
            return node if node.arguments and (is_choice or is_long) else None
        if isinstance(node, tree.Text | tree.Inline):
            return None
        inside = [found for each in tree.children(node) if (found := self._laid_out(each))]
        return inside[0] if len(inside) == 1 else None

    def _way(self, call: tree.Call) -> tuple[tree.Node | None, str]:
        """The argument that a choice takes, and what that depends on."""
        if speech_of(call.function) not in WAYS:
            return None, ""
        before = len(self.worker.so)
        way = self.worker.way(call)
        return way, ", ".join(self.worker.so[before:])

    def _met(self, call: tree.Call, index: int, each: tree.Node, way: tree.Node | None) -> bool:
        """Whether an argument of a choice is worked out on the way."""
        if speech_of(call.function) is not Speech.CASES:
            return index == 0 or each is way
        taken = next((n for n, other in enumerate(call.arguments) if other is way), None)
        is_condition = index % 2 == 0
        return each is way or (is_condition and (taken is None or index < taken))

    def _named(self, call: tree.Call) -> Iterator[tuple[tree.Node, str]]:
        """The arguments of a call, each with what it is for."""
        speech, function = speech_of(call.function), find(call.function)
        for index, each in enumerate(call.arguments):
            if speech is Speech.BRANCHES:
                yield each, ("if", "then", "else")[min(index, 2)]
            elif speech is Speech.CASES:
                yield each, "then" if index % 2 else "else if" if index else "if"
            elif speech in (Speech.IF_ERROR, Speech.IF_MISSING):
                yield each, "else" if index else "try"
            else:
                known = function is not None and function.parameters
                yield each, function.parameter(index).name if function and known else ""

    def _text(self, node: tree.Node) -> str:
        return Shape.of(node).text(self.place.cell)[1:]

    def _worth(self, node: tree.Node) -> str:
        if isinstance(node, RangeReference | tree.Inline | tree.Linked | tree.Name | tree.Missing):
            return "" if isinstance(node, tree.Missing) else self.worker.plain(node)
        return self.worker.told(self.worker.value(node))
