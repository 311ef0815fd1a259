"""Columns and rows by pointer and keyboard: sizes, hiding, headings that stay in view."""

from playwright.sync_api import expect


def heading(bench, **which):
    ((axis, number),) = which.items()
    return bench.page.locator(f'th[data-{axis}="{number}"]')


def pull_edge(bench, column, by):
    box = bench.box(heading(bench, column=column))
    x, y = box["x"] + box["width"] - 1, box["y"] + 12
    bench.page.mouse.move(x, y)
    bench.page.mouse.down()
    bench.page.mouse.move(x + by, y, steps=4)
    expect(bench.page.locator("#place-guide")).to_be_visible()
    bench.page.mouse.up()


def test_the_edge_of_a_heading_is_pulled_and_two_clicks_fit_it(bench):
    bench.go_to("Loads!C:D")
    bench.at("Loads!C:D")
    pull_edge(bench, 4, 40)
    for column in (3, 4):
        expect(heading(bench, column=column)).to_have_css("width", "150px")
    expect(heading(bench, column=5)).to_have_css("width", "110px")
    box = bench.box(heading(bench, column=5))
    bench.page.mouse.dblclick(box["x"] + box["width"], box["y"] + 12)
    expect(bench.notice).to_contain_text("Column E fitted.")
    expect(heading(bench, column=4)).to_have_css("width", "150px")
    bench.keys("Control+KeyZ", "Control+KeyZ")
    expect(heading(bench, column=4)).to_have_css("width", "110px")


def test_headings_stay_in_view_with_what_the_locks_read_there(bench):
    bench.go_to("Loads!F10")
    bench.keys("Alt+KeyH")
    expect(bench.notice).to_contain_text("The first 4 rows and the first 2 columns stay in view.")
    bench.settle()
    bench.page.mouse.move(500, 500)
    bench.page.mouse.wheel(0, 150)
    expect(heading(bench, row=9)).to_have_count(0)
    bench.shows("F10", "5.9")
    # The rails of both references are drawn around what stays in view.
    for letter, cell in (("a", "B10"), ("b", "F4")):
        mark = bench.page.locator(".overlay .letter", has_text=letter)
        expect(mark).to_have_count(1)
        at, around = bench.box(mark), bench.box(bench.cell(cell))
        assert abs(at["y"] + at["height"] / 2 - around["y"] - around["height"] / 2) < 12
    bench.click("F4")
    bench.at("Loads!F4")
    bench.keys("ArrowDown")
    bench.at("Loads!F5")
    expect(heading(bench, row=5)).to_have_count(1)
    bench.keys("Alt+KeyH")
    expect(bench.notice).to_contain_text("All rows and columns scroll again.")


def test_hidden_rows_are_stepped_over_and_shown_again(bench):
    bench.go_to("Loads!C6:C8")
    bench.keys("Alt+KeyL")
    bench.page.get_by_role("button", name="Hide rows 6 to 8").click()
    expect(bench.cell("C7")).to_have_count(0)
    bench.go_to("C5")
    bench.at("Loads!C5")
    bench.settle()
    bench.keys("ArrowDown")
    bench.at("Loads!C9")
    bench.keys("ArrowUp")
    bench.at("Loads!C5")
    bench.settle()
    bench.keys("Alt+KeyL")
    bench.page.get_by_role("button", name="Show rows 6 to 8").click()
    bench.shows("C7", "126.0")


def test_what_was_copied_is_still_a_formula_after_lines_took_another_size(bench):
    bench.click("C5")
    bench.at("Loads!C5")
    bench.settle()
    bench.keys("Control+KeyC", "Alt+KeyL")
    bench.page.get_by_role("button", name="Fit to what it shows").last.click()
    expect(bench.notice).to_contain_text("Column C fitted.")
    bench.click("H5")
    bench.at("Loads!H5")
    bench.settle()
    bench.keys("Control+KeyV")
    expect(bench.desk).to_have_value("=$B5*H$4")
