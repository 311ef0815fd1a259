"""A column, kept in arrays or in a dictionary, is nothing but a dictionary of rows."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.column import Column
from dreieck.core.sheet.storage import Dense, Loose

FORMULA = Shape.parse("=A1", Cell(1, 2))
contents = st.sampled_from([None, 1.0, 2.5, True, "kg", FORMULA])
rows = st.integers(1, 24) | st.sampled_from([4_000, 90_000, 700_000])
steps = st.lists(
    st.tuples(st.just("put"), rows, st.integers(0, 4), contents)
    | st.tuples(st.just("write"), rows, st.lists(contents, max_size=5), st.none())
    | st.tuples(st.just("compact"), st.none(), st.none(), st.none())
    | st.tuples(st.just("copy"), st.none(), st.none(), st.none()),
    max_size=14,
)


@given(steps)
def test_a_column_is_a_dictionary_of_rows(steps):
    column, model = Column(), {}
    for what, row, more, content in steps:
        before = column.formula_version
        if what == "put":
            touched = [model.get(at) for at in range(row, row + more + 1)] + [content]
            column.put(row, row + more, content)
            model |= dict.fromkeys(range(row, row + more + 1), content)
            assert (column.formula_version != before) == (FORMULA in touched)
        elif what == "write":
            column.write(row, Cells.of(more))
            model |= dict(enumerate(more, row))
        elif what == "compact":
            column.compact()
            assert len(column.pool.objects) <= 3
        else:
            old, column = column, column.copy()
            old.put(1, 30, "elsewhere")
            assert old.serial != column.serial
        model = {at: held for at, held in model.items() if held is not None}
        agrees(column, model)


def agrees(column, model):
    assert len(column) == len(model)
    assert column.extent() == ((min(model), max(model)) if model else None)
    assert column.rows(1, 1_000_000) == sorted(model)
    assert column.rows(3, 20, Kind.NUMBER) == [
        at for at in sorted(model) if 3 <= at <= 20 and type(model[at]) is float
    ]
    for first, last in ((1, 30), (3_990, 4_010), (5, 5)):
        wanted = [model.get(at) for at in range(first, last + 1)]
        assert column.cells(first, last).values() == wanted
        assert [column.get(at) for at in range(first, last + 1)] == wanted
        assert [column.kind(at) == Kind.EMPTY for at in range(first, last + 1)] == [
            held is None for held in wanted
        ]
        runs = [
            held for top, bottom, held in column.runs(first, last) for _ in range(top, bottom + 1)
        ]
        assert runs == wanted


def test_a_long_column_of_numbers_knows_that_it_is_one():
    column = Column()
    column.write(1, Cells.of([1.5] * 3_000))
    assert column.cells(1, 3_000).all_numbers
    assert not column.cells(1, 3_001).all_numbers
    column.put(7, 7, "kg")
    assert not column.cells(1, 3_000).all_numbers
    column.put(7, 7, 2.0)
    assert column.cells(2, 2_999).all_numbers
    column.put(3_001, 3_001, 3.0)
    assert column.cells(1, 3_001).all_numbers


def test_cells_that_lie_far_apart_cost_no_arrays():
    column = Column()
    column.put(1, 1, 1.0)
    column.put(900_000, 900_000, 2.0)
    assert isinstance(column._storage, Loose)
    column.put(1, 900_000, 3.0)
    assert isinstance(column._storage, Dense)
    assert len(column) == 900_000


def test_some_cells_can_be_given_another_kind():
    for first, last in ((5, 9), (5, 400_000)):
        column = Column()
        column.put(first, first + 4, 1.0)
        column.put(last, last, 1.0)
        column.mark(5, np.array([True, False, True]), Kind.PENDING)
        assert column.rows(1, 1_000_000, Kind.PENDING) == [5, 7]
