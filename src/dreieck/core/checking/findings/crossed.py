"""The rule about lists that are multiplied with each other's inputs."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.tables.closing import meaning
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import label_on


class _Pair(NamedTuple):
    """What goes along and the input that it is multiplied with, by their numbers, and labels."""

    walker: int
    held: int
    own: frozenset[str]
    its: frozenset[str]
    told: str


@rule("crossed")
def crossed(subject: Subject) -> Iterator[Finding]:
    """Some inputs of a sum of products are labelled as other lists of it."""
    pairs = list(_pairs(subject))
    by_label = {pair.its: pair for pair in pairs if pair.its}
    if len(pairs) < 2 or len(by_label) < len(pairs):
        return
    wrong = [pair for pair in pairs if pair.own != pair.its and pair.own in by_label]
    if len(wrong) < 2 or {pair.own for pair in pairs} != set(by_label):
        return
    shape = subject.shape
    for pair in wrong:
        meant = subject.shape.references[by_label[pair.own].held]
        shape = shape.with_reference(pair.held, meant)
    first = wrong[0]
    read = subject.address(subject.shape.references[first.walker], subject.start)
    yield Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(first.held)}, labelled {quoted(first.told)}, is multiplied with {read}, and"
        " the others are crossed likewise.",
        "Each list should be multiplied with the input of its own label.",
        first.held,
        (refilled(subject, shape, "multiply each with its own"),),
        ("lists and inputs have the same labels",),
        strength=2,
    )


def _pairs(subject: Subject) -> Iterator[_Pair]:
    """The products of a list and an input."""
    numbers = {id(each): n for n, each in enumerate(subject.shape.references)}
    for node in tree.walk(subject.shape.tree):
        if not isinstance(node, tree.Binary) or node.operator != "*":
            continue
        cells = [each for each in (node.left, node.right) if isinstance(each, CellReference)]
        held = [each for each in cells if subject.stays(each)]
        along = [each for each in cells if each not in held]
        if len(held) == 1 and len(along) == 1:
            told = _label(subject, held[0])
            own = meaning(_label(subject, along[0]))
            yield _Pair(numbers[id(along[0])], numbers[id(held[0])], own, meaning(told), told)


def _label(subject: Subject, reference: CellReference) -> str:
    """What heads a list, across the fill, or labels an input."""
    sheet, area = subject.sheet_of(reference), reference.area(subject.start)
    if sheet is None or area is None:
        return ""
    down = subject.block.area.height >= subject.block.area.width
    if subject.stays(reference):
        left = sheet.content(area.first.step("column", -1)) if area.left > 1 else None
        return left if isinstance(left, str) else label_on(sheet, area.first, "column")
    return label_on(sheet, area.first, "column" if down else "row")
