"""Whatever is asked first, every cell has the value that it has when it is asked alone."""

from formulas import locks
from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values import LOOP, Error
from dreieck.core.values.look import PLAIN

GRID = Area.parse("A1:D5")
cells = st.sampled_from(list(GRID.cells()))
addresses = st.builds(
    lambda cell, one, two: f"{one}{column_letters(cell.column)}{two}{cell.row}",
    cells,
    locks,
    locks,
)
ranges = st.builds(lambda one, two: f"{one}:{two}", addresses, addresses)
constants = st.sampled_from(["1", "2.5", "-3", "kg", "TRUE", "'7", "=1/0"])
formulas = st.one_of(
    st.builds(lambda a, b, op: f"={a}{op}{b}", addresses, addresses, st.sampled_from("+*-&<")),
    st.builds(
        lambda f, r: f"={f}({r})", st.sampled_from(["SUM", "COUNT", "MAX", "AVERAGE"]), ranges
    ),
    st.builds(lambda a, r: f"=IF({a}>1,SUM({r}),{a})", addresses, ranges),
    st.builds(lambda a: f"=OFFSET({a},1,0)", addresses),
    st.builds(lambda a, r: f"=SUM({a}:INDEX({r},1,1))", addresses, ranges),
    st.builds(lambda r: f"=IFERROR(SUM({r}),0)", ranges),
)
sheets = st.dictionaries(cells.map(lambda cell: cell.text), constants | formulas, max_size=14)


def same(one, two):
    """Whether two values are the same, errors with the cell where they began."""
    if isinstance(one, Error) and isinstance(two, Error):
        # Which cells of a ring come first depends on where one enters it.
        loops = LOOP in (one.code, two.code)
        return one.code == two.code and (loops or one.origin == two.origin)
    return type(one) is type(two) and one == two


@given(sheets, st.permutations(list(GRID.cells())))
def test_values_do_not_depend_on_what_is_asked_first(entries, order):
    made = workbook(Loads=entries)
    together = Calculation(made)
    for cell in order:
        value = together.value("Loads", cell)
        alone = Calculation(made).value("Loads", cell)
        if not (isinstance(alone, Error) and alone.code == LOOP):
            assert same(value, alone), (cell.text, entries)
        else:
            assert value.code == LOOP, (cell.text, entries)


@given(sheets, st.permutations(list(GRID.cells())), cells, cells)
def test_a_rehearsal_has_the_values_of_the_landed_fill(entries, order, start, corner):
    made = workbook(Loads=entries)
    if made.content("Loads", start) is None:
        return
    fill = plan_fill(made, 1, Area.of(start), Area.spanned(start, corner))
    rehearsed = Calculation(fill.workbook).with_edits([fill.edit()])
    seen = {cell: rehearsed.value("Loads", cell) for cell in order}
    fill.edit().apply(made)
    landed = Calculation(made)
    for cell, value in seen.items():
        assert same(value, landed.value("Loads", cell)), (cell.text, entries)


fills = st.tuples(cells, cells)


@given(sheets, st.lists(fills | st.tuples(cells, constants | formulas), max_size=4))
def test_what_an_edit_does_not_touch_keeps_its_value(entries, edits):
    made = workbook(Loads=entries)
    calculation = Calculation(made)
    undone = []
    for cell, what in edits:
        for each in GRID.cells():
            calculation.value("Loads", each)
        if isinstance(what, Cell):
            if made.content("Loads", cell) is None:
                continue
            fill = plan_fill(made, 1, Area.of(cell), Area.spanned(cell, what))
            edit = fill.edit()
            rehearsed = calculation.with_edits([edit])
        else:
            edit = SetCells.of(1, {cell: (made.read_entry(what, cell).content, PLAIN)})
            rehearsed = calculation
        undone.append(edit.apply(made))
        calculation.edited([edit])
        agrees(rehearsed, made, entries)
        agrees(calculation, made, entries)
    for edit in reversed(undone):
        edit.apply(made)
        calculation.edited([edit])
    agrees(calculation, workbook(Loads=entries), entries)


def agrees(calculation, made, entries):
    """Whether what was kept and worked out again is what a new calculation gives."""
    fresh = Calculation(made)
    for cell in GRID.cells():
        one, two = calculation.value("Loads", cell), fresh.value("Loads", cell)
        assert same(one, two), (cell.text, entries, one, two)
