"""The rule about products that take each other's factors."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.analysis.totalling import terms
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, CROSSING, Cell
from dreieck.core.tables.closing import meaning
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import label_on

_SEVERAL = 3
"""So many products tell how they are meant."""
_Factor = tuple[int, Cell]


class _Pair(NamedTuple):
    """What goes along and the input that it is multiplied with, by their numbers, and labels."""

    walker: int
    held: int
    own: frozenset[str]
    its: frozenset[str]
    told: str


@rule("crossed")
def crossed(subject: Subject) -> Iterator[Finding]:
    """Some of several products take their second factor from the line of another one."""
    found = _by_labels(subject) or _by_lines(subject)
    if found is None:
        return
    shape, number, told = found
    yield Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{told}, and the others are crossed likewise.",
        "Each list should be multiplied with the input of its own label, or of its own line.",
        number,
        (refilled(subject, shape, "multiply each with its own"),),
        ("with the mend all products are alike",),
        strength=2,
    )


def _by_labels(subject: Subject) -> tuple[Shape, int, str] | None:
    """The formula as the labels of lists and inputs have it, and what is crossed."""
    pairs = list(_pairs(subject))
    by_label = {pair.its: pair for pair in pairs if pair.its}
    if len(pairs) < 2 or len(by_label) < len(pairs):
        return None
    wrong = [pair for pair in pairs if pair.own != pair.its and pair.own in by_label]
    if len(wrong) < 2 or {pair.own for pair in pairs} != set(by_label):
        return None
    shape = subject.shape
    for pair in wrong:
        meant = subject.shape.references[by_label[pair.own].held]
        shape = shape.with_reference(pair.held, meant)
    first = wrong[0]
    read = subject.address(subject.shape.references[first.walker], subject.start)
    label = quoted(first.told)
    return shape, first.held, f"{subject.tag(first.held)}, labelled {label}, meets {read}"


def _by_lines(subject: Subject) -> tuple[Shape, int, str] | None:
    """The same for products of two cells in one line each, of which some are in two."""
    cells = [_factors(subject, term) for term in terms(subject.shape.tree)]
    if len(cells) < _SEVERAL or not all(cells):
        return None
    pairs = [pair for pair in cells if pair]
    sides = [[cell for _, cell in side] for side in zip(*pairs, strict=True)]
    for axis in AXES:
        here, there = ([cell.on(axis) for cell in side] for side in sides)
        across = [{cell.on(CROSSING[axis]) for cell in side} for side in sides]
        wrong = [n for n, (one, two) in enumerate(zip(here, there, strict=True)) if one != two]
        one_line = all(len(each) == 1 for each in across)
        distinct = len(set(here)) == len(here) and sorted(here) == sorted(there)
        if not wrong or 2 * len(wrong) > len(pairs) + 1 or not one_line or not distinct:
            continue
        shape = subject.shape
        for n in wrong:
            (_, cell), (number, _) = pairs[n]
            other = pairs[there.index(cell.on(axis))][1][0]
            shape = shape.with_reference(number, subject.shape.references[other])
        (first, _), (second, _) = pairs[wrong[0]]
        references = subject.shape.references
        read = subject.address(references[first], subject.start)
        return shape, second, f"{subject.tag(second)} stands in another {axis} than {read}"
    return None


def _factors(subject: Subject, node: tree.Node) -> tuple[_Factor, _Factor] | None:
    """The two cells of a sheet that are multiplied with each other, by number and place."""
    if not isinstance(node, tree.Binary) or node.operator != "*":
        return None
    numbers = {id(each): n for n, each in enumerate(subject.shape.references)}
    found = [
        (numbers[id(each)], area.first)
        for each in (node.left, node.right)
        if isinstance(each, CellReference) and (area := each.area(subject.start))
    ]
    return (found[0], found[1]) if len(found) == 2 else None


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
