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
from playwright.sync_api import Page, sync_playwright

from dreieck.demo import OUTSIDE
from dreieck.outside import create_outside
from dreieck.web.app import create_app
from dreieck.web.settings import Settings

QUIET = "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking"
QUIET += " --disable-component-update --disable-sync"


def main(folder: Path) -> None:
    """Take all pictures."""
    folder.mkdir(parents=True, exist_ok=True)
    with served() as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=QUIET.split()
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=address)
        for name, prepare in VIEWS.items():
            prepare(page)
            settle(page)
            page.screenshot(path=folder / f"{name}.png")
            print(folder / f"{name}.png")
        browser.close()


@contextmanager
def served() -> Iterator[str]:
    """A server with fresh demo data, and its address."""
    with tempfile.TemporaryDirectory() as data:
        outside = uvicorn.Server(uvicorn.Config(create_outside(), port=0, log_level="error"))
        beside = threading.Thread(target=outside.run)
        beside.start()
        sources = {OUTSIDE: f"http://127.0.0.1:{port_of(outside)}"}
        settings = Settings(data=Path(data) / "data.db", demo=True, sources=sources)
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


def home(page: Page) -> None:
    page.goto("/")


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


def guide(page: Page) -> None:
    page.goto("/guide#SUMIF")
    page.wait_for_timeout(900)  # the page scrolls there smoothly


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


def looks(page: Page) -> None:
    page.goto("/workbooks/1/sheets/2#A1")
    settle(page)
    select(page, "C5:F10")
    settle(page)
    page.get_by_role("button", name="change").click()


def opening(page: Page) -> None:
    page.goto("/")
    page.get_by_role("button", name="Open a file …").click()
    table = "Item;Weight, kg;Price;Since;Code\nFlour;145,3;0,95;1.3.2026;007\n"
    table += "Lentils;96,9;2,40;15.3.2026;012\nLamp oil;24,2;3,60;22.3.2026;=B2*C2\n"
    file = {"name": "from the hut.csv", "mimeType": "text/csv", "buffer": table.encode()}
    page.get_by_label("The file").set_input_files(file)  # type: ignore[arg-type]
    page.get_by_role("button", name="Look into it").click()
    page.locator(".file-settings").wait_for()


def reporting(page: Page) -> None:
    page.goto("/workbooks/1/sheets/4/report?cell=C7")


def names(page: Page) -> None:
    page.goto("/workbooks/1/names")


VIEWS = {
    "home": home,
    "writing": writing,
    "rehearsing": rehearsing,
    "checking": checking,
    "guide": guide,
    "finding": finding,
    "part-by-part": part_by_part,
    "reads-map": reads_map,
    "shift-log": shift_log,
    "four-ways": ways,
    "charts": charts,
    "looks": looks,
    "opening": opening,
    "report": reporting,
    "shape-map": shape_map,
    "names": names,
    "proofs": proofs,
    "sweep": sweep,
    "feeds": feeds,
}

if __name__ == "__main__":
    main(Path(sys.argv[1]))
