"""Proofs, as people use them: by keyboard, by pointer, before and after a fill."""

from playwright.sync_api import expect

SHARES = "Share, Flour to Lamp oil adds up to 100 percent"


def test_a_cross_total_is_proven_by_keyboard_and_fails_where_a_sum_misses_a_row(bench):
    page = bench.page
    page.get_by_role("link", name="Season", exact=True).click()
    bench.settle()
    bench.go_to("B4:B15")
    bench.keys("Alt+KeyM")
    expect(bench.desk).to_have_value("=ADDS.UP(B4:B15,")
    bench.type("C15")
    expect(bench.panel).to_contain_text("Guests adds up to Week 12, Running total")
    bench.has_rails("free free free free", "free free free free")
    bench.keys("Enter")
    expect(bench.notice).to_contain_text("holds: comes to 1795")
    bench.at("Season!B4:B15")
    bench.go_to("C15")
    bench.type("=SUM(B4:B14)")
    bench.keys("Enter")
    expect(page.get_by_role("link", name="1 proof fails on Season")).to_be_visible()
    page.get_by_role("button", name="Fails now").click()
    expect(bench.notice).to_contain_text("instead of 1709, 86 too much")
    bench.keys("Control+z")
    expect(page.get_by_role("link", name="1 proof fails on Season")).to_have_count(0)


def test_a_known_case_is_pointed_at_and_a_wrong_fill_of_shares_waits(bench):
    page = bench.page
    page.get_by_role("link", name="Prices", exact=True).click()
    bench.settle()
    bench.click("D13")
    bench.settle()
    bench.keys("Alt+KeyM")
    page.get_by_role("radio", name="known case").click()
    expect(bench.desk).to_have_value("=KNOWN.CASE(GIVEN(),GIVES(D13=2328.5108))")
    bench.click("B4")
    bench.settle()
    bench.type("=0")
    expect(bench.panel).to_contain_text("Prices!D13 comes out as 2116.828, not 2328.5108")
    page.get_by_role("button", name="Drop it").click()
    bench.click("G7")
    bench.settle()
    bench.type("=F7/F13")
    bench.pull(bench.grip, bench.cell("G12"))
    expect(bench.panel.get_by_role("region", name="Proof")).to_contain_text(SHARES)
    expect(bench.notice).to_contain_text("1 proof that would fail")
    bench.keys("Enter")
    page.get_by_role("link", name="1 proof fails on Prices").click()
    card = page.get_by_role("article").filter(has_text=SHARES)
    expect(card).to_contain_text("fails since fill of G7:G12")
    card.get_by_role("link", name="Go to the change").click()
    expect(bench.notice).to_contain_text("fails since: fill of G7:G12")
    bench.at("Prices!G7:G12")
    bench.keys("Control+z")
    expect(bench.notice).to_contain_text("Taken back: fill of G7:G12")
    page.get_by_role("link", name="Proofs").click()
    expect(page.get_by_role("main")).to_contain_text("All 3 hold")
    page.get_by_role("button", name="Keep").first.click()
    expect(page.get_by_role("main")).to_contain_text("All 4 hold")
    page.get_by_role("link", name="Change").first.click()
    expect(bench.panel).to_contain_text("Changed proof")
    page.get_by_role("button", name="Delete the proof").click()
    expect(bench.notice).to_contain_text("The proof is gone")
