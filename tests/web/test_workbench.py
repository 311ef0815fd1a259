"""The actions of the workbench over HTTP, on the demo's sheet Loads."""

import re

import pytest

from dreieck.web.workbench.foot import foot
from dreieck.web.workbench.page_state import PageState
from dreieck.web.workbench.situation import Situation


def holds(page, index):
    """What is chosen on the switches of a card."""
    card = page.html.split('aria-label="Reference')[index + 1].split("</section>")[0]
    return [
        piece.split('data-lock="')[1].split('"')[0]
        for piece in card.split("<button")[1:]
        if 'aria-checked="true"' in piece
    ]


def test_the_first_scene_shows_the_sheet(client, page):
    assert client.get("/workbooks/1", follow_redirects=False).headers["location"].endswith("/2")
    html = client.get("/workbooks/1/sheets/2").text
    assert "Hut supplies: Loads" in html and 'aria-current="page">Loads' in page.html
    assert page.shown("A5", "B5", "C5", "F10", "A11") == ["Flour", "0.12", "50.4", "5.9", None]


def test_writing_shows_cards_rails_and_what_it_would_give(page):
    page.write("C5", "=$B5*C$4")
    assert "would give 50.4" in page.text
    assert "Flour, kg a guest-night (always column B, this row) ×" in page.text
    assert (holds(page, 0), holds(page, 1)) == (["stays", "moves"], ["moves", "stays"])
    assert [(f["tag"], f["area"], f["solid"]) for f in page.scene["frames"]] == [
        ("a", [2, 5, 2, 5], [True, False, True, False]),
        ("b", [3, 4, 3, 4], [False, True, False, True]),
    ]
    assert [(c["start"], c["end"]) for c in page.scene["chips"]] == [(1, 4), (5, 8)]


def test_switches_keys_and_typed_locks_stay_in_step(page):
    page.write("C5", "=B5*C4+")
    page.act("lock", index=0, axis="column", lock="stays")
    assert page.state["text"] == "=$B5*C4+"
    page.act("lock", axis="row", caret=6)
    assert page.state["text"] == "=$B5*C$4+"
    assert (holds(page, 0), holds(page, 1)) == (["stays", "moves"], ["moves", "stays"])
    page.act("lock", axis="row")
    assert page.state["text"] == "=$B5*C4+"
    page.write("C5", "=SUM(B$4:B4)")
    assert holds(page, 0) == ["moves", "first"]
    page.act("lock", index=0, axis="column", lock="first")
    assert page.state["text"] == "=SUM($B$4:B4)"


def test_an_entry_is_kept_and_the_selection_moves(page, tells):
    page.enter("C4", "500", move="down")
    assert page.state["anchor"] == "C5" and page.state["text"] is None
    assert page.shown("C4", "C5", "C12") == ["500", "60.0", "305.0"]
    page.enter("G5", "=SUM(C5:F5", move="right")
    tells(page.notice)
    assert page.state["anchor"] == "H5"
    page.enter("G6", "12.5%")
    assert page.shown("G6") == ["12.5%"]


def test_a_formula_that_cannot_be_read_is_kept_with_its_place_marked(page):
    page.enter("G5", "=B5*)", move="down")
    assert page.state["anchor"] == "G5"
    assert page.shown("G5") == ["=B5*)"]
    assert "=B5*<mark>)</mark>" in page.html
    assert "a number, a reference, a function or a bracket is expected, not “)”" in page.text
    page.enter("H5", "=G5+1")
    assert page.shown("H5") == ["#NAME?"]


def test_an_entry_too_long_is_refused_and_stays_in_the_hands(page, tells):
    page.enter("G5", "x" * 100_000)
    tells(page.notice)
    assert len(page.state["text"]) == 100_000 and page.state["writing"] == "G5"


def test_a_fill_is_rehearsed_walked_and_landed(page, tells):
    page.enter("C5", "=B5*C4")
    page.act("rehearse", anchor="C5", focus="C5", to="C5:F10")
    assert "24 landings" in page.text and "a landing" in page.text
    assert "23 landings hold something else now: D5, E5, F5, C6, D6, E6 and 17 more" in page.text
    assert page.shown("C5", "D5", "F5") == ["50.4", "14,112.0", "871,274,880.0"]
    assert page.scene["here"] == [6, 10]
    page.act("walk", rows=1)
    assert page.state["landing"] == "C5"
    page.act("walk", rows=-1)
    assert page.state["landing"] == "F10"
    page.act("lock", index=0, axis="column").act("lock", index=1, axis="row")
    assert page.state["text"] == "=$B5*C$4" and page.shown("F10") == ["5.9"]
    page.act("land")
    tells(page.notice)
    assert page.shown("C5", "F10") == ["50.4", "5.9"] and page.state["target"] == ""
    page.act("undo")
    tells(page.notice)


def test_a_rehearsal_is_stretched_by_keys(page):
    page.select("G5")
    page.enter("G5", "=SUM(C5:F5)")
    page.select("G5")
    for _ in range(3):
        page.act("stretch", rows=1)
    assert page.state["target"] == "G5:G8" and page.shown("G8") == ["72.66"]
    page.act("stretch", rows=-1)
    assert "3 landings" in page.text and "are empty, or hold the same" in page.text
    page.act("show", source="", target="")
    assert page.shown("G6") == [None]


def test_a_switch_at_any_landing_rehearses_the_whole_block(page):
    page.select("E8").act("lock", index=1, axis="row", lock="moves")
    assert (page.state["source"], page.state["target"]) == ("C5", "C5:F10")
    assert page.state["text"] == "=$B5*C4" and page.scene["here"] == [5, 8]
    page.act("land").select("D6")
    assert page.scene["text"] == "=$B6*D5"


def test_a_switch_in_a_lone_formula_is_kept_at_once(page):
    page.enter("H9", "=B9").select("H9").act("lock", index=0, axis="column", lock="stays")
    assert page.scene["text"] == "=$B9" and page.state["text"] is None
    page.act("undo")
    assert page.scene["text"] == "=B9"


def test_any_landing_finds_its_block_its_start_and_its_moves(page):
    page.select("E8")
    assert page.scene["block"] == [3, 5, 6, 10] and page.scene["start"] == [3, 5]
    assert "lands from C5" in page.text and "24 sound" in page.text
    assert "$B5 $B8 3 down 0.06" in page.text and "C$4 E$4 2 right 315" in page.text
    assert [tie["here_reads"] for tie in page.scene["ties"]] == [[2, 8, 2, 8], [5, 4, 5, 4]]
    page.act("walk", rows=1)
    assert page.state["anchor"] == "F8"


def test_errors_in_a_block_are_counted(page):
    page.enter("B8", "cheese")
    page.select("E8")
    assert "20 sound 0 in doubt 4 broken" in page.text
    assert "tile broken here" in page.html


def test_clearing_jumping_and_going_anywhere(page, tells):
    page.select("C5", "F10").act("clear")
    assert page.shown("C5", "C4", "C12") == [None, "420", "0.0"]
    page.select("A3").act("jump", rows=1)
    assert page.state["anchor"] == "A10"
    page.act("jump", rows=1, widen=True).act("jump", rows=1, widen=True)
    assert (page.state["anchor"], page.state["focus"]) == ("A10", "A1000000")
    assert page.state["top"] > 999_900
    page.act("go-to", to="zzz999999")
    assert page.scene["columns"]["lines"][-1]["number"] == 18_278
    page.act("go-to", to="A1000001")
    tells(page.notice)
    assert page.state["anchor"] == "ZZZ999999"
    page.act("go-to", to="B4:C9")
    assert (page.state["anchor"], page.state["focus"]) == ("B4", "C9")


def test_the_foot_sums_the_selection(page):
    page.select("C4", "F5")
    assert "Loads!C4:F5 sum 1356.32 average 169.54 8 numbers" in page.text


@pytest.mark.parametrize(
    ("to", "says"),
    [
        ("C5:D9999999", "beyond the last row"),
        ("A1:ZZ2000", "1,404,000 cells"),
        ("huts", "not an area"),
    ],
)
def test_a_fill_that_cannot_be_is_told_and_nothing_changes(page, to, says):
    page.select("C5").act("rehearse", to=to)
    assert says in page.notice and page.state["target"] == ""


def test_filling_from_nothing_is_told(page, tells):
    page.select("H5").act("stretch", rows=1)
    assert "H5 is empty: there is nothing to fill with" in page.text
    page.act("land")
    tells(page.notice)


def test_a_fill_to_the_edge_loses_the_part_that_falls_off(page):
    page.enter("C5", "=B5*C$4").select("C5").act("rehearse", to="A5:C5")
    assert page.shown("A5", "B5", "C5") == ["#REF!"] * 3
    assert "#REF!" in page.text and "off the sheet" in page.text


def test_two_pages_stay_in_step_or_say_that_one_is_older(client, page, second_page):
    page.enter("C4", "500")
    second_page.enter("C4", "600")
    assert second_page.notice.startswith(
        "C4 was changed elsewhere while you write into it: it holds"
    )
    assert second_page.state["text"] == "600" and second_page.shown("C5") == ["72.0"]
    second_page.act("enter")
    assert second_page.notice == "" and second_page.shown("C4") == ["600"]
    assert page.act("show").shown("C4") == ["600"]


def test_a_page_whose_sheet_was_deleted_elsewhere_is_told(page, second_page):
    page.act("delete-sheet")
    second_page.write("G5", "=C5")
    assert (
        second_page.notice == "The sheet that was shown here has been deleted. What was typed: =C5"
    )
    assert second_page.state["sheet"] == 1 and second_page.state["text"] is None


def test_undo_and_redo_tell_what_they_did(page, tells):
    page.act("undo")
    tells(page.notice)
    page.enter("C4", "500").act("go-to", to="Prices!B3").act("undo")
    tells(page.notice)
    assert page.shown("C4") == ["420"] and page.state["anchor"] == "C4"
    page.select("Z900").act("redo")
    tells(page.notice)
    assert page.shown("C4") == ["500"]


def test_what_is_typed_is_escaped(page):
    page.enter("G5", '<img src=x onerror="1">').select("G5")
    assert page.shown("G5") == ['<img src=x onerror="1">']
    answer = page.client.post(
        page.address + "show", data={"sheet": 2, "anchor": "G5", "focus": "G5"}
    ).text
    assert "<img" not in answer


def test_unusable_state_is_refused_in_words(client):
    for data, status in (({"sheet": 2, "anchor": "nowhere"}, 422), ({"left": "-5"}, 422)):
        answer = client.post("/workbooks/1/act/show", data=data, headers={"HX-Request": "true"})
        assert answer.status_code == status and "Traceback" not in answer.text
    assert client.post("/workbooks/1/act/dance", data={"left": 1}).status_code == 404
    assert client.get("/workbooks/1/sheets/99").status_code == 404


def test_pointing_puts_references_where_they_may_stand(page):
    page.write("G5", "=SUM(").act("show", caret=5)
    assert page.scene["may_point"]
    page.act("point-at", to="C5:F5", caret=5)
    assert page.state["text"] == "=SUM(C5:F5" and page.state["caret"] == 10
    page.act("point-at", to="C:C")
    assert page.state["text"] == "=SUM(C:C"
    page.act("show", text="=SUM(C5,", caret=8, pointed_from=-1)
    page.act("point-at", columns=-1)
    assert page.state["text"] == "=SUM(C5,F5"
    page.act("point-at", rows=1, widen=True)
    assert page.state["text"] == "=SUM(C5,F5:F6"
    page.act("show", pointed_from=-1, caret=3).act("point-at", to="A1")
    assert page.state["text"] == "=SUM(C5,F5:F6"


def test_pointing_on_another_sheet_names_it_and_entering_comes_back(page):
    page.write("G5", "=C5*").act("show", caret=4)
    page.act("show-sheet", index=1)
    assert (page.state["sheet"], page.state["home"]) == (1, 2)
    assert page.shown("B3") == ["1.80"]
    page.act("point-at", to="B3").act("lock", axis="column").act("lock", axis="row")
    assert page.state["text"] == "=C5*Prices!$B$3"
    assert [frame["area"] for frame in page.scene["frames"]] == [[2, 3, 2, 3]]
    page.act("to-the-start")
    assert page.state["sheet"] == 2
    page.act("show-sheet", columns=-1).act("enter", move="down")
    assert (page.state["sheet"], page.state["home"], page.state["anchor"]) == (2, 0, "G6")
    assert page.shown("G5") == ["90.72"]


def test_a_reference_is_aimed_anew_by_its_frame(page):
    page.write("G5", "=SUM($C5:F5)*2").act("move-frame", index=0, to="C6:D7")
    assert page.state["text"] == "=SUM($C6:D7)*2" and page.state["caret"] == 11


def test_suggestions_and_the_current_argument_are_shown(page):
    page.write("G5", "=ro").act("show", caret=3)
    assert (
        'data-insert="ROUND("' in page.html and "Rounds a number to so many decimals" in page.text
    )
    page.write("G5", "=ROUND(C5,").act("show", caret=10)
    assert "<b>decimals</b>: how many; -1 rounds to tens, can be left out" in page.html


def test_cards_say_what_each_choice_will_read(page):
    page.write("C5", "=B5*C4")
    assert "filled down B6, B7 …, filled right C5, D5 …" in page.text
    assert "filled down always B$5, filled right C$5, D$5 …" in page.html


def test_an_input_tells_who_reads_it(page):
    page.select("C4")
    assert "6 cells read it directly: C5:C10 . 37 more read it over others." in page.text
    assert page.scene["dependents"] == [[3, 5, 3, 10]]
    page.select("A5")
    assert "No formula reads this cell." in page.text


def test_an_error_is_explained_with_its_first_cause(page):
    page.act("show-sheet", index=1).enter("B4", "ten").act("go-to", to="Loads!A1")
    page.enter("H5", "=Prices!C7*2").select("H5")
    assert "#VALUE!: Something of the wrong kind stands" in page.text
    assert "“ten” is text where a number is needed. It began in Prices!C7 ." in page.text
    page.act("go-to", to="Prices!C7")
    assert page.state["sheet"] == 1 and page.state["anchor"] == "C7"


def test_sheets_are_added_renamed_duplicated_moved_and_deleted(client, page, tells):
    page.act("rename-sheet", to="Week 1")
    assert page.act("go-to", to="Prices!C7").scene["text"] == "=SUM('Week 1'!C5:F5)*(1+reserve)"
    page.act("rename-sheet", to="season")
    tells(page.notice)
    page.act("duplicate-sheet").act("move-sheet", columns=1)
    assert page.act("add-sheet").shown("A1") == [None]
    tabs = re.findall(r'data-action="show-sheet"[^>]*>([^<]*)</a>', page.html)
    assert tabs == ["Prices", "Week 1", "Prices copy", "Season", "To mend", "Sheet 1"]
    question = client.get("/workbooks/1/sheets/2/question").text
    assert "12 formulas would lose a reference" in question
    page.act("go-to", to="'Week 1'!A1").act("delete-sheet")
    assert page.act("go-to", to="Prices!C7").scene["text"] == "=SUM(#REF!)*(1+reserve)"
    for _ in range(5):
        page.act("undo")
    assert page.act("go-to", to="Loads!F10").shown("F10") == ["5.9"]


def test_dates_times_and_percents_are_understood_and_shown_alike(page):
    for address, typed, shown in (
        ("H1", "2026-03-01", "2026-03-01"),
        ("H2", "9:30", "9:30"),
        ("H3", "12.5%", "12.5%"),
        ("H4", "1,250.50", "1,250.50"),
        ("H5", "=H1", "46082"),
        ("H6", "=DATE(2026,3,1)+0", "46082"),
        ("H7", "=DATE(2026,3,1)", "2026-03-01"),
        ("H8", "'12", "12"),
    ):
        page.enter(address, typed)
        assert page.shown(address) == [shown]


def offered(page):
    """The other readings that the notice and the panel offer."""
    return re.findall(
        r'data-action="enter-instead" data-to="(\w+)"\s+data-says="([^"]*)"', page.html
    )


def test_what_has_two_readings_is_told_and_the_other_is_one_click_away(page, tells):
    page.write("H5", "2,5")
    assert "will be taken for text, not a number: decimals take a point" in page.text
    page.enter("H5", "2,5", move="down")
    tells(page.notice)
    assert page.state["anchor"] == "H6" and offered(page) == [("H5", "2.5")]
    offer = {"to": "H5", "says": "2.5", "offered": page.scene["revision"]}
    page.act("enter-instead", **offer)
    assert page.shown("H5") == ["2.5"] and "H5 holds 2.5 now" in page.notice
    assert page.state["anchor"] == "H6" and offered(page) == []
    page.act("undo")
    assert page.shown("H5") == ["2,5"]
    page.select("H5")
    assert "is text, not a number" in page.text and offered(page) == [("H5", "2.5")]
    page.enter("H5", "'2,5")
    page.select("H5")
    assert offered(page) == []
    page.act("enter-instead", **offer)
    tells(page.notice)
    assert page.shown("H5") == ["2,5"]
    page.enter("H5", "1/2/2026")
    assert page.shown("H5") == ["2026-02-01"]
    assert offered(page) == [("H5", "2026-01-02"), ("H5", "'1/2/2026")]
    page.enter("H5", "1/2/2026")
    page.act("enter-instead", to="H5", says="'1/2/2026", offered=page.scene["revision"])
    assert page.shown("H5") == ["1/2/2026"] and "H5 holds text now" in page.notice


def test_numbers_by_chance_are_drawn_again_and_brought_back(page):
    page.enter("H5", "=RAND()")
    page.enter("H6", "=H5*0")
    page.select("H5")
    first = page.shown("H5")
    assert 'data-action="draw-again"' in page.html
    page.act("draw-again")
    assert page.shown("H5") != first and "Drawn again" in page.notice
    page.act("undo")
    assert page.shown("H5") == first
    page.select("H6")
    assert 'data-action="draw-again"' not in page.html


def test_what_crossing_references_share_is_drawn(page):
    page.write("H5", "=SUM(C5:F6 $D5:D10~Prices!C4:C9 Prices!C9)")
    assert page.scene["shared"] == [[4, 5, 4, 6]] and len(page.scene["frames"]) == 2
    assert "would give 455.63" in page.text
    page.enter("H5", "=B5 C6")
    page.select("H5")
    assert page.scene["shared"] == [] and "B5 and C6 share no cell" in page.text


def test_what_was_cut_is_selected_where_it_lands_also_where_others_follow(page, tells):
    page.enter("H5", "4")
    page.enter("H6", "=H5")
    cut = {"clip_workbook": 1, "clip_sheet": 2, "clip_area": "H5", "clip_cut": True}
    page.select("J8").act("paste", **cut)
    assert (page.state["anchor"], page.state["focus"]) == ("J8", "J8")
    assert page.shown("J8", "H6") == ["4", "4"]
    page.select("K9").act("paste", **{**cut, "clip_area": "M20:N22"})
    tells(page.notice)


def test_whole_lists_reaches_and_edges_are_pointed_at(page):
    page.write("H5", "=SUM(").act("show", caret=5)
    page.act("point-at", to="D7", whole=True)
    assert page.state["text"] == "=SUM(D4:D10"
    page.act("point-at", to="F10", reach=True)
    assert page.state["text"] == "=SUM(D4:F10"
    page.act("point-at", to="C5").act("point-at", rows=1, jump=True, widen=True)
    assert page.state["text"] == "=SUM(C5:C10"
    page.act("point-at", columns=1, jump=True)
    assert page.state["text"] == "=SUM(F5"


def test_a_formula_is_worked_out_in_numbers_wherever_one_walks(page):
    page.select("D8").act("show-working")
    assert "0.06 × 280 = 16.8" in page.text
    page.act("walk", rows=1)
    assert "0.06 × 315 = 18.9" in page.text
    page.write("H5", "=IF(C4>400,C4*2,0)")
    assert "420 is more than 400, so 420 × 2 = 840" in page.text
    page.write("H5", "=IF(C4>")
    assert 'id="working"' not in page.html
    page.act("show-working")
    assert 'id="working"' not in page.select("D8").html


def test_a_fill_of_several_columns_counts_what_is_broken_in_all_of_them(page):
    page.enter("H5", "=LEN(A5)").enter("I5", "=1/C4")
    page.act("show", anchor="H5", focus="I5", source="H5:I5", target="H5:I8")
    assert "8 landings" in page.text
    page.enter("I7", "").act("show", anchor="H5", focus="I5", source="H5:I5", target="H5:I13")
    errors = sum(cell["shown"].startswith("#") for cell in page.scene["cells"]
                 if cell["column"] == 9 and 5 <= cell["row"] <= 13)  # fmt: skip
    assert f"{errors} broken" in page.text and errors > 0


def test_one_cell_says_how_far_a_fill_goes_and_then_all_of_it_is_selected(page):
    page.enter("H5", "=C5*2").select("H5").act("rehearse", to="J9")
    assert page.state["target"] == "H5:J9"
    page.act("land")
    assert (page.state["anchor"], page.state["focus"]) == ("H5", "J9")


def test_the_log_begins_where_one_asks_for_it(client, page):
    page.enter("H1", "=G1+1").select("H1").act("rehearse", to="H30000").act("land")
    log = "/workbooks/1/sheets/2/log"
    near = client.get(log, params={"cell": "H25000"}).text
    assert "begins near H25000" in near and ">H24996<" in near and ">H24995<" not in near
    from_the_start = client.get(log, params={"cell": "H25000", "first": 0}).text
    assert 'here"' in near and ">H1<" in from_the_start
    whole = client.get(log, params={"cell": "H1"}).text
    assert "begins near" not in whole and ">H2<" in whole


def test_the_foot_adds_up_what_is_selected_also_in_long_columns_that_are_known(page):
    page.select("C4", "F5")
    assert "sum 1356.32 average 169.54 8 numbers" in page.text
    page.act("show", anchor="C4", focus="C5", also="C4:D4,A1:A3")
    assert "sum 750.4 average 250.1333333 3 numbers 2 texts" in page.text
    page.enter("H1", "1e308").enter("H2", "1e308").select("H1", "H2")
    assert "2 numbers too large to add up" in page.text
    page.enter("I1", "=ROW()").select("I1").act("rehearse", to="I300000").act("land")
    assert "sum 45000150000 average 150000.5 300,000 numbers" in page.text
    page.enter("K1", "2026-03-01").enter("K2", "2026-05-31").enter("K3", "'893,97")
    page.select("K1", "K3")
    assert "2026-03-01 to 2026-05-31 2 dates 1 text" in page.text
    page.enter("L1", "25%").enter("L2", "5%").select("L1", "L2")
    assert "sum 30% average 15% 2 numbers" in page.text
    page.select("K1", "L2")
    assert "sum" not in page.text.partition("K1:L2")[2][:30]
    opened = page.client.app.state.library.open(1)
    opened.calculation.forget()
    state = PageState(sheet=2, anchor="I1", focus="I300000")
    assert foot(Situation(opened, state)).facts == ["300,000 filled"]
