"""Starting the workbench: the settings, the port, the server."""

from __future__ import annotations

import errno
import socket
from typing import Any

import typer
import uvicorn

from dreieck.store import StoreError
from dreieck.web.app import create_app
from dreieck.web.settings import Settings


class Unservable(Exception):
    """The workbench cannot be started; the message says why."""


def serve_workbench(given: dict[str, Any]) -> None:
    """Serve with the settings that are given until stopped. Raises Unservable."""
    settings = Settings(**given)
    listener = _listener(settings.host, settings.port)
    try:
        application = create_app(settings)
    except StoreError as error:
        raise Unservable(str(error)) from None
    address = f"http://{_in_url(settings.host)}:{settings.port}"
    demos = [each for each in application.state.library.listed() if each.is_demo]
    start = f"{address}/workbooks/{demos[0].id}" if settings.demo and demos else f"{address}/"
    typer.echo(f"Dreieck is at {start}\nStop it with Ctrl+C; all changes are kept.")
    config = uvicorn.Config(application, log_level="warning", timeout_graceful_shutdown=2)
    uvicorn.Server(config).run(sockets=[listener])


def _listener(host: str, port: int) -> socket.socket:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listener = socket.socket(family, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
    except OSError as error:
        in_use = error.errno == errno.EADDRINUSE
        what = "is in use" if in_use else f"cannot be used: {error.strerror or error}"
        raise Unservable(
            f"Port {port} on {host} {what}. Choose another one with --port."
        ) from None
    return listener


def _in_url(host: str) -> str:
    return f"[{host}]" if ":" in host else host
