"""A table with lookups, shares, running totals and another sheet, by keys and by pointing."""

from playwright.sync_api import expect


def test_a_table_is_written_without_leaving_the_keyboard(bench):
    bench.settle()
    bench.page.locator("[aria-label='Add a sheet']").focus()
    bench.keys("Enter")
    bench.at("Sheet 1!A1")
    expect(bench.page.locator("#start-fast")).to_be_visible()
    for row in (
        ("Hut", "Item", "kg", "Price", "Cost", "Share", "Total"),
        ("Tarn", "Cheese", "12"),
    ):
        for entry in row:
            bench.type(entry)
            bench.keys("Tab")
        bench.keys("Enter")
        bench.keys("Home")
    expect(bench.page.locator("#start-fast")).to_be_hidden()
    bench.at("Sheet 1!A3")
    for entry in ("Larch", "Flour", "30"):
        bench.type(entry)
        bench.keys("Tab")
    bench.go_to("D2")
    bench.type("=vl")
    expect(bench.page.locator("#suggest")).to_contain_text(
        "VLOOKUP(sought, table, column, sorted)"
    )
    bench.keys("Tab")
    expect(bench.page.locator("#suggest")).to_contain_text("sought: what is looked for")
    bench.keys("ArrowLeft", "ArrowLeft")
    expect(bench.desk).to_have_value("=VLOOKUP(B2")
    bench.type(",Prices!a7:g12")
    bench.keys("Alt+KeyC", "Alt+KeyR")
    expect(bench.desk).to_have_value("=VLOOKUP(B2,Prices!$A$7:$G$12")
    bench.type(",2,false")
    bench.keys("Enter")
    expect(bench.notice).to_contain_text("a closing bracket was missing at the end")
    bench.shows("D2", "14.5")
    bench.type("=c2*d2")
    bench.keys("Escape")
    bench.go_to("E2")
    bench.type("=")
    bench.keys("ArrowLeft", "ArrowLeft")
    expect(bench.desk).to_have_value("=C2")
    bench.type("*")
    bench.keys("ArrowLeft", "Enter")
    bench.shows("E2", "174")
    bench.go_to("F2")
    bench.type("=e2/sum(e$2:e$3)")
    bench.keys("Tab")
    bench.type("=sum(e$2:e2)")
    bench.keys("Enter")
    bench.go_to("D2:G2")
    bench.keys("Alt+ArrowDown")
    bench.at("Sheet 1!D2:G3")
    bench.keys("Enter")
    bench.shows("D3", "0.95")
    bench.shows("E3", "28.5")
    bench.shows("G3", "202.5")
    bench.keys("Alt+KeyV", "Alt+KeyV")
    expect(bench.cell("E3")).to_have_text("28.5=C3*D3")


def test_a_formula_is_written_by_pointing_only(bench):
    bench.click("G5")
    bench.type("=")
    bench.pull(bench.cell("C5"), bench.cell("F5"))
    expect(bench.desk).to_have_value("=C5:F5")
    bench.keys("Home", "ArrowRight")
    bench.type("sum(")
    bench.keys("End")
    bench.type(")*(1+")
    bench.page.get_by_role("link", name="Prices", exact=True).click()
    bench.click("B4")
    expect(bench.desk).to_have_value("=SUM(C5:F5)*(1+Prices!B4".replace("SUM", "sum"))
    bench.click("B3")
    expect(bench.desk).to_have_value("=sum(C5:F5)*(1+Prices!B3")
    bench.click("B4")
    bench.switch("b", "column", "stays").click()
    bench.switch("b", "row", "stays").click()
    expect(bench.desk).to_have_value("=sum(C5:F5)*(1+Prices!$B$4")
    bench.keys("Alt+KeyB")
    bench.at("Loads!B4")
    bench.page.get_by_role("button", name="Keep the entry").click()
    bench.shows("G5", "159.852")
    bench.at("Loads!G6")


def test_a_frame_is_moved_and_its_corner_pulled(bench):
    bench.click("G5")
    bench.type("=SUM($C5:D5)")
    bench.settle()
    corner = bench.page.locator('.frame-corner[data-corner="right bottom"]')
    bench.pull(corner, bench.cell("F6"))
    expect(bench.desk).to_have_value("=SUM($C5:F6)")
    bench.settle()
    bench.pull(bench.page.locator('.frame-corner[data-corner="left top"]'), bench.cell("D5"))
    expect(bench.desk).to_have_value("=SUM($D5:F6)")
    bench.page.locator('th[data-column="3"]').click()
    expect(bench.desk).not_to_be_focused()


def test_suggestions_are_chosen_by_mouse_and_never_in_the_way(bench):
    bench.click("G5")
    bench.type("=av")
    bench.page.get_by_role("option", name="AVERAGEIF(").first.click()
    expect(bench.desk).to_have_value("=AVERAGEIF(")
    expect(bench.page.locator("#suggest-place")).to_be_visible()
    bench.keys("Escape")
    expect(bench.page.locator("#suggest-place")).to_be_hidden()
    bench.keys("Escape")
    bench.type("=pi")
    expect(bench.page.locator("#suggest-place")).to_be_visible()
    bench.type("()")
    bench.keys("Enter")
    bench.shows("G5", "3.141592654")
    bench.type("=no")
    bench.settle()
    bench.keys("ArrowDown", "ArrowDown", "Enter")
    expect(bench.desk).to_have_value("=NOW(")


def test_errors_lead_to_their_first_cause(bench):
    bench.page.get_by_role("link", name="Prices", exact=True).click()
    bench.click("B3")
    bench.type("dear")
    bench.keys("Enter")
    bench.click("F13")
    expect(bench.panel).to_contain_text(
        "“dear” is text where a number is needed. It began in Prices!E7."
    )
    bench.panel.get_by_role("button", name="Prices!E7").click()
    bench.at("Prices!E7")


def test_an_entry_that_is_no_formula_is_kept_before_another_sheet_is_shown(bench):
    bench.click("H1")
    bench.type("Remarks")
    bench.page.get_by_role("link", name="Season").click()
    bench.at("Season!A1")
    bench.keys("Alt+Comma")
    bench.shows("H1", "Remarks")


def test_sheets_are_handled_in_their_dialog(bench):
    bench.keys("Alt+KeyS")
    dialog = bench.page.locator("#dialog")
    expect(dialog).to_contain_text("6 formulas would lose a reference for good")
    dialog.get_by_label("Name of the sheet").fill("Week 1")
    bench.keys("Enter")
    expect(bench.page.locator(".sheets [aria-current]")).to_have_text("Week 1")
    bench.keys("Alt+Comma")
    bench.at("Prices!A1")
    bench.click("C7")
    expect(bench.desk).to_have_value("=SUM('Week 1'!C5:F5)*(1+reserve)")
    bench.keys("Alt+KeyS")
    dialog.get_by_role("button", name="Delete the sheet").click()
    expect(bench.notice).to_contain_text("Prices was deleted")
    bench.keys("Control+z")
    expect(bench.page.get_by_role("link", name="Prices", exact=True)).to_be_visible()


def test_the_other_reading_of_an_entry_is_one_click_away(bench):
    bench.go_to("H5")
    bench.type("2,5")
    bench.keys("Enter")
    expect(bench.notice).to_contain_text("H5 was taken for text, not a number")
    bench.shows("H5", "2,5")
    bench.notice.get_by_role("button", name="make it the number 2.5").click()
    bench.shows("H5", "2.5")
    bench.type("=RAND()")
    bench.keys("Enter")
    bench.settle()
    drawn = bench.cell("H6").inner_text()
    bench.keys("ArrowUp")
    bench.panel.get_by_role("button", name="Draw again").click()
    expect(bench.cell("H6")).not_to_have_text(drawn)
    bench.keys("Control+KeyZ")
    bench.shows("H6", drawn)


def test_a_formula_fills_what_it_needs_and_tells_what_is_in_its_way(bench):
    bench.settle()
    bench.go_to("K4")
    bench.type("=SORT(A5:A8,1,-1)")
    bench.keys("Enter")
    bench.at("Loads!K5")
    bench.shows("K4", "Potatoes")
    expect(bench.reading).to_contain_text("the formula in K4, which fills K4:K7")
    bench.type("7")
    bench.keys("Enter")
    expect(bench.notice).to_contain_text("K5 was filled by the formula in K4")
    bench.shows("K4", "#ROOM!")
    bench.notice.get_by_role("button", name="Give K5 back").click()
    bench.shows("K4", "Potatoes")
    bench.go_to("K2")
    bench.type("=COUNTA(FAN(K4))")
    bench.keys("Enter")
    bench.shows("K2", "4")
