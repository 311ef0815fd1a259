"""Aim: locks from what a landing should read; and the locks that are likely."""

import pytest
from formulas import near_cells
from golden import is_kept
from hypothesis import given
from hypothesis import strategies as st
from tables import GRID, PRICES, filled

from dreieck.core.calculate import Calculation
from dreieck.core.checking.aim import aimed
from dreieck.core.checking.likely import likely_locks
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell

texts = st.sampled_from(["=B5", "=$B5", "=B$5", "=$B$5", "=B$4:C9", "=$B$4:$C$9", "=B4:C$9"])
landings = st.builds(Cell, st.integers(5, 12), st.integers(11, 20))


@given(texts, texts, landings)
def test_aiming_at_what_other_locks_read_gives_those_locks(now, other, landing):
    start = Cell(4, 10)
    have, want = (Shape.parse(text, start).references[0] for text in (now, other))
    if have.area(start) != want.area(start):
        return
    found = aimed(have, start, landing, want.area(landing))
    assert found.area(start) == have.area(start)
    assert found.area(landing) == want.area(landing)


@given(texts, landings, near_cells)
def test_aiming_gives_what_is_wanted_or_says_why_not(text, landing, wanted):
    start = Cell(4, 10)
    reference = Shape.parse(text, start).references[0]
    try:
        found = aimed(reference, start, landing, Area.of(wanted))
    except DreieckError as refusal:
        assert "stays" in str(refusal)
    else:
        assert found.area(landing) == Area.of(wanted)


def test_a_wish_that_no_lock_meets_is_refused_with_the_reason():
    reference = Shape.parse("=B5", Cell(3, 5)).references[0]
    with pytest.raises(DreieckError, match="column B, so F10 can read column B"):
        aimed(reference, Cell(3, 5), Cell(6, 10), Area.parse("D5"))


@pytest.mark.parametrize(
    ("entries", "start", "typed", "target", "right"),
    [
        (GRID, "C5", "=B5*C4", "C5:E10", "=$B5*C$4"),
        (GRID, "C5", "=$B$5*$C$4", "C5:E10", "=$B5*C$4"),
        (PRICES, "C4", "=B4*B1", "C4:C9", "=B4*B$1"),
        (PRICES, "C4", "=B4/SUM(B4:B9)", "C4:C9", "=B4/SUM(B$4:B$9)"),
        (GRID, "E10", "=B10*E4", "C5:E10", "=$B10*E$4"),
    ],
)
def test_the_likeliest_locks_are_the_sound_ones(entries, start, typed, target, right):
    made = filled(entries)
    cell = Cell.parse(start)
    shape = Shape.parse(typed, cell)
    found = likely_locks(Calculation(made), made.sheets[0], cell, shape, Area.parse(target))
    assert found[0].formula == right
    assert "nothing is in doubt" in found[0].why
    assert found[0].findings == ()
    told = [f"{each.formula}\n    {each.why}\n" for each in found]
    is_kept("core/checking/likely.txt", f"{typed} in {target}", "".join(told))
