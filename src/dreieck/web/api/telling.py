"""Refusals of the core as answers to a script."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from fastapi import HTTPException

from dreieck.core.exceptions import DreieckError


@contextmanager
def refusals_told() -> Iterator[None]:
    """Answer with 422 and the reason where what is done inside is refused."""
    try:
        yield
    except DreieckError as refusal:
        raise HTTPException(422, str(refusal)) from None
