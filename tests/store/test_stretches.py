"""Long lists are stored together, counted ones as what they count; both part if need be."""

from effort import share
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from sqlalchemy import text

from dreieck.core.editing.fill import plan_fill
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.grid import EVERYWHERE, Area, Cell, Lines
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.edits import LookRun, SetCells, SetLooks
from dreieck.core.sheet.series import Counted, Months, Names, Numbered, Steps
from dreieck.core.sheet.sheet import ColumnRun
from dreieck.core.values.look import PLAIN, Look
from dreieck.store.open_workbook import OpenWorkbook

contents = st.sampled_from([1.5, -2.0, "kg", "Scree", True, None])
series = st.sampled_from(
    [Steps(1.0, 1.0), Steps(0.1, 0.1), Months(46053.0, 1), Names(0, 2, 1, "small"),
     Numbered("Week ", "", 9, 1, 2),
     Months(46081.0, 1, ends=True), Numbered("", " week", 1, 1, 0, "capitals")]
)  # fmt: skip
rows = st.integers(1, 40)


@st.composite
def acts(draw):
    """What somebody does in the first two columns."""
    column, top = draw(st.integers(1, 2)), draw(rows)
    kind = draw(st.sampled_from(["list", "list", "count", "cell", "look", "insert", "delete"]))
    if kind == "list":
        held = draw(st.lists(contents, min_size=1, max_size=25))
        return [ColumnRun(column, top, top + len(held) - 1, Cells.of(held), PLAIN)]
    if kind == "count":
        run = Counted(draw(series), draw(st.integers(-3, 20)))
        return [ColumnRun(column, top, top + draw(st.integers(0, 30)), run, PLAIN)]
    if kind == "cell":
        return {Cell(column, top): (draw(contents), PLAIN)}
    if kind == "look":
        return LookRun(column, top, top + draw(st.integers(0, 9)), Look(role="input"))
    return kind, Lines("row", top, draw(st.integers(1, 3)))


def edits_of(opened, act):
    """The edits of an act."""
    sheet = opened.workbook.sheets[0]
    match act:
        case list():
            return [SetCells(sheet.id, tuple(act))]
        case dict():
            return [SetCells.of(sheet.id, act)]
        case LookRun():
            return [SetLooks(sheet.id, (act,))]
        case ("insert", lines):
            return inserted(opened.workbook, sheet, lines)
        case (_, lines):
            return deleted(opened.workbook, sheet, lines)


def told(opened):
    """All that the first sheet holds, and how it looks."""
    sheet = opened.workbook.sheets[0]
    return list(sheet.filled(EVERYWHERE)), list(sheet.looked(EVERYWHERE))


@given(st.lists(acts(), min_size=1, max_size=8))
@share(0.4, HealthCheck.function_scoped_fixture)
def test_lists_are_there_tomorrow_and_taken_back(library, does):
    id = library.create("Loads")
    opened = library.open(id)
    database = opened._database
    states = [told(opened)]
    for act in does:
        opened.change("act", edits_of(opened, act), opened.revision)
        states.append(told(opened))
        assert told(OpenWorkbook(database, id)) == states[-1]
    for before in reversed(states[:-1]):
        opened.undo(opened.revision)
        assert told(opened) == before
    for _ in does:
        opened.redo(opened.revision)
    assert told(OpenWorkbook(database, id)) == told(opened) == states[-1]


def test_a_long_list_takes_few_rows_and_a_counted_one_a_single_row(library):
    opened = library.open(library.create("Loads"))
    sheet = opened.workbook.sheets[0]
    numbers = Cells.of([float(row * 7 % 1000) for row in range(20_000)])
    opened.change("list", [SetCells(sheet.id, (ColumnRun(1, 1, 20_000, numbers, PLAIN),))], 0)
    starts = {Cell(2, 1): (1.0, PLAIN), Cell(2, 2): (2.0, PLAIN)}
    opened.change("entry", [SetCells.of(sheet.id, starts)], opened.revision)
    fill = plan_fill(opened.workbook, sheet.id, Area.parse("B1:B2"), Area.parse("B1:B20000"))
    opened.change("fill", [fill.edit()], opened.revision)
    with opened._database.session() as session:
        found = session.connection().execute(text('SELECT "column", kind, top FROM run'))
        stored = sorted(found.fetchall())
    assert stored == [(1, 33, 1), (1, 33, 8193), (1, 33, 16385), (2, 32, 1)]
    assert sheet.content(Cell(2, 19_999)) == 19_999.0
