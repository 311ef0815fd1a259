"""Hands that are quicker than the server, that scroll, and that never touch a mouse."""

import signal
import time

import pytest
from playwright.sync_api import expect


@pytest.fixture
def slow_bench(open_bench):
    """A workbench whose server answers late, so that keys come before its word."""
    bench = open_bench()
    bench.settle()

    def late(route):
        time.sleep(0.15)
        route.continue_()

    bench.page.route("**/act/*", late)
    return bench


def test_a_row_is_typed_faster_than_the_server_answers(slow_bench):
    bench = slow_bench
    bench.go_to("H5")
    for entry in ("420", "280", "=H5+I5", "Tarn"):
        bench.type(entry)
        bench.keys("Tab")
    bench.keys("Enter")
    bench.settle()
    bench.shows("H5", "420")
    bench.shows("I5", "280")
    bench.shows("J5", "700")
    bench.shows("K5", "Tarn")


def test_keys_pressed_before_the_first_picture_wait_for_it(bench):
    held = bench.hold_the_first()
    bench.page.reload()
    bench.page.wait_for_function("document.activeElement.id === 'active-cell'")
    bench.go_to("H3")
    bench.type("7")
    bench.keys("Enter")
    bench.page.evaluate(
        "addEventListener('keydown', event => { window.isTaken = event.defaultPrevented; })"
    )
    bench.keys("F5")
    assert bench.page.evaluate("window.isTaken") is False
    held[0].continue_()
    bench.shows("H3", "7")
    bench.at("Loads!H4")


def test_pointing_and_locking_keep_their_order_with_what_is_typed_behind(slow_bench):
    bench = slow_bench
    bench.go_to("G5")
    bench.type("=")
    bench.keys("ArrowLeft", "Alt+KeyC")
    bench.type("*")
    bench.keys("ArrowUp", "Alt+KeyR")
    bench.type("+1")
    bench.keys("Enter")
    bench.settle()
    bench.go_to("G5")
    bench.settle()
    expect(bench.desk).to_have_value("=$F5*G$4+1")


def test_a_rehearsal_is_stretched_and_landed_without_waiting(slow_bench):
    bench = slow_bench
    bench.go_to("G5")
    bench.type("=SUM(C5:F5)")
    bench.keys(*["Alt+ArrowDown"] * 5)
    bench.settle()
    bench.keys("Enter")
    bench.settle()
    bench.shows("G10", "36.33")
    bench.at("Loads!G5:G10")


def test_an_entry_begun_while_a_jump_is_under_way_goes_where_the_jump_leads(slow_bench):
    bench = slow_bench
    bench.click("A3")
    bench.keys("Control+ArrowDown")
    bench.type("Salt")
    bench.keys("Enter")
    bench.settle()
    bench.shows("A10", "Salt")
    bench.shows("A3", "Item")


def test_the_bars_lead_to_any_part_of_the_sheet(bench):
    box = bench.box(bench.page.locator(".scroll.down i"))
    bench.page.mouse.move(box["x"] + 3, box["y"] + 20)
    bench.page.mouse.down()
    bench.page.mouse.move(box["x"] + 3, box["y"] + 2000, steps=4)
    bench.page.mouse.up()
    bench.settle()
    first = int(bench.page.locator("#grid tbody th").first.inner_text())
    assert first > 10
    bench.page.mouse.move(400, 500)
    bench.page.mouse.wheel(0, -9000)
    expect(bench.cell("A1")).to_be_visible()
    bench.page.mouse.wheel(900, 0)
    expect(bench.cell("A1")).to_have_count(0)
    bench.keys("Control+Home")
    expect(bench.cell("A1")).to_be_visible()
    bench.keys("PageDown", "PageDown")
    bench.settle()
    expect(bench.cell("A1")).to_have_count(0)


def test_help_and_views_are_a_key_away(bench):
    bench.settle()
    bench.keys("F1")
    dialog = bench.page.locator("#dialog")
    expect(dialog).to_contain_text("Alt + J")
    bench.keys("Enter")
    expect(dialog).to_be_hidden()
    bench.keys("Alt+KeyV")
    bench.shows("C5", "=$B5*C$4")
    bench.keys("Alt+KeyV")
    bench.shows("C5", "50.4=$B5*C$4")
    bench.keys("Alt+KeyV")
    bench.shows("C5", "50.4")


def test_a_refused_entry_stays_in_the_hands(bench):
    bench.click("G5")
    bench.desk.fill("x" * 12_000)
    bench.keys("Enter")
    expect(bench.notice).to_contain_text("10,000 characters; this one has 12,000")
    expect(bench.desk).to_have_value("x" * 12_000)
    bench.keys("Escape")
    bench.shows("G5", "")


def test_steps_are_turned_by_hand_and_an_area_is_typed(bench):
    bench.click("C5")
    bench.panel.get_by_role("tab", name="2 Fill").click()
    area = bench.panel.get_by_label("to", exact=True)
    area.fill("C5:D7")
    bench.panel.get_by_role("button", name="Rehearse").click()
    bench.at("Loads!C5:D7")
    expect(bench.panel).to_contain_text("6 landings")
    bench.panel.get_by_label("to", exact=True).fill("A1:ZZ9999")
    bench.panel.get_by_role("button", name="Rehearse").click()
    expect(bench.notice).to_contain_text("one fill can write 1,000,000")
    bench.keys("Escape")
    bench.at("Loads!C5")


def test_a_cell_is_opened_with_what_was_just_kept_in_it(slow_bench):
    bench = slow_bench
    bench.click("H5")
    bench.type("=C5")
    bench.keys("Enter")
    bench.cell("H5").dblclick()
    bench.type("*2")
    bench.keys("Enter")
    bench.shows("H5", "100.8")


def test_a_button_that_is_drawn_anew_while_it_is_pressed_still_works(slow_bench):
    bench = slow_bench
    bench.click("C5")
    box = bench.box(bench.panel.get_by_role("button", name="next"))
    bench.page.mouse.move(box["x"] + 5, box["y"] + 5)
    bench.page.mouse.down()
    bench.page.evaluate("document.getElementById('panel').innerHTML += ''")
    bench.page.mouse.up()
    bench.at("Loads!D5")


def test_a_link_that_leads_elsewhere_by_the_time_it_is_let_go_is_followed(bench):
    bench.click("C5")
    bench.settle()
    bench.panel.get_by_role("tab", name="3 Check").click()
    link = bench.panel.get_by_role("link", name="Whole shift log")
    box = bench.box(link)
    bench.page.mouse.move(box["x"] + 5, box["y"] + 5)
    bench.page.mouse.down()
    bench.page.evaluate(
        """() => {
            const panel = document.getElementById("panel");
            panel.innerHTML = panel.innerHTML.replace("log?cell=C5", "log?cell=C6");
        }"""
    )
    bench.page.mouse.up()
    bench.page.wait_for_url("**/log?cell=C6")


def test_entries_typed_while_the_server_hangs_are_kept_when_it_is_back(open_bench, own_server):
    bench = open_bench()
    bench.click("G5")
    bench.settle()
    own_server.process.send_signal(signal.SIGSTOP)
    for entry in ("300", "400"):
        bench.type(entry)
        bench.keys("Enter")
    own_server.process.kill()
    own_server.process.wait()
    outbox = bench.page.locator("#outbox")
    expect(outbox).to_contain_text("G6: 400")
    outbox.get_by_role("listitem").filter(has_text="G6: 400").get_by_role("button").click()
    own_server.start()
    bench.shows("G5", "300")
    bench.shows("G6", "")
    expect(outbox).to_be_hidden()


def test_a_cell_clicked_before_the_server_knows_the_formula_is_pointed_at(bench):
    bench.click("G5")
    bench.settle()
    held = bench.hold_the_first()
    bench.type("=C5*")
    bench.page.get_by_role("link", name="Prices", exact=True).click()
    bench.click("B4")
    bench.type("+1")
    held[0].continue_()
    bench.settle()
    expect(bench.desk).to_have_value("=C5*Prices!B4+1")


def test_a_rehearsal_that_is_ended_while_it_is_asked_for_stays_ended(bench):
    bench.click("G5")
    bench.type("=C5")
    bench.keys("Alt+ArrowDown")
    bench.at("Loads!G5:G6")
    held = []
    bench.page.route("**/act/release", lambda route: held.append(route))  # noqa: PLW0108
    bench.pull(bench.grip, bench.cell("G8"))
    while not held:
        bench.page.wait_for_timeout(20)
    bench.panel.get_by_role("button", name="Land it").click()
    held[0].continue_()
    bench.settle()
    bench.panel.get_by_role("button", name="G8: 25.2").click()
    bench.at("Loads!G8")


def test_a_link_to_another_page_waits_until_what_was_typed_is_kept(slow_bench):
    bench = slow_bench
    jumps = []
    bench.page.route("**/act/go-to", lambda route: jumps.append(route))  # noqa: PLW0108
    bench.go_to("Loads!H5")
    for entry in ("7", "=H5*2"):
        bench.type(entry)
        bench.keys("Enter")
    bench.type("Tarn")
    bench.page.get_by_role("link", name="Guide", exact=True).click()
    jumps[0].continue_()
    bench.page.wait_for_url("**/guide?of=*")
    bench.page.go_back()
    bench.shows("H6", "14")
    bench.shows("H7", "Tarn")


def test_a_fill_is_pulled_beyond_the_edge_and_straight_from_the_flag(bench):
    bench.go_to("G12")
    bench.type("=SUM(C12:F12)")
    bench.keys("Enter")
    bench.click("G12")
    bench.at("Loads!G12")
    flag = bench.box(bench.grip)
    bench.page.mouse.move(flag["x"] + 5, flag["y"] + 5)
    bench.page.mouse.down()
    bench.page.mouse.move(flag["x"] + 5, 795, steps=5)
    expect(bench.cell("A40")).to_be_visible()
    bench.page.mouse.up()
    bench.settle()
    where = bench.foot.locator("span").first.inner_text()
    assert where.startswith("Loads!G12:G") and int(where.partition(":G")[2]) >= 40


def test_lists_and_names_are_pointed_at_by_clicks_and_jumps(bench):
    bench.go_to("H5")
    bench.type("=SUM(")
    bench.cell("D7").dblclick()
    expect(bench.desk).to_have_value("=SUM(D4:D10")
    bench.type(",")
    bench.settle()
    bench.click("C5")
    bench.click("E6", modifiers=["Shift"])
    expect(bench.desk).to_have_value("=SUM(D4:D10,C5:E6")
    bench.type("+")
    bench.panel.get_by_role("button", name="reserve").click()
    expect(bench.desk).to_have_value("=SUM(D4:D10,C5:E6+reserve")
    bench.type(",")
    bench.settle()
    bench.keys("ArrowLeft", "Control+Shift+ArrowDown")
    expect(bench.desk).to_have_value("=SUM(D4:D10,C5:E6+reserve,G5:G1000000")


def test_a_reference_is_aimed_at_another_sheet_by_pulling_there(bench):
    bench.go_to("H5")
    bench.type("=SUM($C5:F5)")
    bench.keys(*["ArrowLeft"] * 3)
    bench.settle()
    bench.page.get_by_role("link", name="Season").click()
    bench.shows("A1", "Guests week by week")
    bench.pull(bench.cell("B4"), bench.cell("B6"))
    expect(bench.desk).to_have_value("=SUM(Season!$B4:B6)")
    bench.keys("Enter")
    bench.at("Loads!H6")


def test_a_cell_pressed_and_copied_before_the_servers_word_is_copied(slow_bench):
    bench = slow_bench
    bench.click("H5")
    bench.type("=B5")
    bench.click("C4")
    bench.keys("Control+c")
    bench.settle()
    bench.go_to("H8")
    bench.keys("Control+v")
    bench.shows("H8", "420")


def test_a_fill_lands_with_the_mend_that_was_pressed_before(slow_bench):
    bench = slow_bench
    bench.go_to("C5")
    bench.type("=B5*C$4")
    bench.keys(*["Alt+ArrowRight"] * 3)
    bench.at("Loads!C5:F5")
    bench.settle()
    bench.panel.get_by_role("button", name="Let the column of").first.click()
    bench.panel.get_by_role("button", name="Land it").click()
    bench.settle()
    bench.shows("F5", "23.5")
