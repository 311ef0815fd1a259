"""Mends chosen on the shape map, and what is found after a paste or an import."""

import re
from html import unescape

MAP = "/workbooks/1/sheets/4/map"


def form(client):
    """The page of the map, and what can be chosen on it."""
    text = client.get(MAP).text
    return text, [unescape(key) for key in re.findall(r'name="chosen" value="([^"]*)"', text)]


def revision(client):
    return client.app.state.library.open(1).revision


def test_all_that_is_chosen_is_looked_at_and_then_mended(client, broken):
    text, keys = form(client)
    before = revision(client)
    assert len(keys) == 4 and "Choose all" in text
    looked = client.post(MAP, data={"chosen": keys, "revision": revision(client)}).text
    assert "14 results would change, 4 errors would be gone" in " ".join(looked.split())
    assert looked.count(" checked") == 4 and "=B6*B$3" in looked
    assert revision(client) == before
    made = client.post(MAP, data={"chosen": keys, "make": "yes", "revision": revision(client)})
    assert "4 mends made" in made.text and form(client)[1] == []
    assert broken.select("C9").scene["text"] == "=B9*B$3"
    broken.act("undo")
    assert broken.notice.startswith("Taken back: 4 mends on To mend, on To mend")
    assert len(form(client)[1]) == 4


def test_one_is_mended_by_itself_and_what_is_gone_is_told(client):
    _, keys = form(client)
    made = client.post(MAP, data={"only": keys[0], "revision": revision(client)})
    assert "1 mend made" in made.text and len(form(client)[1]) == 3
    for stale in ({"only": keys[0]}, {"chosen": []}, {"chosen": ["input-slid 9 Z9"]}):
        again = client.post(MAP, data={**stale, "revision": revision(client)})
        assert "None of these findings is there any more" in again.text
    old = client.post(MAP, data={"only": keys[1], "revision": 0})
    assert "changed" in old.text and len(form(client)[1]) == 3
    assert client.post("/workbooks/1/sheets/99/map", data={}).status_code == 404


def test_a_paste_tells_what_is_found_in_it(page, tells):
    page.select("H3").act("paste", pasted="Item\tkg\tall\nFlour\t3\t=I4*2\nOil\t4\t=I5*2")
    assert "look" not in page.notice
    page.act("paste", anchor="A14", focus="A14", clip_sheet=4, clip_area="A3:D9")
    assert re.search(r"\d findings?, look", page.notice)
    wish = re.search(r'data-action="check-at" data-to="([^"]*)"', page.html)[1]
    page.act("check-at", to=wish)
    assert "In doubt" in page.text or "Broken" in page.text
    page.write("A1", "=1").act("check-at", to=wish)
    tells(page.notice)


def test_a_workbook_from_a_file_is_looked_through(page, tells):
    page.act("look-around")
    assert page.notice.startswith("Opened, with findings: 1 on Prices, 4 on To mend.")
    tells(page.notice)
