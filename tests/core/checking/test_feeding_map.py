"""The map of what feeds what: its ties are those of the cells, its layers go forward."""

from hypothesis import given
from random_workbooks import workbooks
from tables import workbook

from dreieck.core.analysis.reads import reach
from dreieck.core.calculate import Calculation
from dreieck.core.checking.feeding_map import feeding_map
from dreieck.core.grid import Area, Cell


def told(found):
    names = [f"{knot.sheet}!{knot.areas[0].text}" for knot in found.knots]
    return {
        name: (knot.sort, knot.layer, {names[fed] for fed in knot.feeds})
        for name, knot in zip(names, found.knots, strict=True)
    }


def test_inputs_feed_blocks_and_blocks_feed_results_over_all_sheets():
    book = workbook(
        Prices={"A1": "2", "B1": "7"},
        Loads={
            "A1": "1", "A2": "3", "B1": "=A1*Prices!$A$1", "B2": "=A2*Prices!$A$1",
            "B3": "=SUM(B1:B2)", "C1": "=B1/B$3", "C2": "=B2/B$3", "E1": "=F1", "F1": "=E1",
        },
    )  # fmt: skip
    sheet = book.sheets[0]
    sheet.put(Cell(2, 1), 7.0, sheet.look(Cell(2, 1)).__class__(role="input"))
    assert told(feeding_map(Calculation(book))) == {
        "Prices!A1": ("input", 0, {"Loads!B1:B2"}),
        "Loads!A1:A2": ("input", 0, {"Loads!B1:B2"}),
        "Loads!B1:B2": ("block", 1, {"Loads!B3", "Loads!C1:C2"}),
        "Loads!B3": ("block", 2, {"Loads!C1:C2"}),
        "Loads!C1:C2": ("result", 3, set()),
        "Loads!E1": ("loop", 1, {"Loads!F1"}),
        "Loads!F1": ("loop", 1, {"Loads!E1"}),
        "Prices!B1": ("unread", 0, set()),
    }


@given(workbooks())
def test_every_cell_that_is_read_is_tied_to_who_reads_it(book):
    calculation = Calculation(book)
    knots = feeding_map(calculation).knots
    for number, knot in enumerate(knots):
        assert all(number != fed for fed in knot.feeds)
        assert (knot.shape is None) == (knot.sort in ("input", "unread"))
        for reference in calculation.references(knot.shape) if knot.shape else ():
            name = reference.sheet or knot.sheet
            if not book.has_sheet(name):
                continue
            for part in knot.areas:
                area = reach(reference, part)
                for cell, _ in book.sheet(name).filled(area) if area else ():
                    feeders = [
                        other
                        for other, each in enumerate(knots)
                        if each.sheet == book.sheet(name).name
                        and any(held.holds(cell) for held in each.areas)
                        and (number in each.feeds or (other == number and each.reads_itself))
                    ]
                    assert feeders, (knot, cell)


def test_an_entry_that_cannot_be_read_feeds_who_reads_it():
    book = workbook(Loads={"B1": "=)", "C1": "=B1*2"})
    assert told(feeding_map(Calculation(book))) == {
        "Loads!B1": ("input", 0, {"Loads!C1"}), "Loads!C1": ("result", 1, set()),
    }  # fmt: skip


def test_areas_that_overlap_are_one_input():
    book = workbook(Loads={"A1": "1", "A2": "2", "A3": "3", "B1": "=SUM(A1:A2)", "C1": "=A2+A3"})
    found = feeding_map(Calculation(book)).knots
    assert [knot.areas for knot in found if knot.sort == "input"] == [
        (Area.parse("A1:A2"),), (Area.parse("A3"),),
    ]  # fmt: skip
