"""The command that runs an input of a file over many values, or looks for the one that fits."""

from __future__ import annotations

import json
from typing import Annotated, Any

import typer

from dreieck.cli.files import FOUND, FileName, opened
from dreieck.cli.telling import Json, refusing, tell


def sweep(
    file: FileName,
    statement: Annotated[
        str,
        typer.Argument(
            help="What runs over which values, and what is seen:"
            " '=SWEEP(OVER(Prices!B4,0%,30%,5%),Prices!F13)'."
        ),
    ],
    solve: Annotated[
        str, typer.Option(help="Look for the input with which the first result is this number.")
    ] = "",
    as_json: Json = False,
) -> None:
    """Print what comes out as CSV; with --solve exits with 1 where no input gives the number."""
    from dreieck.core.calculate import Calculation
    from dreieck.core.checking.sweeps.asked import asked
    from dreieck.core.checking.sweeps.running import run
    from dreieck.core.checking.sweeps.solving import solved
    from dreieck.core.editing.stating import stated
    from dreieck.core.exceptions import DreieckError
    from dreieck.files.delimited.sweeps import sweep_text

    with refusing():
        workbook = opened(file)
        calculation = Calculation(workbook)
        wanted = asked(calculation, stated(statement, workbook.sheets[0]))
        if solve:
            if len(wanted.inputs) > 1:
                raise DreieckError("Only one input can be looked for.")
            numbers = [v for v in wanted.inputs[0].values.values() if isinstance(v, float)]
            try:
                goal = float(solve)
            except ValueError:
                raise DreieckError(f"“{solve[:60]}” is no number.") from None
            found = solved(
                calculation, wanted.inputs[0].place, wanted.results[0], goal,
                min(numbers, default=0.0), max(numbers, default=0.0),
            )  # fmt: skip
        else:
            outcome = run(calculation, wanted)
    if solve:
        if as_json:
            typer.echo(json.dumps({"inputs": list(found.inputs), "says": found.says}))
        else:
            for each in found.inputs:
                typer.echo(f"{each:.12g}")
        tell(found.says)
        if not found.inputs:
            raise typer.Exit(FOUND)
        return
    told = json.dumps(_told(outcome), indent=2) + "\n" if as_json else sweep_text(outcome)
    typer.echo(told, nl=False)


def _told(outcome: Any) -> dict[str, Any]:
    """What came out, as JSON."""
    from dreieck.core.checking.sweeps.patterns import pattern
    from dreieck.core.formula.printer import place_text
    from dreieck.core.values import Error

    def plain(cells: Any) -> list[Any]:
        return [value.code if isinstance(value, Error) else value for value in cells.values()]

    asked = outcome.asked
    given = asked.given(0, asked.count)
    results = []
    for place, cells in zip(asked.results, outcome.columns, strict=True):
        says = pattern(cells.only_numbers()).says if len(asked.inputs) == 1 else ""
        results.append({"cell": place_text(place), "values": plain(cells), "pattern": says})
    return {
        "inputs": [
            {"cell": place_text(each.place), "label": each.label, "values": plain(cells)}
            for each, cells in zip(asked.inputs, given, strict=True)
        ],
        "results": results,
    }
