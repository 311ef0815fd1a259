"""The working of a formula in numbers, step by step: *4 is more than 2, so 4 × 2 = 8*.

A part is worked out before what it is a part of. Of a choice only the way is worked out that is
taken, and an error is told where it begins.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import islice

from dreieck.core.analysis.binding import written_out
from dreieck.core.analysis.fanning import fans
from dreieck.core.analysis.lifting import taken_whole
from dreieck.core.calculate import Calculation, look_at
from dreieck.core.calculate.arguments import Operand
from dreieck.core.calculate.elementwise import alone
from dreieck.core.calculate.evaluation import Evaluation
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.formula.reference import CellReference, RangeReference, Reference
from dreieck.core.functions import Speech, speech_of
from dreieck.core.grid import Area
from dreieck.core.ranges.operands import Several, Table
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import NA, Error, Place, Value, to_logical
from dreieck.core.values.look import PLAIN, Look, shown_text
from dreieck.core.words.counting import both
from dreieck.core.words.phrases import Phrase, sentence, words
from dreieck.core.words.reading import Spoken

MAX_STEPS = 40
_LISTED = 4
_SO = 3
_LOOKING_OTHERWISE = ("percent", "date", "time", "datetime", "duration")
_ROOM = 14


@dataclass(frozen=True, slots=True)
class Step:
    """One part of a formula: as it is written, said in numbers, what it is worth, and a note.

    ``reads`` are the cells and ranges that it reads itself.
    """

    part: str
    said: str
    gives: str
    note: str
    reads: tuple[str, ...]

    @property
    def text(self) -> str:
        """The step in one line."""
        note = f" ({self.note})" if self.note else ""
        return f"{self.part}: {self.said} = {self.gives}{note}"


@dataclass(frozen=True, slots=True)
class Working:
    """All steps, the last one first worked out being the whole; and the whole in one sentence."""

    steps: tuple[Step, ...]
    summary: str
    is_cut: bool

    def text(self, place: Place, formula: str) -> str:
        """The working to be copied: a line for each step."""
        lines = [f"{number}. {step.text}" for number, step in enumerate(self.steps, 1)]
        return "\n".join([f"{place_text(place)} {formula}", *lines, self.summary])


def working(calculation: Calculation, place: Place, shape: Shape) -> Working:
    """Work the formula out that stands at ``place``, step by step."""
    worker = Worker(calculation, place, shape)
    worker.work(worker.root)
    steps = tuple(worker.steps[:MAX_STEPS])
    return Working(steps, worker.summary(), len(worker.steps) > MAX_STEPS)


class _InNumbers(Spoken):
    """Says a formula with what its cells hold, and with what parts came to that are known."""

    def __init__(self, calculation: Calculation, place: Place, root: tree.Node) -> None:
        super().__init__(calculation.workbook, place, root)
        self.calculation = calculation
        self.known: dict[int, str] = {}

    def node(self, node: tree.Node) -> Iterator[Phrase]:
        known = self.known.get(id(node))
        if known is not None:
            yield words(known)
            return
        if isinstance(node, tree.Name):
            read = self.read(node)
            single = read is not None and read[1].size == 1
            yield words(self.held(*read) if read and single else node.text)
            return
        yield from super().node(node)

    def thing(self, reference: Reference, name: str | None) -> Iterator[Phrase]:
        read = self.read(reference)
        if read is None:
            yield from super().thing(reference, name)
            return
        sheet, area = read
        if area.size == 1:
            yield words(self.held(sheet, area))
            return
        yield words(name or area_text(area, sheet.name if reference.sheet else None))
        filled = [cell for cell, _ in islice(sheet.filled(area), _LISTED + 1)]
        if min(area.shape) == 1 and filled:
            shown = [self.shown(sheet, Place(sheet.name, cell)) for cell in filled[:_LISTED]]
            more = sheet.count(area) - len(shown)
            yield words(f"({', '.join(shown)}{f' and {more:,} more' if more else ''})")

    def called(self, reference: Reference, name: str) -> Iterator[Phrase]:
        return self.thing(reference, name)

    def filtered(self, node: tree.Call) -> list[Phrase] | None:
        # What is known of a part is told by its numbers.
        inside = (each for argument in node.arguments for each in tree.walk(argument))
        return None if any(id(each) in self.known for each in inside) else super().filtered(node)

    def bracketed(self, node: tree.Node, wanted: bool) -> Iterator[Phrase]:
        return super().bracketed(node, wanted and id(node) not in self.known)

    def held(self, sheet: Sheet, area: Area) -> str:
        """What a cell holds."""
        return self.shown(sheet, Place(sheet.name, area.first))

    def shown(self, sheet: Sheet, place: Place) -> str:
        """The value of a cell as it looks there."""
        value = self.calculation.value(place.sheet, place.cell)
        look = look_at(sheet, place.cell)
        return told_as(value, look, self.workbook.locale)


def told_as(value: Value, look: Look, locale: str = "") -> str:
    """A value as one says it where it has a look.

    Of a number all that counts is told, not only so many decimals.
    """
    return told(value, look if look.form in _LOOKING_OTHERWISE else PLAIN, locale)


def told(value: Value, look: Look = PLAIN, locale: str = "") -> str:
    """A value as one says it."""
    if value is None:
        return "0 (empty)"
    if isinstance(value, str):
        return f"“{value}”" if value else "no text"
    if isinstance(value, bool):
        return "true" if value else "false"
    return shown_text(value, look, _ROOM, locale)


class Worker:
    """Works one formula out, part by part, and tells the steps."""

    def __init__(self, calculation: Calculation, place: Place, shape: Shape) -> None:
        self.calculation = calculation
        self.place = place
        self.root = written_out(shape.tree) or shape.tree
        while isinstance(self.root, tree.Group):
            self.root = self.root.inner
        self.reader = _InNumbers(calculation, place, shape.tree)
        self.steps: list[Step] = []
        self.evaluation = Evaluation(place, calculation, shape.tree)
        is_fan = fans(shape, calculation.named)
        self.whole = frozenset(map(id, taken_whole(self.root, whole=is_fan)))
        """The parts that work with whole ranges, and may come to many values."""
        self.so: list[str] = []
        """What the ways depended on that were taken."""
        self.final = ""
        """What was said last, and what it came to."""

    def work(self, node: tree.Node) -> None:
        """Work a node out, its parts first; a step is told where there is something to tell."""
        if isinstance(node, tree.Group):
            self.work(node.inner)
            if id(node.inner) in self.reader.known:
                self.reader.known[id(node)] = self.reader.known[id(node.inner)]
        elif isinstance(node, tree.Call) and node.arguments and speech_of(node.function) in WAYS:
            # What it depends on, then only the way that is taken.
            way = self.way(node)
            value = self.value(node) if way is None else self.worked(way)
            if isinstance(value, Table | Several):
                self.tell(node, value)
            self.reader.known[id(node)] = self.told(value)
        else:
            for child in _parts(node):
                self.work(child)
            if node is self.root or _is_step(node):
                self.tell(node, self.value(node))

    def way(self, node: tree.Call) -> tree.Node | None:
        """Which argument of a choice is taken; None where none is, or where that is an error."""
        arguments, speech = node.arguments, speech_of(node.function)
        if speech in (Speech.IF_ERROR, Speech.IF_MISSING):
            value = self.worked(arguments[0])
            any_error = speech is Speech.IF_ERROR
            if not isinstance(value, Error) or not (any_error or value.code == NA):
                return None
            self.so.append(f"{self.plain(arguments[0])} is {self.told(value)}")
            return arguments[1] if len(arguments) > 1 else None
        step = 2 if speech is Speech.CASES else len(arguments) + 1
        for index in range(0, len(arguments), step):
            worth = self.worked(arguments[index])
            if isinstance(worth, Table | Several):
                # Each of many values goes its own way.
                return None
            held = to_logical(worth)
            if isinstance(held, Error):
                return None
            if speech is Speech.BRANCHES:
                self.so.append(self.condition(arguments[0], held))
                taken = 1 if held else 2
                return arguments[taken] if taken < len(arguments) else None
            if held:
                self.so.append(self.condition(arguments[index], held))
                return arguments[index + 1] if index + 1 < len(arguments) else None
        return None

    def worked(self, node: tree.Node) -> Operand:
        """Work a node out, and tell it in any case."""
        self.work(node)
        value = self.value(node)
        if id(node) not in self.reader.known:
            self.tell(node, value)
        return value

    def condition(self, node: tree.Node, held: bool) -> str:
        """A condition in numbers, as it holds or not."""
        if held:
            return self.plain(node)
        if isinstance(node, tree.Binary) and node.compares:
            return self.plain(replace(node, operator=_OPPOSITE[node.operator]))
        return f"it is not so that {self.plain(node)}"

    def plain(self, node: tree.Node) -> str:
        """A node in the numbers of its cells."""
        known, self.reader.known = self.reader.known, {}
        try:
            return sentence(self.reader.node(node))
        finally:
            self.reader.known = known

    @property
    def locale(self) -> str:
        """How numbers are written in the workbook."""
        return self.calculation.workbook.locale

    def said(self, node: tree.Node) -> str:
        """A node in numbers, whether its worth is known or not."""
        known = self.reader.known.pop(id(node), None)
        text = sentence(self.reader.node(node))
        if known is not None:
            self.reader.known[id(node)] = known
        return text

    def value(self, node: tree.Node) -> Operand:
        """What a node is worth here: a value, or many of them."""
        if id(node) in self.whole:
            return alone(self.evaluation.array(node))
        return self.evaluation.value(node)

    def told(self, worth: Operand) -> str:
        """A value, or the first ones of many."""
        if isinstance(worth, Several):
            return "several ranges"
        if not isinstance(worth, Table):
            return told(worth, locale=self.locale)
        places = [divmod(at, worth.width) for at in range(min(worth.size, _LISTED))]
        first = [told(worth.at(column, row), locale=self.locale) for row, column in places]
        more = worth.size - len(first)
        return f"({', '.join(first)}{f' and {more:,} more' if more else ''})"

    def tell(self, node: tree.Node, value: Operand) -> None:
        """Tell a step, and remember what it came to."""
        said, gives = self.said(node), self.told(value)
        if node is self.root and isinstance(node, CellReference):
            said = sentence(Spoken(self.calculation.workbook, self.place, node).node(node))
        part = Shape.of(node).text(self.place.cell)[1:]
        reads = tuple(self.addresses(node))
        self.final = gives if said == gives else f"{said} = {gives}"
        if said != gives or node is self.root:
            self.steps.append(Step(part, said, gives, self.note(node, value), reads))
        self.reader.known[id(node)] = gives

    def note(self, node: tree.Node, value: Operand) -> str:
        """Where an error begins: here, or in what is read."""
        if not isinstance(value, Error):
            return ""
        if value.origin and value.origin != self.place:
            return f"the error began in {place_text(value.origin)}"
        inside = (self.value(child) for child in _parts(node))
        return "" if any(isinstance(each, Error) for each in inside) else "the error begins here"

    def addresses(self, node: tree.Node) -> Iterator[str]:
        """What a step reads itself, not by its parts that are steps."""
        if isinstance(node, CellReference | RangeReference):
            read = self.reader.read(node)
            if read:
                sheet, area = read
                yield area_text(area, None if sheet.name == self.place.sheet else sheet.name)
            return
        for child in tree.children(node):
            if id(child) not in self.reader.known:
                yield from self.addresses(child)

    def summary(self) -> str:
        """The whole in one sentence."""
        so = both(self.so[-_SO:])
        return f"{so}, so {self.final}" if so else self.final


_OPPOSITE = {">": "<=", "<": ">=", ">=": "<", "<=": ">", "=": "<>", "<>": "="}
"""What a comparison is where it does not hold."""
WAYS = (Speech.BRANCHES, Speech.CASES, Speech.IF_ERROR, Speech.IF_MISSING)
"""The calls that choose one of their arguments, and work only that out."""


def _parts(node: tree.Node) -> Iterator[tree.Node]:
    """The parts that can be worked out by themselves: no ranges, and no sums over ranges."""
    for child in tree.children(node):
        if isinstance(child, RangeReference | tree.Inline | tree.Linked | tree.Name):
            continue
        if not isinstance(child, tree.Call | tree.Group) and _has_range(child):
            continue
        if isinstance(child, tree.Group) and _has_range(child.inner):
            continue
        yield child


def _has_range(node: tree.Node) -> bool:
    """Whether operators of a node work on ranges, cell by cell."""
    if isinstance(node, RangeReference | tree.Inline | tree.Linked):
        return True
    if isinstance(node, tree.Call):
        return False
    return any(_has_range(each) for each in tree.children(node))


def _is_step(node: tree.Node) -> bool:
    """Whether a part is told by itself: a call, a comparison, what stands in brackets."""
    if isinstance(node, tree.Call):
        return bool(node.arguments)
    return isinstance(node, tree.Binary) and node.compares
