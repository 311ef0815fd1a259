"""Outside figures, as people use them: missing, refreshed, failing, taken back, fixed."""

from playwright.sync_api import expect


def test_a_figure_is_refreshed_by_keyboard_fails_and_is_taken_back(bench):
    page = bench.page
    page.get_by_role("link", name="Prices", exact=True).click()
    bench.settle()
    bench.go_to("E15")
    expect(bench.panel).to_contain_text("old")
    bench.shows("F15", "68.40")
    bench.keys("Control+k")
    page.locator("#commands-filter").fill("outside figures")
    bench.keys("Enter")
    expect(page.get_by_role("button", name="Refresh all")).to_be_focused()
    bench.keys("Enter")
    expect(page.get_by_role("status")).to_contain_text("1 figure asked for")
    expect(page.get_by_role("article")).to_contain_text("fresh")
    valley = page.locator("form .mono").inner_text()
    page.request.post(f"{valley}/manners/fuel/nonsense")
    page.get_by_role("button", name="Refresh all").click()
    expect(page.get_by_role("main")).to_contain_text("something that is no figure")
    page.request.post(f"{valley}/manners/fuel/well")
    page.get_by_role("link", name="Prices!E15").click()
    bench.at("Prices!E15")
    expect(bench.panel).to_contain_text("something that is no figure")
    bench.keys("Control+z", "Control+z")
    bench.shows("F15", "68.40")
    page.get_by_role("link", name="Feeds …").click()
    page.get_by_role("button", name="Fix as an input").click()
    expect(page.get_by_role("status")).to_contain_text("an input now")
    page.get_by_role("link", name="Workbench").click()
    bench.shows("F15", "68.40")
    bench.go_to("E15")
    expect(bench.desk).to_have_value("1.71")
