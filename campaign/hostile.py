"""Hostile formulas through every door, while others ask whether the server is well."""

from __future__ import annotations

import socket
import threading
import time
from contextlib import suppress
from pathlib import Path

from campaign.server import LostError, Page, Server, Watch

FORMULAS = (
    '=SEARCH("*?*?*?*b",REPT("a",90000))',
    '=SEARCH(REPT("?a",4000)&"b",REPT("a",90000))',
    "=FACT(1E9)",
    "=COMBIN(1E15,5E14)",
    '=SUBSTITUTE(REPT("a",90000),"a",REPT("b",90000))',
    "=CEILING(1E300,1E-300)",
    '=SUMPRODUCT((B1:B1000000="x")*(C1:C1000000="y")*D1:D1000000)',
    "=SUMPRODUCT((B1:B1000000&C1:C1000000=D1:D1000000)*1)",
    "=DSUM(A2:ZZZ1000000,1,A2:ZZZ1000000)",
    "=SUMPRODUCT((A2:ZZ1000000>1)*(A2:ZZ1000000<2))",
    "=IRR(B1:B1000000,1E300)",
    "=ROUND(1E300,1E300)",
    "=Nope!A1:INDEX(A1:A3,2)",
    "=" + "-" * 190 + "1",
    "=" + "(" * 64 + "1" + ")" * 64,
    '=INDIRECT(REPT("A",90000))',
    "=OFFSET(A1,0,0,1000000,18278)",
    '=COUNTIF(A2:ZZZ1000000,"*a*a*a*a*a*a*b")',
    "=SUMPRODUCT(LEN(A:A)*ROW(A:A))",
    "=VDB(1,0,1E9,0,1E9)+MULTINOMIAL(1E9,1E9)+BINOMDIST(5000,1E9,0.5,FALSE)",
    '=TEXT(1E300,REPT("0",240)&"."&REPT("%",240))',
    "=XIRR(B1:B1000000,B1:B1000000)",
    "=SUBTOTAL(9,A2:ZZZ1000000~A2:ZZZ1000000)",
    "=SUM(A2:ZZZ1000000!A2:ZZZ999999)",
    '=TEXTJOIN(REPT("x",90000),FALSE,B1:B1000000,{1,2,3})',
)
_LAST = 45
"""So many requests go at once."""


def run(folder: Path, seconds: float) -> str:
    """Attack for so long; what was measured."""
    server = Server(folder / "hostile.db")
    quiet = server.make("Quiet")
    quiet.enter("A1", "2")
    page = server.make("Hostile")
    with Watch(server, f"/workbooks/{quiet.workbook}/names") as watch:
        count = _doubling(page) + _names(page) + _half_open(server)
        ends = time.monotonic() + seconds
        while True:
            for number, formula in enumerate(FORMULAS):
                count += _everywhere(server, page, f"E{number + 1}", formula)
                if time.monotonic() > ends:
                    break
            count += _at_once(server)
            if time.monotonic() > ends:
                break
    watch.check()
    _opens_again(server, page)
    said = server.stop()
    if "Traceback" in said:
        raise LostError(f"the server failed: {said[-2000:]}")
    return f"{count} hostile requests; {watch.figures}"


def _everywhere(server: Server, page: Page, cell: str, formula: str) -> int:
    """One formula typed, written, filled, asked for and checked."""
    asked = {"sheets": {"S": {"A1": formula, "B1": "x", "C1": "=A1"}}}
    shift = {"formula": formula, "from": "C5", "to": "C5:C400"}
    doors = [
        page.enter(cell, formula),
        page.act("show", writing="F1", text=formula, anchor="F1", focus="F1"),
        page.act("show", writing="", text=None),
        page.act("rehearse", anchor=cell, focus=cell, to=f"{cell}:H40"),
        page.act("land"),
        page.act("undo"),
        server.api("evaluate", asked)[0],
        server.api("check", asked)[0],
        server.api("shift", shift)[0],
        server.post("/four-ways", {"C3": formula, "cell": "C3", "to": "C3:E5"})[0],
    ]
    if any(status not in (200, 422, 503) for status in doors):
        raise LostError(f"{formula}: {doors}")
    return len(doors)


def _half_open(server: Server) -> int:
    """Connections that never say what they want, more than are held at once."""
    idle = [socket.create_connection(("127.0.0.1", server.port)) for _ in range(600)]
    for connection in idle:
        with suppress(OSError):
            connection.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ")
    status, _ = server.ask("GET", "/healthz")
    for connection in idle:
        connection.close()
    if status != 200:
        raise LostError("connections that say nothing keep others out")
    return len(idle)


def _doubling(page: Page) -> int:
    page.enter("A1", "x")
    page.enter("A2", "=A1&A1")
    page.act("rehearse", anchor="A2", focus="A2", to="A2:A40")
    page.act("land")
    return 4


def _names(page: Page) -> int:
    address = f"/workbooks/{page.workbook}/names/give"
    before = '"x"'
    for number in range(40):
        page.act("show")
        form = {"name": f"n_{number}", "says": before, "revision": page.state["revision"]}
        page.server.post(address, form)
        before = f"n_{number}&n_{number}"
    page.act("show")
    page.enter("B1", "=n_39")
    return 42


def _at_once(server: Server) -> int:
    """Many requests that each take as long as they may."""
    formula = "=SUMPRODUCT((A2:ZZ1000000>1)*(A2:ZZ1000000<2))"
    entries = {f"A{row}": f"=SUMPRODUCT((B{row}:B1000000&C1:C999999=D1:D9)*1)" for row in range(9)}
    asked = {"sheets": {"S": {**entries, "A10": formula}}}
    answers: list[int] = []
    threads = [
        threading.Thread(target=lambda: answers.append(server.api("evaluate", asked)[0]))
        for _ in range(_LAST)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    if any(status not in (200, 422, 503) for status in answers) or len(answers) < _LAST:
        raise LostError(f"requests at once: {answers}")
    return _LAST


def _opens_again(server: Server, page: Page) -> None:
    """After a restart the sheet that holds it all is shown, edited and taken back."""
    server.kill()
    server.start()
    again = Page(server, page.workbook)
    for _ in range(30):
        if again.act("show") != 200:
            raise LostError("the sheet is not shown")
        if not again.unfinished:
            break
    if again.enter("J1", "7") != 200 or again.act("undo") != 200:
        raise LostError("the sheet is not edited")
