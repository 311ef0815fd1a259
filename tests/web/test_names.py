"""Names, inputs and lifts over HTTP: given, used, rewritten, deleted; and what is refused."""

import re

NAMES = "/workbooks/1/names"


def revision(client):
    return client.app.state.library.open(1).revision


def post(client, path, **form):
    """What the page says after a form was sent."""
    answer = client.post(path, data={"revision": revision(client), **form})
    assert answer.status_code == 200, answer.text
    found = re.search(r'<p class="notice[^"]*"[^>]*>(.*?)</p>', answer.text)
    return found[1] if found else answer.text


def test_the_selection_is_named_and_the_name_is_used_followed_and_undone(client, page):
    page.act("give-name", anchor="C4", focus="C4", to="nights", says="Loads!$C$4")
    assert page.notice.startswith("nights stands for Loads!$C$4 now")
    page.enter("H5", "=nights*2")
    assert page.shown("H5") == ["840"]
    page.select("H5")
    assert "nights stays: Loads!$C$4" in page.text
    frame = page.scene["frames"][0]
    assert (frame["index"], frame["solid"], frame["area"]) == (-1, [True] * 4, [3, 4, 3, 4])
    page.act("go-to", to="NIGHTS")
    assert page.state["anchor"] == "C4"
    page.act("undo").act("undo").act("redo")
    page.enter("H6", "=nights")
    assert page.shown("H6") == ["420"]


def test_names_are_kept_over_a_restart(client, page):
    page.act("give-name", to="change", says="=B5/B4-1", anchor="B6", focus="B6")
    library = client.app.state.library
    library.close()
    named = library.open(1).workbook.names["change"]
    assert (named.kind, named.base.text) == ("formula by position", "A3")


def test_the_dialog_proposes_names_from_headings_which_are_taken_at_once(client, page, tells):
    text = client.get(f"{NAMES}/dialog", params={"sheet": 2, "area": "A3:D10"}).text
    assert "Loads!$A$3:$D$10" in text and "kg_a_guest_night" in text
    page.act("give-names", says="kestrel C4:C10\nlarch D4:D10")
    assert page.notice.startswith("2 names given")
    page.act("give-names", says="")
    tells(page.notice)
    bad = client.get(f"{NAMES}/dialog", params={"sheet": 2, "area": "?"})
    assert bad.status_code == 422


def test_a_refused_name_gets_a_reason_and_what_was_typed_is_still_there(client, page, tells):
    page.act("give-name", to="B5", says="Loads!$C$4")
    tells(page.notice)
    answer = client.post(
        f"{NAMES}/give", data={"revision": 0, "name": "B5", "says": "Loads!$C$4", "at": "A1"}
    )
    assert "“B5_” would do" in answer.text and 'value="Loads!$C$4"' in answer.text
    assert "cannot be" not in post(client, f"{NAMES}/give", name="rate", says="0.5")
    assert "already" in post(client, f"{NAMES}/give", name="Rate", says="0.5")
    page.act("show")
    page.act("give-name", to="rate", says="0.6", anew=True)
    tells(page.notice)


def test_names_are_renamed_aimed_searched_sorted_and_deleted(client, page):
    page.act("give-name", to="nights", says="Loads!$C$4", grows="down")
    page.enter("H5", "=SUM(nights)")
    whole = client.get(NAMES).text
    assert "growing range" in whole and "Loads!H5" in whole
    assert "called stay_nights now" in post(client, f"{NAMES}/nights/rename", to="stay_nights")
    assert page.select("H5").scene["text"] == "=SUM(stay_nights)"
    post(client, f"{NAMES}/stay_nights/aim", says="Loads!$C$4:$F$4")
    assert page.act("show").shown("H5") == ["1211"]
    assert "stay_nights" in client.get(NAMES, params={"q": "NIGHT", "sort": "uses"}).text
    assert "No name fits" in client.get(NAMES, params={"q": "zzz"}).text
    assert "is deleted" in post(client, f"{NAMES}/stay_nights/delete", keep="addresses")
    assert page.select("H5").scene["text"] == "=SUM($C$4:$F$4)"
    assert "deleted already" in post(client, f"{NAMES}/stay_nights/delete", keep="error")


def test_names_are_put_in_after_a_preview_that_proves_the_values(client, page):
    assert "Addresses are back" in post(client, f"{NAMES}/rewrite", way="out")
    text = client.get(f"{NAMES}/rewrite").text
    assert "=C7*$B$3" in text and "=C7*carry_price" in text
    assert "are the same before and after" in text
    only = client.get(f"{NAMES}/rewrite", params={"sheet": 1, "cell": "D7"}).text
    assert "No block reads" in only
    assert "Names are put in" in post(client, f"{NAMES}/rewrite", way="in")
    assert page.act("go-to", to="Prices!E9").scene["text"] == "=C9*carry_price"
    assert "Nothing would change" in post(client, f"{NAMES}/rewrite", way="in")
    assert "Addresses are back" in post(client, f"{NAMES}/rewrite", way="out")
    assert page.act("show").scene["text"] == "=C9*$B$3"


def test_what_is_odd_about_names_is_told_with_a_mend(client, page):
    page.act("give-name", to="guests", says="Season!$B$4:$B$9")
    text = client.get(NAMES).text
    assert "It stops short of its data, which goes on to B15." in text
    assert "Stretch to $B$15" in text and "No formula uses this name" in text


def test_the_log_tells_names_in_one_line(client, page):
    page.act("give-name", to="above", says="=H4", anchor="H5", focus="H5")
    page.act("give-name", to="rate", says="2", anchor="H5", focus="H5")
    page.enter("J5", "=above*rate*C5")
    log = client.get("/workbooks/1/sheets/2/log", params={"cell": "J5"}).text
    assert "moves along: the cell above" in log and "stays: 2" in log


def test_cells_are_marked_as_inputs_and_listed_with_their_headings(client, page, tells):
    page.act("mark", anchor="H8", focus="H9")
    tells(page.notice)
    text = client.get(NAMES).text
    assert "Loads!H8" in text and "Guest-nights, Kestrel" in text
    page.act("mark", anchor="H8", focus="H9")
    tells(page.notice)
    assert "Loads!H8" not in client.get(NAMES).text
    page.enter("C20", "12").act("mark", anchor="C20", focus="C20", says="Days of the week")
    assert page.shown("B20") == ["Days of the week"]
    assert "Days of the week" in client.get(NAMES).text
    page.act("mark", anchor="C20", focus="C20", says="Another")
    tells(page.notice)


def test_a_number_is_lifted_after_a_look_at_it(client, page):
    page.enter("H5", "=C5*1.75").act("rehearse", anchor="H5", focus="H5", to="H5:H10").act("land")
    text = client.get("/workbooks/1/lift").text
    assert "<b>1.75</b>" in text and "Loads!H5:H10" in text and "Season!" not in text
    form = {"chosen": "1.75 2 H5:H10", "sheet": "2", "cell": "B14", "label": "Dearer by"}
    form["revision"] = revision(client)
    look = client.post("/workbooks/1/lift", data=form).text
    assert "=C5*$B$14" in look and "are the same before and after" in look
    assert page.act("show").shown("B14") == [None]
    made = client.post("/workbooks/1/lift", data={**form, "make": "yes"}, follow_redirects=False)
    assert made.status_code == 303
    assert page.act("go-to", to="A14").scene["text"] == "Dearer by"
    page.enter("B14", "2").act("go-to", to="H5")
    assert page.shown("H5", "H10") == ["100.8", "25.2"]
    refused = client.post("/workbooks/1/lift", data={**form, "cell": "C4"}).text
    assert "Choose formulas with one number" in refused
    assert "12, 100" in client.get("/workbooks/1/lift").text
    assert "=B5/B4-1" in client.get("/workbooks/1/lift", params={"all": True}).text


def test_who_reads_a_cell_and_what_would_be_lost_counts_names(client, page, tells):
    page.act("show-sheet", index=1).select("B3")
    assert "6 cells read it directly: E7:E12" in page.text
    told = client.get("/workbooks/1/sheets/1/selection", params={"area": "A3:A3"}).text
    told = " ".join(told.split())
    assert "6 formulas would lose a reference for good" in told
    assert "What <b>carry_price</b>" in told and "stands for would be gone" in told
    page.act("delete-lines", anchor="A3", focus="A3", axis="row")
    tells(page.notice)


def test_a_formula_that_finds_its_place_while_it_is_worked_out_may_read_any_cell(page):
    page.enter("H9", "=OFFSET(A1,3,2)")
    page.select("C4")
    assert "H9 may read it too" in page.text
    assert "No formula reads this cell" not in page.select("H2").text


def test_names_are_proposed_told_by_how_they_grow_and_put_in_by_a_click(client, page, tells):
    text = client.get(f"{NAMES}/dialog", params={"sheet": 2, "area": "C4:C4"}).text
    assert 'value="guest_nights"' in text
    page.act("give-name", to="nights", says="Loads!$C$4", grows="right")
    assert page.notice.startswith("nights stands for Loads from C4 to the right now")
    page.act("give-name", to="double", says="=Loads!C4*2", anchor="C5", focus="C5")
    page.enter("D14", "=double").select("D14")
    assert "double moves along: here it is Loads!D13*2 0" in page.text
    page.write("H5", "=SUM(").act("show", caret=5)
    page.act("put-name", to="nights")
    assert (page.state["text"], page.state["caret"]) == ("=SUM(nights", 11)
    page.act("put-name", to="reserve")
    tells(page.notice)


def test_an_address_is_put_in_only_into_the_block_that_is_asked_about(client, page):
    page.act("give-name", to="price", says="Loads!$C$4")
    page.enter("H5", "=B5*$C$4").enter("I5", "=C5*$C$4").enter("H6", "=B6*C$4")
    rewrite = {"sheet": 2, "cell": "H6", "name": "price"}
    only = client.get(f"{NAMES}/rewrite", params=rewrite).text
    assert "Change 1 formula" in only and "=B6*price" in only and "Loads!H6" in only
    post(client, f"{NAMES}/rewrite", way="in", **rewrite)
    texts = {cell: page.select(cell).scene["text"] for cell in ("H5", "I5", "H6")}
    assert texts == {"H5": "=B5*$C$4", "I5": "=C5*$C$4", "H6": "=B6*price"}
