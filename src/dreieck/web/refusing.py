"""Refusals before a page is asked for: in words, in the form that the asker reads."""

from __future__ import annotations

import re

from starlette.datastructures import Headers
from starlette.responses import HTMLResponse, JSONResponse, Response
from starlette.types import Message, Scope, Send

from dreieck.web.answers import fragment

_WORKBOOK = re.compile(r"/workbooks/\d{1,19}")


class Undrawable(Exception):
    """A page that cannot be drawn with what its workbook holds; the text says why."""


def refusal(
    path: str,
    headers: Headers,
    status: int,
    said: str,
    template: str = "error.html",
    *,
    way_back: bool = False,
) -> Response:
    """A refusal as JSON for scripts, as a notice for the workbench, else as a page.

    With ``way_back`` it leads to where the last change of the workbook is taken back.
    """
    # What is refused may be half a character, and is named.
    said = said.encode("utf-8", "replace").decode()
    if path.startswith("/api/"):
        return JSONResponse({"error": said}, status_code=status)
    workbook = _WORKBOOK.match(path) if way_back else None
    back = f"{workbook[0]}/take-back" if workbook else ""
    if headers.get("hx-request") == "true":
        notice = fragment("notice.html", told=said, kind="problem", back=back)
        return HTMLResponse(notice, status)
    return HTMLResponse(fragment(template, status=status, said=said, back=back), status)


async def refuse(
    scope: Scope, send: Send, status: int, said: str, template: str = "error.html"
) -> None:
    """Answer a request that is not let in."""
    response = refusal(scope["path"], Headers(scope=scope), status, said, template)

    async def nothing() -> Message:
        return {"type": "http.disconnect"}

    await response(scope, nothing, send)
