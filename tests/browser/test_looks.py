"""A plain table is dressed by pointer and by keyboard, and a look is given on."""

import re

from playwright.sync_api import expect


def has(bench, address, *looks):
    for look in looks:
        expect(bench.cell(address)).to_have_class(re.compile(rf"\b{look}\b"))


def has_not(bench, address, look):
    expect(bench.cell(address)).not_to_have_class(re.compile(rf"\b{look}\b"))


def test_the_band_dresses_what_is_selected_and_says_how_it_looks(bench):
    band = bench.page.get_by_role("toolbar", name="Looks")
    bench.click("C5")
    bench.click("F10", modifiers=["Shift"])
    bench.at("Loads!C5:F10")
    bench.settle()
    band.get_by_label("Number format").select_option("currency:CHF")
    bench.shows("F10", "CHF\u00a05.88")
    band.get_by_role("button", name="One decimal less").click()
    bench.shows("F10", "CHF\u00a05.9")
    expect(bench.panel).to_contain_text("holds 50.4, shows CHF\u00a050.4")
    band.get_by_label("Tone of the ground").select_option("lake")
    has(bench, "D7", "ground-lake")
    band.get_by_label("Lines").select_option("around thick")
    has(bench, "C5", "left-thick", "top-thick")
    band.get_by_role("button", name="bold").click()
    has(bench, "E9", "bold")
    # The hands are back in the grid.
    bench.keys("ArrowDown")
    bench.at("Loads!C6")
    expect(band.get_by_label("Tone of the ground")).to_have_value("lake")
    for _ in range(5):
        bench.keys("Control+KeyZ")
    bench.shows("F10", "5.9")
    has_not(bench, "D7", "ground-lake")


def test_looks_are_reached_and_chosen_by_keyboard(bench):
    bench.go_to("Loads!C12:F12")
    bench.at("Loads!C12:F12")
    bench.keys("Control+KeyB", "Alt+KeyU")
    has(bench, "F12", "bold", "result")
    bench.settle()
    bench.keys("Alt+KeyA")
    expect(bench.page.get_by_label("Number format")).to_be_focused()
    bench.keys("Escape")
    bench.keys("Control+KeyK")
    expect(bench.page.locator("#commands-filter")).to_be_focused()
    bench.type("format percent")
    bench.keys("Enter")
    bench.shows("C12", "25620%")
    bench.keys("Control+KeyK")
    expect(bench.page.locator("#commands-filter")).to_be_focused()
    bench.type("sheet")
    bench.keys("ArrowDown", "ArrowDown", "Enter")
    expect(bench.page.locator("[aria-current=page]", has_text="Loads copy")).to_be_visible()


def test_a_look_that_was_taken_is_given_to_what_is_selected_until_escape(bench):
    bench.click("B5")
    bench.at("Loads!B5")
    bench.settle()
    bench.keys("Alt+KeyT")
    expect(bench.notice).to_contain_text("The look of B5 is taken.")
    for cell in ("H5", "H9"):
        bench.click(cell)
        has(bench, cell, "input")
    bench.keys("Escape")
    bench.click("H7")
    bench.at("Loads!H7")
    bench.settle()
    expect(bench.cell("H7")).to_have_class("")
    # By keyboard the same key gives what it took.
    bench.go_to("C5")
    bench.at("Loads!C5")
    bench.settle()
    bench.keys("Alt+KeyU", "Alt+KeyT")
    expect(bench.notice).to_contain_text("The look of C5 is taken.")
    bench.keys("ArrowDown", "Shift+ArrowDown", "Alt+KeyT")
    has(bench, "C7", "result")


def test_a_rule_is_written_by_pointing_and_looked_at_landing_by_landing(bench):
    bench.go_to("Loads!C5:F10")
    bench.at("Loads!C5:F10")
    bench.page.get_by_role("button", name="rule …").click()
    expect(bench.panel).to_contain_text("Rule for C5:F10")
    bench.settle()
    expect(bench.desk).to_be_focused()
    bench.click("C5")
    expect(bench.desk).to_have_value("=C5")
    bench.type(">50")
    expect(bench.panel).to_contain_text("holds in 5 of 24")
    has(bench, "D7", "rule-rose")
    has_not(bench, "D5", "rule-rose")
    # A click on one of its cells looks at the condition there.
    bench.settle()
    bench.click("D6")
    expect(bench.page.locator(".card-ref .ends")).to_contain_text("D6")
    bench.keys("Enter")
    expect(bench.notice).to_contain_text("C5:F10 takes the tone rose where it holds.")
    bench.click("E7")
    expect(bench.panel).to_contain_text("=E7>50")
    bench.panel.get_by_role("button", name="delete").first.click()
    has_not(bench, "E7", "rule-rose")
    bench.keys("Control+KeyZ")
    has(bench, "E7", "rule-rose")
