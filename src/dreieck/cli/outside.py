"""The command that serves the outside world of the demo; it imports nothing of the workbench."""

from __future__ import annotations

import sys
from threading import Thread

import typer
import uvicorn

from dreieck.outside import FIGURES, create_outside


def serve_outside(port: int, listener: int | None) -> None:
    """Serve the outside world of the demo until stopped.

    With the number of a socket that listens already, it ends when standard input does.
    """
    if listener is None:
        typer.echo(f"Outside is at http://127.0.0.1:{port}, with {', '.join(FIGURES)}.")
    config = uvicorn.Config(create_outside(), port=port, fd=listener, log_level="warning")
    server = uvicorn.Server(config)

    def end() -> None:
        sys.stdin.read()
        server.should_exit = True

    if listener is not None:
        Thread(target=end, daemon=True).start()
    server.run()
