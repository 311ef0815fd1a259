"""Ways about the cells, entries in many at once, findings in turn, and what is said aloud."""

import re

import pytest
from web_page import Page


def said(page):
    return page.scene["heard"]["says"]


@pytest.mark.parametrize(
    ("at", "action", "wish", "lands"),
    [
        ("C5", "go-far", {"end": "row"}, "F5 F5"),
        ("C5", "go-far", {"end": "sheet"}, "F12 F12"),
        ("C5", "go-far", {"end": "row", "widen": "true"}, "C5 F5"),
        ("H30", "go-far", {"end": "row"}, "A30 A30"),
        ("C5", "select-all", {}, "A1 F12"),
    ],
)
def test_ends_of_what_is_filled_are_a_key_away(page, at, action, wish, lands):
    page.select(at).act(action, **wish)
    assert f"{page.state['anchor']} {page.state['focus']}" == lands


def test_all_of_the_sheet_is_selected_at_second_asking(page):
    page.act("select-all").act("select-all")
    assert (page.state["anchor"], page.state["focus"]) == ("A1", "ZZZ1000000")


def test_entries_go_round_in_the_area_that_was_selected(page):
    writes = {"anchor": "H2", "focus": "I3", "over": "H2:I3"}
    page.act("enter", writing="H2", text="1", move="down", **writes)
    assert (page.state["anchor"], page.state["focus"], page.state["inner"]) == ("H2", "I3", "H3")
    page.act("enter", writing="I3", text="2", move="right", **writes)
    assert page.state["inner"] == "H2"
    page.act("enter", move="up")
    assert page.state["inner"] == "I3"
    assert said(page) == "Selected H2 to I3, sum 3, average 1.5, 2 numbers. I3: 2."


def test_an_entry_is_kept_in_all_cells_a_formula_as_a_fill_would(page):
    writes = {"anchor": "H5", "focus": "I6", "over": "G1,H5:I6", "writing": "H5"}
    page.act("enter-in-all", text="=G5+1", **writes)
    assert page.shown("H5", "I6", "G1") == ["1", "2", "1"]
    page.act("undo").act("enter-in-all", text="5%", **writes)
    assert page.shown("H5", "I6", "G1") == ["5%", "5%", "5%"]
    assert "Kept in 5 cells: G1, H5:I6." in page.text
    page.act("undo")
    assert page.shown("H5", "G1") == [None, None]


def test_a_text_of_several_lines_has_room_for_them(page):
    before = {line["number"]: line["size"] for line in page.scene["rows"]["lines"]}
    page.enter("H5", "in the hut\nor below it")
    after = {line["number"]: line["size"] for line in page.scene["rows"]["lines"]}
    assert after[5] > before[5] and after[6] == before[6]
    page.act("undo")
    assert {line["number"]: line["size"] for line in page.scene["rows"]["lines"]} == before


def test_findings_are_walked_and_the_references_aimed_one_after_the_other(client):
    page = Page(client, sheet=4)
    page.act("walk-findings", rows=1)
    assert page.notice == "Finding 1 of 4, at C7."
    page.act("walk-findings", rows=-1)
    assert page.notice.startswith("Finding 4 of 4")
    page.select("C8").act("aim-next")
    assert page.state["aiming"] == 0
    page.act("aim-next")
    assert page.state["aiming"] == 1 and "b</span> should read; Enter" in page.html
    page.act("aim-next")
    assert page.state["aiming"] == -1
    page.select("A1").act("aim-next")
    assert "nothing to aim" in page.notice


@pytest.mark.parametrize(
    ("cell", "says"),
    [
        ("C4", "C4, Guest-nights, Kestrel, input. 420."),
        ("A1", "A1, title. Load for the first week, kg."),
        ("G20", "G20. empty."),
        ("C5", "C5, Flour, Kestrel. 50.4. formula =$B5*C$4. start of C5:F10."),
        (
            "E8",
            "E8, Cheese, Scree. 18.9. formula =$B8*E$4. landing of C5:F10."
            " a reads $B8, 0.06; b reads E$4, 315.",
        ),
    ],
)
def test_a_move_says_the_cell_its_heading_and_its_value(page, cell, says):
    assert said(page.select(cell)) == says


def test_errors_areas_and_what_is_written_are_said(page):
    page.enter("H5", "=A5*2").select("H5")
    assert said(page) == (
        "H5, Flour. error #VALUE!: “Flour” is text where a number is needed. formula =A5*2."
        " Broken: a reads A5, the text “Flour”, in H5."
    )
    assert said(page.select("C5", "D6")).startswith("Selected C5 to D6, sum 140")
    assert said(page.write("H6", "=B6*")).startswith("Writing H6. ")
    assert "would give 0.16. a B6, column moves, row moves" in said(page.write("H6", "=B6*2"))


def test_equal_references_share_a_card_a_letter_and_a_frame(page):
    page.write("H5", "=$B5*C$4+$B5/$B5")
    assert page.html.count('class="card-ref"') == 2
    assert "3 times" in page.text
    assert [frame["tag"] for frame in page.scene["frames"]] == ["a", "b"]
    assert [chip["index"] for chip in page.scene["chips"]] == [0, 1, 0, 0]
    page.act("lock", index=0, axis="column", lock="moves")
    assert page.state["text"] == "=B5*C$4+B5/B5"


def test_a_long_formula_opens_part_by_part(page):
    page.write("H5", "=IF($B5*C$4>500,$B5,ROUND(C$4/7,1))").act("open-formula")
    parts = re.findall(r'<li class="depth-(\d)( not-taken)?"', page.html)
    assert parts == [("0", ""), ("1", ""), ("1", " not-taken"), ("1", "")]
    assert "0.12 × 420 is at most 500" in page.text and "not needed" in page.text
    page.act("open-formula")
    assert 'class="parts"' not in page.html


def test_the_reads_map_draws_what_feeds_what_and_leads_there(client):
    page = client.get("/workbooks/1/reads").text
    assert "10 inputs" in page and "9 results" in page
    boxes = dict(re.findall(r'class="knot \w+" data-number="(\d+)"\s+aria-label="([^,"]+)', page))
    drawn = re.findall(r'data-start="(\d+)" data-end="(\d+)"', page)
    ties = {(boxes[start], boxes[end]) for start, end in drawn}
    assert ("Loads!B5:B10", "Loads!C5:F10") in ties
    assert ("Loads!C5:F10", "Prices!C7:C12") in ties
    assert ("Prices!C7:C12", "Loads!C5:F10") not in ties
    empty = client.post("/workbooks", data={"name": "Empty"}, follow_redirects=True)
    number = re.search(r"/workbooks/(\d+)/", str(empty.url))[1]
    assert "nothing is read" in client.get(f"/workbooks/{number}/reads").text


def test_the_shift_log_draws_an_arrow_from_each_landing(client):
    page = client.get("/workbooks/1/sheets/2/log?cell=C5").text
    figures = page.split("<figure")[1:]
    assert [figure.count("data-landing") for figure in figures] == [24, 24]
    # What column B reads stays in it: its arrows end there, whatever column they come from.
    ends = [set(re.findall(r'x2="([\d.]+)"', figure)) for figure in figures]
    assert len(ends[0]) == 1 and len(ends[1]) == 4
    elsewhere = client.get("/workbooks/1/sheets/1/log?cell=C7").text
    assert "on Loads" in elsewhere and "reads too far away" in elsewhere


def test_four_ways_tell_what_each_landing_reads(client):
    page = client.get("/workbooks/1/sheets/2/four-ways?cell=C5").text
    assert page.count('<table role="grid"') == 4
    for reads in ("E8 reads D8: 7,056.0", "E8 reads $B8: 0.06", "E8 reads $B$5: 0.12"):
        assert reads in page
    # The rails of $B8 in the third way: its columns are locked, its rows are free.
    assert 'data-reads="E8 reads $B8: 0.06" data-frame="1 5 2 6 1 0 1 0"' in page


def test_names_are_drawn_and_found_as_one_types(client):
    page = client.get("/workbooks/1/names?q=cost").text
    assert page.count('class="small-sheet"') == 1 and "Prices!B15" in page


def test_the_shape_map_marks_findings_and_reads_shapes(client):
    page = client.get("/workbooks/1/sheets/4/map").text
    assert page.count('class="mark"') == 4
    assert "The cell to the left × this column, always row 14" in page
