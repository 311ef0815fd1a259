"""What is written like a call of a function, but is none: how it is written and said."""

from __future__ import annotations

from typing import NoReturn

from dreieck.core.functions.described import forms_of
from dreieck.core.functions.record import Function
from dreieck.core.functions.registry import Failure
from dreieck.core.values import NAME


def forms(module: str) -> dict[str, Function]:
    """The forms told of in the data file beside a module; in a cell they give an error."""
    return forms_of(module, _no_function)


def _no_function(*_: object) -> NoReturn:
    raise Failure(NAME, "Only proofs and sweeps are written so.")
