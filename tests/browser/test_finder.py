"""Something is found, looked at place by place, and replaced after a look at what would be."""

from playwright.sync_api import expect


def test_a_part_of_formulas_is_found_looked_at_and_replaced(bench):
    finder = bench.page.get_by_role("region", name="Find")
    bench.click("C5")
    bench.at("Loads!C5")
    bench.settle()
    bench.keys("Control+KeyF")
    expect(finder.get_by_role("searchbox")).to_be_focused()
    bench.type("D$4")
    expect(finder).to_contain_text("6 places found")
    bench.keys("Enter", "Enter")
    bench.at("Loads!D6")
    # The hands stay in the finder.
    finder.get_by_label("Replace with").fill("$D$4")
    finder.get_by_label("show before and after").check()
    expect(finder).to_contain_text("=$B6*$D$4")
    finder.get_by_role("button", name="Replace all").click()
    expect(bench.notice).to_contain_text("Replaced in 6 cells.")
    expect(bench.desk).to_have_value("=$B6*$D$4")
    bench.keys("Escape")
    expect(bench.panel).to_be_visible()
    bench.keys("Control+KeyZ")
    expect(bench.desk).to_have_value("=$B5*D$4")


def test_the_sheet_that_is_shown_is_looked_through_and_replaced_in(bench):
    finder = bench.page.get_by_role("region", name="Find")
    bench.click("C5")
    bench.settle()
    bench.keys("Control+KeyF")
    expect(finder.get_by_role("searchbox")).to_be_focused()
    bench.type("Lentils")
    expect(finder).to_contain_text("Loads!A6")
    bench.page.get_by_role("link", name="Prices", exact=True).click()
    bench.at("Prices!A1")
    finder.get_by_label("Replace with").fill("Beans")
    expect(finder).to_contain_text("Prices!A8")
    finder.get_by_role("button", name="Replace all").click()
    expect(bench.notice).to_contain_text("Replaced in 1 cell.")
    bench.shows("A8", "Beans")
