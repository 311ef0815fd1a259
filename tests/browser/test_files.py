"""Files in the browser: opened by dialog and by dropping, saved, printed."""

import re

from packages import package
from playwright.sync_api import expect

from dreieck.files import read

TABLE = "Item;kg;Price\nFlour;145,3;0,95\nLentils;96,9;2,40\n"


def drop(page, name, data):
    """Drop a file on the page."""
    page.evaluate(
        """([name, bytes]) => {
            const transfer = new DataTransfer();
            transfer.items.add(new File([new Uint8Array(bytes)], name));
            const said = { dataTransfer: transfer, bubbles: true, cancelable: true };
            document.body.dispatchEvent(new DragEvent("drop", said));
        }""",
        [name, list(data)],
    )


def test_a_table_of_text_becomes_a_workbook_and_is_checked(bench):
    page = bench.page
    page.goto("/")
    page.get_by_role("button", name="Open a file …").click()
    file = {"name": "loads.csv", "mimeType": "text/csv", "buffer": TABLE.encode()}
    page.get_by_label("The file").set_input_files(file)
    page.get_by_role("button", name="Look into it").click()
    decimals = page.get_by_label("decimals")
    expect(decimals).to_have_value(",")
    decimals.select_option(".")
    expect(page.locator(".file-cells td", has_text="145,3")).not_to_have_class("number")
    decimals.select_option(",")
    expect(page.locator(".file-cells td", has_text="145,3")).to_have_class("number")
    page.get_by_role("button", name="Make a workbook of it").click()
    bench.at("loads!A1")
    bench.go_to("D2")
    bench.at("loads!D2")
    page.keyboard.type("=B2*C2")
    page.keyboard.press("Enter")
    expect(bench.cell("D2")).to_have_text("138.035")


def test_a_dropped_workbook_is_shown_with_what_it_holds(bench):
    page = bench.page
    drop(page, "from the hut.ods", package("open_document"))
    dialog = page.locator("dialog[open]")
    expect(dialog.get_by_text("1 comment (Loads!A5)")).to_be_visible()
    expect(dialog.get_by_text("come to something else here")).to_be_visible()
    dialog.get_by_role("button", name="Make a workbook of it").click()
    expect(page.locator(".workbook-name")).to_have_text("from the hut")
    expect(bench.cell("C5")).to_have_text("50.4")
    page.get_by_role("button", name="Files …").click()
    dialog.get_by_role("link", name="All of it").click()
    expect(page.get_by_text("it reads Loads!D6, which differs")).to_be_visible()


def test_what_cannot_be_opened_is_told_in_the_dialog(bench):
    page = bench.page
    drop(page, "picture.png", b"\x89PNG\r\n")
    expect(page.get_by_role("alert")).to_contain_text("The file is a picture")
    page.keyboard.press("Escape")
    expect(page.locator("dialog[open]")).to_have_count(0)


def test_a_workbook_downloads_in_two_clicks_and_is_copied(bench, tmp_path):
    page = bench.page
    bench.click("B5")
    bench.type("0.25")
    bench.keys("Enter")
    bench.shows("C5", "105.0")
    page.get_by_role("button", name="Files …").click()
    with page.expect_download() as coming:
        page.get_by_role("link", name="OpenDocument spreadsheet").click()
    coming.value.save_as(tmp_path / "x.ods")
    back = read((tmp_path / "x.ods").read_bytes(), "x.ods").workbook
    assert (
        back.sheet("Loads").content(back.sheet("Loads").used().first._replace(column=2, row=5))
        == 0.25
    )
    page.get_by_label("Name of the copy").fill("Next week")
    page.get_by_role("button", name="Save a copy").click()
    expect(page.locator(".workbook-name")).to_have_text("Next week")
    expect(bench.cell("C5")).to_have_text("105.0")


def test_a_report_and_a_sheet_print_on_paper(bench, tmp_path):
    page = bench.page
    bench.click("E8")
    page.get_by_role("link", name="Fill report").click()
    expect(page.get_by_role("heading", name="Fill report")).to_be_visible()
    page.goto(page.url + "&log=whole")
    report = page.pdf(prefer_css_page_size=True)
    page.get_by_role("link", name="Workbench").click()
    page.locator("#sheets").get_by_text("Prices").click()
    bench.shows("A1", "Prices and weights, first week")
    page.get_by_role("button", name="Files …").click()
    page.get_by_role("link", name="the sheet, printed").click()
    expect(page.locator(".chart-printed svg")).to_be_visible()
    page.get_by_label("shown").select_option("formulas")
    page.get_by_role("button", name="Show").click()
    expect(page.locator(".chart-printed svg")).to_be_visible()
    printed = page.pdf(prefer_css_page_size=True)
    for data, width in ((report, 595), (printed, 842)):
        boxes = {tuple(map(float, box.split()[2:])) for box in re.findall(
            rb"/MediaBox \[([\d. ]+)\]", data)}  # fmt: skip
        assert {round(box[0]) for box in boxes} <= {width - 1, width, width + 1} and boxes
    assert report.count(b"/Type /Page\n") + report.count(b"/Type /Page ") >= 2
    # Nothing of a table is wider than its page.
    page.emulate_media(media="print")
    page.set_viewport_size({"width": 1032, "height": 700})
    assert page.evaluate("document.documentElement.scrollWidth - innerWidth") <= 0
