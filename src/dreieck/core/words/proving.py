"""What a proof states, in words."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.formula import tree
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.shift import tag
from dreieck.core.functions import Function, Speech, Trait, speech_of
from dreieck.core.functions.statements import FORMS, INPUTS, RESULTS
from dreieck.core.sheet.stated import STANDS, Stated
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
from dreieck.core.words.conditions import COMPARED
from dreieck.core.words.phrases import Phrase, sentence, words
from dreieck.core.words.reading import Spoken


def stated(workbook: Workbook, kept: Stated) -> list[Phrase]:
    """The statement of a proof in words, with where its cells are found."""
    node = kept.shape.tree
    phrases = list(_Stated(workbook, Place(workbook.sheets[0].name, STANDS), node).node(node))
    first = phrases[0]
    if first.kind == "words":
        phrases[0] = words(first.text[:1].upper() + first.text[1:])
    return phrases


def statement_said(workbook: Workbook, kept: Stated) -> str:
    """The statement of a proof as one would say it."""
    return sentence(stated(workbook, kept))


class _Stated(Spoken):
    """Says a statement; it has no place of its own from which others would be told.

    What is stated of a range is stated of each of its cells: ``every`` says of how many.
    """

    every = "each of"

    def node(self, node: tree.Node) -> Iterator[Phrase]:
        if isinstance(node, tree.Binary) and node.operator in COMPARED:
            yield from self._every(node.left)
        yield from super().node(node)

    def _every(self, node: tree.Node) -> Iterator[Phrase]:
        read = self.read(node)
        if read and read[1].size > 1:
            yield words(self.every)

    def _said_of(self, every: str, node: tree.Node) -> Iterator[Phrase]:
        """A statement that is made of so many."""
        before, self.every = self.every, every
        yield from self.node(node)
        self.every = before

    def function(self, name: str) -> Function | None:
        return FORMS.get(name) or super().function(name)

    def thing(self, reference: Reference, name: str | None) -> Iterator[Phrase]:
        written = reference_text(reference, STANDS).replace("$", "")
        letter = tag(self.numbered(reference))
        yield Phrase("thing", name or written, letter)
        if name:
            yield Phrase("where", f"({written})", letter)

    def call(self, node: tree.Call) -> Iterator[Phrase]:
        if node.function not in (INPUTS, RESULTS):
            yield from self._called(node)
            return
        before = FORMS[node.function].words
        for index, each in enumerate(node.arguments):
            yield words("and" if index else before)
            if isinstance(each, tree.Binary):
                yield from self.node(each.left)
                yield words("=")
                yield from self.node(each.right)
            else:
                yield from self.node(each)

    def _called(self, node: tree.Call) -> Iterator[Phrase]:
        speech, arguments = speech_of(node.function), node.arguments
        if len(arguments) == 1 and speech is Speech.ALL_OF:
            yield from self.node(arguments[0])
        elif len(arguments) == 1 and speech is Speech.ONE_OF:
            yield from self._said_of("at least one of", arguments[0])
        elif arguments and speech is Speech.DENIES:
            yield words("it is not so that")
            yield from self._said_of("any of", arguments[0])
        else:
            function = self.function(node.function)
            if function and arguments and function.traits & {Trait.ASKS, Trait.GUARDS}:
                yield from self._every(arguments[0])
            yield from super().call(node)
