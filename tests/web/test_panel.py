"""What desk, panel and foot say in the situations that people get into."""

import re

import pytest


@pytest.mark.parametrize(
    ("address", "says"),
    [
        ("A5", ["Text typed here.", "No formula reads this cell."]),
        (
            "B5",
            ["Flour, kg a guest-night: a number typed here.", "4 cells read it directly: C5:F5"],
        ),
        ("H20", ["An empty cell. Type a number, text, or = and a formula."]),
        (
            "C12",
            ["the sum of Kestrel, Flour to Lamp oil", "Block C12:F12 4 landings", "the start"],
        ),
        ("F12", ["lands from C12", "C5:C10 F5:F10 3 right 6 numbers"]),
    ],
)
def test_a_selected_cell_is_said_in_words(page, address, says):
    page.select(address)
    for each in says:
        assert each in page.text


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("=B5*C4", ["being written", "would give 50.4", "filled down B6, B7 …"]),
        ("=B5*", ["a number, a reference, a function or a bracket is expected after “*”"]),
        ("=SUM(B:B)", ["(the column to the left", "the whole column", "6 numbers, 1 text"]),
        ("=Prices!$B$3", ["Carrying price, per kg (always B3 on Prices)", "1.80"]),
        ("=Nowhere!B3", ["a lost reference", "no such sheet", "#REF!"]),
        ("=1/0", ["would give #DIV/0!"]),
        ('=IF(B5>0.1,"much","little")', ["if Flour, kg", "then “much”, else “little”"]),
        ("=(B5+B6)*2", ["Lentils, kg a guest-night (the cell 1 down and 1 left) ) × 2"]),
    ],
)  # fmt: skip
def test_what_is_written_is_said_while_it_is_written(page, text, says):
    page.write("C5", text).act("show", caret=len(text))
    for each in says:
        assert each in page.text, page.text


@pytest.mark.parametrize(
    ("start", "to", "says"),
    [
        ("C5", "C5:C6", ["2 landings", "or hold the same", "$B5 0.12", "$B6 0.08", "1 down"]),
        ("C5", "C5", ["1 landing"]),
        ("C4", "C4:C6", ["2 landings hold something else now: C5, C6.", "would show 420"]),
        (
            "C12",
            "C12:C14",
            ["C5:C10 6 numbers", "C7:C12 5 numbers"],
        ),
        ("C5", "C1:C5", ["far corner", "C1", "4 up"]),
        ("E8", "G8:G9", ["G8:G9", "G$4"]),
    ],
)
def test_a_rehearsal_is_said_before_it_lands(page, start, to, says):
    page.select(start).act("rehearse", to=to)
    for each in says:
        assert each in page.text, page.text


def test_the_miniature_shows_the_part_around_the_landing(page):
    page.select("C5").act("rehearse", to="C5:Z400").act("look-at", to="M200")
    assert page.html.count('class="tile ') == 8 * 10
    assert "I195:P204 is shown; all of it is C5:Z400" in page.text
    assert "9,504 landings" in page.text


def test_gaps_and_errors_of_a_block_are_seen_in_the_miniature(page):
    page.enter("D6", "7").enter("B8", "much")
    page.select("C5")
    assert page.html.count("tile gap") == 1
    assert page.html.count('"tile broken"') == 4
    assert "19 sound 0 in doubt 4 broken" in page.text


def test_what_goes_on_being_written_is_no_error_in_the_foot(page):
    def foot():
        return re.search(r'id="foot".*', page.html, re.DOTALL)[0]

    page.write("G5", "=SUM(C5:F5)*av")
    assert "Loads!G5" in foot() and "#NAME?" not in foot()
    page.write("G5", "=SUM(C5:F5)*2")
    assert "290.6" in foot()
    page.enter("G5", "=SUM(C5:F5)*av").select("G5")
    assert "#NAME?" in foot()


def test_keys_that_matter_now_stand_in_the_foot(page):
    assert "Alt + arrows stretch a fill" in page.select("H20").text
    assert "Alt + C column moves or stays" in page.write("C5", "=B5").text
    page.act("show", text=None, writing="")
    assert "Alt + J next landing" in page.select("C5").text
    assert "Enter land" in page.act("rehearse", to="C5:C9").text
