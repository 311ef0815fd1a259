"""Sizes, hidden rows and columns, and headings that stay in view."""


def sizes(page, axis):
    return {line["number"]: line["size"] for line in page.scene[axis]["lines"]}


def test_the_edge_of_a_heading_sizes_its_line_or_all_that_are_selected(page, tells):
    page.select("A1")
    page.act("resize-lines", axis="column", at=4, size=64)
    tells(page.notice)
    assert sizes(page, "columns")[4] == 64
    page.select("B1", "C1000000").act("resize-lines", axis="column", at=3, size=70)
    assert [sizes(page, "columns")[n] for n in (1, 2, 3, 4)] == [110, 70, 70, 64]
    # Of cells that are selected only the grasped column is meant.
    page.select("B1", "C9").act("resize-lines", axis="column", at=3, size=80)
    assert [sizes(page, "columns")[n] for n in (2, 3)] == [70, 80]
    page.act("resize-lines", axis="row", at=3, size=60, view="both")
    assert sizes(page, "rows")[3] == 60 and page.act("show", view="values")
    assert sizes(page, "rows")[3] == 45
    page.act("undo").act("undo")
    assert sizes(page, "rows")[3] == 29 and sizes(page, "columns")[3] == 70
    tells(page.notice)


def test_a_column_is_fitted_to_what_it_shows(page, tells):
    page.enter("C5", "a long word about flour").act("fit-lines", axis="column", at=3)
    assert 150 < sizes(page, "columns")[3] < 200
    tells(page.notice)
    page.select("C5").act("clear").act("fit-lines", axis="column", at=3)
    assert 40 < sizes(page, "columns")[3] < 80
    page.select("A1", "ZZZ1").act("fit-lines", axis="column")
    assert sizes(page, "columns")[1] < 130
    page.act("fit-lines", axis="row", at=3)
    assert sizes(page, "rows")[3] == 29


def test_a_row_is_fitted_to_text_that_is_broken_into_lines(page):
    page.enter("H5", "flour for bread and for dumplings, bought in the valley")
    page.select("H5").act("fit-lines", axis="row", at=5)
    assert sizes(page, "rows")[5] == 29
    page.act("dress", name="wrap").act("fit-lines", axis="row", at=5)
    broken = sizes(page, "rows")[5]
    assert 60 < broken < 120
    page.act("dress", name="size", value="huge").act("fit-lines", axis="row", at=5)
    assert sizes(page, "rows")[5] > broken
    page.act("resize-lines", axis="row", at=30, size=70).act("fit-lines", axis="row", at=30)
    assert sizes(page, "rows").get(30, 29) == 29


def test_hidden_lines_are_read_but_not_seen_and_come_back(page, tells):
    page.select("C6", "D8").act("hide-lines", axis="row")
    tells(page.notice)
    rows = page.scene["rows"]["lines"]
    assert [row["number"] for row in rows[4:6]] == [5, 9] and rows[5]["gap"]
    assert page.shown("C5", "C7", "C12") == ["50.4", None, "256.2"]
    # What is entered goes on past them, and stays where the sheet ends.
    page.enter("H5", "1", move="down")
    assert page.state["anchor"] == "H9" and page.act("undo")
    page.enter("H9", "1", move="up")
    assert page.state["anchor"] == "H5" and page.act("undo")
    said = page.client.get("/workbooks/1/sheets/2/selection?area=C5").text
    assert "Show rows 6 to 8" in said
    page.select("C9").act("show-lines", axis="row")
    tells(page.notice)
    assert page.shown("C7") == ["126.0"]
    page.select("A1", "ZZZ1").act("hide-lines", axis="column")
    tells(page.notice)


def test_headings_stay_in_view_as_proposed_or_as_told(page, tells):
    page.act("keep-in-view")
    tells(page.notice)
    page.act("go-to", to="Loads!H200")
    rows, columns = page.scene["rows"], page.scene["columns"]
    assert [row["number"] for row in rows["lines"][:4]] == [1, 2, 3, 4] and rows["fixed"] == 4
    assert columns["fixed"] == 2 and page.shown("A3", "B5") == ["Item", None]
    page.act("keep-in-view")
    tells(page.notice)
    page.act("keep-in-view", rows=1, columns=0)
    tells(page.notice)
    assert page.scene["rows"]["fixed"] == 1
    page.act("keep-in-view", rows=21)
    tells(page.notice)
