"""The commands about files: calc, check, convert, diff, and the shift log of a block.

Each imports what it needs when it runs, so that others start at once.
"""

from __future__ import annotations

import json
import os
import stat
import sys
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import TYPE_CHECKING, Annotated

import typer

from dreieck.cli.telling import ERROR_VALUE, Json, refusing, tell
from dreieck.core.exceptions import DreieckError

if TYPE_CHECKING:
    from dreieck.api.check import CheckAnswer, FindingAnswer
    from dreieck.api.shift import ShiftAnswer
    from dreieck.core.sheet.workbook import Workbook
    from dreieck.files import LeftOut

STANDARD = "-"
"""Stands for standard input, or output."""
FileName = Annotated[str, typer.Argument(metavar="FILE", help="A file; - is standard input.")]
FOUND = 1
"""The exit code where something is broken, or differs."""


def opened(name: str) -> Workbook:
    """The workbook in a file. Raises FileRefused."""
    workbook, left_out = _read(name)
    for each in left_out:
        tell(f"{name}: {each.says}")
    return workbook


def _read(name: str) -> tuple[Workbook, tuple[LeftOut, ...]]:
    from dreieck.files import FileRefused, read
    from dreieck.files.zipped import MAX_FILE

    try:
        if name == STANDARD:
            data = sys.stdin.buffer.read(MAX_FILE + 1)
        else:
            with Path(name).open("rb") as file:
                data = file.read(MAX_FILE + 1)
    except OSError as error:
        raise FileRefused(f"{name} cannot be read: {error.strerror or error}.") from None
    try:
        arrived = read(data, "standard input" if name == STANDARD else name)
    except FileRefused as refusal:
        raise FileRefused(f"{name}: {refusal}") from None
    return arrived.workbook, arrived.left_out


def calc(
    file: FileName,
    cell: Annotated[list[str] | None, typer.Option(help="A cell or name to tell.")] = None,
    set: Annotated[
        list[str] | None, typer.Option(help="An entry to try: Loads!C4=500, carry_price=2.")
    ] = None,
    feed: Annotated[
        list[str] | None, typer.Option(help="An outside figure to go by: fuel=1.8.")
    ] = None,
    as_json: Json = False,
) -> None:
    """Print values of a file; exits with 1 where a cell that was named is an error value."""
    from dreieck.api.asked import enter, feed_in
    from dreieck.api.evaluate import evaluate_workbook

    with refusing():
        workbook = opened(file)
        feed_in(workbook, feed or [])
        enter(workbook, set or [])
        answer = evaluate_workbook(workbook, cell or [])
    if as_json:
        typer.echo(answer.model_dump_json(indent=2))
    else:
        width = max(map(len, answer.cells), default=0)
        for address, found in answer.cells.items():
            formula = f"   {found.formula}" if found.formula else ""
            typer.echo(f"{address.ljust(width)}  {found.shown}{formula}")
    wrong = [(a, each) for a, each in answer.cells.items() if each.kind == "error"]
    if cell and wrong:
        for address, each in wrong:
            tell(f"{address} is {each.value}: {each.error}")
        raise typer.Exit(ERROR_VALUE)


def check(
    files: Annotated[
        list[str], typer.Argument(metavar="FILE…", help="Files; - is standard input.")
    ],
    strict: Annotated[
        bool, typer.Option("--strict", help="Exit with 1 also where something is in doubt.")
    ] = False,
    notes: Annotated[bool, typer.Option("--notes", help="Tell notes, too.")] = False,
    proof: Annotated[
        list[str] | None,
        typer.Option(help="One more statement to prove: =ADDS.UP(B4:B9,1)."),
    ] = None,
    sarif: Annotated[bool, typer.Option("--sarif", help="SARIF, for code review.")] = False,
    as_json: Json = False,
) -> None:
    """Print what is in doubt or broken in files, and the proofs that fail.

    Exits with 1 where something is broken, or a proof fails.
    """
    from dreieck.api.check import prove, workbook_answer
    from dreieck.cli.sarif import sarif_log

    answers = {}
    with refusing():
        for name in files:
            workbook = opened(name)
            prove(workbook, proof or [])
            answers[name] = workbook_answer(workbook)
    if sarif:
        found = {name: [*_findings(each), *_failures(each)] for name, each in answers.items()}
        typer.echo(sarif_log(found))
    elif as_json:
        whole = len(answers) == 1
        told = [each.model_dump_json(indent=2) for each in answers.values()]
        typer.echo(told[0] if whole else _by_file(list(answers), told))
    else:
        for name, answer in answers.items():
            _print_findings(name, answer, notes=notes)
            _print_proofs(name, answer)
    failing = any(not proof.holds for answer in answers.values() for proof in answer.proofs)
    states = {each.state for answer in answers.values() for each in _findings(answer)}
    if failing or "broken" in states or (strict and "doubt" in states):
        raise typer.Exit(FOUND)


def _by_file(names: list[str], told: list[str]) -> str:
    return json.dumps(
        {"files": {n: json.loads(t) for n, t in zip(names, told, strict=True)}}, indent=2
    )


def _findings(answer: CheckAnswer) -> list[FindingAnswer]:
    return [*(each for block in answer.blocks for each in block.findings), *answer.findings]


def _print_findings(name: str, answer: CheckAnswer, *, notes: bool) -> None:
    found = [each for each in _findings(answer) if notes or each.state != "note"]
    for each in found:
        state = {"doubt": "in doubt"}.get(each.state, each.state)
        typer.echo(f"{name}: {_where(each)}: {state}: {each.says}")
        for said, listed in (("of that comes", each.causes), ("because", each.because)):
            if listed:
                typer.echo(f"    {said}: {'; '.join(listed)}")
        for mend in each.mends:
            typer.echo(f"    mend: {mend.says}: {mend.before or 'nothing'} → {mend.after}")
    if not found:
        typer.echo(f"{name}: {len(answer.blocks)} blocks of formulas, nothing in doubt.")


def _print_proofs(name: str, answer: CheckAnswer) -> None:
    failing = [each for each in answer.proofs if not each.holds]
    for each in failing:
        typer.echo(f"{name}: proof fails: {each.says}: {each.outcome}")
        typer.echo(f"    {each.states}")
    if answer.proofs:
        holding = len(answer.proofs) - len(failing)
        typer.echo(f"{name}: {holding} of {len(answer.proofs)} proofs hold.")


def _failures(answer: CheckAnswer) -> list[FindingAnswer]:
    """The proofs that fail, told as findings."""
    from dreieck.api.check import FindingAnswer

    return [
        FindingAnswer(
            rule="proof", state="broken", reference=None, cells=each.cells, count=each.count,
            says=f"{each.says}: {each.outcome}", why=each.states, because=[], causes=[], mends=[],
        )
        for each in answer.proofs
        if not each.holds
    ]  # fmt: skip


def _where(finding: FindingAnswer) -> str:
    """The cells of a finding: the first one, and how many more."""
    first = finding.cells[0] if finding.cells else ""
    return first if finding.count == 1 else f"{first} and {finding.count - 1:,} more"


def convert(
    source: Annotated[str, typer.Argument(metavar="IN", help="A file; - is standard input.")],
    target: Annotated[str, typer.Argument(metavar="OUT", help="The new file; - with --to.")],
    to: Annotated[str, typer.Option(help="The format, where OUT does not tell it.")] = "",
    sheet: Annotated[str, typer.Option(help="Only this sheet.")] = "",
    formulas: Annotated[
        bool, typer.Option("--formulas", help="In tables, formulas instead of values.")
    ] = False,
    as_it_is: Annotated[
        bool,
        typer.Option("--as-it-is", help="In tables, leave texts that look like formulas alone."),
    ] = False,
) -> None:
    """Write a file in another format; what is left out is told on standard error."""
    from dreieck.core.calculate import Calculation
    from dreieck.files import FileRefused, Progress, Wish, named, write

    with refusing():
        format = named(to or target)
        if source != STANDARD and Path(target).exists() and Path(target).samefile(source):
            raise FileRefused(f"{target} is the file that is read. Give the new one another name.")
        workbook = opened(source)
        wish = Wish(workbook.sheet(sheet) if sheet else None, formulas, not as_it_is)
        made = write(Calculation(workbook), format, wish, Progress())
        try:
            if target == STANDARD:
                sys.stdout.buffer.write(made.data)
            else:
                _put(Path(target), made.data)
        except OSError as error:
            raise FileRefused(f"{target} cannot be written: {error.strerror or error}.") from None
    for each in made.left_out:
        tell(f"{target}: {each.says}")


def _put(target: Path, data: bytes) -> None:
    """Write a file as a whole: what was there stays where that cannot be done."""
    if target.exists() and not target.is_file():
        target.write_bytes(data)
        return
    target = target.resolve()
    with NamedTemporaryFile(dir=target.parent, delete=False) as beside:
        made = Path(beside.name)
        try:
            beside.write(data)
            beside.flush()
            usual = target.stat().st_mode if target.exists() else 0o666 & ~_mask()
            made.chmod(stat.S_IMODE(usual))
            made.replace(target)
        except OSError:
            made.unlink(missing_ok=True)
            raise


def _mask() -> int:
    """What others may not do with new files."""
    mask = os.umask(0)
    os.umask(mask)
    return mask


def diff(
    old: FileName, new: Annotated[str, typer.Argument(metavar="NEW")], as_json: Json = False
) -> None:
    """Print what changed between two files, by block; exits with 1 where something did."""
    from dreieck.api.diff import diff_answer

    with refusing():
        answer = diff_answer(opened(old), opened(new))
    if as_json:
        typer.echo(answer.model_dump_json(indent=2))
    for each in () if as_json else answer.changes:
        typer.echo(each.says)
    if answer.changes:
        raise typer.Exit(FOUND)


def log_of_file(file: str, cell: str) -> ShiftAnswer:
    """The shift log of a block in a file."""
    from dreieck.api.asked import log_of

    with refusing():
        if not cell:
            raise DreieckError(
                "Name a cell of the block, such as Loads!C5. A formula needs --from."
            )
        return log_of(opened(file), cell)
