"""Which pieces led to the revisions of a workbook, and what a page is told of them."""

import pytest

from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN
from dreieck.store import NewSheet, Piece, revisions

PAGE = "0l1x8k2abcdef012345"


@pytest.mark.parametrize(
    "text", ["", "short.1", f"{PAGE}", f"{PAGE}.", f"{PAGE}.x", f"{PAGE.upper()}.1", f"{PAGE}.1\n"]
)
def test_what_names_no_piece_is_none(text):
    assert Piece.told(text) is None


def test_a_piece_is_named_as_it_was_told():
    assert Piece.told(f"{PAGE}.42").text == f"{PAGE}.42"


def entry(opened, row, piece=None):
    edit = SetCells.of(opened.workbook.sheets[0].id, {Cell(1, row): (float(row), PLAIN)})
    with opened.doing(piece):
        opened.change(f"entry in A{row}", [edit], opened.revision)


def test_a_page_is_told_what_others_did(library):
    opened = library.open(library.create("Loads", [NewSheet("Loads")]))
    begin = opened.revision
    entry(opened, 1, Piece(PAGE, 1))
    entry(opened, 2)
    entry(opened, 3, Piece("another0", 1))
    areas = [step.areas for step in opened.steps_since(begin, without=PAGE)]
    assert areas == [(Area(1, row, 1, row),) for row in (2, 3)]
    assert len(opened.steps_since(begin)) == 3
    assert opened.steps_since(opened.revision + 1) is None


def test_what_was_done_is_known_for_a_long_time(library, monkeypatch):
    monkeypatch.setattr(revisions, "MAX_KNOWN", 120)
    monkeypatch.setattr(revisions, "_TRIMMED_EVERY", 10)
    opened = library.open(library.create("Loads", [NewSheet("Loads")]))
    for number in range(1, 141):
        entry(opened, number, Piece(PAGE, number))
    known = [number for number in range(1, 150) if opened.has_done(Piece(PAGE, number))]
    assert known == list(range(known[0], 141)) and 120 <= len(known) <= 130
    assert not opened.has_done(Piece("another0", 140))
