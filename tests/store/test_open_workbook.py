"""Actions are kept whole or not at all, and can be taken back after a restart."""

import os
import signal
import subprocess
import sys

import pytest
from effort import share
from formulas import near_cells, near_formulas
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from sqlalchemy import event
from sqlalchemy import text as statement

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.chance import next_seed
from dreieck.core.editing import laying_out, moving_lines, naming, ruling, sheets
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.fill import plan_fill
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import stated
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import EVERYWHERE, Area, Cell, Lines
from dreieck.core.sheet.chart import Chart, Source, free_number
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.edits import (
    LookRun,
    SetCells,
    SetCharts,
    SetLocale,
    SetLooks,
    SetRules,
    SetSeed,
)
from dreieck.core.sheet.sheet import Run
from dreieck.core.values import Error
from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.style import Edges, Style
from dreieck.store import (
    Database,
    Library,
    NewSheet,
    OutOfDate,
    StoreError,
    history,
    open_workbook,
)

A1, A2 = Cell(1, 1), Cell(1, 2)


def enter(opened, address, text, look=PLAIN, revision=None):
    cell = Cell.parse(address)
    content = opened.workbook.read_entry(text, cell).content
    edit = SetCells.of(opened.workbook.sheets[0].id, {cell: (content, look)})
    opened.change(f"entry in {address}", [edit], opened.revision if revision is None else revision)


def entries(opened):
    sheet = opened.workbook.sheets[0]
    used = sheet.used()
    return {
        cell.text: typed_text(content, cell)
        for cell, content in (sheet.filled(used) if used else ())
    }


def reopened(library, path, id):
    library.close()
    again = Library(Database(path))
    return again, again.open(id)


def shown(opened, sheet, area):
    found = [opened.calculation.value(sheet, cell) for cell in Area.parse(area).cells()]
    return [value.code if isinstance(value, Error) else value for value in found]


def test_numbers_by_chance_are_there_tomorrow_and_drawn_again_as_one_action(library, path):
    id = library.create("Loads", [NewSheet("Loads", {"A1": "=RAND()", "A2": "=A1*2"})])
    opened = library.open(id)
    first = shown(opened, "Loads", "A1:A2")
    opened.change(
        "numbers drawn again", [SetSeed(next_seed(opened.workbook.seed))], opened.revision
    )
    second = shown(opened, "Loads", "A1:A2")
    assert second[0] != first[0] and second[1] == second[0] * 2
    library, opened = reopened(library, path, id)
    assert shown(opened, "Loads", "A1:A2") == second
    assert opened.undo(opened.revision) == "numbers drawn again"
    assert shown(opened, "Loads", "A1:A2") == first
    library, opened = reopened(library, path, id)
    assert shown(opened, "Loads", "A1:A2") == first
    opened.redo(opened.revision)
    assert shown(opened, "Loads", "A1:A2") == second
    library.close()


def test_proofs_are_there_tomorrow_follow_rows_and_are_taken_back(library, path):
    id = library.create("Loads", [NewSheet("Loads", {"A1": "1", "A2": "2"})])
    opened = library.open(id)
    for text in ("=ADDS.UP(A1:A2,3)", "=NO.GAP(A1:A2)"):
        made = proven(opened.workbook, stated(text, opened.workbook.sheets[0]))
        opened.change("proof", [made], opened.revision)
    sheet = opened.workbook.sheets[0]
    edits = list(inserted(opened.workbook, sheet, Lines("row", 2, 1)))
    opened.change("a row", edits, opened.revision)
    library, opened = reopened(library, path, id)
    kept = ["=ADDS.UP(Loads!A1:A3,3)", "=NO.GAP(Loads!A1:A3)"]
    assert [proof.text for proof in opened.workbook.proofs] == kept
    back = opened.changes_back()
    assert [change.label for change in back] == ["a row", "proof", "proof"]
    opened.undo(opened.revision)
    assert opened.workbook.proofs[0].text == "=ADDS.UP(Loads!A1:A2,3)"
    opened.undo(opened.revision)
    library, opened = reopened(library, path, id)
    assert len(opened.workbook.proofs) == 1
    opened.redo(opened.revision)
    opened.redo(opened.revision)
    assert [proof.text for proof in opened.workbook.proofs] == kept
    library.close()


def test_how_numbers_are_written_is_there_tomorrow_and_taken_back(library, path):
    id = library.create("Loads")
    opened = library.open(id)
    opened.change("locale", [SetLocale("de_CH")], opened.revision)
    library, opened = reopened(library, path, id)
    assert opened.workbook.locale == "de_CH"
    opened.undo(opened.revision)
    library, opened = reopened(library, path, id)
    assert opened.workbook.locale == ""
    opened.redo(opened.revision)
    assert opened.workbook.locale == "de_CH"
    library.close()


def test_cells_moved_between_sheets_that_are_looked_at_show_what_they_hold(library):
    sheets = [NewSheet("One", {"B6": "=SUM(C5:C7)", "C6": "4"}), NewSheet("Two", {"C3": "=1+1"})]
    opened = library.open(library.create("Loads", sheets))
    one, two = opened.workbook.sheets
    assert shown(opened, "One", "B6") + shown(opened, "Two", "C3") == [4.0, 2.0]
    for source, area, target, to in (
        (one, "B6:C6", two, "C6"), (two, "C6:D6", one, "A9"), (one, "A9", two, "A1"),
    ):  # fmt: skip
        edits = cut_to(opened.calculation, source, Area.parse(area), target, Cell.parse(to))
        opened.change(f"move of {area}", edits, opened.revision)
        fresh = Calculation(opened.workbook)
        for sheet in ("One", "Two"):
            for cell in Area.parse("A1:E12").cells():
                assert opened.calculation.value(sheet, cell) == fresh.value(sheet, cell)


def test_actions_survive_a_restart_and_are_taken_back_and_made_again(library, path):
    id = library.create("Loads")
    opened = library.open(id)
    enter(opened, "C4", "420", Look("grouped", 1, "input"))
    enter(opened, "B5", "=SUM(C$4:C4")
    enter(opened, "B6", "=B5*")
    fill = plan_fill(
        opened.workbook, opened.workbook.sheets[0].id, Area.parse("B5"), Area.parse("B5:D6")
    )
    opened.change("fill of B5:D6", [fill.edit()], opened.revision)
    before = entries(opened)
    library, opened = reopened(library, path, id)
    assert entries(opened) == before == {
        "C4": "420", "B5": "=SUM(C$4:C4)", "C5": "=SUM(D$4:D4)", "D5": "=SUM(E$4:E4)",
        "B6": "=SUM(C$4:C5)", "C6": "=SUM(D$4:D5)", "D6": "=SUM(E$4:E5)",
    }  # fmt: skip
    sheet = opened.workbook.sheets[0]
    assert sheet.content(Cell.parse("B5")) is sheet.content(Cell.parse("D6"))
    assert opened.undo(opened.revision) == "fill of B5:D6"
    assert entries(opened) == {"C4": "420", "B5": "=SUM(C$4:C4)", "B6": "=B5*"}
    library, opened = reopened(library, path, id)
    assert opened.redo(opened.revision) == "fill of B5:D6"
    assert entries(opened) == before
    for label in ("fill of B5:D6", "entry in B6", "entry in B5", "entry in C4", None):
        assert opened.undo(opened.revision) == label
    assert entries(opened) == {}
    assert list(sheet.looked(EVERYWHERE)) == [(Cell.parse("C4"), Look("grouped", 1, "input"))]
    library.close()


def test_names_are_there_after_a_restart_and_go_back_and_forth(library, path):
    id = library.create("Loads")
    opened = library.open(id)

    def names():
        return {key: (n.name, n.shape_text) for key, n in opened.workbook.names.items()}

    def change(edits):
        opened.change("names", edits, opened.revision)
        return names()

    states = [{}, change(naming.given(opened.workbook, "Carry_Rate", "Loads!$B$3"))]
    assert states[-1] == {"carry_rate": ("Carry_Rate", "Loads!$B$3")}
    states.append(change(naming.renamed(opened.workbook, "carry_rate", "Kg_price")))
    states.append(change(naming.given(opened.workbook, "one_up", "Loads!B2", A2)))
    states.append(change(naming.deleted(opened.workbook, "Kg_price", keep_addresses=True)))
    assert states[-1].keys() == {"one_up"}
    library, opened = reopened(library, path, id)
    assert names() == states[-1]
    for state in reversed(states[:-1]):
        opened.undo(opened.revision)
        assert names() == state
    for state in states[1:]:
        opened.redo(opened.revision)
        library, opened = reopened(library, path, id)
        assert names() == state
    library.close()


def test_a_new_action_ends_what_could_be_made_again(library):
    opened = library.open(library.create("Loads"))
    enter(opened, "A1", "1")
    enter(opened, "A1", "2")
    opened.undo(opened.revision)
    assert opened.history() == ("entry in A1", "entry in A1")
    enter(opened, "A2", "3")
    assert opened.redo(opened.revision) is None
    assert opened.history() == ("entry in A2", None)


def test_an_edit_for_an_older_revision_is_refused(library):
    opened = library.open(library.create("Loads"))
    shown = opened.revision
    enter(opened, "A1", "1")
    for edit in (lambda: enter(opened, "A1", "2", revision=shown), lambda: opened.undo(shown)):
        with pytest.raises(OutOfDate, match="changed elsewhere"):
            edit()
    assert entries(opened) == {"A1": "1"}


def test_a_change_that_cannot_be_kept_is_not_made(library):
    opened = library.open(library.create("Loads"))
    enter(opened, "A1", "1")
    engine = opened._database.engine

    def refuse(connection, cursor, statement, *_):
        if statement.startswith("INSERT INTO run"):
            cursor.execute("INSERT INTO no_such_table VALUES (1)")

    event.listen(engine, "before_cursor_execute", refuse)
    with pytest.raises(StoreError, match="could not be kept"):
        enter(opened, "A2", "=A1*2")
    event.remove(engine, "before_cursor_execute", refuse)
    assert entries(opened) == {"A1": "1"} and opened.history() == ("entry in A1", None)
    enter(opened, "A2", "=A1*2")
    assert opened.calculation.value("Sheet 1", A2) == 2.0


@pytest.mark.parametrize("kept", ['[{"edit":"Later"}]', '[{"edit":"SetSeed"}]', "[1]", "{"])
def test_an_action_kept_in_a_way_that_is_not_known_is_told_and_nothing_is_done(library, kept):
    opened = library.open(library.create("Loads"))
    enter(opened, "A1", "1")
    with opened._database.session() as session:
        session.exec(statement("UPDATE change SET backward = :kept").bindparams(kept=kept))
        session.commit()
    with pytest.raises(DreieckError, match="neither be taken back nor made again"):
        opened.undo(opened.revision)
    assert entries(opened) == {"A1": "1"} and opened.history() == ("entry in A1", None)


def test_the_history_is_bounded_and_stays_useful(library, path, monkeypatch):
    monkeypatch.setattr(history, "MAX_CHANGES", 3)
    id = library.create("Loads")
    for row in range(1, 6):
        enter(library.open(id), f"A{row}", str(row))
    library, opened = reopened(library, path, id)
    enter(opened, "A6", "6")
    taken = [opened.undo(opened.revision) for _ in range(4)]
    assert taken == ["entry in A6", "entry in A5", "entry in A4", None]
    assert len(entries(opened)) == 3
    monkeypatch.setattr(history, "MAX_BYTES", 1)
    enter(opened, "B1", "x")
    assert (opened.undo(opened.revision), opened.undo(opened.revision)) == ("entry in B1", None)
    library.close()


def test_the_history_of_one_workbook_is_not_that_of_another(library, monkeypatch):
    monkeypatch.setattr(history, "MAX_CHANGES", 3)
    one, other = (library.open(library.create(name, [NewSheet(name)])) for name in ("A", "B"))
    enter(one, "A1", "1")
    for number in range(6):
        enter(other, "A1", str(number))
    assert one.undo(one.revision) == "entry in A1"
    enter(one, "A2", "2")
    for _ in range(3):
        assert other.undo(other.revision) == "entry in A1"
    assert other.undo(other.revision) is None


def test_the_sheet_that_was_shown_last_is_shown_again(library, path):
    id = library.create("Loads", [NewSheet("Loads"), NewSheet("Season"), NewSheet("Prices")])
    opened = library.open(id)
    first, second, third = opened.workbook.sheets
    assert opened.last_sheet() is first
    for sheet in (second, third, second):
        opened.remember_sheet(sheet.id)
        assert opened.last_sheet() is sheet
    again, opened = reopened(library, path, id)
    assert opened.last_sheet().name == "Season"
    again.close()


def test_looks_without_contents_and_far_rows_are_kept(library, path):
    id = library.create("Loads", [NewSheet("Loads")])
    opened = library.open(id)
    sheet = opened.workbook.sheets[0]
    look, input_ = Look("percent", 0), Look("grouped", None, "input")
    runs = (
        Run(1, 1, 3, 1.5, PLAIN), Run(1, 4, 4, None, look), Run(1, 5, 9, 1.5, input_),
        Run(2, 700_000, 700_001, "kg", look), Run(3, 2, 2, True, PLAIN),
    )  # fmt: skip
    opened.change("looks", [SetCells(sheet.id, runs)], opened.revision)
    opened.change("again", [SetCells(sheet.id, (Run(1, 2, 6, 2.5, look),))], opened.revision)
    wanted = [
        (1, 1, 1, 1.5, PLAIN), (1, 2, 6, 2.5, look), (1, 7, 9, 1.5, input_),
        (2, 700_000, 700_001, "kg", look), (3, 2, 2, True, PLAIN),
    ]  # fmt: skip
    assert list(sheet.all_runs()) == wanted
    again, opened = reopened(library, path, id)
    assert list(opened.workbook.sheets[0].all_runs()) == wanted
    again.close()


def test_what_changed_since_a_revision_is_known_for_a_while(library, monkeypatch):
    monkeypatch.setattr(open_workbook, "MAX_FOLLOWED", 2)
    opened = library.open(library.create("Loads"))
    for row in range(1, 4):
        enter(opened, f"A{row}", "1")
    assert opened.steps_since(3) == [] and len(opened.steps_since(1)) == 2
    assert opened.steps_since(0) is None and opened.steps_since(4) is None


def test_a_workbook_deleted_while_it_is_edited_is_told(library):
    id = library.create("Loads")
    opened = library.open(id)
    library.delete(id)
    for edit in (lambda: enter(opened, "A1", "1"), lambda: opened.undo(0)):
        with pytest.raises(StoreError, match="was deleted in the meantime"):
            edit()
    assert entries(opened) == {}


def test_a_data_file_that_is_deleted_or_replaced_takes_no_more_edits(library, path):
    opened = library.open(library.create("Loads"))
    enter(opened, "A1", "1")
    path.rename(path.with_name("moved.db"))
    for replaced in (False, True):
        if replaced:
            path.write_bytes(b"")
        with pytest.raises(StoreError, match="deleted or replaced"):
            enter(opened, "A2", "2")
    path.with_name("moved.db").rename(path)
    enter(opened, "A2", "2")
    assert entries(opened) == {"A1": "1", "A2": "2"}


def test_a_full_disk_is_told_and_reading_goes_on(library):
    opened = library.open(library.create("Loads", [NewSheet("Loads"), NewSheet("Prices")]))
    with opened._database.engine.connect() as connection:
        pages = connection.exec_driver_sql("PRAGMA page_count").scalar()
    event.listen(
        opened._database.engine,
        "connect",
        lambda raw, _: raw.execute(f"PRAGMA max_page_count = {pages + 8}"),
    )
    opened._database.engine.dispose()
    with pytest.raises(StoreError, match="full"):
        for row in range(1, 200):
            enter(opened, f"A{row}", "x" * 5000)
    kept = len(entries(opened))
    opened.remember_sheet(opened.workbook.sheets[1].id)
    assert 0 < kept < 199 and opened.history()[0] == f"entry in A{kept}"


def test_sheets_and_their_formulas_survive_restart_undo_and_redo(library, path):
    id = library.create(
        "Plan", [NewSheet("Prices", {"A1": "2"}), NewSheet("Loads", {"A1": "=Prices!A1*3"})]
    )
    opened = library.open(id)

    def sheet(name):
        return opened.workbook.sheet(name)

    def loads():
        return opened.calculation.value("Loads", A1)

    opened.change(
        "rename", sheets.renamed(opened.workbook, sheet("Prices"), "Week 1"), opened.revision
    )
    copy = sheets.duplicated(opened.workbook, sheet("Week 1"), opened.new_sheet_id())
    opened.change("duplicate", copy, opened.revision)
    opened.change("move", sheets.rearranged(opened.workbook, sheet("Loads"), -9), opened.revision)
    opened.change("delete", sheets.deleted(opened.workbook, sheet("Week 1")), opened.revision)
    library, opened = reopened(library, path, id)
    assert [each.name for each in opened.workbook.sheets] == ["Loads", "Week 1 copy"]
    assert loads().code == "#REF!"
    opened.undo(opened.revision)
    library, opened = reopened(library, path, id)
    assert [each.name for each in opened.workbook.sheets] == ["Loads", "Week 1", "Week 1 copy"]
    assert loads() == 6.0
    for _ in range(3):
        opened.undo(opened.revision)
    assert [each.name for each in opened.workbook.sheets] == ["Prices", "Loads"]
    assert opened.workbook.content("Loads", A1).text(A1) == "=Prices!A1*3"
    for _ in range(4):
        opened.redo(opened.revision)
    library, opened = reopened(library, path, id)
    assert [each.name for each in opened.workbook.sheets] == ["Loads", "Week 1 copy"]
    library.close()


def test_a_sheet_number_is_never_given_twice(library):
    first = library.open(library.create("Loads"))
    taken = first.new_sheet_id()
    assert library.open(library.create("Prices")).workbook.sheets[0].id > taken
    assert first.new_sheet_id() > taken


def test_functions_in_use_are_counted_by_shape(library):
    opened = library.open(library.create("Loads"))
    enter(opened, "A1", "=SUM(B1:C1)+SUM(D1)")
    enter(opened, "A2", "=SUM(B2:C2)+SUM(D2)")
    enter(opened, "A3", "=MAX(B2)")
    assert opened.used_functions() == {"SUM": 2, "MAX": 1}


def enter_at(opened, cell, text):
    enter(opened, cell.text, text)


def put_below(opened, cell, height):
    run = Run(cell.column, cell.row, cell.row + height, 7.5, Look("number", height % 3))
    sheet = opened.workbook.sheets[0]
    opened.change("run", [SetCells(sheet.id, (run,))], opened.revision)


def change_lines(opened, way, lines):
    edits = way(opened.workbook, opened.workbook.sheets[0], lines)
    opened.change(lines.text, edits, opened.revision)


def move_lines(opened, lines, before):
    """Lines moved to another place, or duplicated where they cannot be."""
    workbook, sheet = opened.workbook, opened.workbook.sheets[0]
    try:
        edits = moving_lines.moved(workbook, sheet, lines, before)
    except DreieckError:
        edits = moving_lines.duplicated(workbook, sheet, lines)
    opened.change("moving", edits, opened.revision)


def lay_out(opened, way, lines, *told):
    edit = way(opened.workbook.sheets[0], [lines], *told)
    opened.change("layout", [edit], opened.revision)


STYLES = [
    Style(),
    Style(bold=True),
    Style(edges=Edges(top="thin")),
    Style(ink="rose", size="huge"),
]


def dress(opened, cell, dressings):
    """Runs below each other, of several looks and heights."""
    runs, top = [], cell.row
    for which, height in dressings:
        look = PLAIN if which == 4 else Look("currency:CHF", which, style=STYLES[which])
        runs.append(LookRun(cell.column, top, top + height, look))
        top += height + 2
    edit = SetLooks(opened.workbook.sheets[0].id, tuple(runs))
    opened.change("looks", [edit], opened.revision)


def rule(opened, cell, height, formula):
    sheet, area = opened.workbook.sheets[0], Area(*cell, cell.column, cell.row + height)
    shape = opened.workbook.read_entry(formula, cell).content
    is_one = isinstance(shape, Shape)
    edit = ruling.ruled(sheet, area, shape, "moss") if is_one else SetRules(sheet.id, ())
    opened.change("rule", [edit], opened.revision)


def chart(opened, cell, height, kind):
    """A chart of an area, or without one of the first charts."""
    sheet, area = opened.workbook.sheets[0], Area(*cell, cell.column + 1, cell.row + height)
    sources, charts = (Source(None, area), Source("Loads", area)), sheet.layout.charts
    made = Chart(free_number(charts), kind, sources, "row", True, False, area, "Loads “a week”")
    edit = SetCharts(sheet.id, (*charts, made) if height else charts[1:])
    opened.change("chart", [edit], opened.revision)


entry_actions = st.tuples(st.just(enter_at), near_cells, near_formulas | st.text(max_size=5))
fill_actions = st.tuples(st.just(put_below), near_cells, st.integers(0, 6))
some_lines = st.builds(
    Lines, st.sampled_from(["row", "column"]), st.integers(1, 14), st.integers(1, 4)
)
dressings = st.lists(st.tuples(st.integers(0, 4), st.integers(0, 6)), min_size=1, max_size=3)
look_actions = st.tuples(st.just(dress), near_cells, dressings)
rule_actions = st.tuples(
    st.just(rule), near_cells, st.integers(0, 3), near_formulas | st.just("x")
)
chart_actions = st.tuples(
    st.just(chart), near_cells, st.integers(0, 3), st.sampled_from(["lines", "points"])
)
layout_actions = st.tuples(
    st.just(lay_out), st.just(laying_out.resized), some_lines, st.sampled_from([None, 60, 140])
) | st.tuples(st.just(lay_out), st.sampled_from([laying_out.hidden, laying_out.shown]), some_lines)
moving_actions = st.tuples(st.just(move_lines), some_lines, st.integers(1, 16))
line_actions = st.tuples(st.just(change_lines), st.sampled_from([inserted, deleted]), some_lines)


@share(0.25, HealthCheck.function_scoped_fixture)
@given(
    st.lists(
        entry_actions
        | fill_actions
        | line_actions
        | layout_actions
        | look_actions
        | rule_actions
        | moving_actions
        | chart_actions,
        max_size=7,
    )
)
def test_any_history_goes_back_and_forth_and_reads_back_the_same(tmp_path_factory, actions):
    path = tmp_path_factory.mktemp("history") / "data.db"
    library = Library(Database(path))
    id = library.create("Loads")
    opened = library.open(id)

    def state():
        sheet = opened.workbook.sheets[0]
        return list(sheet.all_runs()), sheet.layout

    states = [state()]
    for make, *told in actions:
        make(opened, *told)
        states.append(state())
    steps = [opened.steps_since(number) for number in range(opened.revision + 1)]
    library, opened = reopened(library, path, id)
    assert state() == states[-1]
    # What a page follows is known after a restart, too.
    assert [opened.steps_since(number) for number in range(opened.revision + 1)] == steps
    for before in reversed(states[:-1]):
        opened.undo(opened.revision)
        assert state() == before
    for after in states[1:]:
        opened.redo(opened.revision)
        assert state() == after
    library.close()


_TYPIST = """
import sys
from pathlib import Path
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN
from dreieck.store import Database, Library
library = Library(Database(Path(sys.argv[1])))
opened = library.open(int(sys.argv[2]))
for row in range(1, 100000):
    edit = SetCells.of(opened.workbook.sheets[0].id, {Cell(1, row): (float(row), PLAIN)})
    opened.change(f"entry in A{row}", [edit], opened.revision)
    print(row, flush=True)
"""


def test_a_killed_server_loses_nothing_that_was_acknowledged(library, path):
    id = library.create("Loads", [NewSheet("Loads")])
    library.close()
    typist = subprocess.Popen(
        [sys.executable, "-c", _TYPIST, str(path), str(id)], stdout=subprocess.PIPE, text=True
    )
    for _ in range(20):
        acknowledged = int(typist.stdout.readline())
    os.kill(typist.pid, signal.SIGKILL)
    acknowledged = max([acknowledged, *map(int, typist.stdout.read().split())])
    typist.stdout.close()
    typist.wait()
    again = Library(Database(path))
    opened = again.open(id)
    kept = entries(opened)
    assert len(kept) >= acknowledged
    assert kept == {f"A{row}": str(row) for row in range(1, len(kept) + 1)}
    assert opened.undo(opened.revision) == f"entry in A{len(kept)}"
    again.close()
