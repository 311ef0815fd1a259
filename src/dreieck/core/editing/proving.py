"""Proofs: kept, changed and taken away."""

from __future__ import annotations

from dataclasses import replace

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import Reference
from dreieck.core.functions.statements import problem_of
from dreieck.core.sheet.edits import SetStated
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import STANDS, Proof
from dreieck.core.sheet.workbook import Workbook

MAX_PROOFS = 200
"""How many proofs a workbook can have."""
NEW = 0
"""The number of a proof that is not kept yet."""


def stated(workbook: Workbook, text: str, home: Sheet) -> Shape:
    """The statement that a text makes; cells without a sheet are those of ``home``.

    Raises DreieckError where it is none.
    """
    entry = workbook.read_entry(text, STANDS)
    if entry.problem:
        raise DreieckError(str(entry.problem))
    if not isinstance(entry.content, Shape):
        raise DreieckError("A proof is a statement that begins with =, such as =A1>0.")
    return on_sheets(entry.content, home)


def on_sheets(shape: Shape, home: Sheet) -> Shape:
    """A statement in which each reference names its sheet."""

    def named(reference: Reference) -> tree.Node:
        return reference if reference.sheet else reference.on_sheet(home.name)

    return shape.changed(named)


def proven(workbook: Workbook, shape: Shape, number: int = NEW) -> SetStated:
    """Keep a proof, or change the one with this number.

    Raises DreieckError where it states nothing about cells, is kept already, or there are too
    many.
    """
    problem = problem_of(shape)
    if problem:
        raise DreieckError(f"This is no statement yet: {problem}.")
    nodes = tree.walk(shape.tree)
    if not shape.references and not any(isinstance(node, tree.Name) for node in nodes):
        raise DreieckError("It reads no cell, so it says nothing about the workbook.")
    proofs = workbook.proofs
    if any(each.shape is shape and each.number != number for each in proofs):
        raise DreieckError("This proof is kept already.")
    numbers = [each.number for each in proofs]
    if number in numbers:
        at = numbers.index(number)
        changed = replace(proofs[at], shape=shape)
        return SetStated("proofs", (*proofs[:at], changed, *proofs[at + 1 :]))
    if len(proofs) >= MAX_PROOFS:
        raise DreieckError(f"A workbook can have {MAX_PROOFS} proofs. Delete one of them first.")
    return SetStated("proofs", (*proofs, Proof(max(numbers, default=NEW) + 1, shape)))


def proof_of(workbook: Workbook, number: int) -> Proof:
    """The proof with this number. Raises DreieckError where there is none by now."""
    for proof in workbook.proofs:
        if proof.number == number:
            return proof
    raise DreieckError("This proof is no longer there.")


def unproven(workbook: Workbook, number: int) -> SetStated:
    """Take a proof away. Raises DreieckError where there is none by now."""
    gone = proof_of(workbook, number)
    return SetStated("proofs", tuple(each for each in workbook.proofs if each is not gone))
