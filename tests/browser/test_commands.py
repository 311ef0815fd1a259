"""After every command, however what it opened is left, keys go to the cells again."""

import re

import pytest
from effort import every
from playwright.sync_api import expect

from dreieck.web.workbench.commands import COMMANDS

# They lead to another page, or hand out a file.
LEADS_AWAY = {
    "files", "open-file", "feeds", "practise", "shift-log", "chart-svg", "chart-png", "keys",
}  # fmt: skip
STAYING = [command for command in COMMANDS if command.act not in LEADS_AWAY]
WAYS = ("Escape", "beside", "close")
STEP = every(12, 1)
PARTS = every(1, 6)


def leave(bench, way):
    """Close what is open: by key, by a press beside it, by its button."""
    dialog = bench.page.locator("#dialog")
    if dialog.is_visible():
        if way == "beside":
            bench.page.mouse.click(3, 600)
        elif way == "close" and dialog.locator("[data-close]").count():
            dialog.locator("[data-close]").first.click()
    for _ in range(3):
        bench.keys("Escape")
    expect(dialog).to_be_hidden()


@pytest.mark.parametrize("part", range(PARTS))
def test_what_is_typed_after_any_command_stands(bench, part):
    for number, command in list(enumerate(STAYING))[part :: STEP * PARTS]:
        bench.go_to("C5")
        bench.settle()
        bench.keys("Control+KeyK")
        expect(bench.page.locator("#commands-filter")).to_be_focused()
        name = command.does[0].upper() + command.does[1:]
        said = bench.page.get_by_text(re.compile(f"^{re.escape(name)}$"))
        bench.page.locator(".commands button").filter(has=said).first.click()
        bench.page.wait_for_timeout(150)
        bench.settle()
        leave(bench, WAYS[number % 3])
        bench.settle()
        # Another sheet may be shown by now, and what was done may have been hidden or ordered.
        bench.keys("Control+Home", *["ArrowDown"] * 2)
        bench.page.keyboard.type(f"typed {number}")
        bench.keys("Enter")
        bench.settle()
        texts = bench.page.locator("#grid td[data-cell]").all_inner_texts()
        assert f"typed {number}" in texts, command
