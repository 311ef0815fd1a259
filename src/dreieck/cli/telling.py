"""How commands tell what they find: exit codes, refusals, notes on standard error."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Annotated, NoReturn

import typer

from dreieck.core.exceptions import DreieckError

ERROR_VALUE = 1
"""The exit code where a value that was asked for is an error."""
UNUSABLE = 2
"""The exit code for input that cannot be used."""
Json = Annotated[bool, typer.Option("--json", help="Print JSON.")]


def tell(message: str) -> None:
    """Say something beside the answer."""
    typer.echo(message, err=True)


def refuse(message: str) -> NoReturn:
    """End where the input cannot be used."""
    tell(message)
    sys.exit(UNUSABLE)


@contextmanager
def refusing() -> Iterator[None]:
    """End where what is done inside is refused."""
    try:
        yield
    except (DreieckError, ValueError) as refusal:
        refuse(str(refusal))
