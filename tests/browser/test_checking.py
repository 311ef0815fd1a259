"""Filling and checking, as people do it: pull, go alongside, paste, find, mend, aim, try."""

import pytest
from playwright.sync_api import expect


def sheet(bench, name):
    bench.page.get_by_role("link", name=name, exact=True).click()
    bench.settle()


@pytest.fixture
def mending(bench):
    sheet(bench, "To mend")
    return bench


def button(bench, name):
    return bench.panel.get_by_role("button", name=name)


def empty_grid(bench, formula):
    """The grid of loads, with a formula in its first cell only."""
    bench.click("C5")
    bench.keys("Control+Shift+ArrowRight", "Control+Shift+ArrowDown")
    bench.settle()
    bench.keys("Delete")
    bench.click("C5")
    bench.type(formula)
    bench.keys("Enter")
    bench.click("C5")
    bench.settle()


def test_a_pull_lands_on_release_where_nothing_is_in_doubt_and_waits_elsewhere(bench):
    bench.page.evaluate("localStorage.wait = 'no'")
    bench.page.reload()
    empty_grid(bench, "=$B5*C$4")
    bench.pull(bench.grip, bench.cell("F10"))
    bench.shows("F10", "5.9")
    expect(bench.notice).to_contain_text("Landed in C5:F10")
    empty_grid(bench, "=B5*C4")
    bench.pull(bench.grip, bench.cell("F10"))
    expect(bench.notice).to_contain_text("This fill waits")
    expect(bench.panel).to_contain_text("a slides off B5")
    button(bench, "Let the column of a stay and the row of b stay").click()
    expect(bench.panel).to_contain_text("24 sound")
    bench.keys("Enter")
    bench.shows("F10", "5.9")
    bench.keys("Control+z")
    bench.shows("F10", "")


def test_the_flag_clicked_twice_goes_alongside(bench):
    bench.click("G5")
    bench.type("=SUM(C5:F5)")
    bench.keys("Enter")
    bench.click("G5")
    bench.settle()
    bench.grip.dblclick()
    expect(bench.notice).to_contain_text("down to G10")
    bench.keys("Enter")
    bench.shows("G10", "36.33")
    bench.click("H5")
    bench.type("=G5/2")
    bench.keys("Enter")
    bench.click("H5")
    bench.keys("Alt+Shift+ArrowDown", "Enter")
    bench.shows("H10", "18.165")


def test_every_planted_mistake_is_mended_by_one_click(mending):
    mends = {
        "C8": "Let the row of b stay", "D7": "Let the row of b stay",
        "B10": "Stretch a to B6:B9", "E17": "Let the column of a stay",
    }  # fmt: skip
    for cell, mend in mends.items():
        mending.go_to(cell)
        mending.at(f"To mend!{cell}")
        mending.settle()
        button(mending, mend).first.click()
        expect(mending.notice).to_contain_text("Mended")
    mending.shows("B10", "678.2")
    mending.shows("C9", "130.86")
    mending.shows("D9", "10.7%")
    mending.shows("E17", "94.5")
    mending.go_to("G1")
    button(mending, "3 Check").or_(mending.page.get_by_role("tab", name="3 Check")).click()
    expect(mending.panel).to_contain_text("Nothing is in doubt")
    mending.keys("Control+z")
    mending.shows("E17", "11,113,200.0")


def test_a_mixed_grid_comes_right_by_aim(bench):
    empty_grid(bench, "=B5*C4")
    bench.pull(bench.grip, bench.cell("F10"))
    bench.at("Loads!C5:F10")
    button(bench, "a points at").click()
    expect(bench.notice).to_contain_text("Point at what a should read in Loads!F10")
    bench.page.get_by_role("link", name="Prices", exact=True).click()
    bench.shows("A1", "Prices and weights, first week")
    bench.click("B3")
    expect(bench.notice).to_contain_text("locks cannot change that")
    bench.keys("Escape")
    bench.at("Loads!C5:F10")
    button(bench, "a points at").click()
    expect(bench.notice).to_contain_text("Point at what a should read in Loads!F10")
    bench.click("B10")
    expect(bench.desk).to_have_value("=$B5*C4")
    button(bench, "b points at").click()
    bench.panel.get_by_label("b should read").fill("F4")
    bench.panel.get_by_label("b should read").press("Enter")
    expect(bench.desk).to_have_value("=$B5*C$4")
    expect(bench.panel).to_contain_text("24 sound")
    bench.keys("Enter")
    bench.shows("F10", "5.9")


def test_a_mixed_grid_comes_right_by_likely_locks(bench):
    empty_grid(bench, "=B5*C4")
    bench.pull(bench.grip, bench.cell("F10"))
    bench.at("Loads!C5:F10")
    button(bench, "Likely locks").click()
    first = bench.panel.locator(".likely li").first
    expect(first).to_contain_text("F10 reads B10 (Lamp oil, kg a guest-night)")
    first.get_by_role("button").click()
    expect(bench.desk).to_have_value("=$B5*C$4")
    bench.keys("Enter")
    bench.shows("F10", "5.9")


def test_copy_cut_and_paste_by_keys_here_and_from_other_programs(bench):
    bench.click("A4")
    bench.page.keyboard.down("Shift")
    bench.click("C5")
    bench.page.keyboard.up("Shift")
    bench.settle()
    bench.keys("Control+c")
    expect(bench.page.locator(".overlay .copied")).to_have_count(1)
    bench.click("E15")
    bench.settle()
    bench.keys("Control+v")
    bench.shows("E16", "Flour")
    expect(bench.notice).to_contain_text("Rather only")
    bench.page.locator("#notice").get_by_role("button", name="values").click()
    bench.shows("G16", "50.4")
    bench.page.keyboard.down("Control")
    bench.click("H14")
    bench.page.keyboard.up("Control")
    expect(bench.page.locator(".overlay .also")).to_have_count(1)
    bench.keys("Control+v")
    bench.shows("H15", "Flour")
    bench.keys("Control+z")
    bench.shows("H15", "")
    bench.page.evaluate("navigator.clipboard.writeText('7\\t8\\n9\\t=A14*2')")
    bench.go_to("A14")
    bench.settle()
    bench.keys("Control+v")
    bench.shows("B15", "14")
    bench.click("C4")
    bench.settle()
    bench.click("C4", button="right")
    bench.page.get_by_role("button", name="Copy", exact=True).click()
    expect(bench.page.locator(".overlay .copied")).to_have_count(1)
    bench.click("F2", button="right")
    bench.page.get_by_role("button", name="Paste", exact=True).click()
    bench.shows("F2", "420")
    bench.click("C4")
    bench.settle()
    bench.keys("Control+x")
    bench.click("G2")
    bench.settle()
    bench.keys("Control+v")
    bench.shows("G2", "420")
    bench.click("C5")
    expect(bench.desk).to_have_value("=$B5*G$2")
    bench.keys("Control+z")
    bench.shows("C4", "420")


def test_plain_values_count_on_and_one_key_switches(bench):
    bench.click("H3")
    bench.type("Week 1")
    bench.keys("Enter")
    bench.click("H3")
    bench.keys("Alt+ArrowDown", "Alt+ArrowDown")
    bench.shows("H5", "Week 3")
    expect(bench.panel.get_by_role("radio", name="count on")).to_have_attribute(
        "aria-checked", "true"
    )
    bench.keys("Alt+KeyO")
    bench.shows("H5", "Week 1")
    bench.keys("Alt+KeyO", "Enter")
    bench.shows("H5", "Week 3")


def test_an_input_is_tried_out_before_it_is_kept(mending):
    mending.click("B3")
    mending.panel.get_by_label("with").fill("2")
    mending.panel.get_by_role("button", name="Try", exact=True).click()
    mending.shows("C6", "290.60")
    expect(mending.panel).to_contain_text("C7:C9 should have answered too")
    button(mending, "Give it back").click()
    mending.shows("C6", "261.54")
    mending.panel.get_by_label("with").fill("2")
    mending.panel.get_by_label("with").press("Enter")
    button(mending, "Keep it").click()
    mending.shows("C6", "290.60")


def test_the_shift_log_opens_filters_and_leads_back(mending):
    mending.click("C8")
    mending.panel.get_by_role("link", name="Whole shift log").click()
    page = mending.page
    expect(page.locator("#log tbody tr")).to_have_count(8)
    page.get_by_label("state").select_option("broken")
    page.get_by_role("button", name="Show").click()
    expect(page.locator("#log tbody tr")).to_have_count(2)
    page.get_by_role("button", name="Copy as a table").click()
    expect(page.get_by_role("button", name="2 rows copied")).to_be_visible()
    page.get_by_role("link", name="C8").first.click()
    mending.at("To mend!C8")


def test_four_ways_side_by_side_and_one_is_taken(bench):
    bench.click("C7")
    bench.panel.get_by_role("link", name="Four ways to lock it").click()
    page = bench.page
    expect(page.locator(".way")).to_have_count(4)
    page.get_by_label("show").select_option("formulas")
    page.get_by_role("button", name="Compare").click()
    both = page.get_by_role("region", name="both locked")
    expect(both).to_contain_text("=$B$5*F$4")
    both.get_by_role("button", name="Take this one").click()
    bench.at("Loads!C5")
    bench.shows("F10", "23.5")


def test_the_shape_map_leads_to_a_break(bench):
    bench.click("D7")
    bench.type("99")
    bench.keys("Enter")
    bench.settle()
    bench.page.get_by_role("link", name="Shape map").click()
    expect(bench.page.locator(".map .mark")).to_have_count(1)
    bench.page.get_by_role("link", name="D7", exact=True).click()
    bench.at("Loads!D7")
    expect(bench.panel).to_contain_text("The number 99.0 stands in D7")
    button(bench, "Restore the block's formula").click()
    bench.shows("D7", "84.0")


def test_a_finding_is_answered_with_a_reason_by_keys_alone(mending):
    mending.click("C8")
    mending.settle()
    answer = mending.panel.get_by_text("It is meant", exact=True)
    answer.focus()
    mending.keys("Enter", "Tab")
    mending.page.keyboard.type("the price went up")
    mending.keys("Enter")
    expect(mending.panel).to_contain_text("It is meant: the price went up")
    expect(mending.panel).not_to_contain_text("2 in doubt")
    mending.keys("Control+z")
    expect(mending.panel).to_contain_text("2 in doubt")
    expect(mending.panel).not_to_contain_text("went up")
