"""Findings, mends, aim, pasting and trials over HTTP, and the pages beside the workbench."""

import csv
import io
import re

from dreieck.core.checking.weighing import doubt
from dreieck.core.editing.fill import Fill
from dreieck.demo import hut_supplies as demo


def rules(page):
    return re.findall(r'<section class="finding \w+" data-rule="([a-z-]+)"', page.html)


def test_the_panel_tells_what_is_wrong_with_a_block_and_counts_it(broken):
    broken.select("C8")
    assert rules(broken) == ["input-slid"]
    assert (
        "b slides off B3 (“Carrying price, per kg”): C7 reads B4, which is empty." in broken.text
    )
    assert (
        "Of that comes: C7 is 0; C8 shows #VALUE!; C9 is larger than with the mend." in broken.text
    )
    assert "1 sound 2 in doubt 1 broken" in broken.text


def test_a_mend_is_one_action_and_is_looked_at_again(broken, tells):
    broken.select("C8")
    broken.act("mend", rule="input-slid", index=1, to="C7", mend=0)
    tells(broken.notice)
    assert rules(broken) == [] and "4 sound" in broken.text
    broken.act("undo")
    assert len(rules(broken)) == 1


def test_a_mend_that_is_no_longer_there_is_refused(broken, tells):
    broken.select("C8")
    broken.act("mend", rule="input-slid", index=0, to="C7", mend=0)
    tells(broken.notice)


def test_a_finding_that_is_meant_says_why_until_it_is_asked_again(broken, tells):
    broken.select("C8").act("show", step="check")
    asked = {"rule": "input-slid", "index": 1, "to": "C7"}
    for reason in (" ", "a price & its rise"):
        broken.act("mean", reason=reason, **asked)
        tells(broken.notice)
    assert "It is meant: a price & its rise Ask again" in broken.text
    assert "2 in doubt" not in broken.text and rules(broken)[0] == "input-slid"
    broken.act("ask-again", **asked)
    tells(broken.notice)
    assert "1 sound 2 in doubt 1 broken" in broken.text
    broken.act("undo").act("undo")
    broken.act("ask-again", **asked)
    tells(broken.notice)


def test_the_sheet_is_checked_where_no_formula_is_chosen(broken, page):
    broken.select("G1").act("show", step="check")
    assert rules(broken) == ["input-slid", "input-slid", "misses-neighbours", "input-slid"]
    page.select("G1").act("show", step="check")
    assert "Nothing is in doubt" in page.text


def pulled(page, source, target, text=None, **wish):
    return page.act(
        "release", anchor=source, focus=source, source=source, target=target, text=text,
        writing=source if text else None, **wish,
    )  # fmt: skip


def test_a_pulled_fill_without_doubts_lands_and_another_one_waits(page, tells):
    page.enter("G5", "=SUM(C5:F5)")
    pulled(page, "G5", "G5:G10")
    tells(page.notice)
    page.enter("H5", "=G5*G4")
    pulled(page, "H5", "H5:H10")
    tells(page.notice)
    assert page.state["target"] == "H5:H10"
    page.act("land")
    tells(page.notice)


def test_a_pulled_fill_waits_where_it_overwrites_or_is_told_to(page, tells):
    page.enter("G5", "=SUM(C5:F5)").enter("G7", "5")
    pulled(page, "G5", "G5:G10")
    tells(page.notice)
    page.act("show", target="", source="")
    page.select("G7").act("clear")
    pulled(page, "G5", "G5:G10", wait=True)
    assert page.notice == "" and page.state["target"] == "G5:G10"


def test_filling_back_offers_to_clear_the_rest(page):
    page.act("show", anchor="C5", focus="C5", source="C5", target="C5:D6")
    assert "C7:F10, E5:F6 hold the rest of an older fill" in page.text
    page.act("land", clear=True)
    assert page.shown("C5", "D6", "E5", "C7") == ["50.4", "22.4", None, None]


def test_aim_finds_the_locks_or_says_why_not(page, tells):
    page.enter("C5", "=B5*C4")
    page.act("show", anchor="C5", focus="C5", source="C5", target="C5:F10")
    page.act("begin-aim", index=0)
    assert page.notice.startswith("Point at what") and "should read in Loads!F10" in page.notice
    page.act("show-sheet", index=1).act("find-locks", to="B10")
    tells(page.notice)
    page.act("stop-aim")
    assert page.state["sheet"] == 2 and page.scene["state"]["aiming"] == -1
    page.act("begin-aim", index=0).act("find-locks", to="B10")
    page.act("find-locks", index=1, to="F4")
    assert page.scene["text"] == "=$B5*C$4" and "24 sound" in page.text
    page.act("find-locks", index=1, to="D7")
    tells(page.notice)
    assert page.scene["text"] == "=$B5*C$4"


def test_likely_locks_are_taken_by_a_click(page):
    page.enter("C5", "=B5*C4")
    page.act("show", anchor="C5", focus="C5", source="C5", target="C5:F10")
    page.act("advise")
    assert "=$B5*C$4" in page.text and "nothing is in doubt" in page.text
    page.act("take-formula", to="=$B5*C$4")
    assert page.scene["text"] == "=$B5*C$4" and page.state["target"] == "C5:F10"


def clip(area, sheet=2, **more):
    return {"clip_workbook": 1, "clip_sheet": sheet, "clip_area": area, **more}


def test_copied_cells_and_text_are_pasted_and_then_rather_only_values(page, tells):
    page.select("H5").act("paste", **clip("C5:D6"))
    tells(page.notice)
    assert "Rather only" in page.html
    page.select("H5", "H5").act("paste-as", what="values", **clip("C5:D6"))
    assert page.shown("H5", "I6") == ["50.4", "22.4"]
    assert page.select("H5").scene["text"] == "50.4"
    page.select("H8").act("paste", pasted="1\t2\n3\t=H8*5\n")
    assert page.shown("H8", "I8", "H9", "I9") == ["1", "2", "3", "5"]
    page.act("undo")
    assert page.shown("H8", "I9") == [None, None]


def test_several_places_are_pasted_into_cleared_and_counted_at_once(page, tells):
    page.act("go-to", to="H5, J6:J7,L5")
    assert (page.state["anchor"], page.state["also"]) == ("L5", "H5,J6:J7")
    assert "Loads!H5, J6:J7, L5" in page.text
    page.act("paste", **clip("C6"))
    assert page.shown("H5", "J6", "J7", "L5") == ["0.0"] * 4
    page.act("paste-as", what="values", **clip("C6"))
    assert page.shown("H5", "J6", "J7", "L5") == ["33.6"] * 4 and "sum 134.4" in page.text
    page.act("paste", **clip("C6", clip_cut=True))
    tells(page.notice)
    page.act("mark")
    assert page.notice.startswith("H5, J6:J7, L5: input from now on")
    page.act("clear")
    assert page.shown("H5", "J7", "L5") == [""] * 3
    page.act("undo").act("undo").act("undo")
    assert page.shown("H5", "J6", "J7", "L5") == [None] * 4
    page.act("go-to", to="H5,nothing")
    tells(page.notice)


def test_cut_cells_move_and_are_followed(page, tells):
    page.select("H4").act("paste", **clip("C4", clip_cut=True))
    assert page.select("C5").scene["text"] == "=$B5*$H$4".replace("$H", "H")
    assert page.shown("C5", "H4", "C4") == ["50.4", "420", None]
    page.act("paste", clip_area="")
    tells(page.notice)


def test_text_for_other_programs(client):
    answer = client.get("/workbooks/1/sheets/2/text", params={"area": "A4:C5"})
    assert answer.text == "Guest-nights\t\t420\nFlour\t0.12\t50.4\n"
    assert client.get("/workbooks/1/sheets/2/text", params={"area": "?"}).status_code == 422


def test_an_input_is_tried_out_kept_or_given_back(broken, tells):
    broken.select("B3").act("try-value", to="2")
    assert "C7:C9 should have answered too" in broken.text and broken.shown("C6") == ["290.60"]
    broken.act("show-sheet", index=1)
    assert "Trying 2 in 'To mend'!B3 : " in broken.text
    broken.act("show-sheet", index=4).act("give-back")
    assert broken.shown("B3", "C6") == ["1.80", "261.54"]
    broken.select("B3")
    broken.act("try-value", to="2").act("keep-trial")
    assert broken.shown("B3", "C6") == ["2.00", "290.60"]
    broken.select("A3").act("try-value", to="2")
    tells(broken.notice)


def test_plain_values_count_on_and_one_key_copies_them(page):
    page.enter("H5", "1").enter("H6", "3")
    page.act("show", anchor="H5", focus="H6", source="H5:H6", target="H5:H9")
    assert page.shown("H9") == ["9"] and "count on" in page.text
    page.act("switch-values")
    assert page.shown("H9") == ["1"]


def test_alongside_reaches_the_end_of_the_list(page, tells):
    page.enter("G5", "=SUM(C5:F5)").select("G5").act("alongside")
    assert page.state["target"] == "G5:G10" and "down to G10" in page.notice
    page.act("land").select("K30").act("alongside")
    tells(page.notice)


LOG = "/workbooks/1/sheets/4/log"


def test_the_shift_log_is_filtered_and_saved(client):
    whole = client.get(LOG, params={"cell": "C9"}).text
    assert whole.count("<tr class=") == 8 and "Carrying price, per kg" in whole
    some = client.get(LOG, params={"cell": "C9", "reference": 1, "state": "doubt"}).text
    assert some.count("<tr class=") == 2
    assert client.get(LOG, params={"cell": "C9", "line": "8"}).text.count("<tr class=") == 2
    rows = list(csv.DictReader(io.StringIO(client.get(LOG + ".csv", params={"cell": "C9"}).text)))
    assert len(rows) == 8
    assert (rows[5]["landing"], rows[5]["here"], rows[5]["rows"]) == ("C8", "B5", "2")
    assert client.get(LOG, params={"cell": "A1"}).status_code == 404


def test_the_log_tells_the_corners_of_a_range_apart(client):
    log = client.get("/workbooks/1/sheets/3/log", params={"cell": "C9", "line": "9"}).text
    assert "first corner stays, last 5 down" in log
    assert "first corner row, last nothing" in log and "Guests, Week 1 to Week 6" in log


def test_the_log_of_a_long_block_comes_page_by_page(client, page):
    page.enter("K1", "=J1*2")
    page.act("rehearse", anchor="K1", focus="K1", to="K1:K100000").act("land")
    log = "/workbooks/1/sheets/2/log"
    first = client.get(log, params={"cell": "K1"}).text
    assert first.count("<tr class=") == 60 and "first=60" in first
    more = client.get(log, params={"cell": "K1", "first": 99_960}, headers={"HX-Request": "true"})
    assert more.text.count("<tr class=") == 40 and "K100000" in more.text


def test_four_ways_are_shown_and_one_is_taken(client, page):
    path = "/workbooks/1/sheets/2/four-ways"
    text = client.get(path, params={"cell": "D7"}).text
    assert all(formula in text for formula in ("=B5*C$4", "=B$5*C$4", "=$B$5*C$4"))
    form = {"cell": "C5", "to": "C5:F10", "formula": "=$B$5*C$4"}
    form["revision"] = page.scene["revision"]
    answer = client.post(path, data=form, follow_redirects=False)
    assert answer.status_code == 303
    assert page.act("show").shown("C6", "F10") == ["50.4", "23.5"]
    assert client.get(path, params={"cell": "A1"}).status_code == 404


def test_four_ways_have_a_table_of_ones_own(client):
    own = client.get("/four-ways").text
    assert "=B3*C2" in own
    numbers = re.findall(r'<input name="(\w+)"[^>]* class="number"', own)
    assert "B3" in numbers and "A3" not in numbers
    form = {"A1": "2", "B1": "=A1*3", "cell": "B1", "to": "B1:B3", "view": "formulas"}
    assert "=A3*3" in client.post("/four-ways", data=form).text
    taken = client.post("/four-ways", data={**form, "take": "=$A$1*3"}).text
    assert taken.count("=$A$1*3") > 3
    assert "holds no formula" in client.post("/four-ways", data={"cell": "A1"}).text


def test_the_shape_map_shows_blocks_and_breaks(client, page):
    page.enter("D7", "99")
    text = client.get("/workbooks/1/sheets/2/map").text
    assert "The number 99.0 stands in D7 where the block has =$B7*D$4." in text
    assert "C12:F12: =SUM(C5:C10)" in text
    page.enter("K1", "=J1*2").act("rehearse", anchor="K1", focus="K1", to="K1:K100000").act("land")
    assert "K1:K100000" in client.get("/workbooks/1/sheets/2/map").text
    assert client.get("/workbooks/1/sheets/99/map").status_code == 404


def test_check_gives_the_findings_of_the_page(client, broken):
    sheets = {sheet.name: sheet.entries for sheet in demo.sheets()}
    answer = client.post("/api/v1/check", json={"sheets": sheets, "names": demo.NAMES}).json()
    found = {
        block["area"]: [finding["rule"] for finding in block["findings"]]
        for block in answer["blocks"]
        if block["findings"]
    }
    assert set(found) == {
        "'To mend'!C6:C9", "'To mend'!D6:D9", "'To mend'!B10", "'To mend'!C15:E17", "Prices!E15",
    }  # fmt: skip
    assert found["'To mend'!C6:C9"] == rules(broken.select("C6"))
    first = answer["blocks"][-1]["findings"][0]
    assert first["mends"][0]["after"] == "=$B15*C$14" and first["cells"][0] == "'To mend'!D15"
    bad = client.post("/api/v1/check", json={"sheets": {"Loads": {"A0": "1"}}})
    assert bad.status_code == 422 and "not the address" in bad.json()["error"]


def test_a_rehearsal_weighs_its_locks_once_and_builds_its_edit_once(page, monkeypatch):
    looked, built = [], []
    look, build = doubt._doubt, Fill.edit
    monkeypatch.setattr(doubt, "_doubt", lambda subject: looked.append(1) or look(subject))
    monkeypatch.setattr(Fill, "edit", lambda fill: built.append(1) or build(fill))
    page.act("rehearse", anchor="C5", focus="C5", to="C5:F10", text="=B5*C$4", writing="C5")
    assert "b slides off" in page.text or "a slides off" in page.text
    assert (len(looked), len(built)) == (1, 1)
