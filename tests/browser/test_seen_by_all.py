"""What axe finds wrong for people with assistive technology: nothing, on no page, in no state."""

import pytest
from axe import violations
from playwright.sync_api import expect
from workbench_page import Workbench

PAGES = [
    "/", "/guide", "/four-ways", "{0}/names", "{0}/proofs", "{0}/sweeps", "{0}/feeds", "{0}/reads",
    "{0}/lift", "{0}/names/rewrite?way=in", "{1}/map", "{1}/four-ways?cell=C5",
    "{1}/log?cell=C5", "{1}/report?cell=C5", "/nothing", "/practice", "{1}/practice?at=C5",
    "/practice/drills/lock-3-1", "/practice/drills/find-2-0", "/practice/drills/explain-2-1",
    "/practice/drills/predict-2-5", "/practice/results", "/practice/set?title=Two&drills=find-1-1",
]  # fmt: skip


def finding(bench):
    bench.page.get_by_role("link", name="To mend").click()
    bench.at("To mend!A1")
    bench.go_to("C8")


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


def opened(bench):
    bench.click("H5")
    bench.type("=IF($B5*C$4>500,$B5*C$4,ROUND(SUM(C5:F5)/COUNT(C5:F5),1))")
    bench.keys("Alt+e")
    expect(bench.page.locator(".parts li")).to_have_count(6)


def aiming(bench):
    bench.click("E8")
    bench.keys("Alt+y")
    expect(bench.notice).to_contain_text("Point at what")


def on_a_phone(bench):
    bench.page.set_viewport_size({"width": 390, "height": 844})
    finding(bench)
    bench.panel.get_by_role("tab", name="3 Check").click()
    bench.page.get_by_role("button", name="Looks").click()
    bench.page.get_by_role("button", name="Pages").click()


def dialog(key):
    def state(bench):
        bench.settle()
        bench.keys(key)
        bench.page.wait_for_timeout(400)

    return state


STATES = {
    "at rest": Workbench.settle,
    "checking": lambda bench: bench.click("E8"),
    "a finding": finding,
    "suggestions": suggesting,
    "a rehearsal": rehearsing,
    "part by part": opened,
    "aiming": aiming,
    "a statement": dialog("Alt+m"),
    "a phone": on_a_phone,
    "the selection": dialog("Alt+l"),
    "all commands": dialog("Control+k"),
    "finding": dialog("Control+f"),
    "the keys": dialog("?"),
    "naming": dialog("Alt+n"),
    "the sheet": dialog("Alt+s"),
}


@pytest.mark.parametrize("state", STATES)
def test_the_workbench_has_no_violations_by_day_and_by_night(bench, state):
    STATES[state](bench)
    for scheme in ("light", "dark"):
        bench.page.emulate_media(color_scheme=scheme, reduced_motion="reduce")
        bench.settle()
        assert violations(bench.page) == []


@pytest.mark.parametrize("part", range(4))
def test_no_page_has_violations_by_day_and_by_night(context, demo_path, part):
    page = context.new_page()
    page.goto(demo_path)
    page.wait_for_url("**/sheets/*")
    sheet = page.url.partition("#")[0]
    found = {}
    for path in PAGES[part::4]:
        page.goto(path.format(demo_path, sheet))
        page.wait_for_load_state()
        for scheme in ("light", "dark"):
            page.emulate_media(color_scheme=scheme, reduced_motion="reduce")
            if wrong := violations(page):
                found[path, scheme] = wrong
    assert found == {}
