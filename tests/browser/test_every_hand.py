"""The whole job by keys alone, by the pointer alone, and by ear."""

import pytest
from playwright.sync_api import expect
from workbench_page import Workbench

LISTEN = """() => {
  window.said = [];
  for (const id of ["heard", "notice"]) {
    const place = document.getElementById(id);
    new MutationObserver(() => {
      const text = place.textContent.replace(/\\s+/g, " ").trim();
      if (text) window.said.push(text);
    }).observe(place, { childList: true, subtree: true, characterData: true });
  }
}"""
TABLE = (("", "kg a night", "Kestrel", "Larch"), ("Nights", "", "420", "280"),
         ("Flour", "0.12"), ("Lentils", "0.08"))  # fmt: skip


def test_a_table_is_laid_out_filled_mended_and_shared_by_keys_alone(context, own_server):
    page = context.new_page()
    page.goto("/")
    while page.evaluate("document.activeElement.name") != "name":
        page.keyboard.press("Tab")
    page.keyboard.type("By keys")
    page.keyboard.press("Enter")
    page.wait_for_url("**/sheets/*")
    bench = Workbench(page)
    for row in TABLE:
        for entry in row:
            bench.type(entry)
            bench.keys("Tab")
        bench.keys("Enter")
    bench.keys("Control+Home", "ArrowDown", "ArrowDown", "ArrowRight", "ArrowRight")
    bench.at("Sheet 1!C3")
    bench.type("=")
    bench.keys("ArrowLeft")
    bench.type("*")
    bench.keys("ArrowUp", "Alt+r")
    expect(bench.desk).to_have_value("=B3*C$2")
    bench.keys("Alt+ArrowRight", "Alt+ArrowDown", "Enter")
    expect(bench.notice).to_contain_text("Landed in C3:D4")
    bench.keys("Alt+Shift+J")
    expect(bench.panel).to_contain_text("slides off")
    bench.keys("Alt+d")
    expect(bench.notice).to_contain_text("Mended")
    bench.shows("D4", "22.4")
    bench.keys("Control+Home", "ArrowDown", "ArrowDown", "ArrowRight", "ArrowRight")
    expect(bench.desk).to_have_value("=$B3*C$2")
    bench.keys("Alt+x")
    page.wait_for_url("**/log?cell=C3")
    page.go_back()
    bench.at("Sheet 1!C3")
    # The switches of the desk: a region of their own, with arrows inside and Esc back.
    bench.keys("F6", "F6", "F6", "F6", "F6", "Alt+1", "Tab", "Tab")
    bench.settle()
    switch = page.locator(":focus")
    expect(switch).to_have_attribute("role", "radio")
    bench.keys("Escape")
    expect(page.locator("#active-cell")).to_be_focused()
    bench.keys("Alt+Shift+S")
    bench.at("Sheet 2!A1")
    bench.keys("F6", "F6")
    expect(page.locator("#sheets [aria-current]")).to_be_focused()
    bench.keys("Alt+,")
    bench.at("Sheet 1!A1")
    bench.keys("Control+z")
    expect(bench.notice).to_contain_text("Taken back")
    bench.keys("Control+y")
    expect(bench.notice).to_contain_text("Made again")


def test_a_table_is_written_filled_and_mended_by_the_pointer_alone(bench):
    page = bench.page
    bench.page.get_by_role("button", name="Add a sheet").click()
    page.get_by_role("link", name="Loads", exact=True).click()
    bench.at("Loads!A1")
    # What the hands cannot type is pasted by the button, and pulled.
    page.evaluate("navigator.clipboard.writeText('=B5*C$4')")
    bench.click("H5")
    bench.cell("C5").click(button="right")
    page.locator("#dialog").get_by_role("button", name="Clear").click()
    bench.shows("C5", "")
    bench.click("C5")
    page.get_by_role("button", name="Selection …").click()
    page.locator("#dialog").get_by_role("button", name="Paste").click()
    bench.shows("C5", "50.4")
    bench.settle()
    bench.pull(bench.grip, bench.cell("F5"))
    expect(bench.panel).to_contain_text("4 landings")
    bench.panel.get_by_role("button", name="Let the column of").first.click()
    bench.panel.get_by_role("button", name="Land it").click()
    bench.shows("F5", "23.5")
    bench.settle()
    page.get_by_role("button", name="Undo").click()
    expect(bench.notice).to_contain_text("Taken back")
    bench.panel.get_by_role("tab", name="3 Check").click()
    bench.click("C6")
    bench.panel.get_by_role("link", name="Whole shift log").click()
    page.wait_for_url("**/log?cell=*")
    expect(page.locator(".arrows figure")).to_have_count(2)


def test_what_is_said_tells_how_a_mixed_grid_is_written_filled_checked_and_mended(bench):
    bench.go_to("C5:F10")
    bench.keys("Delete")
    bench.go_to("C5")
    expect(bench.page.locator("#heard")).to_contain_text("C5, Flour, Kestrel")
    bench.page.evaluate(LISTEN)
    said = lambda text: bench.page.wait_for_function(  # noqa: E731
        "text => window.said.some(each => each.includes(text))", arg=text
    )
    bench.keys("ArrowUp")
    said("C4, Guest-nights, Kestrel, input. 420.")
    bench.keys("ArrowDown")
    said("C5, Flour, Kestrel. empty.")
    bench.type("=B5*C4")
    said("would give 50.4. a B5, column moves, row moves. b C4, column moves, row moves")
    bench.keys("Alt+r")
    said("b C$4, column moves, row stays")
    bench.keys(*["Alt+ArrowDown"] * 5)
    said("Rehearsal of C5:C10, 6 landings.")
    said("C10 would show 12.6. a reads B10, 0.03; b reads C$4, 420")
    bench.keys(*["Alt+ArrowRight"] * 3)
    said("In doubt: a slides off B5 (“Flour, kg a guest-night”)")
    bench.keys("Enter")
    said("Landed in C5:F10")
    bench.keys("ArrowRight", "ArrowRight")
    said("E5, Flour, Scree.")
    said("landing of C5:F10. a reads D5")
    said("Alt D mends it: let the column of a stay")
    bench.keys("Alt+d")
    said("Mended, in C5:F10: let the column of a stay")
    said("E5, Flour, Scree. 37.8. formula =$B5*E$4. landing of C5:F10. a reads $B5, 0.12; b reads")
    told = bench.page.evaluate("window.said")
    order = ["C4, Guest", "C5, Flour", "would give", "Rehearsal", "Landed", "E5, Flour", "Mended"]
    firsts = [next(i for i, each in enumerate(told) if text in each) for text in order]
    assert firsts == sorted(firsts)
    # Not every step on the way is said.
    assert len(told) < 40


def test_the_cells_are_a_grid_that_tells_its_places(bench):
    grid = bench.page.get_by_role("grid", name="Cells of Loads")
    expect(grid).to_have_attribute("aria-rowcount", "1000000")
    expect(grid).to_have_attribute("aria-colcount", "18278")
    bench.go_to("E8")
    here = bench.page.locator("#active-cell")
    expect(here).to_be_focused()
    expect(here).to_have_attribute("aria-rowindex", "8")
    expect(here).to_have_attribute("aria-colindex", "5")
    expect(bench.cell("E8")).to_have_attribute("aria-selected", "true")
    expect(bench.cell("E9")).to_have_attribute("aria-selected", "false")
    for key, place in (
        ("Home", "A8"), ("End", "F8"), ("Control+End", "F12"), ("Shift+Space", "12:12"),
        ("Control+Home", "A1"), ("Control+Space", "A:A"), ("Control+a", "A1:F12"),
        ("Control+a", "A:ZZZ"), ("Escape", "A1"),
    ):  # fmt: skip
        bench.keys(key)
        bench.at(f"Loads!{place}")
    bench.go_to("C5")
    bench.keys("F2", "End")
    bench.type("+1")
    bench.keys("Escape")
    bench.shows("C5", "50.4")


def test_entries_go_round_a_selected_area_or_into_all_of_it(bench):
    bench.go_to("H2:I3")
    for entry in ("1", "2", "3", "4"):
        bench.type(entry)
        bench.keys("Enter")
    bench.at("Loads!H2:I3")
    bench.settle()
    assert [bench.cell(at).inner_text() for at in ("H2", "H3", "I2", "I3")] == list("1234")
    bench.type("9")
    bench.keys("Tab")
    bench.type("=$B5")
    bench.keys("Control+Enter")
    expect(bench.notice).to_contain_text("Kept in 4 cells: H2:I3")
    bench.shows("I3", "0.08")
    bench.keys("Control+z")
    bench.shows("H2", "9")
    bench.go_to("H8")
    bench.type("in the hut")
    bench.keys("Alt+Enter")
    bench.type("or below")
    bench.keys("Enter")
    expect(bench.cell("H8")).to_have_text("in the hut\nor below", use_inner_text=True)
    assert bench.box(bench.cell("H8"))["height"] > 35


def test_letters_go_by_the_layout_and_text_takes_no_keys_of_ours(bench):
    bench.go_to("H5")
    bench.type("Ähre, ok? ")
    bench.keys("Shift+Space", "Enter")
    bench.at("Loads!H6")
    expect(bench.cell("H5")).to_contain_text("Ähre, ok?")
    press = """([key, code]) => document.activeElement.dispatchEvent(new KeyboardEvent("keydown",
      { key, code, ctrlKey: true, bubbles: true, cancelable: true }))"""
    bench.page.evaluate(press, ["z", "KeyY"])
    expect(bench.notice).to_contain_text("Taken back: entry in H5")
    bench.page.evaluate(press, ["y", "KeyZ"])
    expect(bench.notice).to_contain_text("Made again: entry in H5")


def test_keys_at_full_speed_do_what_they_say(bench):
    bench.page.evaluate("navigator.clipboard.writeText('+7')")
    bench.go_to("H5")
    bench.type("=")
    bench.keys("ArrowLeft", "Home", "Delete")
    bench.type("=")
    bench.keys("End")
    bench.type("*2")
    bench.keys("Control+v", "Enter")
    bench.settle()
    bench.go_to("H5")
    bench.settle()
    expect(bench.desk).to_have_value("=G5*2+7")
    bench.go_to("C4")
    bench.keys("Alt+l", "Tab", "Tab", "Enter")
    expect(bench.page.locator(".overlay .copied")).to_have_count(1)


def test_what_was_being_written_is_offered_again_and_the_address_leads_back(bench):
    bench.go_to("E8:F9")
    bench.keys("Alt+v")
    bench.page.wait_for_url("**/sheets/*#E8:F9,formulas")
    bench.page.reload()
    bench.at("Loads!E8:F9")
    expect(bench.page.get_by_role("radio", name="Formulas")).to_be_checked()
    bench.go_to("H5")
    bench.at("Loads!H5")
    bench.type("=1+")
    bench.settle()
    first = bench.hold_the_first()
    with bench.page.expect_request("**/act/show"):
        bench.page.reload()
    expect(bench.notice).to_be_empty()
    first[0].continue_()
    expect(bench.notice).to_contain_text("What you were writing into H5 was not kept: =1+")
    bench.page.get_by_role("button", name="Write on").click()
    bench.type("41")
    bench.keys("Enter")
    bench.keys("Alt+v", "Alt+v")
    bench.shows("H5", "42")
    bench.keys("ArrowUp", "Control+k")
    bench.type("copy a link")
    bench.keys("Enter")
    expect(bench.notice).to_have_text("A link to H5 is copied.")
    link = bench.page.evaluate("navigator.clipboard.readText()")
    assert link == bench.page.url.partition("#")[0] + "#H5"


@pytest.mark.parametrize("size", [(1024, 700), (640, 400), (390, 844)], ids=str)
def test_nothing_needed_is_cut_on_small_screens(bench, size):
    page = bench.page
    page.set_viewport_size({"width": size[0], "height": size[1]})
    bench.settle()
    assert page.evaluate("document.documentElement.scrollWidth") <= size[0]
    assert bench.box(page.locator("#grid"))["height"] > size[1] / 4
    expect(page.locator("#sheets [aria-current]")).to_be_in_viewport()
    bench.click("C5")
    bench.panel.get_by_role("tab", name="3 Check").click()
    expect(bench.panel.get_by_text("24 landings")).to_be_in_viewport()
    expect(bench.cell("C5")).to_be_in_viewport()
    small = page.evaluate("""() => [...document.querySelectorAll("button, select, [role=tab]")]
      .filter(each => each.checkVisibility() && !each.matches(".link"))
      .filter(each => each.getBoundingClientRect().height < 24)
      .map(each => each.outerHTML)""")
    assert small == []
    for path in ("/names", "/reads", "/proofs", "/sheets/2/map", "/sheets/2/log?cell=C5"):
        page.goto(page.url.partition("/sheets")[0] + path)
        wide = page.evaluate("document.documentElement.scrollWidth - innerWidth")
        assert wide <= 0, (path, wide)


def test_a_finger_scrolls_taps_and_presses_long(chromium, server, demo_path):
    touched = chromium.new_context(
        viewport={"width": 390, "height": 844}, base_url=server.address, has_touch=True
    )
    page = touched.new_page()
    page.goto(demo_path)
    bench = Workbench(page)
    bench.settle()
    finger = touched.new_cdp_session(page)

    def touch(kind, *point):
        points = [{"x": point[0], "y": point[1]}] if point else []
        finger.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

    page.touchscreen.tap(100, 400)
    bench.settle()
    where = bench.foot.locator("span").first
    assert where.text_content().startswith("Loads!A")
    touch("touchStart", 100, 700)
    for y in range(680, 280, -40):
        touch("touchMove", 100, y)
    touch("touchEnd")
    expect(bench.cell("A1")).to_have_count(0)
    touch("touchStart", 100, 400)
    page.wait_for_timeout(600)
    for y in range(410, 500, 30):
        touch("touchMove", 100, y)
    touch("touchEnd")
    expect(where).to_contain_text(":A")
    touched.close()
