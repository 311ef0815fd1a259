"""Takes the pictures of the main views, from fresh demo data: ``screenshots.py FOLDER``."""

from __future__ import annotations

import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import uvicorn
from group_of_learners import lead_a_group
from playwright.sync_api import Page, ViewportSize, sync_playwright

from dreieck.core.practice.catalogue import question
from dreieck.core.practice.codes import Code
from dreieck.core.practice.sets import FIRST_TWELVE
from dreieck.demo import OUTSIDE
from dreieck.outside import create_outside
from dreieck.web.app import create_app
from dreieck.web.settings import Settings

QUIET = "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking"
QUIET += " --disable-component-update --disable-sync"


def main(folder: Path) -> None:
    """Take all pictures."""
    folder.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=QUIET.split()
        )
        for people, views in ((False, VIEWS), (True, VIEWS_OF_PEOPLE)):
            with served(people=people) as address:
                size: ViewportSize = {"width": 1280, "height": 800}
                page = browser.new_page(viewport=size, base_url=address)
                for name, prepare in views.items():
                    prepare(page)
                    settle(page)
                    page.screenshot(path=folder / f"{name}.png")
                    print(folder / f"{name}.png")
                page.close()
        browser.close()


@contextmanager
def served(*, people: bool = False) -> Iterator[str]:
    """A server with fresh demo data, and its address."""
    with tempfile.TemporaryDirectory() as data:
        outside = uvicorn.Server(uvicorn.Config(create_outside(), port=0, log_level="error"))
        beside = threading.Thread(target=outside.run)
        beside.start()
        sources = {OUTSIDE: f"http://127.0.0.1:{port_of(outside)}"}
        path = Path(data) / "data.db"
        settings = Settings(data=path, demo=True, sources=sources, people=people)
        application = create_app(settings)
        config = uvicorn.Config(
            application, port=0, log_level="error", timeout_graceful_shutdown=1
        )
        server = uvicorn.Server(config)
        thread = threading.Thread(target=server.run)
        thread.start()
        try:
            yield f"http://127.0.0.1:{port_of(server)}"
        finally:
            server.should_exit = outside.should_exit = True
            thread.join()
            beside.join()


def port_of(server: uvicorn.Server) -> int:
    """The port of a server, once it is there."""
    while not server.started:
        time.sleep(0.05)
    port: int = server.servers[0].sockets[0].getsockname()[1]
    return port


def settle(page: Page) -> None:
    """Wait until the page has shown all that was asked of it."""
    page.wait_for_timeout(150)
    if page.locator("#page-state").count():
        page.locator("#page-state:not([data-busy])").wait_for(state="attached")
    page.wait_for_timeout(150)


def select(page: Page, address: str) -> None:
    """Select a cell of the sheet that is open."""
    settle(page)
    page.keyboard.press("Alt+KeyG")
    page.keyboard.type(address)
    page.keyboard.press("Enter")
    settle(page)


def writing(page: Page) -> None:
    page.goto("/workbooks/1/sheets/2")
    select(page, "C5")
    page.keyboard.type("=$B5*C$4")


def rehearsing(page: Page) -> None:
    page.keyboard.press("Escape")
    select(page, "C5")
    page.keyboard.type("=B5*C$4")
    for key in ["Alt+ArrowRight"] * 3 + ["Alt+ArrowDown"] * 5:
        page.keyboard.press(key)


def proofs(page: Page) -> None:
    page.goto("/workbooks/1/sheets/1?at=F13")
    settle(page)
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    page.keyboard.type("=SUM(F7:F11)")
    page.keyboard.press("Enter")
    settle(page)
    page.goto("/workbooks/1/proofs")


def sweep(page: Page) -> None:
    page.goto("/workbooks/1/sweeps/2")
    page.locator("figure").wait_for()


def feeds(page: Page) -> None:
    page.goto("/workbooks/1/feeds")
    page.get_by_role("button", name="Refresh all").click()
    page.get_by_role("heading", name="What changed").wait_for()


def checking(page: Page) -> None:
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    select(page, "E8")


def finding(page: Page) -> None:
    page.goto("/workbooks/1/sheets/4?at=C8")


def part_by_part(page: Page) -> None:
    page.goto("/workbooks/1/sheets/2#H5")
    settle(page)
    page.keyboard.type("=IF($B5*C$4>500,$B5*C$4*(1+reserve),IF(C$4>300,ROUND($B5*D$4,1),")
    page.keyboard.type("SUM($C5:$F5)/COUNT($C5:$F5)))")
    page.keyboard.press("Alt+E")


def reads_map(page: Page) -> None:
    page.keyboard.press("Alt+E")
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    page.goto("/workbooks/1/reads")


def shift_log(page: Page) -> None:
    page.goto("/workbooks/1/sheets/4/log?cell=C8")


def ways(page: Page) -> None:
    page.goto("/workbooks/1/sheets/2/four-ways?cell=C5")


def shape_map(page: Page) -> None:
    page.goto("/workbooks/1/sheets/2?at=D7")
    settle(page)
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    page.keyboard.type("99")
    page.keyboard.press("Enter")
    settle(page)
    page.goto("/workbooks/1/sheets/2/map")


def charts(page: Page) -> None:
    page.goto("/workbooks/1/sheets/3?at=B7")
    settle(page)
    page.keyboard.press("Alt+KeyQ")
    page.locator(".chart.chosen svg").wait_for()


def reporting(page: Page) -> None:
    page.goto("/workbooks/1/sheets/4/report?cell=C7")


def names(page: Page) -> None:
    page.goto("/workbooks/1/names")


def answered(page: Page, code: str, *, is_right: bool) -> None:
    """Answer a drill with choices."""
    asked = question(Code.parse(code))
    choice = asked.right if is_right else (asked.right + 1) % len(asked.choices)
    page.request.post(f"/practice/drills/{code}", form={"choice": str(choice)})


def progress(page: Page) -> None:
    kinds = {"predict-1": 6, "explain-2": 6, "range-1": 5, "sheet-1": 4, "name-1": 3}
    for kind, count in kinds.items():
        codes = (f"{kind}-{seed}" for seed in range(count * 14))
        for code in [code for code in codes if question(Code.parse(code)).choices][: count * 2]:
            answered(page, code, is_right=not code.endswith("17"))
    page.goto("/practice?of=1")


def drill(page: Page) -> None:
    page.goto("/practice/drills/lock-2-13?of=1")
    page.locator("[name=lock-0-column][value=stays]").check()
    page.get_by_role("button", name="A hint").click()
    page.locator(".drill-hints").wait_for()


def drill_explained(page: Page) -> None:
    page.goto("/practice/drills/predict-2-17?of=1")
    page.locator("[name=cell]").fill("D4")
    page.get_by_role("button", name="Answer", exact=True).click()
    page.locator("#verdict").wait_for()


def group(page: Page) -> None:
    lead_a_group(page)
    page.locator("table a", has_text=FIRST_TWELVE.title).click()
    page.locator("tr", has_text="lock-2-1").get_by_role("link").click()


VIEWS = {
    "writing": writing,
    "rehearsing": rehearsing,
    "checking": checking,
    "finding": finding,
    "part-by-part": part_by_part,
    "reads-map": reads_map,
    "shift-log": shift_log,
    "four-ways": ways,
    "charts": charts,
    "report": reporting,
    "shape-map": shape_map,
    "names": names,
    "proofs": proofs,
    "sweep": sweep,
    "feeds": feeds,
    "progress": progress,
    "drill": drill,
    "drill-explained": drill_explained,
}
VIEWS_OF_PEOPLE = {"group": group}

if __name__ == "__main__":
    main(Path(sys.argv[1]))
