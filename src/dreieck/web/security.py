"""What every response carries, and which requests are refused before they are read."""

from __future__ import annotations

import re
from ipaddress import ip_address
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dreieck.web.refusing import refuse
from dreieck.web.turns import MAX_PASTE, max_body

_HOST = re.compile(r"([a-z0-9._-]{1,253}|\[[0-9a-f:.]{2,45}\])(?::[0-9]{1,5})?")
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
    """Refuses unknown hosts, changes from other origins and bodies of unknown length.

    With ``any_number`` every host that is told by its number is known.
    """

    def __init__(self, app: ASGIApp, hosts: list[str], *, any_number: bool = False) -> None:
        self.app = app
        self.hosts = {host.lower() for host in hosts}
        self.any_number = any_number

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return

        async def send_guarded(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(_HEADERS)
            await send(message)

        refused = self._refusal(scope, Headers(scope=scope))
        if refused:
            await refuse(scope, send_guarded, *refused)
        else:
            await self.app(scope, receive, send_guarded)

    def _refusal(self, scope: Scope, headers: Headers) -> tuple[int, str] | None:
        host = headers.get("host", "").lower()
        if not self._serves(host):
            return 400, "This address is not served here. Use the one that Dreieck printed."
        if scope["method"] in ("GET", "HEAD", "OPTIONS"):
            return None
        own = f"{scope['scheme']}://{host}"
        origin, referer = headers.get("origin"), headers.get("referer", own)
        if origin is None:
            told = urlsplit(referer)
            origin = f"{told.scheme}://{told.netloc}"
        if origin.lower() != own:
            return 403, "Changes are taken from Dreieck's own pages only."
        if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return 403, "Changes are taken from Dreieck's own pages only."
        length = headers.get("content-length", "")
        if "transfer-encoding" in headers or not re.fullmatch("[0-9]{1,15}", length):
            return 411, "A request has to say how long it is."
        most = max(MAX_PASTE, max_body(scope["path"]))
        if int(length) > most:
            return 413, f"A request can have {most:,} bytes here; this one has {int(length):,}."
        return None

    def _serves(self, host: str) -> bool:
        """Whether requests to a host, with or without its port, are meant for this server."""
        match = _HOST.fullmatch(host)
        if match is None:
            return False
        return match[1] in self.hosts or (self.any_number and _is_number(match[1]))


def _is_number(host: str) -> bool:
    """Whether a host is told by its number, which no other site can claim as its name."""
    try:
        ip_address(host.strip("[]"))
    except ValueError:
        return False
    return True
