"""A real server on a data file of its own, and Debian's Chromium on its pages."""

import shutil
import socket
import subprocess
import sys
import time
import urllib.request
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import expect, sync_playwright
from workbench_page import Workbench

CHROMIUM = "/usr/bin/chromium-headless-shell"
PATIENCE = 20_000
"""How long a picture may be waited for, in milliseconds: these machines are busy."""
expect.set_options(timeout=PATIENCE)
QUIET = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip


class Server:
    """``dreieck serve --demo``, which can be stopped and started again."""

    def __init__(self, data, *options):
        self.options = options
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.data = data
        self.start()

    def start(self):
        command = [sys.executable, "-m", "dreieck.cli.main", "serve", "--demo"]
        options = ["--port", str(self.port), "--data", str(self.data), *self.options]
        self.process = subprocess.Popen([*command, *options], stdout=subprocess.DEVNULL)
        while True:
            try:
                urllib.request.urlopen(self.address + "/healthz").close()
                return
            except OSError:
                assert self.process.poll() is None, "the server did not start"
                time.sleep(0.05)

    def stop(self):
        self.process.terminate()
        self.process.wait()


@pytest.fixture(scope="session")
def shared_server(made_data, tmp_path_factory):
    """One server for all tests that do not stop it."""
    running = Server(shutil.copy(made_data / "demo", tmp_path_factory.mktemp("server")))
    yield running
    running.stop()


@pytest.fixture
def own_server(demo_data):
    """A server that a test may stop and start again."""
    running = Server(demo_data)
    yield running
    running.stop()


@pytest.fixture
def server(request):
    name = "own_server" if "own_server" in request.fixturenames else "shared_server"
    return request.getfixturevalue(name)


@pytest.fixture
def demo_path(server):
    """The address of a fresh demo."""
    request = urllib.request.Request(server.address + "/demo", data=b"", method="POST")
    with urllib.request.urlopen(request) as answer:
        return urlsplit(answer.url).path.partition("/sheets")[0]


@pytest.fixture(scope="session")
def chromium():
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=QUIET)
        yield browser
        browser.close()


@pytest.fixture(scope="session")
def shared_context(chromium, shared_server):
    """One profile for all tests on the shared server, so that what was loaded is there."""
    opened = opened_context(chromium, shared_server)
    # This page stays, so that what the others leave behind can be taken away.
    opened.keeper = opened.new_page()
    opened.keeper.goto("/healthz")
    yield opened
    opened.close()


def opened_context(chromium, server):
    opened = chromium.new_context(viewport={"width": 1280, "height": 800}, base_url=server.address)
    opened.set_default_timeout(PATIENCE)
    opened.grant_permissions(["clipboard-read", "clipboard-write"])
    # Rehearsals wait for Enter, but where a test says otherwise.
    opened.add_init_script("localStorage.wait ??= 'yes'")
    return opened


@pytest.fixture
def context(request, chromium, server):
    if "own_server" in request.fixturenames:
        opened = opened_context(chromium, server)
        yield opened
        opened.close()
        return
    opened = request.getfixturevalue("shared_context")
    yield opened
    for page in opened.pages:
        if page != opened.keeper:
            page.close()
    opened.keeper.evaluate("localStorage.clear()")


@pytest.fixture
def open_bench(context, demo_path):
    """Opens pages on the demo; afterwards none of them may have had a script error."""
    errors = []

    def opened(path=demo_path):
        page = context.new_page()
        page.on("pageerror", lambda error: errors.append(str(error)))
        page.goto(path)
        return Workbench(page)

    yield opened
    assert errors == []


@pytest.fixture
def bench(open_bench):
    return open_bench()
