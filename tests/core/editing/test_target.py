"""How far a fill reaches, and how keys stretch it."""

import pytest

from dreieck.core.editing.target import MAX_FILL, check_target, stretched
from dreieck.core.exceptions import FillError
from dreieck.core.grid import Area


@pytest.mark.parametrize(
    ("source", "target", "changes", "stretched_to"),
    [
        ("B2:C3", "B2:C3", (1, 0), "B2:D3"),
        ("B2:C3", "B2:C3", (-1, 0), "A2:C3"),
        ("B2:C3", "B2:C3", (0, 1), "B2:C4"),
        ("B2:C3", "B2:C3", (0, -1), "B1:C3"),
        ("B2:C3", "B2:D3", (-1, 0), "B2:C3"),
        ("B2:C3", "A2:C3", (1, 0), "B2:C3"),
        ("B2:C3", "A2:C3", (-1, 0), "A2:C3"),
        ("B2:C3", "B1:C3", (0, -1), "B1:C3"),
        ("B2:C3", "B1:C3", (0, 1), "B2:C3"),
        ("C1:C5", "C1:C5", (0, -1), "C1:C5"),
        ("ZZZ2", "ZZZ2", (1, 0), "ZZZ2"),
        ("A1000000", "A1000000", (0, 1), "A1000000"),
    ],
)
def test_a_key_stretches_or_shrinks_a_rehearsal_by_one_line(source, target, changes, stretched_to):
    found = stretched(Area.parse(source), Area.parse(target), *changes)
    assert found.text == stretched_to


@pytest.mark.parametrize("target", ["ZZZ1000000", "A1:A1000000", "A1:J100000"])
def test_a_fill_may_write_a_million_cells_up_to_the_last_one(target):
    assert Area.parse(target).size <= MAX_FILL
    check_target(Area.parse(target))


@pytest.mark.parametrize(
    ("target", "said"),
    [
        (Area(0, 1, 2, 3), "leave the sheet"),
        (Area(1, 999_999, 1, 1_000_001), "leave the sheet"),
        (Area.parse("A1:B500001"), "A1:B500001 has 1,000,002 cells"),
    ],
)
def test_what_is_beyond_the_sheet_or_too_large_is_refused(target, said):
    with pytest.raises(FillError, match=said):
        check_target(target)
