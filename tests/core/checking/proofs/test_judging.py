"""Whether proofs hold, against a plain reading of what each statement says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import apply, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.proofs import judging
from dreieck.core.checking.proofs.judging import judged
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import stated
from dreieck.core.exceptions import DreieckError
from dreieck.core.functions.statements import STATEMENTS
from dreieck.core.grid import EVERYWHERE
from dreieck.core.sheet.stated import Proof

SHARES = {
    "A1": "Item", "B1": "Cost", "C1": "Share", "D1": "Guests",
    "A2": "Flour", "B2": "10", "C2": "=B2/B$5", "D2": "5",
    "A3": "Lentils", "B3": "30", "C3": "=B3/B$5", "D3": "7",
    "A4": "flour", "B4": "60", "C4": "=B4/B$5", "D4": "6",
    "A5": "Total", "B5": "=SUM(B2:B4)", "C5": "=B5/B$5",
    "E1": "=B2*2", "E2": "=1/0", "E3": "=E2+1",
}  # fmt: skip
SAID = [
    ("ADDS.UP(C2:C4,100%)", "holds: comes to 1"),
    ("ADDS.UP(C2:C3,100%)", "fails: comes to 0.4 instead of 1, 0.6 too little"),
    ("ADDS.UP(C2:C3,1,60%)", "holds: comes to 0.4"),
    ("ADDS.UP(B2:B4,B5)", "holds: comes to 100"),
    ("ADDS.UP(B2:B4~D2:D4,118)", "holds: comes to 118"),
    ("ADDS.UP(A1:A4,1)", "fails: no number stands there to add up"),
    ("ADDS.UP(E1:E3,1)", "fails: Loads!E2 is #DIV/0!: the divisor is 0 or empty"),
    ("ADDS.UP(E3,1)", "fails: Loads!E3 is #DIV/0!, which began in Loads!E2"),
    ("AGREES(B2:B4,C2:C4*100)", "holds: all 3 pairs are equal"),
    ("AGREES(B2:B4,D2:D4,1)",
     "fails: 3 of 3 differ, by 54 at the most; first Loads!B2: 10 against 5"),
    ("AGREES(B2,9.5,1)", "holds: both are 10"),
    ("AGREES(B2,8,10%)", "fails: 10 against 8, 2 apart"),
    ("AGREES(A2,A4)", "holds: both are “Flour”"),
    ("AGREES(A1:A2,A1:A3)", "fails: the ranges differ in size"),
    ("AGREES(E2,E2)", "fails: #DIV/0! against #DIV/0!"),
    ("B5=SUM(B2:B4)", "holds: both are 100"),
    ("LIES.BETWEEN(B2:B4,0,30)", "fails: 1 of 3 lies outside; first Loads!B4: 60, 30 too much"),
    ("LIES.BETWEEN(B1:B4,0,60)", "fails: 1 of 4 lies outside; first Loads!B1: “Cost”"),
    ("LIES.BETWEEN(D2:D4,5,7)", "holds: they go from 5 to 7"),
    ("LIES.BETWEEN(D2:D4,7,5)",
     "fails: the smallest value that they may have is above the largest one"),
    ("NEVER.FALLS(B2:B4)", "holds: 3 numbers in order"),
    ("NEVER.FALLS(D2:D4)", "fails: falls once; first in Loads!D4: 6 after 7"),
    ("NEVER.FALLS(A2:D2)", "fails: Loads!A2 holds “Flour”, which is no number"),
    ("NEVER.RISES(B2:B4)", "fails: rises 2 times; first in Loads!B3: 30 after 10"),
    ("NONE.TWICE(A2:A4)",
     "fails: 1 cell holds what stands there before; first Loads!A4: “flour”, as in Loads!A2"),
    ("NONE.TWICE(B:B)", "holds: 5 different"),
    ("NONE.TWICE(F1:F9)", "fails: nothing stands there"),
    ("NO.ERROR(A1:D5)", "holds: no error in 20 cells"),
    ("NO.ERROR(E1:E3)", "fails: 2 errors; first Loads!E2: #DIV/0!"),
    ("NO.GAP(B:C)", "holds: all 10 are filled"),
    ("NO.GAP(D1:D6)", "fails: 2 cells are empty; first Loads!D5"),
    ("KNOWN.CASE(GIVEN(B2=20),GIVES(B5=110,E1=40))", "holds: 2 results as expected"),
    ("KNOWN.CASE(GIVEN(B2:B4=1),GIVES(C2:C4=1/3))", "holds: 3 results as expected"),
    ("KNOWN.CASE(GIVEN(B2:B4={1;2;5}),GIVES(B5=9))",
     "fails: Loads!B5 comes out as 8, not 9"),
    ("KNOWN.CASE(GIVEN(B2),GIVES(B5=9))",
     "fails: GIVEN takes a cell, = and a value, such as A1=12"),
    ("KNOWN.CASE(GIVEN(2=3),GIVES(B5=9))", "fails: 2 stands where a cell is needed"),
    ("KNOWN.CASE(B2=3,B5=9)",
     "fails: a known case is written GIVEN(cell=value, …), GIVES(cell=value, …)"),
    ("B2>5", "holds: true"),
    ("B2:B4>15", "fails: false for 1 of 3, first for Loads!B2"),
    ("ISFORMULA(C2:C5)", "holds: true for all 4"),
    ("ISFORMULA(A2:C3)", "fails: false for 4 of 6, first for Loads!A2"),
    ("ISFORMULA(B:B)", "fails: false for 4 of 5, first for Loads!B1"),
    ("FORMULA(C2:C4)<>A2:A4", "holds: true for all 3"),
    ("ISNUMBER(A2:B4)", "fails: false for 3 of 6, first for Loads!A2"),
    ("AND(B2:B4>D2:D4)", "holds: true for all 3"),
    ("AND(B2:B4>15)", "fails: false for 1 of 3, first for Loads!B2"),
    ("AND(B2:B4=C2:C4*100,B5=100)", "holds: all 2 of these hold"),
    ("AND(B5>0,B2:B4=D2:D4)",
     "fails: 3 of 3 differ, by 54 at the most; first Loads!B2: 10 against 5"),
    ("B2:B4*2=D2:D4",
     "fails: 3 of 3 differ, by 114 at the most; first for Loads!B2: 20 against 5"),
    ("MAX(ABS(B2:B4-D2:D4))<60", "holds: true"),
    ("SUM((B2:B4>15)*1)=2", "holds: both are 2"),
    ("1/(D2:D4-7)<>0",
     "fails: for Loads!D3 it is #DIV/0!: the divisor is 0 or empty"),
    ("B5", "fails: it gives 100, which is neither true nor false"),
    ("NO.GAP(Gone!A1)", "fails: Gone!A1 is #REF!: there is no sheet “Gone”"),
    ("ADDS.UP(A1)", "fails: ADDS.UP takes cells, to, within"),
]  # fmt: skip


def verdict(made, text, sheet=0):
    shape = stated("=" + text, made.sheets[sheet])
    return judged(Calculation(made), Proof(1, shape))


@pytest.mark.parametrize(("text", "says"), SAID)
def test_a_statement_is_judged_in_words(text, says):
    found = verdict(workbook(Loads=SHARES), text)
    assert f"{found.state}: {found.says}" == says


entries = st.one_of(
    st.none(), st.integers(-9, 9).map(str), st.sampled_from(["Flour", "flour", "Larch", "=1/0"])
)


def value(entry):
    if entry is None or entry == "=1/0":
        return entry
    return float(entry) if entry.lstrip("-").isdigit() else entry.casefold()


def plainly(claim, found):
    """Whether a claim holds of values, the long way; None where it cannot be told."""
    numbers = [each for each in found if isinstance(each, float)]
    filled = [each for each in found if each is not None]
    texts = [each for each in filled if isinstance(each, str)]
    errors = "=1/0" in found
    match claim:
        case "ADDS.UP":
            return bool(numbers) and not errors and sum(numbers) == 7
        case "LIES.BETWEEN":
            inside = all(-3 <= each <= 5 for each in numbers)
            return bool(numbers) and not texts and inside
        case "NEVER.FALLS" | "NEVER.RISES":
            ordered = sorted(numbers, reverse=claim == "NEVER.RISES")
            return bool(numbers) and not texts and numbers == ordered
        case "NONE.TWICE":
            return bool(filled) and not errors and len(set(filled)) == len(filled)
        case "NO.ERROR":
            return not errors
        case _:
            return len(filled) == len(found)


CLAIMS = {"ADDS.UP": ",7", "LIES.BETWEEN": ",-3,5"}


@given(column=st.lists(entries, min_size=1, max_size=6), across=st.booleans(),
       claim=st.sampled_from(["NEVER.FALLS", "NEVER.RISES", "NONE.TWICE", "NO.ERROR", "NO.GAP",
                              *CLAIMS]))  # fmt: skip
def test_a_statement_holds_where_the_long_way_says_so(column, across, claim):
    places = [("ABCDEF"[at] + "1" if across else f"A{at + 1}") for at in range(len(column))]
    made = workbook(
        Loads={place: each for place, each in zip(places, column, strict=True) if each is not None}
    )
    found = verdict(made, f"{claim}({places[0]}:{places[-1]}{CLAIMS.get(claim, '')})")
    assert (found.state == "holds") is plainly(claim, [value(each) for each in column])
    if found.wrong and claim in ("NO.GAP", "NO.ERROR"):
        wanted = None if claim == "NO.GAP" else "=1/0"
        bad = {place for place, each in zip(places, column, strict=True) if each == wanted}
        assert {cell.text for _, area in found.wrong for cell in area.cells()} == bad


@given(given=st.integers(-50, 50), expected=st.integers(-100, 100))
def test_a_known_case_tells_what_comes_of_really_entering_it_and_writes_nothing(given, expected):
    made = workbook(Loads=SHARES)
    before = list(made.sheets[0].filled(EVERYWHERE))
    found = verdict(made, f"KNOWN.CASE(GIVEN(B2={given}),GIVES(B5={expected}))")
    assert list(made.sheets[0].filled(EVERYWHERE)) == before
    really = workbook(Loads=SHARES | {"B2": str(given)})
    plain = verdict(really, f"AGREES(B5,{expected})")
    assert (found.state, found.wrong) == (plain.state, plain.wrong)


def test_what_says_nothing_about_cells_is_not_kept():
    made = workbook(Loads=SHARES)
    for text, why in (
        ("=1=1", "reads no cell"), ("12", "begins with ="), ("=ADDS.UP(A1)", "takes cells, to"),
        ("=B2=(", "expected"), ("=NO.GAP(#REF!)", "are gone"),
    ):  # fmt: skip
        with pytest.raises(DreieckError, match=why):
            proven(made, stated(text, made.sheets[0]))
    apply(made, [proven(made, stated("=NO.GAP(A1:A5)", made.sheets[0]))])
    with pytest.raises(DreieckError, match="kept already"):
        proven(made, stated("=no.gap(Loads!A1:A5)", made.sheets[0]))


def test_each_statement_that_is_told_of_is_judged():
    assert judging._JUDGES.keys() == STATEMENTS.keys()
