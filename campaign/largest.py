"""Every function with its largest arguments, while others ask whether the server is well."""

from __future__ import annotations

import threading
import time
from pathlib import Path
from random import Random

from campaign.server import LONGEST, LostError, Page, Server, Watch, chance
from dreieck.core.functions import Takes, every

ROWS = 1_000_000
_BESIDE = 30
"""So many others ask for something that takes long at the same time."""
_NUMBERS = (
    "2958465",
    "1E9",
    "1E300",
    "-1E300",
    "1E-7",
    "B:B",
    "C:C",
    "ROW(A:A)",
    "B:C",
    "SQRT(C:C)",
)
_TEXTS = ('REPT("a",90000)', 'REPT("?a*",30000)', "D:D", 'C:C&"x"', 'REPT("0,",40000)')
_RANGES = ("B:B", "C:C", "B:D", "A1:ZZZ1000000", "ROW(A:A)", 'C:C&"x"')
_BY_WHAT = {
    Takes.NUMBER: _NUMBERS, Takes.WHOLE: _NUMBERS, Takes.TEXT: _TEXTS, Takes.LOGICAL: ("B:B>5",),
    Takes.ADDRESS: (*_TEXTS, '"B:B"'), Takes.VALUE: (*_NUMBERS, *_TEXTS),
    Takes.LATER: (*_RANGES, *_TEXTS),
}  # fmt: skip


def run(folder: Path, seconds: float) -> str:
    """Ask for so long, function by function in an order by chance; what was measured."""
    server = Server(folder / "largest.db")
    page = server.make("Large")
    _fill(page)
    drawn = chance("largest")
    functions = every()
    ends = time.monotonic() + seconds
    count, slowest = 0, 0.0
    with Watch(server) as watch:
        while time.monotonic() < ends:
            drawn.shuffle(functions)
            for function in functions:
                formula = _formula(function.name, function.parameters, drawn)
                if page.enter("F1", formula) != 200 or page.act("undo") != 200:
                    raise LostError(f"{formula}: no page")
                slowest = max(slowest, server.took)
                count += 1
                if time.monotonic() > ends:
                    break
        slowest = max(slowest, _beside(server, page, functions, drawn))
    watch.check()
    if slowest > LONGEST:
        raise LostError(f"a request lasted {slowest:.1f} s")
    said = server.stop()
    if "Traceback" in said:
        raise LostError(said[-2000:])
    return f"{count} formulas, the longest request {slowest:.1f} s; {watch.figures}"


def _fill(page: Page) -> None:
    """A million numbers, a million that count on, and texts."""
    for column, first, values in (("B", "7", "copy"), ("C", "1", "count"), ("D", "ha", "copy")):
        top = f"{column}1"
        page.enter(top, first)
        page.act("rehearse", anchor=top, focus=top, to=f"{top}:{column}{ROWS}", values=values)
        if page.act("land") != 200:
            raise LostError("a million cells are not filled")


def _formula(name: str, parameters: object, drawn: Random) -> str:
    arguments: list[str] = []
    for parameter in parameters:  # type: ignore[attr-defined]
        if parameter.optional and drawn.random() < 0.3:
            break
        for _ in range(1 + parameter.repeated * drawn.randrange(3)):
            arguments.append(drawn.choice(_BY_WHAT.get(parameter.takes, _RANGES)))
    called = f"{name}({','.join(arguments)})"
    return f"={called}" if drawn.random() < 0.5 else f"=SUMPRODUCT(1*({called}))"


def _beside(server: Server, page: Page, functions: list, drawn: Random) -> float:
    """The longest of many requests that each take long, all at once."""
    took: list[float] = []

    def ask(formula: str) -> None:
        own = Page(server, page.workbook)
        begun = time.monotonic()
        own.act("show", writing="F2", anchor="F2", focus="F2", text=formula)
        took.append(time.monotonic() - begun)

    formulas = (_formula(f.name, f.parameters, drawn) for f in functions[:_BESIDE])
    threads = [threading.Thread(target=ask, args=(formula,)) for formula in formulas]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    if len(took) < _BESIDE:
        raise LostError("a request beside others was not answered")
    return max(took)
