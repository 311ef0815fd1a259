"""Statements that a proof can make about cells: what they are called, take and mean.

They are written like calls of functions, but only a proof makes them.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from dreieck.core.formula import Shape, tree
from dreieck.core.functions.forms import form
from dreieck.core.functions.registry import Function, Parameter, Takes, arg, optional, repeated


class Claim(Enum):
    """What is claimed of cells."""

    ADDS_UP = "adds up to"
    AGREES = "are equal"
    BETWEEN = "lies between"
    NEVER_FALLS = "never falls"
    NEVER_RISES = "never rises"
    NONE_TWICE = "no two alike"
    NO_ERROR = "no error"
    NO_GAP = "no gap"
    KNOWN_CASE = "known case"


@dataclass(frozen=True, slots=True)
class Statement:
    """A statement: what it claims, and how it is written and said."""

    claim: Claim
    form: Function


_ONLY_CELLS = (arg("cells", Takes.ARRAY, "the cells that it is about"),)
_WITHIN = optional(
    "within",
    Takes.NUMBER,
    "how far apart they may be; with %, of the larger one",
    "no more than is lost by rounding",
)
_FORMS: dict[str, tuple[Claim, str, str, tuple[Parameter, ...]]] = {
    "ADDS.UP": (
        Claim.ADDS_UP,
        "The numbers of some cells come to a value, or to those of other cells.",
        "{0} adds up to {1}",
        (
            arg("cells", Takes.ARRAY, "the cells that are added up"),
            arg("to", Takes.ARRAY, "a value, or other cells that are added up"),
            _WITHIN,
        ),
    ),
    "AGREES": (
        Claim.AGREES,
        "Two cells, ranges or calculations are equal, cell by cell.",
        "{0} equals {1}",
        (
            arg("one", Takes.ARRAY, "a cell, a range, or a calculation with ranges"),
            arg("other", Takes.ARRAY, "what it is held against, of the same size"),
            _WITHIN,
        ),
    ),
    "LIES.BETWEEN": (
        Claim.BETWEEN,
        "Numbers are neither below a value nor above another one.",
        "{0} lies between {1} and {2}",
        (
            *_ONLY_CELLS,
            arg("low", Takes.NUMBER, "the smallest value that they may have"),
            arg("high", Takes.NUMBER, "the largest value that they may have"),
        ),
    ),
    "NEVER.FALLS": (
        Claim.NEVER_FALLS,
        "No number is smaller than the one before it.",
        "{0} never falls",
        _ONLY_CELLS,
    ),
    "NEVER.RISES": (
        Claim.NEVER_RISES,
        "No number is larger than the one before it.",
        "{0} never rises",
        _ONLY_CELLS,
    ),
    "NONE.TWICE": (
        Claim.NONE_TWICE,
        "No two cells hold the same; empty ones don't count.",
        "in {0} no two are alike",
        _ONLY_CELLS,
    ),
    "NO.ERROR": (
        Claim.NO_ERROR,
        "No cell shows an error.",
        "{0} holds no error",
        _ONLY_CELLS,
    ),
    "NO.GAP": (
        Claim.NO_GAP,
        "No cell is empty.",
        "{0} has no gap",
        _ONLY_CELLS,
    ),
    "KNOWN.CASE": (
        Claim.KNOWN_CASE,
        "With these inputs those results come out; nothing is written.",
        "{0} {1}",
        (
            arg("inputs", Takes.LATER, "GIVEN(cell=value, …)"),
            arg("results", Takes.LATER, "GIVES(cell=value, …)"),
            _WITHIN,
        ),
    ),
}
_PARTS: dict[str, tuple[str, str, Parameter]] = {
    "GIVEN": (
        "The inputs of a known case.",
        "given",
        repeated("input", Takes.LATER, "a cell = the value that it is to hold"),
    ),
    "GIVES": (
        "The results of a known case.",
        ":",
        repeated("result", Takes.LATER, "a cell = the value that is to come out"),
    ),
}


STATEMENTS = {
    name: Statement(claim, form(name, purpose, words, *parameters))
    for name, (claim, purpose, words, parameters) in _FORMS.items()
}
"""The statements by their names."""
INPUTS, RESULTS = _PARTS
"""What the two parts of a known case are called."""
PARTS_SAID = {name: words for name, (_, words, _) in _PARTS.items()}
"""The word before the parts of a known case."""
FORMS = {name: each.form for name, each in STATEMENTS.items()} | {
    name: form(name, purpose, words, parameter)
    for name, (purpose, words, parameter) in _PARTS.items()
}
"""How statements, and the parts of a known case, are written and said."""


def written(claim: Claim, *arguments: str) -> str:
    """A statement, as it is written with these arguments."""
    return f"={form_of(claim).name}({','.join(arguments)})"


def form_of(claim: Claim) -> Function:
    """How a claim is written and said."""
    return next(each.form for each in STATEMENTS.values() if each.claim is claim)


def problem_of(shape: Shape) -> str:
    """Why a formula is no statement that could be looked at; empty if it is one."""
    for node in tree.walk(shape.tree):
        if isinstance(node, tree.Lost):
            return "cells that it is about are gone"
        form = FORMS.get(node.function) if isinstance(node, tree.Call) else None
        if form is None or not isinstance(node, tree.Call):
            continue
        count = len(node.arguments)
        missing = any(isinstance(each, tree.Missing) for each in node.arguments[: form.least])
        if missing or count < form.least or (form.most is not None and count > form.most):
            takes = ", ".join(each.name for each in form.parameters)
            return f"{form.name} takes {takes}"
    return ""


def statement_of(name: str) -> Statement | None:
    """The statement of this name in capitals."""
    return STATEMENTS.get(name)
