"""Rows and columns inserted and deleted on the workbench, over HTTP."""

import re

DIALOG = "/workbooks/1/sheets/2/selection"


def test_rows_are_inserted_and_deleted_and_all_follows(page, tells):
    page.act("give-name", to="nights", says="Loads!$C$4:$F$4")
    page.act("insert-lines", anchor="C4", focus="D5", axis="row")
    assert page.notice.startswith("Inserted rows 4 to 5. ")
    assert page.state["anchor"] == "C4" and page.state["focus"] == "D5"
    page.select("F12")
    assert page.scene["text"] == "=$B12*F$6"
    page.act("insert-lines", anchor="C6", focus="C6", axis="column", move="right")
    assert page.state["anchor"] == "D6"
    page.act("delete-lines", anchor="A6", focus="A6", axis="row")
    tells(page.notice)
    page.act("undo").act("undo").act("undo")
    page.select("F10")
    assert page.scene["text"] == "=$B10*F$4"


def offered(page, action):
    """Take what the notice offers to do next."""
    button = re.search(rf'<button[^>]*data-action="{action}"[^>]*>', page.html)[0]
    wish = dict(re.findall(r'data-(\w+)="([^"]*)"', button))
    return page.act(wish.pop("action"), **wish)


def test_an_inserted_line_is_offered_the_formulas_around_it(page, tells):
    page.act("insert-lines", anchor="A8", focus="A8", axis="row")
    tells(page.notice)
    offered(page, "take-along")
    assert page.notice.startswith("Taken along: C8:F8")
    assert page.select("D8").scene["text"] == "=$B8*D$4"
    page.act("insert-lines", anchor="D1", focus="D1", axis="column")
    offered(page, "take-along")
    assert page.select("D13").scene["text"] == "=SUM(D5:D11)"


def test_a_landing_that_was_changed_is_told_and_the_others_can_be_the_same(page, tells):
    page.enter("D7", "=$B7*D$4*2")
    tells(page.notice)
    offered(page, "same-in-all")
    assert page.select("F10").scene["text"] == "=$B10*F$4*2"
    wish = {"to": "F10", "offered": page.state["revision"]}
    page.act("same-in-all", says="A1:ZZZ1000000", **wish)
    tells(page.notice)
    page.enter("D7", "12")
    assert page.notice.startswith("D7 holds no formula any more, unlike the other 23")


def test_the_dialog_tells_what_a_deletion_would_cost(client, page):
    text = client.get(DIALOG, params={"area": "C7:C8"}).text
    assert "Delete rows 7 to 8" in text and "Insert 1 column left" in text
    assert "Deleting takes 12 filled cells away" in text
    assert "2 formulas would lose a reference for good" in text and "Prices!C9" in text
    whole = client.get(DIALOG, params={"area": "7:7"}).text
    assert "Delete row 7" in whole and "Delete column" not in whole
    assert client.get(DIALOG, params={"area": "7"}).status_code == 422


def test_what_cannot_be_inserted_is_refused_with_a_reason(page, tells):
    page.act("insert-lines", anchor="A1", focus="A10001", axis="row")
    tells(page.notice)
    page.enter("A1000000", "7")
    page.act("insert-lines", anchor="A3", focus="A3", axis="row")
    tells(page.notice)


def test_an_older_page_is_brought_up_to_date_before_it_inserts(page, second_page, tells):
    page.act("insert-lines", anchor="A5", focus="A5", axis="row")
    second_page.act("insert-lines", anchor="A5", focus="A5", axis="row")
    tells(second_page.notice)
    assert second_page.shown("A6", "A7") == ["Flour", "Lentils"]
    second_page.act("insert-lines", anchor="A5", focus="A5", axis="row")
    assert second_page.shown("A7", "A8") == ["Flour", "Lentils"]


def test_a_name_is_pointed_anew_by_its_page(client, page, tells):
    page.act("give-name", to="nights", says="Loads!$C$4")
    page.act("name-anew", to="nights")
    assert page.state["anchor"] == "C4" and "Select what nights is to stand for" in page.notice
    page.act("name-anew", to="nobody")
    tells(page.notice)
    asked = client.get(
        "/workbooks/1/names/dialog", params={"sheet": 2, "area": "C4:F4", "name": "nights"}
    ).text
    assert 'value="nights"' in asked and "checked" in asked


def test_text_and_copies_go_to_several_places_but_not_too_many(page, tells):
    page.act("go-to", to="H5,H8").act("paste", pasted="1\t2")
    assert page.shown("H5", "I5", "H8", "I8") == ["1", "2", "1", "2"]
    page.act("undo")
    many = ",".join(f"A{row}" for row in range(20, 150))
    page.act("go-to", to=many)
    assert page.state["also"].count(",") == 99
    page.act("go-to", to="H5,,H6")
    tells(page.notice)


def test_lookups_that_count_over_a_column_are_told_before_it_goes_and_after(client, page):
    for at, text in {"J1": "Code", "K1": "Item", "L1": "Price", "J2": "P1", "K2": "Flour",
                     "L2": "1.2", "N2": "=VLOOKUP(J2,J2:L2,3,FALSE)"}.items():  # fmt: skip
        page.enter(at, text)
    asked = " ".join(client.get(DIALOG, params={"area": "K:K"}).text.split())
    assert "Lookups count over it by number, and would give another column: Loads!N2." in asked
    page.act("insert-lines", anchor="K1", focus="K1", axis="column")
    assert "Lookups count over columns by number there: look at N2." in page.notice


def test_formulas_that_move_along_are_told(page):
    page.enter("J5", "1").enter("K5", "=J5*2")
    page.act("show", sheet=page.state["sheet"])
    page.act("insert-lines", anchor="A40", focus="A40", axis="row")
    assert "No formula had to follow." in page.notice
    page.enter("J50", "1").enter("K50", "=J50*2")
    page.act("insert-lines", anchor="A45", focus="A45", axis="row")
    assert "1 formula moved along and reads on what was read before." in page.notice
