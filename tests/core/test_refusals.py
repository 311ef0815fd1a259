"""What is refused, word for word: each refusal says where and what would do."""

import pytest
from tables import GRID, PRICES, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.aim import aimed
from dreieck.core.checking.four_ways import four_ways
from dreieck.core.editing import inserting, lifting, naming, sheets
from dreieck.core.editing.copying import copy_text, pasted, pasted_text
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.editing.fill import check_target, plan_fill
from dreieck.core.exceptions import DreieckError, FormulaError, NameRefused
from dreieck.core.formula import Shape, parse
from dreieck.core.grid import EVERYWHERE, Area, Cell, Lines
from dreieck.core.sheet.content import read_entry
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.names import checked_name
from dreieck.core.values.look import PLAIN

A1, C5 = Cell(1, 1), Cell(3, 5)


def book():
    """Loads with the grid, Prices, and two names."""
    made = workbook(Loads=GRID, Prices={**PRICES, "C4": "=B4*1.8", "C5": "=B5*2.5"})
    for name, says in (("rate", "Prices!$B$1"), ("rate_2", "0.1")):
        for edit in naming.given(made, name, says):
            edit.apply(made)
    return made


def ways(made, number):
    shape = Shape.parse("=B5*C4", C5)
    return four_ways(Calculation(made), made.sheets[0], C5, shape, Area.parse("C5:E10"), number)


def aim(formula, landing, wanted):
    reference = Shape.parse(formula, C5).references[0]
    return aimed(reference, C5, Cell.parse(landing), Area.parse(wanted))


def crowded(made):
    sheet = made.sheets[0]
    SetCells.with_content(sheet, [Area(8, 1, 8, 1_000_000)], 1.0).apply(made)
    return made, sheet


def lift(made, pick=slice(None), cell="H1", label=""):
    chosen = lifting.numbers_inside(made)[pick]
    return lifting.lifted(made, chosen, made.sheets[0], Cell.parse(cell), label, "")


def at_the_end(made, axis, address):
    cell = Cell.parse(address)
    SetCells.of(1, {cell: (1.0, PLAIN)}).apply(made)
    return inserting.inserted(made, made.sheets[0], Lines(axis, 3, 2))


REFUSED = {
    "an address": (
        lambda made: Cell.parse("C0"), "“C0” is not the address of a cell, such as C5."
    ),
    "a long address": (
        lambda made: Cell.parse("x" * 41),
        f"“{'x' * 39}…” is not the address of a cell, such as C5.",
    ),
    "a row too far": (
        lambda made: Cell.parse("c1000001"), "C1000001 is beyond the last row, 1,000,000."
    ),
    "an area": (
        lambda made: Area.parse("C5:"), "“C5:” is not an area, such as C5 or C5:F10."
    ),
    "rows too far": (
        lambda made: Area.parse("1000001:3"), "Row 1000001 is beyond the last row, 1,000,000."
    ),
    "an area too far": (
        lambda made: Area.parse("C5:C1000001"), "C1000001 is beyond the last row, 1,000,000."
    ),
    "an area by numbers": (
        lambda made: Area.parse_numbered("R5C", C5) and Area.parse_numbered("Q", C5),
        "“Q” is not an area such as R5C3 or R[1]C:R5C4.",
    ),
    "an area by numbers off the sheet": (
        lambda made: Area.parse_numbered("R[-5]C", C5), "“R[-5]C” lies off the sheet."
    ),
    "three ends": (
        lambda made: Area.parse_numbered("R1C1:R2C2:R3C3", C5),
        "“R1C1:R2C2:R3C3” has more than two ends.",
    ),
    "a long entry": (
        lambda made: read_entry("x" * 10_001, A1),
        "An entry can have 10,000 characters; this one has 10,001. Shorten it, or spread it over"
        " several cells.",
    ),
    "a sheet that is not there": (
        lambda made: made.sheet("Winter"), "There is no sheet “Winter” in this workbook."
    ),
    "a sheet that is gone": (
        lambda made: made.sheet_by_id(9), "This sheet is no longer in the workbook."
    ),
    "a sheet without a name": (
        lambda made: sheets.renamed(made, made.sheets[0], " "), "A sheet needs a name."
    ),
    "a sheet with a long name": (
        lambda made: sheets.renamed(made, made.sheets[0], "x" * 65),
        "The name of a sheet can have 64 characters.",
    ),
    "a sheet with a mark in its name": (
        lambda made: sheets.renamed(made, made.sheets[0], "Week:1"),
        "“:” cannot stand in the name of a sheet.",
    ),
    "a sheet that there is": (
        lambda made: typed_workbook({"Loads": {}, "loads": {}}),
        "There is a sheet “loads” already. Give this one another name.",
    ),
    "the last sheet": (
        lambda made: sheets.deleted(workbook(Loads={}), workbook(Loads={}).sheets[0]),
        "A workbook has at least one sheet. Add another one first.",
    ),
    "a fill with nothing": (
        lambda made: plan_fill(made, 1, Area.parse("H1:H2"), Area.parse("H1:H9")),
        "H1:H2 is empty: there is nothing to fill with.",
    ),
    "a fill from too much": (
        lambda made: plan_fill(made, 1, Area.parse("A1:B500001"), Area.parse("A1:A2")),
        "A fill can start from 1,000,000 cells at most.",
    ),
    "a fill over too much": (
        lambda made: check_target(Area.parse("A1:B500001")),
        "A1:B500001 has 1,000,002 cells; one fill can write 1,000,000. Choose a smaller area.",
    ),
    "a fill off the sheet": (
        lambda made: check_target(Area(1, 1, 18_279, 1)),
        "The fill would leave the sheet: columns go from A to ZZZ, rows from 1 to 1,000,000.",
    ),
    "a paste of too much": (
        lambda made: pasted(
            Calculation(made), made.sheets[0], Area.parse("A3:E4"), made.sheets[1],
            Area.parse("A1:E400000"), "all",
        ),
        "A1:E400000 has 2,000,000 cells; one fill can write 1,000,000. Choose a smaller area.",
    ),
    "no text": (
        lambda made: pasted_text(made, made.sheets[0], A1, "\n"), "There is no text to paste."
    ),
    "text with a mark that does not end": (
        lambda made: pasted_text(made, made.sheets[0], A1, '"' + "x" * 140_000),
        "One piece of this text is too long for a cell, which can have 10,000 characters. Is a"
        " quotation mark missing?",
    ),
    "too much text": (
        lambda made: pasted_text(made, made.sheets[0], A1, "\t".join("1" * 200_001)),
        "Text can fill 100,000 cells; this one has 200,001.",
    ),
    "too much text for others": (
        lambda made: copy_text(Calculation(crowded(made)[0]), made.sheets[0], EVERYWHERE),
        "Text for other programs can have 100,000 cells.",
    ),
    "moving too much": (
        lambda made: cut_to(
            Calculation(crowded(made)[0]), made.sheets[0], Area.parse("H1:H1000000"),
            made.sheets[1], A1,
        ),
        "At most 200,000 cells can be moved at once.",
    ),
    "deleting too much": (
        lambda made: inserting.deleted(*crowded(made), Lines("column", 8, 1)),
        "At most 200,000 filled cells can be deleted at once.",
    ),
    "rows that push others off": (
        lambda made: at_the_end(made, "row", "A999999"),
        "There is no room for 2 more rows: the last row of the sheet is in use. Clear or delete"
        " something at its end first.",
    ),
    "columns that push others off": (
        lambda made: at_the_end(made, "column", "ZZY9"),
        "There is no room for 2 more columns: the last column of the sheet is in use. Clear or"
        " delete something at its end first.",
    ),
    "two numbers to lift": (lift, "Choose formulas with one number to lift."),
    "no number to lift": (
        lambda made: lift(made, slice(0)), "Choose formulas with one number to lift."
    ),
    "a taken input": (
        lambda made: lift(made, slice(1), "C4"), "C4 holds something else. Choose an empty cell."
    ),
    "a taken label": (
        lambda made: lift(made, slice(1), "B2", "Rate") and lift(made, slice(1), "F4", "Rate"),
        "There is no free cell to the left of F4 for the label.",
    ),
    "a label off the sheet": (
        lambda made: lift(made, slice(1), "A1", "Rate"),
        "There is no free cell to the left of A1 for the label.",
    ),
    "a way of no reference": (
        lambda made: ways(made, 1) and ways(made, 2), "The formula has no such reference."
    ),
    "a way of a reference before the first": (
        lambda made: ways(made, -1), "The formula has no such reference."
    ),
    "an aim from nowhere": (
        lambda made: aimed(Shape.parse("=B5", Cell(3, 6)).references[0], A1, C5, Area.of(A1)),
        "The reference reads nothing at the start.",
    ),
    "an aim at several": (
        lambda made: aim("=B5", "C8", "B8:B9"),
        "The start reads one cell, so C8 can read one only.",
    ),
    "an aim at another column": (
        lambda made: aim("=B5", "E8", "C8"),
        "No lock can do that: the start reads column B, so E8 can read column B (it stays) or D"
        " (it moves), but not C.",
    ),
    "an aim at another row": (
        lambda made: aim("=B5", "C8", "B6"),
        "No lock can do that: the start reads row 5, so C8 can read row 5 (it stays) or 8 (it"
        " moves), but not 6.",
    ),
    "an aim at another column in the same one": (
        lambda made: aim("=B5", "C8", "D8"),
        "No lock can do that: the start reads column B, so C8 can read column B (it stays), but"
        " not D.",
    ),
    "an aim at a range of another end": (
        lambda made: aim("=B4:B9", "C8", "B4:B8"),
        "No lock can do that: the start reads row 9, so C8 can read row 9 (it stays) or 12 (it"
        " moves), but not 8.",
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", REFUSED)
def test_a_refusal_says_what_is_so_and_what_would_do(name):
    act, says = REFUSED[name]
    with pytest.raises(DreieckError) as refused:
        act(book())
    assert str(refused.value) == says


NAMES = {
    " ": ("A name needs at least one letter.", "rate"),
    "x" * 65: ("A name can have 64 characters.", "x" * 62),
    "2nd rate": (
        "“2nd rate” cannot be a name: it begins with a letter or underscore and has only letters,"
        " digits, underscores and dots.", "_2nd_rate",
    ),
    "B5": ("“B5” means something else in a formula.", "B5_"),
    "true": ("“true” means something else in a formula.", "true_"),
}  # fmt: skip


@pytest.mark.parametrize("name", NAMES)
def test_a_refused_name_gets_the_reason_and_one_that_would_do(name):
    with pytest.raises(NameRefused) as refused:
        checked_name(name)
    says, proposal = NAMES[name]
    assert str(refused.value) == f"{says} “{proposal}” would do."
    assert refused.value.proposal == proposal
    assert checked_name(refused.value.proposal)


@pytest.mark.parametrize(
    ("act", "says", "proposal"),
    [
        (lambda made: naming.given(made, "RATE", "0.2"), "“RATE” stands for something already.",
         "RATE_3"),
        (lambda made: naming.given(made, "tax", "tax*2"), "“tax” cannot stand for itself.",
         "tax_2"),
        (lambda made: naming.given(made, "rate", "rate*2", anew=True),
         "“rate” cannot stand for itself.", "rate_3"),
        (lambda made: naming.renamed(made, "rate", "rate_2"),
         "“rate_2” stands for something already.", "rate_2_2"),
    ],
)  # fmt: skip
def test_a_name_that_is_taken_gets_one_that_is_free(act, says, proposal):
    with pytest.raises(NameRefused) as refused:
        act(book())
    assert str(refused.value) == f"{says} “{proposal}” would do."
    assert refused.value.proposal == proposal


FORMULAS = {
    "=": ("The formula is empty: a number, a reference, a function or a bracket is expected after"
          " “=”.", 1, 0),
    "=1+": ("The formula ends too early: a number, a reference, a function or a bracket is"
            " expected after “+”.", 3, 0),
    "=B5 C4 7": ("Here an operator such as + or * is expected, not “7”.", 7, 1),
    "=(B5,2)": ("Here an operator or a closing bracket is expected, not “,”.", 4, 1),
    "=SUM(B5 7)": ("Here an operator, a comma or a closing bracket is expected, not “7”.", 8, 1),
    "=B5:2": ("“:” stands between two references, as in B4:B9.", 3, 1),
    "=B5!2": ("“!” stands between two references, as in B4:B9!A6:C6.", 3, 1),
    "=2~B5": ("“~” stands between two references, as in B4:B9~D4:D9.", 2, 1),
    "={1,2;3}": ("The rows of a table in braces have to be of one length.", 1, 1),
    "={1,B5}": ("Here a value such as 3 or a text in double quotes is expected, not “B5”.", 4, 2),
    "={-TRUE}": ("Here a value such as 3 or a text in double quotes is expected, not “TRUE”.",
                 3, 4),
    "={1 2}": ("Here a comma, a semicolon or a closing brace is expected, not “2”.", 4, 1),
    "=1e999": ("1e999 is too large for a number.", 1, 5),
    "=B1000001": ("B1000001 is not on the sheet: rows go from 1 to 1000000, columns from A to"
                  " ZZZ.", 1, 8),
    "=" + "(" * 65 + "1": ("More than 64 brackets stand inside each other here. Split the formula"
                           " over several cells.", 65, 1),
    "=" + "-" * 200 + "1": ("More than 200 steps build on one another up to here. Split the"
                            " formula over several cells, or use a function over a range.", 1, 1),
    "=" + "1" * 10_000: ("A formula can have 10,000 characters; this one has 10,001.", 10_000, 1),
}  # fmt: skip


@pytest.mark.parametrize("text", FORMULAS, ids=lambda text: text[:12])
def test_a_formula_that_cannot_be_read_tells_the_place_and_what_was_expected(text):
    with pytest.raises(FormulaError) as refused:
        parse(text, C5)
    error = refused.value
    assert (str(error), error.position, error.length) == FORMULAS[text]
