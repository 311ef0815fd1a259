"""Rows in order, cells and lines moved and duplicated, on the workbench."""

import re

from web_page import Page


def shown(page, column, rows=range(4, 16)):
    texts = {(cell["column"], cell["row"]): cell["shown"] for cell in page.scene["cells"]}
    return [texts.get((column, row), "") for row in rows]


def asked(client, path):
    answer = client.get(f"/workbooks/1/sheets/{path}")
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", answer.text))


def test_rows_are_ordered_after_a_look_at_what_strays(client, tells):
    dialog = asked(client, "3/order?area=B6")
    assert "Order rows of Season!A4:D15" in dialog and "B, Guests" in dialog
    table = "table=A3:D15&headed=true&by1=B&way1=down"
    preview = asked(client, f"3/ordered?{table}")
    assert "9 rows would change places" in preview
    assert "cannot follow: =SUM(B$4:B5) in C5 would read other rows" in preview
    assert "goes on reading the same cells: =B5/B4-1" in preview
    page = Page(client, sheet=3)
    order = {"headed": "true", "by1": "B", "way1": "down"}
    page.act("order-rows", table="A3:D15", **order)
    tells(page.notice)
    assert shown(page, 2, range(4, 8)) == ["204", "197", "188", "176"]
    assert page.state["anchor"] == "A4" and page.state["focus"] == "D15"
    page.act("order-rows", table="A3:D15", **order)
    tells(page.notice)
    page.act("undo")
    assert shown(page, 2, range(4, 6)) == ["118", "134"]
    assert "two rows" in asked(client, "3/ordered?table=A4:D4&by1=A")


def test_cells_move_and_lines_move_and_are_duplicated(page, tells):
    page.select("A5", "B6").act("move-cells", to="H20")
    tells(page.notice)
    assert page.state["anchor"] == "H20"
    page.act("go-to", to="C5")
    assert page.state["text"] is None and "=$I20*C$4" in page.scene["text"]
    page.act("undo").select("A6", "XXD6").act("move-lines", axis="row", before=9)
    assert page.state["anchor"] == "A8"
    page.act("nudge-lines", axis="row", steps=-1)
    tells(page.notice)
    page.act("duplicate-lines", axis="row")
    assert shown(page, 1, range(5, 10)) == ["Flour", "Potatoes", "Lentils", "Lentils", "Cheese"]
    page.act("nudge-lines", axis="row", steps=1, also="A1:B2")
    tells(page.notice)
    page.select("A1", "XXD1").act("nudge-lines", axis="row", steps=-1, also="")
    tells(page.notice)


def test_another_page_keeps_its_place_when_lines_move(page, second_page):
    second_page.select("C9")
    page.select("A5", "XXD5").act("move-lines", axis="row", before=13)
    second_page.act("show")
    assert second_page.state["anchor"] == "C8"
