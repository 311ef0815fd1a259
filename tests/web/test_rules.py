"""Rules: conditions that are written like formulas and give cells a tone."""

import pytest
from web_page import Page


def toned(page, tone="rose"):
    return {
        (cell["column"], cell["row"])
        for cell in page.scene["cells"]
        if f"rule-{tone}" in cell["kind"].split()
    }


C5_F10 = {(column, row) for column in (3, 4, 5, 6) for row in range(5, 11)}


@pytest.fixture
def page(client):
    """The page without the rule of the demo."""
    return Page(client).act("delete-rule", index=0, to="C5:F10")


def test_a_rule_is_written_seen_kept_changed_and_taken_back(page):
    page.select("C5", "F10").act("write-rule", tone="rose")
    assert "for example =C5>100" in page.notice and page.state["text"] == "="
    page.act("show", text="=C5>$B5*300", caret=11)
    assert "holds in 12 of 24" in page.text and toned(page) == {
        at for at in C5_F10 if at[0] in (3, 5)
    }
    # Its references are drawn as those of a fill: from the first cell to the landing in question.
    assert page.scene["start"] == [3, 5] and page.scene["here"] == [6, 10]
    assert [tie["here_reads"] for tie in page.scene["ties"]] == [[6, 10, 6, 10], [2, 10, 2, 10]]
    page.act("look-at", to="D6")
    assert page.scene["here"] == [4, 6]
    page.act("tone-rule", tone="moss").act("enter", move="down")
    assert page.notice == "C5:F10 takes the tone moss where it holds."
    assert toned(page, "moss") and page.state["text"] is None
    page.select("D7")
    assert "=D7>$B7*300 does not hold; for C5:F10" in page.text
    page.act("change-rule", index=0, to="C5:F10")
    assert page.state["text"] == "=C5>$B5*300" and page.state["rule_tone"] == "moss"
    page.act("lock", index=1, axis="row").act("enter")
    page.select("D7")
    assert "=D7>$B$5*300" in page.text
    page.act("delete-rule", index=0, to="C5:F10")
    assert toned(page, "moss") == set()
    for _ in range(3):
        page.act("undo")
    assert toned(page, "moss") == set() and page.notice == "Taken back: rule for C5:F10."


def test_what_is_no_condition_stays_in_the_hands(page):
    page.select("C5", "C6").act("write-rule")
    for text, said in (("C5>100", "begins with ="), ("=C5>", "expected")):
        page.act("enter", text=text)
        assert said in page.notice and page.state["text"] == text
    page.act("stretch", rows=1, text="=C5>1")
    assert "kept with Enter" in page.notice and page.state["target"] == ""
    page.act("change-rule", index=5)
    assert page.notice.startswith("This rule is no longer there")


def test_empty_cells_take_tones_and_the_values_of_a_trial_count(page):
    page.select("H5", "H6").act("write-rule", tone="lake").act("enter", text="=C5>50")
    assert toned(page, "lake") == {(8, 5)}
    page.select("C4").act("try-value", to="400")
    assert toned(page, "lake") == set()
    page.write("A1", "x")
    assert toned(page, "lake") == {(8, 5)}


def test_a_rule_and_a_taken_look_follow_what_another_page_inserts(page):
    other = Page(page.client)
    page.select("C5", "F10").act("take-look").act("write-rule").act("show", text="=C5>$B5*300")
    other.select("A2").act("insert-lines", axis="row")
    page.act("look-at", to="D7")
    assert (page.state["text"], page.state["rule_for"]) == ("=C6>$B6*300", "C6:F11")
    assert page.state["look_taken"] == "2 C6:F11"
    page.act("enter")
    assert len(toned(page)) == 12 and (3, 6) in toned(page)
