"""Several writers in one workbook, and two workbooks that paste from each other at once."""

from __future__ import annotations

import threading
import time
from pathlib import Path

from campaign.server import LostError, Page, Server, Watch


def run(folder: Path, seconds: float) -> str:
    """Write and paste for so long; what was counted."""
    server = Server(folder / "crossing.db")
    one, other = server.make("One"), server.make("Other")
    for page, number in ((one, "1"), (other, "2")):
        for row in range(1, 9):
            page.enter(f"A{row}", number)
    counts = [0, 0, 0, 0]
    failures: list[str] = []
    ends = time.monotonic() + seconds

    def paste(index: int, page: Page, source: Page) -> None:
        while time.monotonic() < ends:
            page.act("show", anchor="C1", focus="C1")
            status = page.act(
                "paste", clip_workbook=source.workbook, clip_sheet=source.state["sheet"],
                clip_area="A1:A8",
            )  # fmt: skip
            if status != 200:
                failures.append(f"paste {status}")
            counts[index] += 1

    def write(index: int, page: Page) -> None:
        page.act("show")
        while time.monotonic() < ends:
            if page.enter("E1", str(counts[index])) != 200:
                failures.append("write")
            counts[index] += 1

    jobs = [
        threading.Thread(target=paste, args=(0, one, other)),
        threading.Thread(target=paste, args=(1, other, one)),
        threading.Thread(target=write, args=(2, Page(server, one.workbook))),
        threading.Thread(target=write, args=(3, Page(server, other.workbook))),
    ]
    with Watch(server) as watch:
        for job in jobs:
            job.start()
        for job in jobs:
            job.join(timeout=seconds + 30)
    if any(job.is_alive() for job in jobs):
        raise LostError("writers wait for each other for ever")
    said = server.stop()
    if failures or "Traceback" in said or min(counts) == 0:
        raise LostError(f"{failures[:3]} {counts} {said[-1000:]}")
    watch.check()
    return f"{sum(counts[:2])} pastes crosswise, {sum(counts[2:])} entries; {watch.figures}"
