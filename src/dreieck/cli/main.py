"""The command ``dreieck``: start the workbench, or ask what a fill does to a formula."""

from __future__ import annotations

import errno
import socket
import sys
from pathlib import Path
from typing import Annotated, Any, NoReturn

import typer
import uvicorn

from dreieck.core.exceptions import DreieckError
from dreieck.store import StoreError
from dreieck.web.api import CornerMove, ShiftAnswer, ShiftRequest, shift_answer
from dreieck.web.app import create_app
from dreieck.web.settings import Settings

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False)

UNUSABLE = 2
"""The exit code for input that cannot be used."""


@app.callback()
def dreieck() -> None:
    """See where every reference of a filled formula lands."""


@app.command()
def serve(
    demo: Annotated[bool, typer.Option("--demo", help="Have the demo workbook.")] = False,
    host: Annotated[str | None, typer.Option(help="The address to listen on.")] = None,
    port: Annotated[int | None, typer.Option(min=1, max=65535, help="The port.")] = None,
    data: Annotated[Path | None, typer.Option(help="The data file.")] = None,
) -> None:
    """Start the workbench and print its address."""
    given: dict[str, Any] = {"demo": demo or None, "host": host, "port": port, "data": data}
    settings = Settings(**{key: value for key, value in given.items() if value is not None})
    listener = _listener(settings.host, settings.port)
    try:
        application = create_app(settings)
    except StoreError as error:
        _refuse(str(error))
    address = f"http://{_in_url(settings.host)}:{settings.port}"
    demos = [each for each in application.state.library.listed() if each.is_demo]
    start = f"{address}/workbooks/{demos[0].id}" if settings.demo and demos else f"{address}/"
    typer.echo(f"Dreieck is at {start}\nStop it with Ctrl+C; all changes are kept.")
    config = uvicorn.Config(application, log_level="warning", timeout_graceful_shutdown=2)
    uvicorn.Server(config).run(sockets=[listener])


@app.command()
def shift(
    formula: Annotated[str, typer.Argument(help="The formula, such as '=$B5*C$4'.")],
    start: Annotated[str, typer.Option("--from", help="The cell it is written in.")],
    to: Annotated[str, typer.Option("--to", help="The cell or area it is filled to.")],
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON.")] = False,
) -> None:
    """Print what every reference of a formula becomes in each landing."""
    try:
        answer = shift_answer(ShiftRequest(formula=formula, to=to, **{"from": start}))
    except (DreieckError, ValueError) as error:
        _refuse(str(error))
    if as_json:
        typer.echo(answer.model_dump_json(indent=2))
        return
    for line in _table(answer):
        typer.echo(line)


def main() -> None:
    """Run the command."""
    app()


def _table(answer: ShiftAnswer) -> list[str]:
    rows = [("landing", "formula", "", "start", "here", "moved", "locked")]
    for landing in answer.landings:
        first = (landing.cell, landing.formula)
        for move in landing.references:
            moved = f"{move.columns:+d} columns, {move.rows:+d} rows"
            rows.append((*first, move.tag, move.start, move.here, moved, _locked(move.corners)))
            first = ("", "")
        if not landing.references:
            rows.append((*first, "", "", "", "", ""))
    widths = [max(len(row[column]) for row in rows) for column in range(len(rows[0]))]
    return [
        "  ".join(text.ljust(width) for text, width in zip(row, widths, strict=True)).rstrip()
        for row in rows
    ]


def _locked(corners: list[CornerMove]) -> str:
    said = [
        " and ".join(
            axis
            for axis, locked in (("column", corner.column_locked), ("row", corner.row_locked))
            if locked
        )
        or "nothing"
        for corner in corners
    ]
    return said[0] if len(set(said)) == 1 else f"first corner {said[0]}, last {said[-1]}"


def _listener(host: str, port: int) -> socket.socket:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listener = socket.socket(family, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
    except OSError as error:
        in_use = error.errno == errno.EADDRINUSE
        what = "is in use" if in_use else f"cannot be used: {error.strerror or error}"
        _refuse(f"Port {port} on {host} {what}. Choose another one with --port.")
    return listener


def _in_url(host: str) -> str:
    return f"[{host}]" if ":" in host else host


def _refuse(message: str) -> NoReturn:
    typer.echo(message, err=True)
    sys.exit(UNUSABLE)


if __name__ == "__main__":
    main()
