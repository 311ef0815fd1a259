"""Pieces of a reading, and who says formulas with them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Literal, Protocol

from dreieck.core.formula import tree
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet


@dataclass(frozen=True, slots=True)
class Phrase:
    """A piece of a reading: a thing of the sheet, where it is found, or words between."""

    kind: Literal["thing", "where", "words"]
    text: str
    tag: str = ""


def words(text: str) -> Phrase:
    """Words between things."""
    return Phrase("words", text)


def sentence(phrases: Iterable[Phrase]) -> str:
    """A reading as one would say it, without where things are found."""
    return joined(phrase for phrase in phrases if phrase.kind != "where")


def joined(phrases: Iterable[Phrase]) -> str:
    """Phrases as one text."""
    said = ""
    for phrase in phrases:
        space = said and not said.endswith("(") and phrase.text[0] not in ",):"
        said += " " * bool(space) + phrase.text
    return said


class Reader(Protocol):
    """Who says a formula, node by node."""

    def node(self, node: tree.Node) -> Iterator[Phrase]:
        """A node in words."""

    def call(self, node: tree.Call) -> Iterator[Phrase]:
        """A call, by the words of its function."""

    def bracketed(self, node: tree.Node, wanted: bool) -> Iterator[Phrase]:
        """A node in brackets where what follows would be taken for a part of it."""

    def thing(self, reference: Reference, name: str | None) -> Iterator[Phrase]:
        """A reference by a name, or else as it is written, and where it is found."""

    def called(self, reference: Reference, name: str) -> Iterator[Phrase]:
        """A reference by what its cell is called: *the code in A5*."""

    def read(self, node: tree.Node) -> tuple[Sheet, Area] | None:
        """What a node refers to, if it is a reference to cells that are there."""
