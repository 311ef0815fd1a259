"""What others do meanwhile, and what the server refuses, is seen on the page; nothing is lost."""

from playwright.sync_api import expect


def test_what_is_written_follows_rows_that_another_page_inserts(open_bench):
    mine, theirs = open_bench(), open_bench()
    mine.click("G6")
    mine.type("=C6*2")
    theirs.click("B5")
    theirs.keys("Alt+KeyL")
    theirs.page.get_by_role("button", name="Insert 1 row above").click()
    expect(mine.foot).to_contain_text("Loads!G7")
    expect(mine.desk).to_have_value("=C7*2")
    mine.type("+1")
    mine.keys("Enter")
    mine.shows("G7", "68.2")
    mine.shows("G6", "")


def test_a_cell_that_another_page_changes_is_told_before_it_is_overwritten(open_bench):
    mine, theirs = open_bench(), open_bench()
    mine.click("G6")
    mine.type("12")
    theirs.click("G6")
    theirs.type("30")
    theirs.keys("Enter")
    expect(mine.notice).to_contain_text("G6 was changed elsewhere while you write into it")
    expect(mine.desk).to_have_value("12")
    mine.keys("Enter")
    mine.shows("G6", "12")
    theirs.shows("G6", "12")


def test_entries_typed_in_a_row_are_not_taken_for_those_of_others(bench):
    bench.click("G5")
    for number in range(1, 9):
        bench.type(str(number))
        bench.keys("Enter")
    bench.shows("G12", "8")
    bench.settle()
    assert bench.notice.text_content().strip() == ""


def test_a_copy_or_paste_that_is_too_large_is_told_in_words(bench):
    bench.click("H5")
    bench.settle()
    bench.page.evaluate(
        """() => {
            const data = new DataTransfer();
            data.setData("text/plain", "x\\t".repeat(2_100_000));
            document.getElementById("cell-line").focus();
            const options = { clipboardData: data, cancelable: true };
            document.dispatchEvent(new ClipboardEvent("paste", options));
        }"""
    )
    expect(bench.notice).to_contain_text("at most 4000000 characters")
    late = []

    def held(route):
        late.append(route)

    bench.page.route("**/enter", held)
    bench.type("7")
    with bench.page.expect_request("**/enter"):
        bench.keys("Enter")
    refused = "<main><h1>That did not work</h1><p class='lead'>Too many cells.</p></main>"
    bench.page.route("**/text?area=*", lambda r: r.fulfill(status=422, body=refused))
    bench.click("H6")
    with bench.page.expect_response("**/text?area=*"):
        bench.keys("Control+KeyC")
    late.pop().continue_()
    bench.settle()
    bench.shows("H5", "7")
    expect(bench.notice).to_have_text("Too many cells. It can still be pasted here.")


def test_a_value_that_takes_too_long_waits_and_says_why(bench):
    bench.click("H5")
    bench.type("=DSUM(J20:ZZ1000000,1,J20:ZZ1000000)")
    bench.keys("Enter")
    bench.type("=1+1")
    bench.keys("Enter")
    bench.shows("H6", "2")
    expect(bench.cell("H5")).to_have_text("#WORK!", timeout=60_000)
    bench.click("H5")
    expect(bench.panel).to_contain_text("take too long")
