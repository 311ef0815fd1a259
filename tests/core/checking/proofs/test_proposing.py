"""Which proofs are proposed, how one is begun, and since which change it fails."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.proofs.judging import judged
from dreieck.core.checking.proofs.proposing import proposals
from dreieck.core.checking.proofs.since import since
from dreieck.core.checking.proofs.starting import begun, likely_statement, restated
from dreieck.core.editing.inserting import inserted
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import stated
from dreieck.core.grid import Area, Cell, Lines
from dreieck.core.sheet.edits import Change, SetCells
from dreieck.core.values.look import PLAIN

TABLE = {
    "A1": "Hut", "B1": "Flour", "C1": "Oil", "D1": "All", "E1": "Share", "F1": "So far",
    "A2": "Kestrel", "B2": "3", "C2": "4", "D2": "=SUM(B2:C2)", "E2": "=D2/D$5", "F2": "=D2",
    "A3": "Larch", "B3": "5", "C3": "6", "D3": "=SUM(B3:C3)", "E3": "=D3/D$5", "F3": "=F2+D3",
    "A4": "Scree", "B4": "7", "C4": "8", "D4": "=SUM(B4:C4)", "E4": "=D4/D$5", "F4": "=F3+D4",
    "A5": "Total", "B5": "=SUM(B2:B4)", "C5": "=SUM(C2:C4)", "D5": "=SUM(D2:D4)", "E5": "=D5/D$5",
    "H1": "Larch", "I1": "=VLOOKUP(H1,$A$2:$D$4,4,0)",
}  # fmt: skip
PROPOSED = {
    "=ADDS.UP(Loads!E2:E4,100%)",
    "=ADDS.UP(Loads!D2:D4,Loads!B5:C5)",
    "=ADDS.UP(Loads!D2:D4,Loads!F4)",
    "=NONE.TWICE(Loads!A2:A4)",
}


def texts(made):
    return {each.text for each in proposals(Calculation(made))}


def test_shares_crossing_totals_running_totals_and_keys_are_proposed_while_they_hold():
    made = workbook(Loads=TABLE)
    assert texts(made) == PROPOSED
    for text in PROPOSED:
        proven(made, stated(text, made.sheets[0])).apply(made)
    assert texts(made) == set()
    growing = {f"F{row}": f"=SUM(D$2:D{row})" for row in (2, 3, 4)}
    assert texts(workbook(Loads=TABLE | growing)) == PROPOSED
    wrong = TABLE | {"E3": "=D3/D6", "C5": "=SUM(C2:C3)", "F3": "=F2", "A4": "larch"}
    assert texts(workbook(Loads=wrong)) == set()


@pytest.mark.parametrize(
    ("area", "claim", "text"),
    [
        ("E2:E4", "ADDS.UP", "=ADDS.UP(E2:E4,100%)"),
        ("B2:C4", "ADDS.UP", "=ADDS.UP(B2:C4,"),
        ("F2:F4", "NEVER.FALLS", "=NEVER.FALLS(F2:F4)"),
        ("A2:A4", "NONE.TWICE", "=NONE.TWICE(A2:A4)"),
        ("D5", "AGREES", "=AGREES(D5,"),
        ("B2", "LIES.BETWEEN", "=LIES.BETWEEN(B2,"),
    ],
)
def test_a_proof_begins_with_what_is_likely_meant(area, claim, text):
    made = workbook(Loads=TABLE)
    calculation, sheet, area = Calculation(made), made.sheets[0], Area.parse(area)
    assert likely_statement(calculation, sheet, area) == claim
    assert begun(calculation, sheet, area, claim) == (text, len(text))


def test_another_claim_takes_the_cells_along_and_what_was_written_behind_them():
    made = workbook(Loads=TABLE)
    calculation, sheet = Calculation(made), made.sheets[0]
    for text, claim, says in (
        ("=ADDS.UP(D2:D4,33", "AGREES", "=AGREES(D2:D4,33)"),
        ("=AGREES(D2:D4,33,1)", "NO.GAP", "=NO.GAP(D2:D4)"),
        ("=NO.GAP(D2:D4)", "LIES.BETWEEN", "=LIES.BETWEEN(D2:D4,"),
        ("=NO.GAP(D2)", "KNOWN.CASE", "=KNOWN.CASE(GIVEN(),GIVES(D2=7))"),
        ("=KNOWN.CASE(GIVEN(B2=3),GIVES(D2=7))", "NO.ERROR", "=NO.ERROR(D2)"),
        ("=", "ADDS.UP", "=ADDS.UP("),
    ):
        assert restated(calculation, sheet, text, claim)[0] == says


steps = st.lists(st.tuples(st.sampled_from(["B2", "B3", "line"]), st.integers(0, 3)), max_size=7)


@given(steps)
def test_a_proof_fails_since_the_last_change_before_which_it_held(steps):
    made = workbook(Loads={"B2": "1", "B3": "1", "B4": "9"})
    sheet = made.sheets[0]
    proven(made, stated("=AGREES(B2,B3)", sheet)).apply(made)
    changes, states = [], [True]

    def act(label, edits):
        backward = []
        for edit in edits:
            backward.insert(0, edit.apply(made))
        changes.append(Change(label, "", edits, backward))
        states.append(judged(Calculation(made), made.proofs[0]).state == "holds")

    # At the end it fails, whatever was done before.
    for number, (what, amount) in enumerate([*steps, ("B3", 9)]):
        if what == "line":
            act(str(number), list(inserted(made, sheet, Lines("row", 1, 1))))
        else:
            at = made.proofs[0].shape.references[what == "B3"].area(Cell(1, 1)).first
            act(str(number), [SetCells.of(sheet.id, {at: (float(amount), PLAIN)})])
    found = since(made, [1], reversed(changes))
    last = max(index for index, held in enumerate(states) if held)
    assert found[1].label == str(last)
    number, area = found[1].place
    read = {each.area(Cell(1, 1)) for each in made.proofs[0].shape.references}
    assert number == sheet.id and area in read


def test_a_proof_that_failed_when_it_was_kept_says_so():
    made = workbook(Loads={"B2": "1", "B3": "2"})
    edit = proven(made, stated("=AGREES(B2,B3)", made.sheets[0]))
    change = Change("proof", "now", [edit], [edit.apply(made)])
    assert since(made, [1], [change])[1].kept
    assert since(made, [1], []) == {}
