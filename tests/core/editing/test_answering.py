"""What is meant stays with its cells, is known to similar ones, and goes along in files."""

import pytest
from tables import apply, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_workbook
from dreieck.core.editing.answering import Answered, answer, answers
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Lines

HELD = {
    "A1": "Room", "B1": "Summer", "C1": "Winter",
    **{f"A{row}": f"Room {row}" for row in range(2, 10)},
    **{f"B{row}": str(60 + 5 * row) for row in range(2, 10)},
    **{f"C{row}": f"=B{row}*0.8" for row in range(2, 10)},
    "C4": "70", "C7": "90",
}  # fmt: skip


def doubts(made):
    found = [each for checked in check_workbook(Calculation(made)) for each in checked.findings]
    return {each.areas[0].text: each for each in found if each.rule == "typed-over"}


def test_an_answer_makes_a_note_and_is_known_to_the_column():
    made = workbook(Loads=HELD)
    assert {each.state for each in doubts(made).values()} == {"doubt"}
    apply(made, [answer(made, made.sheets[0], [Area.parse("C4")], "typed-over", " agreed  ")])
    found = doubts(made)
    assert (found["C4"].state, found["C4"].meant) == ("note", "agreed")
    assert (found["C7"].state, found["C7"].meant) == ("doubt", "")
    assert found["C7"].because[-1] == "the same in C4 is meant: agreed"


def test_an_answer_follows_its_cells_and_goes_with_them():
    made = workbook(Loads=HELD)
    sheet = made.sheets[0]
    apply(made, [answer(made, sheet, [Area.parse("C4")], "typed-over", "agreed")])
    apply(made, list(inserted(made, sheet, Lines("row", 1, 2))))
    assert list(answers(made)) == [Answered(1, "Loads", Area.parse("C6"), "typed-over", "agreed")]
    assert doubts(made)["C6"].meant == "agreed"
    apply(made, list(deleted(made, sheet, Lines("row", 6, 1))))
    assert list(answers(made)) == []
    apply(made, [answer(made, sheet, [Area.parse("C8")], "typed-over", "so")])
    assert [each.number for each in made.stated("answers")] == [2]


def test_one_answer_about_the_same_stands_and_without_a_reason_none():
    made = workbook(Loads=HELD)
    for why in ("agreed", "by the guild"):
        apply(made, [answer(made, made.sheets[0], [Area.parse("C4")], "typed-over", why)])
    assert [each.reason for each in answers(made)] == ["by the guild"]
    for why in (" ", "x" * 201):
        with pytest.raises(DreieckError, match=r"reason|why"):
            answer(made, made.sheets[0], [Area.parse("C4")], "typed-over", why)
