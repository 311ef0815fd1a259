"""Entries that are read together say what each of them says alone."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.editing.entering import typed_workbook
from dreieck.core.exceptions import AddressError
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import read_entry
from dreieck.core.sheet.entries import read_column

FORMULAS = [
    "=A{0}*2", "=A{0}*B$1+1", "=a{0}*2", "=A{1}+A{0}", "=SUM(A$1:A{0})", "={0}:{0}", "=A10%*{0}",
    "=Loads!A{0}&\"A{0}\"", "='Week 1'!A{0}", "=A{0}*", "=B{0}:B{1}", "=TAX2026*A{0}",
]  # fmt: skip
plain = st.sampled_from(["12", "-3", "0.1", "007", "1,250", "50%", "2026-03-01", "kg", "", "1e3"])
numbers = st.one_of(st.integers().map(str), st.floats(allow_nan=False).map(repr))
lines = st.lists(
    st.one_of(st.tuples(st.sampled_from(FORMULAS), st.integers(0, 3)), plain, numbers),
    min_size=1, max_size=25,
)  # fmt: skip


@given(lines, st.integers(1, 30))
def test_a_column_of_entries_reads_as_its_entries_do(entries, top):
    rows = range(top, top + len(entries))
    texts = [
        entry if isinstance(entry, str) else entry[0].format(row + entry[1], max(row - 1, 1))
        for row, entry in zip(rows, entries, strict=True)
    ]
    found = read_column(texts, 3, rows, read_entry, plain=True)
    alone = [read_entry(text, Cell(3, row)) for text, row in zip(texts, rows, strict=True)]
    assert found.contents == [entry.content for entry in alone]
    assert {index: said(entry) for index, entry in found.more.items()} == {
        index: said(entry)
        for index, entry in enumerate(alone)
        if entry.form or entry.taken or entry.problem
    }


def said(entry):
    """All that an entry says."""
    return entry.content, entry.form, entry.decimals, entry.taken, str(entry.problem)


def test_an_address_over_two_lines_is_none():
    with pytest.raises(AddressError):
        typed_workbook({"Loads": {"B2": "1", "A1\nA2": "2", "no": "3"}})
