"""What a proof states, in words."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.formula import tree
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.shift import tag
from dreieck.core.functions import Function
from dreieck.core.functions.statements import FORMS, PARTS_SAID
from dreieck.core.sheet.stated import STANDS, Stated
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
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
    """Says a statement; it has no place of its own from which others would be told."""

    def function(self, name: str) -> Function | None:
        return FORMS.get(name) or super().function(name)

    def thing(self, reference: Reference, name: str | None) -> Iterator[Phrase]:
        written = reference_text(reference, STANDS).replace("$", "")
        letter = tag(self.numbered(reference))
        yield Phrase("thing", name or written, letter)
        if name:
            yield Phrase("where", f"({written})", letter)

    def call(self, node: tree.Call) -> Iterator[Phrase]:
        before = PARTS_SAID.get(node.function)
        if before is None:
            yield from super().call(node)
            return
        for index, each in enumerate(node.arguments):
            yield words("and" if index else before)
            if isinstance(each, tree.Binary):
                yield from self.node(each.left)
                yield words("=")
                yield from self.node(each.right)
            else:
                yield from self.node(each)
