"""A browser on a server with demo data and more, and how long a bare request takes in it."""

from __future__ import annotations

import socket
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

_QUIET = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"]
_BARE = """async () => {
  const began = performance.now();
  await (await fetch("/healthz")).text();
  await new Promise(requestAnimationFrame);
  return performance.now() - began;
}"""


@contextmanager
def opened(path: str, prepare: Callable[[Path], None] = lambda data: None) -> Iterator[Page]:
    """A page of a server of its own; ``prepare`` may write into its data file before."""
    with tempfile.TemporaryDirectory() as folder, socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
        probe.close()
        data = Path(folder) / "data.db"
        prepare(data)
        command = [sys.executable, "-m", "dreieck.cli.main", "serve", "--demo"]
        options = ["--port", str(port), "--data", str(data)]
        server = subprocess.Popen([*command, *options], stdout=subprocess.DEVNULL)
        try:
            _wait_for(f"http://127.0.0.1:{port}/healthz")
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(
                    executable_path="/usr/bin/chromium-headless-shell", args=_QUIET
                )
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.goto(f"http://127.0.0.1:{port}{path}")
                page.locator("td[data-cell]").first.wait_for()
                settle(page)
                yield page
                browser.close()
        finally:
            server.terminate()
            server.wait()


def settle(page: Page) -> None:
    """Wait until the page has shown all that was asked of it."""
    page.locator("#page-state:not([data-busy])").wait_for(state="attached")


def bare(page: Page) -> float:
    """How many milliseconds a bare request and a picture take, the median of 100."""
    return statistics.median(page.evaluate(_BARE) for _ in range(100))


def _wait_for(address: str) -> None:
    while True:
        try:
            urllib.request.urlopen(address).close()
            return
        except OSError:
            time.sleep(0.05)
