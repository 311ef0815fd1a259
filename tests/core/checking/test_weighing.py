"""What counts as slid: thresholds, one table each."""

import pytest
from tables import filled, raised


def slid(entries, **fills):
    return {cells for rule, cells in raised(filled(entries, **fills)) if rule == "input-slid"}


def down(letter, *entries):
    """Entries of a column from row 1 on; None leaves a cell empty."""
    return {f"{letter}{row}": str(each) for row, each in enumerate(entries, 1) if each is not None}


KILOS = down("B", *range(2, 12))


@pytest.mark.parametrize(
    ("beside", "formula", "found"),
    [
        # One number alone, and nothing or a heading below it.
        (down("E", 9), "=B1*E1", {"C2:C10"}),
        (down("E", None, None, 9), "=B1*E3", {"C2:C10"}),
        (down("E", None, None, 9, "kg"), "=B1*E3", {"C2:C10"}),
        # A few numbers are taken for inputs, where most landings read what lies behind them.
        (down("E", None, None, None, 9, 8), "=B1*E4", {"C2:C10"}),
        (down("E", None, 9, 8), "=B1*E2", {"C2:C10"}),
        (down("E", None, *range(8)), "=B1*E2", set()),
        # A list that goes on beside all landings is walked.
        (down("E", None, None, *range(10)), "=B1*E3", set()),
        # Nothing is there at all.
        (down("E", "kg"), "=B1*E3", set()),
    ],
)
def test_a_lone_number_is_an_input_and_a_list_is_not(beside, formula, found):
    assert slid({**KILOS, **beside}, C1_C10=formula) == found


@pytest.mark.parametrize(
    ("formula", "found"),
    [
        ("=B1/SUM(B1:B10)", {"C2:C10"}),
        ("=B1/SUM(B1:B9)", set()),
        ("=B1/SUM(B2:B10)", {"C2:C10"}),
        ("=B1/SUM(B$1:B10)", {"C2:C10"}),
        ("=MATCH(B1,B1:B10,0)", {"C2:C10"}),
        ("=SUM(B1:B3)", set()),
    ],
)
def test_a_whole_list_that_slides_is_told_and_a_window_is_not(formula, found):
    assert slid(KILOS, C1_C10=formula) == found


@pytest.mark.parametrize(
    ("headings", "found"),
    [
        (["Kestrel", "Larch", "Scree", "Tarn"], {"C2:C4"}),
        (["Week 1", "Week 2", "Week 3", "Week 4"], set()),
        (["June", "July", "August", "September"], set()),
        (["Mon", "Tue", "Wed", "Thu"], set()),
        (["Hut 1 a", "Hut 2 b", "Hut 3 a", "Hut 4 b"], {"C2:C4"}),
        ([None, None, None, None], {"C2:C4"}),
    ],
)
def test_results_multiplied_on_are_told_but_along_a_series(headings, found):
    entries = {**down("A", *headings), **down("B", 2, 3, 4, 5), "C0": "1"}
    del entries["C0"]
    shifted = {f"{key[0]}{int(key[1:]) + 1}": each for key, each in entries.items()}
    moved = {f"C{int(cells[1:2]) + 1}:C{int(cells[-1]) + 1}" for cells in found}
    assert slid({**shifted, "C1": "7"}, C2_C5="=B2*C1") == moved


def test_growth_by_a_rate_and_a_balance_go_on_from_result_to_result():
    entries = {**down("A", "Kestrel", "Larch", "Scree", "Tarn"), **down("B", 2, 3, 4, 5)}
    lower = {f"{key[0]}{int(key[1:]) + 1}": each for key, each in entries.items()}
    for formula in ("=C1*(1+B2)", "=C1*1.02", "=C1+B2", "=C1*(B2-1)"):
        assert slid({**lower, "C1": "7"}, C2_C5=formula) == set(), formula
