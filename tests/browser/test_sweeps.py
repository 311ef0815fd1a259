"""Sweeps, as people use them: from an input to a map and a block that gives the same."""

from playwright.sync_api import expect


def test_two_inputs_are_swept_read_off_the_map_and_written_as_a_block(bench):
    page = bench.page
    page.get_by_role("link", name="Prices", exact=True).click()
    bench.settle()
    bench.click("B4")
    bench.settle()
    page.get_by_role("link", name="Sweep it").click()
    expect(page.get_by_label("cell or name").first).to_have_value("Prices!B4")
    expect(page.get_by_label("to", exact=True).first).to_have_value("30%")
    page.get_by_label("cell or name").nth(1).fill("carry_price")
    page.get_by_label("or these values").nth(1).fill("1, 2, 3")
    page.get_by_label("results to be seen").fill("Prices!F13")
    page.get_by_label("results to be seen").press("Enter")
    expect(page.get_by_role("img", name="The map of Total, Cost")).to_be_visible()
    expect(page.locator("figure")).to_contain_text("pale is 2,855.54, dark 5,632.85")
    page.get_by_role("button", name="as formulas that give the same").click()
    bench.shows("A1", "Sweep of reserve and carry_price")
    bench.shows("C5", "3,773.96")
    bench.click("C5")
    expect(bench.panel).to_contain_text("Block B4:D10")
    bench.keys("Control+z")
    expect(page.get_by_role("link", name="Sweep of reserve")).to_have_count(0)


def test_the_input_for_a_result_is_found_by_keyboard_and_a_change_makes_it_out_of_date(bench):
    page = bench.page
    page.get_by_role("link", name="Sweeps").click()
    page.get_by_role("link", name="reserve", exact=True).click()
    expect(page.get_by_role("main")).to_contain_text("grows steadily, by 172.3253")
    page.get_by_label("should be").fill("4000")
    page.get_by_label("should be").press("Enter")
    page.get_by_role("button", name="Put 16.05956873% in").click()
    bench.at("Prices!B4")
    bench.shows("F13", "4,000.00")
    bench.keys("Control+z")
    expect(bench.notice).to_contain_text("Taken back: solution in Prices!B4")
    page.get_by_role("link", name="Sweeps").click()
    page.get_by_role("link", name="reserve", exact=True).click()
    expect(page.get_by_role("main")).to_contain_text("Out of date")
    page.get_by_role("button", name="Run again").click()
    expect(page.get_by_role("main")).not_to_contain_text("Out of date")
