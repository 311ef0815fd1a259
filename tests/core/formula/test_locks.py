import pytest
from formulas import cells, formulas
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.formula import mentions
from dreieck.core.formula.locks import axes, lock_of, mention_at, relock
from dreieck.core.grid import Cell

C5 = Cell.parse("C5")


@pytest.mark.parametrize(
    ("text", "index", "axis", "hold", "expected"),
    [
        ("=B5*C4", 0, "column", "stays", "=$B5*C4"),
        ("=B5*C4", 1, "row", None, "=B5*C$4"),
        ("=B5*C$4", 1, "row", None, "=B5*C4"),
        ("= b5 *c4+", 0, "row", "stays", "= B$5 *c4+"),
        ("=SUM(B4:B4)", 0, "row", "first", "=SUM(B$4:B4)"),
        ("=SUM(B$4:B4)", 0, "column", "first", "=SUM($B$4:B4)"),
        ("=SUM(B$4:B4)", 0, "row", None, "=SUM(B$4:B$4)"),
        ("=SUM(B:B)", 0, "column", "stays", "=SUM($B:$B)"),
        ("=Loads!B4", 0, "row", "stays", "=Loads!B$4"),
    ],
)
def test_a_lock_is_set_in_the_text_as_typed(text, index, axis, hold, expected):
    changed = relock(text, C5, index, axis, hold)
    assert changed.text == expected
    assert changed.caret == mentions(changed.text, C5)[index].end


@pytest.mark.parametrize(
    ("text", "index", "expected", "caret"),
    [
        ("=B5*C4+B5", 0, "=$B5*C4+$B5", 4),
        ("=B5*C4+B5", 2, "=$B5*C4+$B5", 11),
        ("=B5*$B5", 0, "=$B5*$B5", 4),
        ("=IF(B5>0,b5,Loads!B5)", 0, "=IF($B5>0,$B5,Loads!B5)", 7),
    ],
)
def test_equal_references_are_locked_together(text, index, expected, caret):
    changed = relock(text, C5, index, "column", "stays")
    assert (changed.text, changed.caret) == (expected, caret)


def test_there_is_nothing_to_lock_where_there_is_no_such_part():
    assert relock("=1+2", C5, 0, "row") is None
    assert relock("=SUM(B:B)", C5, 0, "row") is None
    assert relock("B5", C5, 0, "row") is None


@given(formulas, cells, st.sampled_from(["moves", "first", "last", "stays"]))
def test_locking_changes_what_stays_and_never_what_is_read(text, at, hold):
    for index, mention in enumerate(mentions(text, at)):
        for axis in axes(mention.reference):
            after = mentions(relock(text, at, index, axis, hold).text, at)[index].reference
            assert after.area(at) == mention.reference.area(at)
            if ":" in after.text(at):
                assert lock_of(after, at, axis) == hold
            else:
                assert lock_of(after, at, axis) in ("moves", "stays")


@pytest.mark.parametrize(("caret", "index"), [(0, 0), (1, 0), (3, 0), (4, 1), (9, 1)])
def test_the_reference_at_the_caret(caret, index):
    assert mention_at("=B5*C4+1", C5, caret) == index
