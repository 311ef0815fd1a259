"""What axe finds wrong for people with assistive technology: nothing, on no page, in no state."""

import pytest
from axe import violations
from playwright.sync_api import expect

PAGES = [
    "/", "/guide", "/four-ways", "{0}/names", "{0}/proofs", "{0}/sweeps", "{0}/feeds", "{0}/reads",
    "{0}/lift", "{0}/names/rewrite?way=in", "{1}/map", "{1}/four-ways?cell=C5",
    "{1}/log?cell=C5", "{1}/report?cell=C5", "/nothing", "/practice", "{1}/practice?at=C5",
    "/practice/drills/lock-3-1", "/practice/drills/find-2-0", "/practice/drills/explain-2-1",
    "/practice/drills/predict-2-5", "/practice/results", "/practice/set?title=Two&drills=find-1-1",
]  # fmt: skip


def suggesting(bench):
    bench.click("H5")
    bench.type("=av")
    bench.keys("ArrowDown")
    expect(bench.page.locator("#suggest [aria-selected=true]")).to_be_visible()


def rehearsing(bench):
    bench.click("C5")
    bench.type("=B5*C4")
    bench.keys("Alt+ArrowRight", "Alt+ArrowDown")
    bench.at("Loads!C5:D6")


def part_by_part(bench):
    bench.click("H5")
    bench.type("=IF($B5*C$4>500,$B5*C$4,ROUND(SUM(C5:F5)/COUNT(C5:F5),1))")
    bench.keys("Alt+e")
    expect(bench.page.locator(".parts li")).to_have_count(6)


def aiming(bench):
    bench.click("E8")
    bench.keys("Alt+y")
    expect(bench.notice).to_contain_text("Point at what")


def dialog(key):
    def opened(bench):
        bench.keys(key)
        expect(bench.page.locator("#dialog")).to_be_visible()

    return opened


def finder(bench):
    bench.keys("Control+f")
    expect(bench.page.locator("#finder")).to_be_visible()


def statement(bench):
    bench.keys("Alt+m")
    expect(bench.desk).to_be_focused()


# What is done, where that shows, and the keys that end it.
STATES = {
    "at rest": (lambda bench: None, "html", ()),
    "checking": (lambda bench: bench.click("E8"), "#panel", ()),
    "aiming": (aiming, "html", ("Escape",)),
    "suggestions": (suggesting, "html", ("Escape", "Escape")),
    "a rehearsal": (rehearsing, "html", ("Escape", "Escape")),
    "part by part": (part_by_part, ".desk", ("Escape",)),
    "a statement": (statement, "html", ("Escape", "Escape")),
    "finding": (finder, "html", ("Escape",)),
    "the selection": (dialog("Alt+l"), "#dialog", ("Escape",)),
    "all commands": (dialog("Control+k"), "#dialog", ("Escape",)),
    "the keys": (dialog("F1"), "#dialog", ("Escape",)),
    "naming": (dialog("Alt+n"), "#dialog", ("Escape",)),
    "the sheet": (dialog("Alt+s"), "#dialog", ("Escape",)),
}


def test_the_workbench_has_no_violations_by_day_and_by_night(bench):
    found = {}
    for name, (enter, part, leave) in STATES.items():
        enter(bench)
        bench.settle()
        if wrong := violations(bench.page, part):
            found[name] = wrong
        bench.keys(*leave)
        bench.settle()
    assert found == {}


def test_a_finding_has_no_violations_on_a_desk_and_on_a_phone(bench):
    bench.page.get_by_role("link", name="To mend").click()
    bench.at("To mend!A1")
    bench.go_to("C8")
    bench.settle()
    assert violations(bench.page) == []
    bench.page.set_viewport_size({"width": 390, "height": 844})
    bench.panel.get_by_role("tab", name="3 Check").click()
    bench.page.get_by_role("button", name="Looks").click()
    bench.page.get_by_role("button", name="Pages").click()
    bench.settle()
    assert violations(bench.page) == []


@pytest.mark.parametrize("part", range(2))
def test_no_page_has_violations_by_day_and_by_night(context, demo_path, part):
    page = context.new_page()
    page.goto(demo_path)
    page.wait_for_url("**/sheets/*")
    sheet = page.url.partition("#")[0]
    found = {}
    for path in PAGES[part::2]:
        page.goto(path.format(demo_path, sheet))
        if wrong := violations(page):
            found[path] = wrong
    assert found == {}
