"""Errors as people see them: never a stack trace, always what would do."""

from __future__ import annotations

import logging
from http import HTTPStatus

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException
from starlette.responses import HTMLResponse, Response

from dreieck.web.pages import fragment

log = logging.getLogger("dreieck")


def install(app: FastAPI) -> None:
    """Answer errors of all kinds in words."""

    @app.exception_handler(HTTPException)
    def refused(request: Request, error: HTTPException) -> Response:
        said = error.detail
        if error.status_code == 404 and said == HTTPStatus(404).phrase:
            said = "There is no page at this address."
        return _answer(request, error.status_code, str(said))

    @app.exception_handler(RequestValidationError)
    def unusable(request: Request, error: RequestValidationError) -> Response:
        said = "; ".join(
            f"{'.'.join(str(part) for part in each['loc'][1:]) or 'body'}: {each['msg']}"
            for each in error.errors()[:5]
        )
        return _answer(request, 422, f"The request cannot be used. {said}")

    @app.exception_handler(Exception)
    def failed(request: Request, error: Exception) -> Response:
        log.exception("%s %s failed", request.method, request.url.path, exc_info=error)
        said = (
            "Something went wrong inside Dreieck. Nothing that was kept is lost."
            " Go back and try again; the server's log has the details."
        )
        return _answer(request, 500, said)


def _answer(request: Request, status: int, said: str) -> Response:
    if request.url.path.startswith("/api/"):
        return JSONResponse({"error": said}, status_code=status)
    if request.headers.get("hx-request") == "true":
        return HTMLResponse(fragment("notice.html", told=said, kind="problem"), status)
    return HTMLResponse(fragment("error.html", status=status, said=said), status)
