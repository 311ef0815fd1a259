"""Statements that a proof can make about cells: what they are called, take and mean.

They are written like calls of functions, but only a proof makes them.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from dreieck.core.formula import Shape, tree
from dreieck.core.functions.forms import forms
from dreieck.core.functions.record import Function


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


INPUTS, RESULTS = "GIVEN", "GIVES"
"""What the two parts of a known case are called."""
FORMS = forms(__name__)
"""How statements, and the parts of a known case, are written and said."""
STATEMENTS = {
    name: Statement(claim, FORMS[name])
    for name, claim in {
        "ADDS.UP": Claim.ADDS_UP,
        "AGREES": Claim.AGREES,
        "LIES.BETWEEN": Claim.BETWEEN,
        "NEVER.FALLS": Claim.NEVER_FALLS,
        "NEVER.RISES": Claim.NEVER_RISES,
        "NONE.TWICE": Claim.NONE_TWICE,
        "NO.ERROR": Claim.NO_ERROR,
        "NO.GAP": Claim.NO_GAP,
        "KNOWN.CASE": Claim.KNOWN_CASE,
    }.items()
}
"""The statements by their names."""


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
