"""A document written by hand from the standard opens right in every feature."""

import pytest
from packages import flat_document, package

from dreieck.core.calculate import Calculation
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.layout import Headings
from dreieck.core.values.look import Look
from dreieck.core.values.style import Edges, Style
from dreieck.files import Progress, read
from dreieck.files.differences import compared


@pytest.fixture(scope="module", params=["package", "one text"])
def arrived(request):
    return read(package("open_document") if request.param == "package" else flat_document(), "x")


def entry(arrived, address, sheet="Loads"):
    cell = Cell.parse(address)
    return typed_text(arrived.workbook.sheet(sheet).content(cell), cell)


def test_values_and_texts(arrived):
    assert entry(arrived, "A2") == "two  blanks\nsecond line"
    assert entry(arrived, "B2") == "TRUE" and entry(arrived, "C2") == "46082"
    assert entry(arrived, "D2") == str(6.5 / 24) and entry(arrived, "A6") == "Lentils"
    prices = arrived.workbook.sheet("Hut prices")
    assert [prices.content(Cell(2, row)) for row in (1, 2, 4, 5)] == [2.5, 7, 7, None]


def test_formulas_are_one_shape_where_they_were_filled(arrived):
    assert entry(arrived, "C5") == "=$B5*C$4" and entry(arrived, "D6") == "=$B6*D$4"
    loads = arrived.workbook.sheet("Loads")
    assert loads.content(Cell.parse("C5")) is loads.content(Cell.parse("D6"))
    assert entry(arrived, "A8") == "=SUM(B5:B6*C5:C6)"
    assert entry(arrived, "B8") == "=carry_price*'Hut prices'!B1"
    assert Calculation(arrived.workbook).value("Loads", Cell.parse("C7")) == pytest.approx(84)


def test_names_stand_for_places_and_for_formulas_by_position(arrived):
    names = arrived.workbook.names
    assert names["carry_price"].shape_text == "'Hut prices'!$B$1"
    assert names["to_the_left"].shape.text(Cell.parse("D9")) == "=C9"


def test_looks_sizes_and_headings(arrived):
    loads = arrived.workbook.sheet("Loads")
    layout = loads.layout
    assert layout.columns.at(1).size == 113 and layout.columns.at(5).hidden
    assert layout.rows.at(1).size == 40 and layout.headings == Headings(0, 1)
    assert len(layout.columns.runs) == 2 and len(layout.rows.runs) == 1
    assert loads.look(Cell.parse("C2")).form == "date"
    assert loads.look(Cell.parse("D2")).form == "time"
    assert loads.look(Cell.parse("B8")) == Look("currency:EUR", 2)


def test_styles_go_back_to_those_they_build_on():
    arrived = read(package("open_document"), "x")
    title = arrived.workbook.sheet("Loads").look(Cell.parse("B1"))
    assert title.style == Style(
        bold=True, size="huge", across="spanning", wrap=True, ink="lake",
        edges=Edges(bottom="thin"),
    )  # fmt: skip
    assert arrived.workbook.sheet("Loads").look(Cell.parse("D7")) == Look("percent", 1)
    rules = arrived.workbook.sheet("Loads").layout.rules
    said = [(r.area.text, r.shape.text(r.area.first), r.tone) for r in rules]
    assert said == [("C5:D6", "=C5>100", "larch"), ("C5:D6", "=C5<5", "larch")]


def test_what_it_holds_besides_is_told(arrived):
    said = "\n".join(each.says for each in arrived.left_out)
    for part in ("1 comment (Loads!A5)", "1 link (Loads!A6)", "1 rule for what may be entered",
                 "1 formula with cells of another file (Loads!C8)",
                 "1 formula that cannot be read here (Loads!D8)"):  # fmt: skip
        assert part in said


def test_values_of_the_file_are_compared(arrived):
    found = compared(arrived, Progress())
    assert (found.compared, found.differing) == (10, 5)
    reasons = {each.place.cell.text: each.reason for each in found.listed}
    assert reasons["D6"] == "nothing in the formula tells why"
    assert reasons["D7"] == "it reads Loads!D6, which differs"
    assert reasons["C8"] == "it reads another file"
    assert reasons["D8"] == "the formula cannot be read here"
