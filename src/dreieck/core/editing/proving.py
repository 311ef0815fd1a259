"""Which statements a proof can make."""

from __future__ import annotations

from dreieck.core.analysis.reads import read_names
from dreieck.core.editing.stating import NEW, kept
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.functions.statements import problem_of
from dreieck.core.sheet.edits import SetStated
from dreieck.core.sheet.workbook import Workbook


def proven(workbook: Workbook, shape: Shape, number: int = NEW) -> SetStated:
    """Keep a proof, or change the one with this number.

    Raises DreieckError where it states nothing about cells, is kept already, or there are too
    many.
    """
    problem = problem_of(shape)
    if problem:
        raise DreieckError(f"This is no statement yet: {problem}.")
    if not shape.references and not read_names(shape):
        raise DreieckError("It reads no cell, so it says nothing about the workbook.")
    return kept(workbook, "proofs", shape, number)
