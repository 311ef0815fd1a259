"""Errors as people see them: never a stack trace, always what would do."""

from __future__ import annotations

import logging
from http import HTTPStatus

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from sqlalchemy.exc import DatabaseError
from starlette.exceptions import HTTPException
from starlette.responses import Response

from dreieck.core.budget import WorkEnded
from dreieck.core.exceptions import DreieckError
from dreieck.store import BusyError, StoreError
from dreieck.store.database import reason
from dreieck.web.refusing import Undrawable, refusal

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

    @app.exception_handler(DreieckError)
    def refused_by_rule(request: Request, error: DreieckError) -> Response:
        return _answer(request, 422, str(error))

    @app.exception_handler(WorkEnded)
    @app.exception_handler(StoreError)
    @app.exception_handler(BusyError)
    def unavailable(request: Request, error: Exception) -> Response:
        return _answer(request, 503, str(error))

    @app.exception_handler(DatabaseError)
    @app.exception_handler(UnicodeDecodeError)
    def unreadable(request: Request, error: Exception) -> Response:
        why = reason(error) if isinstance(error, DatabaseError) else error
        log.error("%s %s: %s", request.method, request.url.path, why)
        said = f"The data file cannot be used just now: {why}. Nothing was changed."
        return _answer(request, 503, said)

    @app.exception_handler(OSError)
    def no_room(request: Request, error: OSError) -> Response:
        log.error("%s %s: %s", request.method, request.url.path, error)
        why = error.strerror or error
        return _answer(request, 503, f"The server cannot do this: {why}. Nothing was changed.")

    @app.exception_handler(Undrawable)
    def undrawable(request: Request, error: Undrawable) -> Response:
        return refusal(request.url.path, request.headers, 422, str(error), way_back=True)

    @app.exception_handler(Exception)
    def failed(request: Request, error: Exception) -> Response:
        log.exception("%s %s failed", request.method, request.url.path, exc_info=error)
        said = (
            "Something went wrong inside Dreieck. Nothing that was kept is lost."
            " Go back and try again; the server's log has the details."
        )
        return refusal(request.url.path, request.headers, 500, said, way_back=True)


def _answer(request: Request, status: int, said: str) -> Response:
    return refusal(request.url.path, request.headers, status, said)
