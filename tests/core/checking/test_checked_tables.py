"""Whole small tables, sound ones and ones with a mistake: just what should be is raised."""

import pytest
from golden import is_kept
from tables import GRID, WEEKS, filled, raised, said

QUIET = {
    "a rate looked up by tiers": (
        {"A1": "From", "B1": "Rate", "A2": "0", "B2": "0.01", "A3": "100", "B3": "0.02",
         "A4": "200", "B4": "0.03", "D1": "Nights", "E1": "Rate", "D2": "50", "D3": "150",
         "D4": "250"},
        {"E2_E4": "=VLOOKUP(D2,$A$2:$B$4,2)"},
    ),
    "nights between dates": (
        {"A1": "Arrive", "B1": "Leave", "C1": "Nights", "A2": "2026-03-01", "B2": "2026-03-04",
         "A3": "2026-03-05", "B3": "2026-03-09"},
        {"C2_C3": "=B2-A2"},
    ),
    "a change from the week before": (
        WEEKS,
        {"C5_C11": "=B5-B4"},
    ),
    "ranks in a held list": (
        WEEKS,
        {"C4_C11": "=RANK(B4,$B$4:$B$11)"},
    ),
    "cumulative share": (
        {**WEEKS, "B12": "=SUM(B4:B11)"},
        {"C4_C11": "=SUM(B$4:B4)/B$12"},
    ),
    "names of guests joined": (
        {"A1": "First", "B1": "Last", "A2": "Ada", "B2": "Tarn", "A3": "Ben", "B3": "Scree"},
        {"C2_C3": '=A2&" "&B2'},
    ),
    "multiplication table": (
        {"A2": "1", "A3": "2", "A4": "3", "A5": "4", "A6": "5", "A7": "6", "A8": "7", "A9": "8",
         "A10": "9", "A11": "10", "B1": "1", "C1": "2", "D1": "3", "E1": "4", "F1": "5",
         "G1": "6", "H1": "7", "I1": "8", "J1": "9", "K1": "10"},
        {"B2_K11": "=$A2*B$1"},
    ),
    "a loan paid back": (
        {"A1": "Rate", "B1": "0.01", "A2": "Payment", "B2": "100", "A4": "Month",
         "B4": "Balance", "A5": "0", "B5": "1000", "A6": "1", "A7": "2", "A8": "3", "A9": "4"},
        {"B6_B9": "=B5*(1+$B$1)-$B$2"},
    ),
    "tax and gross price": (
        {"A1": "Guest tax", "B1": "0.2", "A3": "Item", "B3": "Net", "C3": "Tax", "D3": "Gross",
         "A4": "Flour", "B4": "10", "A5": "Salt", "B5": "20", "A6": "Oil", "B6": "30"},
        {"C4_C6": "=B4*$B$1", "D4_D6": "=B4+C4"},
    ),
    "totals below and beside": (
        GRID,
        {"C5_E10": "=$B5*C$4", "C11_E11": "=SUM(C5:C10)", "F5_F11": "=SUM(C5:E5)"},
    ),
    "sums by hut": (
        {"A1": "Hut", "B1": "Nights", "A2": "Kestrel", "B2": "4", "A3": "Larch", "B3": "6",
         "A4": "Kestrel", "B4": "8", "D1": "Hut", "E1": "Sum", "D2": "Kestrel", "D3": "Larch"},
        {"E2_E3": "=SUMIF($A$2:$A$4,D2,$B$2:$B$4)"},
    ),
    "an empty cell asked about": (
        {"A1": "Item", "B1": "Qty", "A2": "a", "B2": "3", "A3": "b", "A4": "c", "B4": "5"},
        {"C2_C4": '=IF(B2="","",B2*2)'},
    ),
    "growth from year to year": (
        {"A1": "Year", "B1": "Guests", "A2": "2023", "B2": "100", "A3": "2024", "B3": "120",
         "A4": "2025", "B4": "150"},
        {"C3_C4": "=(B3-B2)/B2"},
    ),
    "a share of a whole column": (
        {"A1": "Item", "B1": "Qty", "A2": "a", "B2": "3", "A3": "b", "B3": "5"},
        {"C2_C3": "=B2/SUM(B:B)"},
    ),
    "a price found by item and hut": (
        {"A1": "", "B1": "Kestrel", "C1": "Larch", "A2": "Flour", "B2": "1", "C2": "2",
         "A3": "Oil", "B3": "3", "C3": "4", "E1": "Item", "F1": "Hut", "G1": "Price",
         "E2": "Oil", "F2": "Larch", "E3": "Flour", "F3": "Kestrel"},
        {"G2_G3": "=INDEX($B$2:$C$3,MATCH(E2,$A$2:$A$3,0),MATCH(F2,$B$1:$C$1,0))"},
    ),
    "running by index": (
        WEEKS,
        {"C4_C11": "=SUM(B$4:INDEX(B$4:B$11,ROW()-3))"},
    ),
    "inline lookup": (
        WEEKS,
        {"C4_C11": '=VLOOKUP(B4,{0,"few";150,"many"},2)'},
    ),
}  # fmt: skip
RAISED = {
    "a table of tiers slides": (
        {"A1": "From", "B1": "Rate", "A2": "0", "B2": "0.01", "A3": "100", "B3": "0.02",
         "A4": "200", "B4": "0.03", "D1": "Nights", "E1": "Rate", "D2": "50", "D3": "150",
         "D4": "250"},
        {"E2_E4": "=VLOOKUP(D2,A2:B4,2)"},
        {("input-slid", "E3:E4")},
    ),
    "sums by hut in lists that slide": (
        {"A1": "Hut", "B1": "Nights", "A2": "Kestrel", "B2": "4", "A3": "Larch", "B3": "6",
         "A4": "Kestrel", "B4": "8", "D1": "Hut", "E1": "Sum", "D2": "Kestrel", "D3": "Larch"},
        {"E2_E3": "=SUMIF(A2:A4,D2,B2:B4)"},
        {("input-slid", "E3")},
    ),
    "ranks in a list that slides": (
        WEEKS,
        {"C4_C11": "=RANK(B4,B4:B11)"},
        {("input-slid", "C5:C11")},
    ),
    "a tax rate slides": (
        {"A1": "Guest tax", "B1": "0.2", "A3": "Item", "B3": "Net", "C3": "Tax", "A4": "Flour",
         "B4": "10", "A5": "Salt", "B5": "20", "A6": "Oil", "B6": "30"},
        {"C4_C6": "=B4*B1"},
        {("input-slid", "C5:C6")},
    ),
    "all is locked": (
        WEEKS,
        {"C4_C11": "=$B$4*2"},
        {("all-same", "C5:C11")},
    ),
    "a rate slides to the right": (
        {"A1": "Rate", "B1": "0.05", "A3": "Year", "B3": "2024", "C3": "2025", "D3": "2026",
         "E3": "2027", "A4": "Guests", "B4": "1000"},
        {"C4_E4": "=B4*(1+B1)"},
        {("input-slid", "D4:E4")},
    ),
    "total misses last row": (
        {**WEEKS, "A12": "Total", "B12": "=SUM(B4:B10)"},
        {},
        {("misses-neighbours", "B12")},
    ),
    "average includes total": (
        {**WEEKS, "A12": "Total", "B12": "=SUM(B4:B11)", "A13": "Mean",
         "B13": "=AVERAGE(B4:B12)"},
        {},
        {("counts-total", "B13")},
    ),
    "text number left out": (
        {**WEEKS, "B7": "'149", "A12": "Total", "B12": "=SUM(B4:B11)"},
        {},
        {("kept-as-text", "B7")},
    ),
    "mixed grid wrong way": (
        GRID,
        {"C5_E10": "=B$5*$C4"},
        {("input-slid", "D5:E10 C6:C10")},
    ),
    "grid all relative": (
        GRID,
        {"C5_E10": "=B5*C4"},
        {("input-slid", "D5:E10 C6:C10")},
    ),
    "grid all absolute": (
        GRID,
        {"C5_E10": "=$B$5*$C$4"},
        {("all-same", "D5:E10 C6:C10")},
    ),
    "grid only col of C locked": (
        GRID,
        {"C5_E10": "=$B5*$C4"},
        {("input-slid", "D5:E10 C6:C10")},
    ),
    "a lost reference": (
        {"A1": "1", "A2": "2", "A3": "3"},
        {"B1_B3": "=#REF!*A1"},
        {("lost-reference", "B1:B3")},
    ),
    "share denominator slides, across": (
        {"A1": "Hut", "B1": "Kestrel", "C1": "Larch", "D1": "Scree", "E1": "Total",
         "A2": "Guests", "B2": "5", "C2": "7", "D2": "8", "E2": "=SUM(B2:D2)", "A3": "Share"},
        {"B3_D3": "=B2/E2"},
        {("input-slid", "C3:D3")},
    ),
    "recurrence row inserted": (
        {**WEEKS, "C3": "5", "C4": "=C3+B4"},
        {"C5_C6": "=C4+B5", "C8_C8": "=C6+B8", "C9_C11": "=C8+B9"},
        {("shape-break", "C7:C8")},
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", QUIET)
def test_nothing_is_raised_on_a_sound_table(name):
    entries, fills = QUIET[name]
    assert raised(filled(entries, **fills)) == set()


@pytest.mark.parametrize("name", RAISED)
def test_a_mistake_in_a_table_is_raised(name):
    entries, fills, expected = RAISED[name]
    made = filled(entries, **fills)
    assert raised(made) == expected
    is_kept("core/checking/findings.txt", name, said(made))
