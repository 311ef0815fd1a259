"""Proofs: written on the desk, told before something breaks them, listed on their page."""

import re
from html import unescape

from web_page import Page

PROOFS = "/workbooks/1/proofs"
SHARES = "Share, Flour to Lamp oil adds up to 100 percent"


def listed(client):
    text = re.sub(r"<[^>]+>", " ", unescape(client.get(PROOFS).text))
    return re.sub(r"\s+", " ", text)


def revision(client):
    return client.app.state.library.open(1).revision


def prices(client):
    return Page(client, sheet=1)


def test_a_proof_is_begun_pointed_restated_kept_changed_and_deleted(client, tells):
    page = prices(client).select("F7", "F12").act("write-proof")
    assert page.state["text"] == "=ADDS.UP(F7:F12," and "Point at the cells" in page.text
    page.act("point-at", to="F13")
    assert page.state["text"] == "=ADDS.UP(F7:F12,F13"
    assert "Cost adds up to Total, Cost holds : comes to 3791.1566" in page.text
    # It stands in no cell, and its references are neither filled nor locked.
    assert page.scene["start"] is None and "column of a" not in page.html
    assert [frame["area"] for frame in page.scene["frames"]] == [[6, 7, 6, 12], [6, 13, 6, 13]]
    page.act("state-otherwise", to="AGREES")
    assert page.state["text"] == "=AGREES(F7:F12,F13)" and "fails" in page.text
    page.act("state-otherwise", to="ADDS.UP").act("stretch", rows=1)
    tells(page.notice)
    page.act("enter")
    assert page.notice.startswith("Cost adds up to Total, Cost – holds: comes to 3791.1566")
    assert page.state["text"] is None and page.state["anchor"] == "F7"
    page.act("change-proof", index=4)
    assert page.state["text"] == "=ADDS.UP(Prices!F7:F12,Prices!F13)"
    page.act("enter", text="=ADDS.UP(F7:F11,F13)")
    assert "fails: comes to 3575.3600" in page.notice or "instead of" in page.notice
    assert "1 proof fails on Prices" in page.html
    page.act("delete-proof", index=4)
    assert "1 proof fails" not in page.html
    page.act("undo").act("undo").act("undo")
    assert "Prices!F13)" not in listed(client)


def test_what_is_no_statement_stays_in_the_hands(client, tells):
    page = prices(client).select("F7").act("write-proof")
    for text, why in (("F7", "begins with ="), ("=1=1", "reads no cell"), ("=AGREES(", "takes")):
        page.act("enter", text=text)
        assert why in page.notice and page.state["text"] == text and page.state["proving"] == 0
    page.act("write-proof")
    tells(page.notice)
    page.act("state-otherwise", to="IS.NICE")
    tells(page.notice)
    page.act("show", text="=ADD", caret=4)
    assert "ADDS.UP" in page.text
    page.act("show", text="=ADDS.UP(F7,", caret=12)
    assert "a value, or other cells that are added up" in page.text


def test_a_wrong_fill_of_shares_is_told_before_it_lands(client, tells):
    page = prices(client).select("G7")
    page.act("show", writing="G7", text="=F7/F13", source="G7", target="G7:G12")
    assert "This proof would fail" in page.text and SHARES in page.text
    page.act("release")
    tells(page.notice)
    assert page.state["target"] == "G7:G12"
    page.act("land")
    assert "Fails now: " + SHARES in page.text and "1 proof fails on Prices" in page.html
    assert f"{SHARES} fails : Prices!G8 is #DIV/0!" in listed(client)
    assert "fails since fill of G7:G12 ," in listed(client)
    page.select("A1").act("show-break", index=1)
    assert page.state["anchor"] == "G7" and "fails since: fill of G7:G12" in page.notice
    page.act("show-proof", index=1)
    assert page.state["anchor"] == "G8"
    page.act("show", writing="G7", text="=F7/F$13", source="G7", target="G7:G12")
    assert "This proof would hold again" in page.text
    page = prices(client).act("undo")
    assert "1 proof fails" not in page.html and "All 3 hold" in listed(client)


def test_a_trial_tells_which_proofs_it_would_break(client):
    page = prices(client).select("B3").act("try-value", to="x")
    assert page.text.count("This proof would fail") == 2
    page.act("give-back")
    assert "would fail" not in page.text


def test_on_the_page_proposals_are_kept_by_a_click_and_bad_statements_come_back(client):
    assert "a running total ends with the sum" in listed(client)
    asked = {"states": "=ADDS.UP(Season!B4:B15,Season!C15)", "revision": revision(client)}
    answer = client.post(PROOFS, data=asked)
    assert answer.status_code == 200 and "The proof is kept" in answer.text
    assert "a running total ends with the sum" not in listed(client)
    answer = client.post(PROOFS, data={"states": "=AGREES(<b>", "revision": revision(client)})
    assert "AGREES(&lt;b&gt;" in answer.text and 'role="alert"' in answer.text
    for form in ({"delete": 99}, {"delete": 1, "revision": 0}):
        answer = client.post(PROOFS, data={"revision": revision(client), **form})
        assert 'role="alert"' in answer.text
    client.post(PROOFS, data={"delete": 1, "revision": revision(client)})
    assert SHARES + " holds" not in listed(client)
    client.post(PROOFS, data={"states": "=A3=1", "sheet": 3, "revision": revision(client)})
    assert "=Season!A3=1" in listed(client)
    assert "fails since it was kept" in listed(client)


def test_what_a_proof_is_about_may_go_and_nothing_breaks(client, tells):
    page = prices(client)
    page.act("delete-sheet", index=1)
    assert "cells that it is about are gone" in listed(client)
    page = Page(client, sheet=2)
    for action in ("show-proof", "show-break", "change-proof"):
        page.act(action, index=1)
        page.act("show", text=None, proving=-1)
    page.act("show-proof", index=77)
    tells(page.notice)
