"""Looks of cells: chosen in the band, shown in the grid, told in the panel, kept and undone."""

import pytest


def kind(page, address):
    at = (ord(address[0]) - 64, int(address[1:]))
    cells = {(cell["column"], cell["row"]): cell for cell in page.scene["cells"]}
    return cells[at]["kind"].split() if at in cells else []


@pytest.mark.parametrize(
    ("action", "wish", "shown"),
    [
        ("format-numbers", {"form": "percent"}, "5880%"),
        ("format-numbers", {"form": "currency:CHF"}, "CHF\u00a058.80"),
        ("format-numbers", {"form": "scientific"}, "5.88E+1"),
        ("count-decimals", {"steps": 1}, "58.80"),
        ("count-decimals", {"steps": -1}, "59"),
        ("group-thousands", {}, "58.8"),
    ],
)
def test_a_number_format_is_given_to_the_selection_and_taken_back(page, action, wish, shown):
    page.select("F7", "F8").act(action, **wish)
    assert page.shown("F7")[0] == shown
    page.act("undo")
    assert page.shown("F7", "F8") == ["58.8", "11.8"]


def test_what_a_cell_holds_and_what_it_shows_are_told_apart(page):
    page.select("F10")
    assert "holds 5.88, shows 5.9" in page.text
    page.enter("H5", "12.5%").select("H5")
    assert "holds 0.125 , shows 12.5%" in page.text
    page.enter("H6", "7").select("H6")
    assert "holds" not in page.text and "shows 7" in page.text


def test_a_number_without_room_says_so_instead_of_showing_other_digits(page):
    page.enter("H5", "1234567.25").act("format-numbers", form="number", anchor="H5", focus="H5")
    page.act("resize-lines", axis="column", at=8, size=70)
    assert page.shown("H5") == ["↔"]
    (cell,) = [each for each in page.scene["cells"] if (each["column"], each["row"]) == (8, 5)]
    assert cell["hidden"] == "1234567.25"
    page.act("fit-lines", axis="column", at=8)
    assert page.shown("H5") == ["1234567.25"]


def test_cells_are_dressed_empty_ones_too_and_what_is_there_stays(page, tells):
    page.select("C5", "G5")
    for name, value in (("bold", ""), ("ink", "rose"), ("ground", "lake"), ("size", "large")):
        page.act("dress", name=name, value=value)
    page.act("draw-edges", edges="around double")
    assert {"bold", "ink-rose", "ground-lake", "size-large", "left-double"} <= set(
        kind(page, "C5")
    )
    assert {"ground-lake", "right-double"} <= set(kind(page, "G5")) and page.shown("C5") == [
        "50.4"
    ]
    page.act("dress", name="bold").act("dress", name="ground", value="none")
    assert not {"bold", "ground-lake"} & {*kind(page, "C5"), *kind(page, "D5")}
    for _ in range(7):
        page.act("undo")
    assert kind(page, "C5") == ["number", "plain", "rule-larch", "formula"]
    assert kind(page, "G5") == []
    for wish in ({"name": "ink", "value": "pink"}, {"name": "size", "value": "9"}):
        page.act("dress", **wish)
        tells(page.notice)
    page.act("format-numbers", form="currency:XYZ")
    tells(page.notice)


def test_a_title_is_centred_over_the_empty_cells_that_follow(page):
    page.select("A1", "D1").act("dress", name="across", value="spanning")
    (title,) = [each for each in page.scene["cells"] if (each["column"], each["row"]) == (1, 1)]
    assert title["spans"] == 3 and "across-spanning" in title["kind"]
    page.enter("C1", "x")
    (title,) = [each for each in page.scene["cells"] if (each["column"], each["row"]) == (1, 1)]
    assert title["spans"] == 1


def test_a_look_is_taken_and_given_until_it_is_let_go(page):
    page.select("B5", "B6").act("take-look")
    assert page.notice.startswith("The look of B5:B6 is taken.")
    assert page.state["look_taken"] == "2 B5:B6"
    page.select("H5", "H8").act("give-look")
    page.enter("H5", "7")
    assert page.shown("H5") == ["7.00"] and kind(page, "H8") == ["input"]
    page.act("show", look_taken="").act("give-look")
    assert page.notice.startswith("No look was taken.")


def test_inputs_and_results_are_marked(page, tells):
    page.select("C12", "F12").act("mark", role="result")
    tells(page.notice)
    assert "result" in kind(page, "C12")
    page.act("mark", role="result")
    tells(page.notice)
    assert "result" not in kind(page, "C12")


def test_looks_travel_with_fills_and_copies_only_if_wanted(page):
    page.enter("H5", "=C5*2").act("dress", anchor="H5", focus="H5", name="ground", value="moss")
    rehearsed = {"anchor": "H5", "focus": "H5", "source": "H5", "target": "H5:H8"}
    page.act("land", **rehearsed)
    assert "ground-moss" in kind(page, "H8")
    page.act("undo").act("land", **rehearsed, bare="true")
    assert "ground-moss" not in kind(page, "H8") and page.shown("H8") == ["50.4"]


def test_a_workbook_says_how_numbers_are_written_and_reads_them_so(client, page, tells):
    dialog = client.get("/workbooks/1/sheets/2/numbers").text
    assert "German (Switzerland)" in dialog and "CHF, Swiss Franc" in dialog
    page.act("write-as", locale="de-DE")
    tells(page.notice)
    page.select("B5")
    assert page.scene["text"] == "0,12" and "shows 0,12" in page.text
    page.enter("B5", "0,15").select("C5")
    assert "63,0" in page.text and page.scene["text"] == "=$B5*C$4"
    page.enter("H1", "1.3.2026").enter("H2", "=2^0.5").select("H1", "H2")
    texts = {(cell["column"], cell["row"]): cell["shown"] for cell in page.scene["cells"]}
    assert texts[8, 1] == "1.3.2026" and texts[8, 2].startswith("1,414")
    copied = client.get("/workbooks/1/sheets/2/text", params={"area": "A5:C5"}).text
    assert copied == "Flour\t0,15\t63,0\n"
    page.enter("H3", "=ROUND(2,5*B6;1)").select("H3")
    assert page.scene["text"] == "=ROUND(2,5*B6;1)" and "2,5 ×" in page.text
    page.enter("H4", "=SUM(1,5)").select("H4")
    assert page.scene["text"] == "=SUM(1,5)"
    page.enter("H5", "=SUM(1,5)")
    assert "a number with decimals: arguments are parted by semicolons" in page.notice
    page.enter("C7", "=ROUND($B7*C4;1)").select("C7")
    assert "=$B7*C$4" in page.text
    page.act("write-as", locale="nowhere")
    tells(page.notice)
    page.select("A1").act("write-as", locale="")
    for _ in range(9):
        page.act("undo")
    assert page.select("B5").scene["text"] == "0.12"
