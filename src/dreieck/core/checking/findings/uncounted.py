"""The rule about conditions of a list that nothing makes numbers of."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.lifting import is_condition, whole_arguments
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.functions import Trait, has
from dreieck.core.words.counting import both


@rule("condition-uncounted")
def condition_uncounted(subject: Subject) -> Iterator[Finding]:
    """A sum takes conditions of a list as they are, so that each of them counts as 0."""
    found = [
        condition
        for call in tree.walk(subject.shape.tree)
        if isinstance(call, tree.Call) and has(call.function, Trait.ADDS_UP, Trait.SKIPS_ZEROS)
        for condition in whole_arguments(call)
        if is_condition(condition)
    ]
    if not found:
        return
    node = subject.shape.tree
    for condition in found:
        counted = tree.Binary("*", tree.Group(tree.bare(condition)), tree.Number(1.0))
        node = tree.swapped(node, condition, counted)
    texts = [Shape.of(tree.bare(each)).text(subject.start)[1:] for each in found]
    yield Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} adds up whether {both(texts)}, but true and false count as 0.",
        "Only numbers of a list are added up and multiplied; a calculation makes conditions to"
        " some.",
        None,
        (refilled(subject, Shape.of(node), "count what holds as 1"),),
        (f"nothing is calculated with {both(texts)} before it is added up",),
    )
