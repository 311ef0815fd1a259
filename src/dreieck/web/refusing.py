"""Refusals before a page is asked for: in words, in the form that the asker reads."""

from __future__ import annotations

from starlette.datastructures import Headers
from starlette.responses import HTMLResponse, JSONResponse, Response
from starlette.types import Message, Scope, Send

from dreieck.web.answers import fragment


def refusal(
    path: str, headers: Headers, status: int, said: str, template: str = "error.html"
) -> Response:
    """A refusal as JSON for scripts, as a notice for the workbench, else as a page."""
    # What is refused may be half a character, and is named.
    said = said.encode("utf-8", "replace").decode()
    if path.startswith("/api/"):
        return JSONResponse({"error": said}, status_code=status)
    if headers.get("hx-request") == "true":
        return HTMLResponse(fragment("notice.html", told=said, kind="problem"), status)
    return HTMLResponse(fragment(template, status=status, said=said), status)


async def refuse(
    scope: Scope, send: Send, status: int, said: str, template: str = "error.html"
) -> None:
    """Answer a request that is not let in."""
    response = refusal(scope["path"], Headers(scope=scope), status, said, template)

    async def nothing() -> Message:
        return {"type": "http.disconnect"}

    await response(scope, nothing, send)
