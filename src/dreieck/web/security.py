"""What every response carries, and which requests are refused before they are read."""

from __future__ import annotations

from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

MAX_BODY = 2_000_000
"""How many bytes a request can have."""

_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:;"
    " font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none';"
    " frame-ancestors 'none'"
)
_HEADERS = {
    "Content-Security-Policy": _POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
}


class Guard:
    """Refuses unknown hosts, changes from other origins and bodies that are too large."""

    def __init__(self, app: ASGIApp, hosts: list[str]) -> None:
        self.app = app
        self.hosts = {host.lower() for host in hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        refusal = self._refusal(scope["method"], headers)
        if refusal:
            await PlainTextResponse(refusal[1], status_code=refusal[0])(scope, receive, send)
            return

        async def send_guarded(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(_HEADERS)
            await send(message)

        await self.app(scope, receive, send_guarded)

    def _refusal(self, method: str, headers: Headers) -> tuple[int, str] | None:
        host = headers.get("host", "").lower()
        if _name(host) not in self.hosts:
            return 400, "This address is not served here. Use the one that Dreieck printed."
        if method in ("GET", "HEAD", "OPTIONS"):
            return None
        origin = headers.get("origin")
        if origin is not None and urlsplit(origin).netloc.lower() != host:
            return 403, "Changes are taken from Dreieck's own pages only."
        if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return 403, "Changes are taken from Dreieck's own pages only."
        length = headers.get("content-length", "")
        if not length.isdigit():
            return 411, "A request has to say how long it is."
        if int(length) > MAX_BODY:
            return 413, f"A request can have {MAX_BODY:,} bytes; this one has {int(length):,}."
        return None


def _name(host: str) -> str:
    """The host without its port; brackets of an IPv6 address stay."""
    if host.startswith("["):
        return host.partition("]")[0] + "]"
    return host.partition(":")[0]
