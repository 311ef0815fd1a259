"""A full disk, a data file that is deleted while in use, and damaged files."""

from __future__ import annotations

import shutil
from pathlib import Path

from campaign.server import LostError, Page, Server, chance

_ROOM = 900_000


def run(folder: Path, seconds: float) -> str:
    """All three; what was counted. The last one goes on for so long."""
    return "; ".join((_full(folder), _deleted(folder), _damaged(folder, int(seconds))))


def _full(folder: Path) -> str:
    """Write until nothing more can be written: refused in words, and all that was kept is read."""
    data = folder / "full.db"
    server = Server(data, largest_file=_ROOM)
    page = server.make("Full")
    page.act("show")
    kept = 0
    while kept < 5_000:
        kept += 1
        if page.enter("A1", "x" * 9_000 + str(kept)) != 200:
            raise LostError("a full disk is no page")
        if "could not be kept" in page.notice:
            break
    else:
        raise LostError("the disk was never full")
    before = page.shown.get("1,1")
    again = Page(server, page.workbook)
    if again.act("show") != 200 or again.shown.get("1,1") != before:
        raise LostError("with a full disk nothing is read any more")
    said = server.stop()
    server.largest_file = None
    server.start()
    later = Page(server, page.workbook)
    if later.act("show") != 200 or later.enter("A2", "1") != 200 or later.shown["1,2"] != "1":
        raise LostError("after the disk had room again nothing was kept")
    server.stop()
    if "Traceback" in said:
        raise LostError(said[-2000:])
    return f"full disk after {kept} entries: refused in words, nothing lost"


def _deleted(folder: Path) -> str:
    server = Server(folder / "deleted.db")
    page = server.make("Deleted")
    page.enter("A1", "1")
    server.data.unlink()
    page.enter("A2", "2")
    if "deleted or replaced" not in page.notice or page.state.get("text") != "2":
        raise LostError(f"a deleted data file goes unnoticed: {page.notice}")
    server.stop()
    return "deleted data file: told at the first entry"


def _damaged(folder: Path, count: int) -> str:
    """Files with some bytes overwritten: they open, or are refused in words; no stack trace."""
    whole = folder / "whole.db"
    server = Server(whole)
    page = server.make("Damaged")
    for row in range(1, 20):
        page.enter(f"A{row}", f"=B{row}*{row}" if row % 3 else "flour")
    server.stop()
    drawn = chance("disk")
    refused = opened = 0
    for number in range(count):
        copy = folder / f"damaged-{number}.db"
        shutil.copy(whole, copy)
        with copy.open("r+b") as file:
            size = copy.stat().st_size
            for _ in range(drawn.choice((1, 4, 40))):
                file.seek(drawn.randrange(100, size))
                file.write(drawn.randbytes(drawn.choice((1, 16, 512))))
        try:
            damaged = Server(copy)
        except LostError as error:
            if "Traceback" in str(error):
                raise
            refused += 1
            continue
        answers = [damaged.ask("GET", "/")[0]]
        try:
            seen = Page(damaged, page.workbook)
            answers += [seen.act("show"), seen.enter("C1", "1")]
        except ValueError:
            # It has no such workbook any more, and says so.
            answers.append(damaged.ask("GET", f"/workbooks/{page.workbook}")[0])
        said = damaged.stop()
        if any(status >= 500 and status != 503 for status in answers) or "ASGI" in said:
            raise LostError(f"damaged file {number}: {answers} {said[-2000:]}")
        opened += 1
        copy.unlink()
    return f"{count} damaged files: {refused} refused in words, {opened} served as far as they go"
