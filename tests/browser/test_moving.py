"""Cells, rows and columns are moved by the pointer, and rows put in order by keyboard."""

from playwright.sync_api import expect


def pull(bench, box, to, x, y):
    """Pull from so far into a box to the middle of another one."""
    begin, end = bench.box(box), bench.box(to)
    bench.page.mouse.move(begin["x"] + x, begin["y"] + y)
    bench.page.mouse.down()
    bench.page.mouse.move(end["x"] + end["width"] / 2, end["y"] + end["height"] / 2, steps=6)
    expect(bench.page.locator("#place-guide")).to_be_visible()
    bench.page.mouse.up()


def test_the_selection_is_moved_by_its_edge(bench):
    bench.go_to("A5:B6")
    bench.at("Loads!A5:B6")
    pull(bench, bench.cell("A5"), bench.cell("C15"), 1, 14)
    bench.at("Loads!C15:D16")
    bench.shows("C15", "Flour")
    bench.click("C5")
    expect(bench.desk).to_have_value("=$D15*C$4")
    bench.keys("Control+KeyZ")
    bench.shows("A5", "Flour")


def test_rows_and_columns_are_moved_by_their_headings(bench):
    heading = bench.page.locator
    heading('th[data-row="6"]').click()
    bench.at("Loads!6:6")
    pull(bench, heading('th[data-row="6"]'), heading('th[data-row="9"]'), 12, 14)
    bench.shows("A9", "Lentils")
    bench.at("Loads!9:9")
    heading('th[data-column="6"]').click()
    bench.at("Loads!F:F")
    pull(bench, heading('th[data-column="6"]'), heading('th[data-column="3"]'), 40, 14)
    bench.shows("C3", "Tarn")
    bench.click("C9")
    expect(bench.desk).to_have_value("=$B9*C$4")
    # Pressed once more and not pulled, a selected heading is selected as others are.
    heading('th[data-row="8"]').click()
    bench.at("Loads!8:8")
    bench.page.keyboard.down("Shift")
    heading('th[data-row="9"]').click()
    bench.page.keyboard.up("Shift")
    bench.at("Loads!8:9")
    heading('th[data-row="9"]').click()
    bench.at("Loads!9:9")


def test_rows_are_put_in_order_by_keyboard(bench):
    page, dialog = bench.page, bench.page.locator("#dialog")
    bench.go_to("A5:F10")
    bench.at("Loads!A5:F10")
    bench.keys("Control+KeyK")
    expect(page.locator("#commands-filter")).to_be_focused()
    bench.type("order rows")
    bench.keys("Enter")
    expect(dialog.get_by_label("by", exact=True)).to_be_focused()
    expect(dialog).to_contain_text("6 rows would change places")
    bench.keys("b", "Tab", "d")
    expect(dialog).to_contain_text("5 rows would change places")
    dialog.get_by_role("button", name="Order them").focus()
    bench.keys("Enter")
    expect(bench.notice).to_contain_text("5 rows changed places.")
    bench.shows("A5", "Potatoes")
    bench.shows("A10", "Coffee")
