"""Forms with a long field: a text that is pasted is longer than what a form field may be."""

from __future__ import annotations

from collections.abc import Callable, Coroutine
from typing import Any

from fastapi import Request
from fastapi.routing import APIRoute
from starlette.responses import Response

from dreieck.web.turns import MAX_PASTE


class _LongFormRequest(Request):
    """A request whose form may have fields as long as its body; that is bounded already."""

    def form(self, **limits: Any) -> Any:
        """The fields of the form."""
        return super().form(**{**limits, "max_part_size": MAX_PASTE})


class LongFormRoute(APIRoute):
    """A route that takes such forms."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """The handler, given a request with longer fields."""
        handle = super().get_route_handler()

        async def handle_long(request: Request) -> Response:
            return await handle(_LongFormRequest(request.scope, request.receive))

        return handle_long
