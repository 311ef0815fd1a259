"""The command ``dreieck``: start the workbench, or ask about formulas and files.

Each command imports what it needs when it runs, so that others start at once.
"""

from __future__ import annotations

import sys
from io import TextIOWrapper
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from dreieck.cli.files import calc, check, convert, diff, log_of_file
from dreieck.cli.sweeps import sweep
from dreieck.cli.telling import ERROR_VALUE, Json, refuse, refusing
from dreieck.core.exceptions import DreieckError

if TYPE_CHECKING:
    from dreieck.api.shift import CornerMove, ShiftAnswer

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
)

_SHEET, _CELL = "Sheet", "ZZZ1000000"


def _tell_version(asked: bool) -> None:
    if asked:
        from importlib.metadata import version

        typer.echo(f"Dreieck {version('dreieck')}")
        raise typer.Exit


@app.callback()
def dreieck(
    _version: Annotated[
        bool,
        typer.Option("--version", callback=_tell_version, is_eager=True, help="Which it is."),
    ] = False,
) -> None:
    """See where every reference of a filled formula lands."""


@app.command()
def serve(
    demo: Annotated[bool, typer.Option("--demo", help="Have the demo workbook.")] = False,
    host: Annotated[str | None, typer.Option(help="The address to listen on.")] = None,
    port: Annotated[int | None, typer.Option(min=1, max=65535, help="The port.")] = None,
    data: Annotated[Path | None, typer.Option(help="The data file.")] = None,
    people: Annotated[
        bool, typer.Option("--people", help="Let several people sign in, each to their own.")
    ] = False,
) -> None:
    """Start the workbench and print its address."""
    from dreieck.cli.serving import Unservable, serve_workbench

    given: dict[str, Any] = {
        "demo": demo or None, "host": host, "port": port, "data": data, "people": people or None,
    }  # fmt: skip
    try:
        serve_workbench({key: value for key, value in given.items() if value is not None})
    except Unservable as problem:
        refuse(str(problem))


@app.command()
def outside(
    port: Annotated[int, typer.Option(min=1, max=65535, help="The port.")] = 8766,
    listener: Annotated[
        int | None, typer.Option(help="A socket that listens already.", hidden=True)
    ] = None,
) -> None:
    """Start a small outside world that tells made-up figures, for trying feeds out."""
    from dreieck.cli.outside import serve_outside

    serve_outside(port, listener)


@app.command()
def shift(
    formula: Annotated[
        str,
        typer.Argument(metavar="FORMULA|FILE", help="A formula, such as '=$B5*C$4', or a file."),
    ],
    cell: Annotated[
        str, typer.Argument(metavar="[CELL]", help="In a file: a cell of a block.")
    ] = "",
    start: Annotated[str, typer.Option("--from", help="The cell a formula is written in.")] = "",
    to: Annotated[str, typer.Option("--to", help="The cell or area it is filled to.")] = "",
    as_json: Json = False,
) -> None:
    """Print what every reference became in each landing: of a formula, or of a block in a file."""
    if start or to:
        from dreieck.api.shift import ShiftRequest, shift_answer

        with refusing():
            answer = shift_answer(ShiftRequest(formula=formula, to=to, **{"from": start}))
    else:
        answer = log_of_file(formula, cell)
    if as_json:
        typer.echo(answer.model_dump_json(indent=2))
        return
    for line in _table(answer):
        typer.echo(line)


@app.command("eval")
def evaluate(
    formula: Annotated[str, typer.Argument(help="The formula, such as '=A1*2'.")],
    given: Annotated[
        list[str] | None,
        typer.Option("--with", help="A cell and its entry: A1=3, 'A2==A1*2', Loads!B4=7."),
    ] = None,
    as_json: Json = False,
) -> None:
    """Print the value of a formula; exits with 1 where that is an error value."""
    from dreieck.api.evaluate import EvaluateRequest, evaluate_answer
    from dreieck.core.formula import parse
    from dreieck.core.grid import Cell

    sheets: dict[str, dict[str, str]] = {_SHEET: {}}
    for each in given or []:
        place, equals, entry = each.partition("=")
        sheet, _, address = place.rpartition("!")
        if not equals:
            refuse(f"“{each}” is not a cell and its entry, such as A1=3.")
        sheets.setdefault(sheet.strip("'") or _SHEET, {})[address] = entry
    if not formula.startswith("="):
        refuse("The formula has to begin with “=”.")
    sheets[_SHEET][_CELL] = formula
    try:
        parse(formula, Cell.parse(_CELL))
        answer = evaluate_answer(EvaluateRequest(sheets=sheets, ask=[_CELL])).cells[_CELL]
    except (DreieckError, ValueError) as error:
        refuse(str(error))
    typer.echo(answer.model_dump_json(indent=2) if as_json else answer.shown)
    if answer.kind == "error":
        began = (
            "" if answer.cause in (None, f"{_SHEET}!{_CELL}") else f" It began in {answer.cause}."
        )
        typer.echo(f"{answer.error}{began}", err=True)
        sys.exit(ERROR_VALUE)


for _command in (calc, check, convert, diff, sweep):
    app.command()(_command)


def main() -> None:
    """Run the command. Whatever it is given, nobody sees a stack trace."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, TextIOWrapper):
            # Half a character can be told only by its number.
            stream.reconfigure(errors="backslashreplace")
    try:
        app()
    except Exception as fault:
        refuse(f"Something went wrong inside Dreieck ({type(fault).__name__}: {fault}).")


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


if __name__ == "__main__":
    main()
