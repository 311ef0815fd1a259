"""From a step of the pulled grip to the painted rehearsal, against a bare request's round trip."""

from __future__ import annotations

import socket
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path
from typing import Any

from playwright.sync_api import sync_playwright

ASKED = 3.0
TITLE = "pulled step to painted rehearsal, median of 100 / bare request"
_QUIET = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--disable-background-networking"]
_STEP = """async ([column, row]) => {
  const box = document.querySelector(`td[data-cell="${column}${row}"]`).getBoundingClientRect();
  const grid = document.getElementById("grid");
  const at = { clientX: box.x + 9, clientY: box.y + 9, pointerId: 1, button: 0, bubbles: true };
  const before = document.querySelector(".overlay .rehearsal")?.getAttribute("height");
  const began = performance.now();
  grid.dispatchEvent(new PointerEvent("pointermove", at));
  while (document.querySelector(".overlay .rehearsal")?.getAttribute("height") === before)
    await new Promise(requestAnimationFrame);
  return performance.now() - began;
}"""
_BARE = """async () => {
  const began = performance.now();
  await (await fetch("/healthz")).text();
  await new Promise(requestAnimationFrame);
  return performance.now() - began;
}"""


def measure() -> float:
    """How many times longer a step takes."""
    with tempfile.TemporaryDirectory() as folder, socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
        probe.close()
        command = [sys.executable, "-m", "dreieck.cli.main", "serve", "--demo"]
        options = ["--port", str(port), "--data", str(Path(folder) / "data.db")]
        server = subprocess.Popen([*command, *options], stdout=subprocess.DEVNULL)
        try:
            return _measured(f"http://127.0.0.1:{port}")
        finally:
            server.terminate()
            server.wait()


def _measured(address: str) -> float:
    while True:
        try:
            urllib.request.urlopen(address + "/healthz").close()
            break
        except OSError:
            time.sleep(0.05)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=_QUIET)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address + "/workbooks/1")
        page.locator('td[data-cell="C5"]').click()
        page.locator("#page-state:not([data-busy])").wait_for(state="attached")
        grip: Any = page.locator(".grip").bounding_box()
        page.mouse.move(grip["x"] + 3, grip["y"] + 3)
        page.mouse.down()
        steps = [("F", 6 + step % 8) for step in range(101)]
        times = [page.evaluate(_STEP, list(step)) for step in steps][1:]
        bare = [page.evaluate(_BARE) for _ in range(100)]
        browser.close()
        return statistics.median(times) / statistics.median(bare)
