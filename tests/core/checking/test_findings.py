"""Every rule: what it finds and mends, and where it keeps quiet because the fill is meant so."""

from datetime import UTC, datetime

import pytest
from golden import is_kept
from tables import GRID, PRICES, WEEKS, filled, raised, said, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_sheet, check_workbook
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.editing.laying_out import hidden
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell, Lines
from dreieck.core.sheet.feed import Reading
from dreieck.core.values.look import Look
from dreieck.demo import hut_supplies as demo


def all_findings(made):
    calculation = Calculation(made)
    return [f for checked in check_sheet(calculation, made.sheets[0]) for f in checked.findings]


def finding(made, rule):
    """The only finding of a rule."""
    (found,) = [each for each in all_findings(made) if each.rule == rule]
    return found


FOUND = {
    "a lone input slides down": (
        PRICES, {"C4_C9": "=B4*B1"},
        {("input-slid", "C5:C9")},
    ),
    "a total slides": (
        {**PRICES, "B10": "=SUM(B4:B9)"}, {"C4_C9": "=B4/B10"},
        {("input-slid", "C5:C9")},
    ),
    "a column of the grid is not held": (
        GRID, {"C5_E10": "=B5*C$4"}, {("input-slid", "D5:E10")},
    ),
    "a row of the grid is not held": (
        GRID, {"C5_E10": "=$B5*C4"}, {("input-slid", "C6:E10")},
    ),
    "a list slides under a share": (
        PRICES, {"C4_C9": "=B4/SUM(B4:B9)"}, {("input-slid", "C5:C9")},
    ),
    "a table slides under a lookup": (
        {**PRICES, "F4": "Flour", "G4": "1", "F5": "Cheese", "G5": "2", "F6": "Coffee", "G6": "3",
         "F7": "Lentils", "G7": "4", "F8": "Lamp oil", "G8": "5", "F9": "Potatoes", "G9": "6"},
        {"C4_C9": "=VLOOKUP(A4,F4:G9,2,FALSE)"},
        {("input-slid", "C5:C9")},
    ),
    "an item has no weight yet": (
        {key: text for key, text in PRICES.items() if key != "B6"}, {"C4_C9": "=B4*B$1"},
        {("reads-empty", "C6")},
    ),
    "the fill goes on below the list": (
        PRICES, {"C4_C12": "=B4*B$1"}, {("past-end", "C10:C12")},
    ),
    "a moving average goes on below the list": (
        WEEKS, {"D6_D13": "=AVERAGE(B4:B6)"}, {("past-end", "D12:D13")},
    ),
    "text stands among the weights": (
        {**PRICES, "B6": "ca. 40"}, {"C4_C9": "=B4*B$1"}, {("reads-text", "C6")},
    ),
    "a number kept as text is left out": (
        {**PRICES, "B6": "'45", "B11": "=SUM(B4:B9)"}, {}, {("kept-as-text", "B6")},
    ),
    "everything is locked": (
        PRICES, {"C4_C9": "=$B$4*$B$1"}, {("all-same", "C5:C9")},
    ),
    "only the first hut is read": (
        GRID, {"C5_E10": "=$B5*$C$4"}, {("heading-unread", "D5:E10")},
    ),
    "only the first item is read": (
        GRID, {"C5_E10": "=$B$5*C$4"}, {("heading-unread", "C6:E10")},
    ),
    "a sum ends one row early": (
        {**PRICES, "B10": "=SUM(B4:B8)"}, {}, {("misses-neighbours", "B10")},
    ),
    "a sum begins one row late": (
        {**PRICES, "B11": "=SUM(B5:B9)"}, {}, {("misses-neighbours", "B11")},
    ),
    "a row is left out of all sums": (
        GRID, {"C5_E10": "=$B5*C$4", "C11_E11": "=SUM(C5:C9)"},
        {("misses-neighbours", "C11:E11")},
    ),
    "a sum counts subtotals": (
        {"A1": "kg", "A2": "5", "A3": "7", "A4": "=SUM(A2:A3)", "A5": "2", "A6": "=SUM(A5:A5)",
         "A7": "=SUM(A2:A6)"}, {}, {("counts-total", "A7")},
    ),
    "one formula differs": (
        {**GRID}, {"C5_E10": "=$B5*C$4", "D7_D7": "=$B7*C$4"}, {("shape-break", "D7")},
    ),
    "a row was inserted inside": (
        GRID, {"C5_E7": "=$B5*C$4", "C9_E10": "=$B9*C$4"}, {("shape-break", "C8:E8")},
    ),
    "a number is typed over": (
        {**PRICES}, {"C4_C9": "=B4*B$1", "C6_C6": "99"}, {("typed-over", "C6")},
    ),
    "a number is typed over in a row": (
        {**GRID, "F3": "Tarn", "F4": "196"}, {"C5_F5": "=$B5*C4", "D5_D5": "99"},
        {("typed-over", "D5")},
    ),
    "a part fell off": (
        {**PRICES, "C4": "=B4*#REF!"}, {}, {("lost-reference", "C4")},
    ),
    "cells read themselves": (
        {"A1": "=B1+1", "B1": "=A1+1"}, {}, {("loop", "A1"), ("loop", "B1")},
    ),
    "a lock is not needed": (
        PRICES, {"C4_C9": "=$B4*B$1"}, {("lock-not-needed", "C4:C9")},
    ),
    "a rate is typed inside": (
        PRICES, {"C4_C9": "=B4*1.8"}, {("number-inside", "C4:C9")},
    ),
    "an empty range": (
        PRICES, {"C4_C9": "=SUM(E4:F4)"}, {("reads-empty", "C4")},
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", FOUND)
def test_a_rule_finds(name):
    entries, fills, expected = FOUND[name]
    made = filled(entries, **fills)
    assert raised(made) == expected
    is_kept("core/checking/findings.txt", name, said(made))


QUIET = {
    "a mixed grid": (GRID, {"C5_E10": "=$B5*C$4"}),
    "a row left blank": (
        {key: text for key, text in WEEKS.items() if key != "B7"},
        {"C4_C6": "=B4*2", "C8_C11": "=B8*2"},
    ),
    "every third row left out": (
        {**WEEKS, "B12": "5", "B13": "6", "B14": "7"},
        {"C4_C5": "=B4*2", "C7_C8": "=B7*2", "C10_C11": "=B10*2", "C13_C14": "=B13*2"},
    ),
    "a value that the formula says is missing": (PRICES, {"C4_C9": "=IF(B4>60,B4,#N/A)"}),
    "a value that is not there yet": (PRICES, {"C4_C9": "=IF(B4>60,B4,NA())"}),
    "a held rate": (PRICES, {"C4_C9": "=B4*$B$1"}),
    "a running total": (WEEKS, {"C4_C11": "=SUM(B$4:B4)"}),
    "a running total whose end is worked out": (
        WEEKS, {"C4_C11": "=SUM(B$4:INDEX(B$4:B$11,ROW()-3))"},
    ),
    "a running total from the cell above": (WEEKS, {"C4_C11": "=SUM(C3,B4)"}),
    "a balance brought forward": ({**WEEKS, "C3": "50"}, {"C4_C11": "=C3+B4"}),
    "a balance that begins with nothing": (WEEKS, {"D4_D11": "=D3+B4"}),
    "growth by a rate": (
        {**WEEKS, "E2": "3%", "E4": "100"}, {"E5_E11": "=E4*(1+E$2)"},
    ),
    "growth across years": (
        {"A2": "Item", "B2": "2026", "C2": "2027", "D2": "2028", "E2": "2029", "A1": "Rate",
         "C1": "2%", "D1": "3%", "E1": "2%", "A3": "Flour", "B3": "50", "A4": "Lentils",
         "B4": "30"}, {"C3_E4": "=B3*(1+C$1)"},
    ),
    "a change from the week before": (WEEKS, {"C5_C11": "=B5/B4-1"}),
    "an index to the first week": (WEEKS, {"C4_C11": "=B4/B$4"}),
    "a moving average": (WEEKS, {"D6_D11": "=AVERAGE(B4:B6)"}),
    "a share of a total": ({**PRICES, "B10": "=SUM(B4:B9)"}, {"C4_C10": "=B4/B$10"}),
    "sums below a grid": (GRID, {"C5_E10": "=$B5*C$4", "C12_E12": "=SUM(C5:C10)"}),
    "sums beside a grid": (GRID, {"C5_E10": "=$B5*C$4", "F5_F10": "=SUM(C5:E5)"}),
    "totals both ways": (
        GRID, {"C5_E10": "=$B5*C$4", "F5_F10": "=SUM(C5:E5)", "C11_F11": "=SUM(C5:C10)"},
    ),
    "text joined as text": (PRICES, {"C4_C9": '=A4&": "&B4&D4'}),
    "text compared": (PRICES, {"C4_C9": '=IF(A4="Flour",1,0)'}),
    "an empty cell that is asked about": (
        {key: text for key, text in PRICES.items() if key != "B6"},
        {"C4_C12": '=IF(B4="","",B4*B$1)'},
    ),
    "an error that is caught": (
        {key: text for key, text in PRICES.items() if key != "B6"},
        {"C4_C9": '=IFERROR(B$1/B4,"none")'},
    ),
    "a lookup in a held table": (
        {**PRICES, "F4": "Flour", "G4": "1", "F5": "Cheese", "G5": "2"},
        {"C4_C9": '=IFNA(VLOOKUP(A4,$F$4:$G$5,2,FALSE),0)'},
    ),
    "a heading looked up": (
        {**GRID, "G3": "Larch"}, {"H5_H10": "=INDEX($C$4:$E$4,MATCH($G$3,$C$3:$E$3,0))*B5"},
    ),
    "counts by a held list": (
        {**PRICES, "E4": "Flour", "E5": "Cheese"}, {"F4_F5": "=COUNTIF(A$4:A$9,E4)"},
    ),
    "subtotals in a column of products": (
        {"A1": "Price", "B1": "kg", "C1": "Cost", "A2": "2", "B2": "3", "A3": "4", "B3": "5",
         "A5": "6", "B5": "7", "A6": "8", "B6": "9", "C4": "=SUM(C2:C3)", "C7": "=SUM(C5:C6)"},
        {"C2_C3": "=A2*B2", "C5_C6": "=A5*B5"},
    ),
    "inputs and results in turn": (
        {"B2": "2", "D2": "3", "B3": "4", "D3": "5", "B4": "6", "D4": "7", "F2": "1", "F3": "1",
         "F4": "1"},
        {"C2_C4": "=B2*2", "E2_E4": "=D2*2"},
    ),
    "a value that is missing on purpose": ({"A1": "1"}, {"B1_B3": "=NA()"}),
    "rounding, months and percents": (PRICES, {"C4_C9": "=ROUND(B4/12*100,3)^3"}),
    "the row number": (PRICES, {"C4_C9": "=ROW()-3"}),
    "a grown list on another sheet": (PRICES, {"C4_C9": "=SUM(Loads!B$4:B$9)*B4"}),
    "a constant column": (PRICES, {"C4_C9": "5"}),
}  # fmt: skip


@pytest.mark.parametrize("name", QUIET)
def test_a_fill_that_is_meant_so_raises_nothing(name):
    entries, fills = QUIET[name]
    assert raised(filled(entries, **fills)) == set()


MENDED = {
    "input-slid": (PRICES, {"C4_C9": "=B4*B1"}, 0),
    "kept-as-text": ({**PRICES, "B6": "'45", "B11": "=SUM(B4:B9)"}, {}, 0),
    "past-end": (PRICES, {"C4_C12": "=B4*B$1"}, 0),
    "heading-unread": (GRID, {"C5_E10": "=$B5*$C$4"}, 0),
    "misses-neighbours": ({**PRICES, "B10": "=SUM(B4:B8)"}, {}, 0),
    "counts-total": FOUND["a sum counts subtotals"],
    "shape-break": FOUND["one formula differs"],
    "typed-over": FOUND["a number is typed over"],
    "lock-not-needed": FOUND["a lock is not needed"],
}


@pytest.mark.parametrize("rule", MENDED)
def test_a_mend_leaves_nothing_to_find_and_can_be_taken_back(rule):
    entries, fills, _ = MENDED[rule]
    made = filled(entries, **fills)
    before = raised(made)
    inverse = [edit.apply(made) for edit in finding(made, rule).mends[0].edits]
    assert raised(made) == set()
    for edit in reversed(inverse):
        edit.apply(made)
    assert raised(made) == before


def test_one_finding_says_where_it_went_wrong_first_what_came_of_it_and_why():
    made = filled(PRICES, C4_C9="=B4*B1")
    made.sheets[0].put(Cell.parse("D6"), Shape.parse("=C6+1", Cell.parse("D6")), Look())
    (slid,) = all_findings(made)
    assert slid.says == "ⓑ slides off B1 (“Carrying price, per kg”): C5 reads B2, which is empty."
    assert slid.mends[0].says == "let the row of ⓑ stay"
    assert (slid.mends[0].before, slid.mends[0].after) == ("=B4*B1", "=B4*B$1")
    assert "C6 reads text by ⓑ where a number is needed" in slid.because
    assert slid.because[-1] == "with the mend 2 errors are gone"
    assert slid.causes == (
        "C5 is 0", "C6 shows #VALUE!", "C7:C9 are larger than with the mend",
        "D6 fails because of them",
    )  # fmt: skip


def test_an_error_on_another_sheet_is_told_with_the_mistake_that_it_comes_of():
    entries = {**PRICES, "C4": "=B4*B1", "C5": "=B5*B2", "C6": "=B6*B3"}
    made = workbook(Loads=entries, All={"A1": "Carrying", "B1": "=SUM(Loads!C4:C9)*2"})
    calculation = Calculation(made)
    (cause,) = [f for checked in check_workbook(calculation) for f in checked.findings]
    assert (cause.rule, cause.state) == ("input-slid", "broken")
    assert cause.causes == ("C5 is 0", "C6 shows #VALUE!", "B1 on “All” fails because of them")
    (told,) = [f for each in check_sheet(calculation, made.sheets[1]) for f in each.findings]
    assert (told.rule, told.began.cell.text) == ("error", "C6")
    assert told.says.endswith(cause.says) and told.mends == cause.mends


NOW = datetime.now(UTC).isoformat()


def demo_workbook():
    sheets = demo.sheets()
    made = typed_workbook({sheet.name: sheet.entries for sheet in sheets}, demo.NAMES)
    for sheet, new in zip(made.sheets, sheets, strict=True):
        sheet.layout = new.layout
        for address, look in new.looks.items():
            cell = Cell.parse(address)
            sheet.put(cell, sheet.content(cell), look)
    made.feeds = {feed.key: feed.told(Reading(1.8, NOW, "valley")) for feed in demo.FEEDS}
    return made


@pytest.mark.parametrize("name", ["Prices", "Loads", "Season"])
def test_nothing_is_raised_on_sound_sheets_of_the_demo(name):
    assert raised(demo_workbook(), name) == set()


def test_every_planted_mistake_of_the_demo_is_mended_by_its_first_mend():
    made = demo_workbook()
    sheet = made.sheet("To mend")
    planted = {"C6", "D6", "B10", "C15"}
    for _ in range(10):
        calculation = Calculation(made)
        open_ones = [c for c in check_sheet(calculation, sheet) if c.findings]
        if not open_ones:
            break
        planted.discard(open_ones[0].block.start.text)
        mend = next(f.mends[0] for f in open_ones[0].findings if f.mends)
        for edit in mend.edits:
            edit.apply(made)
    assert raised(made, "To mend") == set()
    assert planted == set()


def test_looks_stay_when_a_block_is_mended():
    made = filled(PRICES, C4_C9="=B4*B1")
    sheet = made.sheets[0]
    sheet.dress(3, 5, 6, Look("number", 2))
    for edit in finding(made, "input-slid").mends[0].edits:
        edit.apply(made)
    looks = [sheet.look(Cell(3, row)).form for row in (4, 5, 6, 7)]
    assert looks == ["general", "number", "number", "general"]


def test_a_range_with_hidden_rows_or_columns_is_noted():
    made = filled(GRID, C5_E10="=$B5*C$4", C11_E11="=SUM(C5:C10)", F5_F10="=SUM($C5:$E5)")
    sheet = made.sheets[0]
    assert raised(made) == set()
    hidden(sheet, [Lines("row", 6, 2)]).apply(made)
    hidden(sheet, [Lines("row", 20, 2), Lines("column", 3, 1)]).apply(made)
    assert raised(made) == {("reads-hidden", "C11:E11"), ("reads-hidden", "F5:F10")}
    notes = [note for note in all_findings(made) if note.rule == "reads-hidden"]
    assert [note.says for note in notes] == [
        "F5 reads C5:E5 (“Flour, Kestrel to Scree”); column C is hidden there.",
        "C11 reads C5:C10 (“Kestrel, Flour to Lamp oil”); rows 6 to 7 are hidden there.",
    ]


def test_a_subtotal_that_leaves_hidden_rows_out_reads_none():
    held = {"A1": "kg", "A2": "5", "A3": "7", "A4": "9"}
    for kind, notes in ((9, {"A6"}), (109, set())):
        made = workbook(Loads={**held, "A6": f"=SUBTOTAL({kind},A2:A4)"})
        hidden(made.sheets[0], [Lines("row", 3, 1)]).apply(made)
        assert {at for rule, at in raised(made) if rule == "reads-hidden"} == notes


def test_an_error_is_told_with_the_formula_that_it_comes_of():
    held = {"A3": "Item", "B3": "kg", "C3": "Double", "B4": "=1/0", "B5": "4", "B6": "5",
            "B7": "=2/E20", "B8": "3", "B9": "4"}  # fmt: skip
    made = filled(held, C4_C9="=B4*2")
    told = {each.areas[0].text: each.causes for each in all_findings(made)}
    assert told == {"B4": ("C4 fails because of it",), "B7": ("C7 fails because of it",)}


def test_amounts_and_decimal_commas_in_a_summed_list_are_texts_that_are_meant_as_numbers():
    held = {"A3": "Month", "B3": "Sales", "A4": "Jan", "A5": "Feb", "A6": "Mar", "B4": "200",
            "B5": "893,97 EUR", "B6": "'2108,88", "A7": "Total", "B7": "=SUM(B4:B6)"}  # fmt: skip
    made = workbook(Loads=held)
    found = finding(made, "kept-as-text")
    assert found.says.startswith("B5:B6 hold 2 numbers, kept as text")
    assert found.causes == ("B7 is smaller than with the mend",)
    after = Calculation(made).with_edits(found.mends[0].edits)
    assert after.value("Loads", Cell.parse("B7")) == pytest.approx(3202.85)
    assert after.workbook.sheets[0].look(Cell.parse("B5")).form == "currency:EUR"
    assert raised(workbook(Loads={**held, "B5": "12 kg", "B6": "none"})) == set()


def test_a_reference_that_stands_twice_is_told_once():
    held = {"A1": "Share", "B1": "0.5", "A3": "Item", "C3": "Cost", "D3": "Part", "A2": "Base",
            "B2": "7", **{f"A{row}": f"x{row}" for row in range(4, 8)},
            **{f"C{row}": str(row * 10) for row in range(4, 8)}}  # fmt: skip
    made = filled(held, D4_D7="=B1*C4/(B2+B1*C4)")
    found = finding(made, "input-slid")
    assert found.says.count("ⓐ") == 1 and found.says.count("ⓒ") == 1
    assert found.mends[0].says == "let the row of ⓐ stay and the row of ⓒ stay"


MONTHS = {"A3": "Month", "A4": "Jan", "A5": "Feb", "A6": "Mar", "A7": "Apr", "A8": "Total"}


def test_a_number_like_a_year_is_a_heading_only_where_no_other_one_stands():
    sums = {"B4": "2000", "B5": "300", "B6": "450", "B7": "80", "B8": "=SUM(B5:B7)"}
    assert raised(workbook(Loads={**MONTHS, "B3": "kg", **sums})) == {("misses-neighbours", "B8")}
    list_of_a_year = {"B3": "2024", **sums, "B8": "=SUM(B4:B7)"}
    assert raised(workbook(Loads={**MONTHS, **list_of_a_year})) == set()
    noted = {"C4": "paid", "B3": "kg", **sums, "B4": "1850", "B8": "=SUM(B4:B7)"}
    assert raised(workbook(Loads={**MONTHS, **noted})) == set()


def test_one_mend_does_away_with_both_doubts_about_a_range():
    held = {"B3": "2024", "B4": "200", "B5": "190", "B6": "195", "B7": "220", "B8": "=SUM(B3:B6)"}
    (found,) = all_findings(workbook(Loads={**MONTHS, **held}))
    assert found.mends[0].says == "stretch ⓐ to B4:B7" and found.mends[0].before == "=SUM(B3:B6)"
    after = Calculation(workbook(Loads={**MONTHS, **held})).with_edits(found.mends[0].edits)
    assert after.value("Loads", Cell.parse("B8")) == 805.0
    assert all_findings(after.workbook) == []
