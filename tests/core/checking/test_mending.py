"""Several mends at once: those that write the same wait, and what comes of the others is told."""

from reviewed import tables
from tables import PRICES, apply, filled

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_workbook
from dreieck.core.checking.mending import outcome, together


def mends(made):
    found = [f for each in check_workbook(Calculation(made)) for f in each.findings]
    return [mend for finding in found for mend in finding.mends[:1]]


def test_what_would_write_the_same_cells_waits():
    made = filled(PRICES, C4_C9="=B4*B1", D4_D9="=C4/C10", C10_C10="=SUM(C4:C8)")
    every = mends(made)
    twice = together([*every, *every])
    assert list(twice.mends) == every and list(twice.left) == every
    assert len({str(mend.edits) for mend in twice.mends}) == len(every) > 2


def test_what_comes_of_them_is_what_is_told_before():
    made = filled(PRICES, C4_C9="=B4*B1", D4_D9="=C4/C10", C10_C10="=SUM(C4:C9)")
    mending = together(mends(made))
    before = Calculation(made)
    changed, gone = outcome(before, mending)
    assert changed > 5 and gone > 3
    apply(made, mending.edits)
    assert not mends(made)


def test_all_mends_of_a_table_can_be_made_together():
    for table in tables("mistaken.txt")[::6]:
        made = table.made()
        mending = together(mends(made))
        apply(made, mending.edits)
        assert len(mends(made)) <= len(mending.left) + len(mending.mends), table.name
