"""Starting the workbench: the settings, the port, the server."""

from __future__ import annotations

import errno
import socket
import subprocess
import sys
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from typing import Any

import typer
import uvicorn
from fastapi import FastAPI

from dreieck.cli.connections import BoundedConnection
from dreieck.demo import OUTSIDE
from dreieck.store import StoreError
from dreieck.web.app import create_app
from dreieck.web.settings import Settings

_SWITCH = 0.001


class Unservable(Exception):
    """The workbench cannot be started; the message says why."""


def serve_workbench(given: dict[str, Any]) -> None:
    """Serve with the settings that are given until stopped. Raises Unservable."""
    settings = Settings(**given)
    listener = _listener(settings.host, settings.port)
    with ExitStack() as beside:
        if settings.demo and not settings.sources:
            settings.sources = {OUTSIDE: beside.enter_context(_outside())}
        _serve(settings, listener)


def _serve(settings: Settings, listener: socket.socket) -> None:
    try:
        application = create_app(settings)
    except StoreError as error:
        raise Unservable(str(error)) from None
    typer.echo(f"Dreieck is at {_address(settings, application)}")
    if application.state.keyring.key:
        whose = "sign in or sign up" if settings.people else "read and change all workbooks"
        typer.echo(f"This address holds the key: who has it can {whose}.")
    typer.echo("Stop it with Ctrl+C; all changes are kept.")
    # Long work gives way to short requests this often.
    sys.setswitchinterval(_SWITCH)
    config = uvicorn.Config(
        application,
        log_level="warning",
        timeout_graceful_shutdown=2,
        http=BoundedConnection,
        ws="none",
        server_header=False,
    )
    uvicorn.Server(config).run(sockets=[listener])


@contextmanager
def _outside() -> Iterator[str]:
    """The outside world of the demo, in a process of its own, and its address."""
    with socket.create_server(("127.0.0.1", 0)) as listener:
        number = listener.fileno()
        command = [sys.executable, "-m", "dreieck.cli.main", "outside", "--listener", str(number)]
        # Who is quicker than it waits; it ends as soon as its input does, however this one ends.
        with subprocess.Popen(
            command, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, pass_fds=[number]
        ) as process:
            port = listener.getsockname()[1]
            listener.close()
            try:
                yield f"http://127.0.0.1:{port}"
            finally:
                process.terminate()


def _address(settings: Settings, application: FastAPI) -> str:
    """The address to open: with the key if there is one, and of the demo if it is asked for."""
    host = settings.host
    if host in ("0.0.0.0", "::"):
        host = socket.gethostname()
    demos = [each for each in application.state.library.listed() if each.is_demo]
    to_demo = settings.demo and demos and not settings.people
    page = f"/workbooks/{demos[0].id}" if to_demo else "/"
    key = application.state.keyring.key
    path = page if not key else f"/key/{key}" + (f"?to={page}" if page != "/" else "")
    return f"http://{_in_url(host)}:{settings.port}{path}"


def _listener(host: str, port: int) -> socket.socket:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listener = socket.socket(family, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
        # Who is quicker than the server waits for it.
        listener.listen()
    except OSError as error:
        in_use = error.errno == errno.EADDRINUSE
        what = "is in use" if in_use else f"cannot be used: {error.strerror or error}"
        raise Unservable(
            f"Port {port} on {host} {what}. Choose another one with --port."
        ) from None
    return listener


def _in_url(host: str) -> str:
    return f"[{host}]" if ":" in host else host
