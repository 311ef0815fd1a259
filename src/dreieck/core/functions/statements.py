"""Statements that a proof can make about cells: what they are called, take and mean.

They are written like calls of functions, but only a proof makes them.
"""

from __future__ import annotations

from dreieck.core.formula import Shape, tree
from dreieck.core.functions.forms import forms

ADDS_UP, AGREES, BETWEEN, KNOWN_CASE = "ADDS.UP", "AGREES", "LIES.BETWEEN", "KNOWN.CASE"
NEVER_FALLS, NONE_TWICE = "NEVER.FALLS", "NONE.TWICE"
"""The statements that are proposed, or that are more than a call."""
INPUTS, RESULTS = "GIVEN", "GIVES"
"""What the two parts of a known case are called."""
FORMS = forms(__name__)
"""How statements, and the parts of a known case, are written and said."""
STATEMENTS = {name: form for name, form in FORMS.items() if form.claim}
"""The statements by their names."""


def written(name: str, *arguments: str) -> str:
    """The statement of a name, as it is written with these arguments."""
    return f"={name}({','.join(arguments)})"


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
