"""The help page."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import Response

from dreieck.core.functions import every
from dreieck.web.keys import KEYS
from dreieck.web.pages import page

router = APIRouter(include_in_schema=False)


@router.get("/help")
def help_page(request: Request) -> Response:
    """The drawing explained, the keys and the functions."""
    return page(request, "help.html", keys=KEYS, functions=every())


@router.get("/help/keys")
def help_keys(request: Request) -> Response:
    """The part of it that a dialog shows over the workbench."""
    return page(request, "help_dialog.html", keys=KEYS)
