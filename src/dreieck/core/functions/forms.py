"""What is written like a call of a function, but is none: how it is written and said."""

from __future__ import annotations

from typing import NoReturn

from dreieck.core.functions.registry import Failure, Function, Parameter
from dreieck.core.values import NAME


def form(name: str, purpose: str, words: str, *parameters: Parameter) -> Function:
    """How a statement, or a part of one, is written and said; in a cell it gives an error."""
    return Function(name, "", purpose, words, parameters, ("", True), _no_function)


def _no_function(*_: object) -> NoReturn:
    raise Failure(NAME, "Only proofs and sweeps are written so.")
