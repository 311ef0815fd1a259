"""Nothing that was typed is lost, whatever becomes of the line and the server."""

import random
import time

import pytest
from effort import every
from playwright.sync_api import expect

ENTRIES = [str(number) for number in range(101, 125)]
PAUSE = every(0, 1000 / 15)
"""Between two keys, in milliseconds: somebody who types quickly, or in no time at all."""
ACTS = "**/act/*"


def typed(bench):
    """24 entries are typed, two in each of twelve rows."""
    bench.go_to("G5")
    for number, entry in enumerate(ENTRIES):
        bench.page.keyboard.type(entry, delay=PAUSE)
        bench.page.keyboard.press("Enter" if number % 2 else "Tab", delay=PAUSE)


def all_there(bench, last):
    """All entries stand in their cells, and were made once: so many changes lead back."""
    kept = bench.page.locator("#kept")
    expect(kept).to_have_text("all changes kept", timeout=60_000)
    bench.page.unroute_all(behavior="ignoreErrors")
    bench.settle()
    for number, entry in enumerate(ENTRIES):
        bench.shows(f"{'GH'[number % 2]}{5 + number // 2}", entry)
    undo = bench.page.get_by_role("button", name="Undo")
    expect(undo).to_have_attribute("title", f"Take back: entry in {last}")
    for _ in ENTRIES:
        bench.keys("Control+KeyZ")
    bench.settle()
    expect(undo).to_be_disabled()
    bench.shows("G5", "")


def failing(share, seed):
    """A line on which so many of 100 requests fail: cut, refused, or answered in vain."""
    chance = random.Random(seed)

    def route(route):
        if chance.random() * 100 >= share:
            return route.continue_()
        kind = chance.randrange(3)
        if kind == 0:
            return route.abort()
        if kind == 1:
            return route.fulfill(status=503, body="The server is busy.")
        route.fetch()
        return route.abort()

    return route


def six_in_a_row():
    left = [6]

    def route(route):
        left[0] -= 1
        return route.abort() if left[0] >= 0 else route.continue_()

    return route


def late(route):
    time.sleep(0.3)
    route.continue_()


LINES = {
    "300 ms of latency": late,
    "5 of 100 fail": failing(5, 1),
    "20 of 100 fail": failing(20, 2),
    "50 of 100 fail": failing(50, 3),
    "six fail in a row": six_in_a_row(),
}


@pytest.mark.parametrize("line", every(["20 of 100 fail"], list(LINES)))
def test_what_is_typed_on_a_bad_line_is_all_there(bench, line):
    bench.page.route(ACTS, LINES[line])
    typed(bench)
    all_there(bench, "H16")


def test_what_is_typed_without_a_line_is_there_after_a_reload(bench):
    bench.settle()
    bench.page.context.set_offline(True)
    typed(bench)
    expect(bench.page.locator("#kept")).to_have_text("24 wait")
    expect(bench.page.locator("#outbox")).to_contain_text("These 24 are kept here")
    bench.shows("H16", "124")
    bench.page.context.set_offline(False)
    bench.page.reload()
    all_there(bench, "H16")


def test_what_is_typed_while_the_server_is_killed_is_there_when_it_is_back(open_bench, own_server):
    bench = open_bench()
    bench.go_to("G5")
    bench.settle()
    own_server.process.kill()
    own_server.process.wait()
    typed(bench)
    own_server.start()
    all_there(bench, "H16")


def test_where_the_hands_are_is_seen_before_the_server_says_more(bench):
    bench.click("E8")
    bench.at("Loads!E8")
    bench.settle()
    held = bench.hold_the_first()
    bench.keys("ArrowDown")
    address = bench.page.get_by_label("Selected cell; type an address to go there")
    expect(address).to_have_value("E9")
    expect(bench.desk).to_have_value("=$B9*E$4")
    expect(bench.page.locator('th[data-row="9"]')).to_have_class("lit")
    expect(bench.page.locator("#active-cell")).to_have_attribute("aria-label", "E9 =$B9*E$4")
    expect(bench.panel).to_have_attribute("aria-busy", "true")
    bench.page.keyboard.type("?")
    expect(bench.cell("E9")).to_have_attribute("aria-selected", "true")
    held[0].continue_()
    bench.keys("Enter")
    bench.shows("E9", "?")
    expect(bench.panel).to_have_attribute("aria-busy", "false")


def test_what_a_layout_types_with_alt_is_typed(bench):
    bench.click("H5")
    bench.settle()
    for key, code in (("@", "KeyL"), ("€", "KeyE"), ("[", "Digit5"), ("ü", "KeyU")):
        bench.page.evaluate(
            """([key, code]) => document.activeElement.dispatchEvent(new KeyboardEvent("keydown",
                { key, code, altKey: true, bubbles: true, cancelable: true }))""",
            [key, code],
        )
    bench.page.keyboard.type("?")
    bench.keys("Enter")
    bench.shows("H5", "@€[ü?")
    expect(bench.page.locator("#dialog")).to_be_hidden()
