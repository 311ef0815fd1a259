"""A workbook of parts written by hand from the standard opens right in every feature."""

import io

import openpyxl
import pytest
from packages import package, unzipped, zipped
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.layout import Headings
from dreieck.core.values.look import Look
from dreieck.core.values.style import Edges, Style
from dreieck.files import FORMATS, Progress, Wish, read, write
from dreieck.files.differences import compared


@pytest.fixture(scope="module")
def arrived():
    return read(package("open_xml"), "x")


def entry(arrived, address, sheet="Loads"):
    cell = Cell.parse(address)
    return typed_text(arrived.workbook.sheet(sheet).content(cell), cell)


def test_values_and_texts(arrived):
    assert entry(arrived, "B1") == "kg a night" and entry(arrived, "B3") == "inline"
    assert entry(arrived, "A2") == "bell\aand_x0041_" and entry(arrived, "A3") == "'=not a formula"
    assert entry(arrived, "C2") == entry(arrived, "C3") == "46082"
    assert entry(arrived, "D2") == "=#N/A" and entry(arrived, "B2") == "TRUE"


def test_shared_array_and_table_formulas(arrived):
    loads = arrived.workbook.sheet("Loads")
    assert entry(arrived, "D6") == "=$B6*D$4"
    assert len({loads.content(Cell.parse(a)) for a in ("C5", "C6", "D5", "D6")}) == 1
    assert entry(arrived, "A8") == "=SUM(B5:B6*C5:C6)"
    assert entry(arrived, "B10") == "=INDEX(C5:C6,2,1)"
    assert entry(arrived, "D8") == "=SUM('Hut prices'!$B$5:$B$6)"
    assert entry(arrived, "D7") == "=IFS(C7>1,C7/SUM($C$5:$D$6))"
    assert Calculation(arrived.workbook).value("Loads", Cell.parse("B10")) == pytest.approx(33.6)


def test_names_wrap_around(arrived):
    names = arrived.workbook.names
    assert names["carry_price"].shape_text == "'Hut prices'!$B$1"
    assert names["to_the_left"].shape.text(Cell.parse("D9")) == "=Loads!C9"


def test_looks_sizes_headings_and_rules(arrived):
    loads = arrived.workbook.sheet("Loads")
    assert loads.look(Cell.parse("A1")) == Look(
        style=Style(
            bold=True, size="large", across="middle", upright="top", wrap=True, ink="gentian",
            ground="doubt", edges=Edges(bottom="double"),
        )
    )  # fmt: skip
    assert loads.look(Cell.parse("D7")) == Look("percent", 2)
    assert loads.look(Cell.parse("B8")) == Look("currency:EUR", 2)
    layout = loads.layout
    assert layout.headings == Headings(1, 4) and layout.rows.at(10).hidden
    assert (layout.columns.at(1).size, layout.rows.at(1).size) == (140, 40)
    said = [(r.area.text, r.shape.text(r.area.first), r.tone) for r in layout.rules]
    assert said == [("B5:B6", "=B5>0.1", "broken"), ("C5:D6", "=C5>$C$4/10", "broken")]


def test_what_it_holds_besides_is_told(arrived):
    said = "\n".join(each.says for each in arrived.left_out)
    for part in ("1 picture", "1 table with a name (Hut prices: Weights)", "1 hidden sheet",
                 "1 formula with cells of another file (Loads!C8)", "1 protected sheet (Loads)",
                 "1 colouring by condition (Loads!C7)", "print area",
                 "2 merged areas (Loads!A1:A2, Loads!C1:D1)",
                 "1 rule for what may be entered (Loads)",
                 "1 look of a whole column or row (Loads)",
                 "1 column or row in an outline (Loads)"):  # fmt: skip
        assert part in said


def test_values_of_the_file_are_compared(arrived):
    found = compared(arrived, Progress())
    assert {each.place.cell.text for each in found.listed} == {"D6", "C8"}


@pytest.mark.parametrize("held", [None, 0])
def test_values_of_a_file_that_was_never_worked_out_are_not_compared(held):
    stream = io.BytesIO()
    book = openpyxl.Workbook()
    book.active.append([5, 7, "=A1+B1", "=A1*2"])
    book.save(stream)
    data = stream.getvalue()
    if held is not None:
        data = zipped({name: part.replace(b"<v></v>", b"<v>0</v>").replace(b"<v />", b"<v>0</v>")
                       for name, part in unzipped(data).items()})  # fmt: skip
    found = compared(read(data, "x"), Progress())
    assert (found.compared, found.differing) == (0, 0)


def test_days_of_the_other_calendar_are_moved():
    early = package(
        "open_xml",
        {
            "xl/workbook.xml": lambda data: data.replace(
                b"<sheets>", b'<workbookPr date1904="1"/><sheets>'
            )
        },
    )
    arrived = read(early, "x")
    assert entry(arrived, "C2") == str(46082 + 1462)
    assert any("1904" in each.what for each in arrived.left_out)


def test_fans_are_written_with_all_that_they_fill():
    entries = {"A1": "2", "A2": "1", "C1": '=SORT(A1:A2)&"x"', "D1": "=ROWS(FAN(C1))"}
    made = workbook(Loads=entries)
    for kind in ("xlsx", "ods"):
        file = write(Calculation(made), FORMATS[kind], Wish(), Progress())
        back = read(file.data, "x")
        assert entry(back, "C1") == '=SORT(A1:A2)&"x"' and entry(back, "D1") == "=ROWS(FAN(C1))"
        assert back.workbook.sheets[0].content(Cell.parse("C2")) is None and not back.left_out
        assert compared(back, Progress()).differing == 0
        if kind == "xlsx":
            values = openpyxl.load_workbook(io.BytesIO(file.data), data_only=True)["Loads"]
            formula = openpyxl.load_workbook(io.BytesIO(file.data))["Loads"]["C1"].value
            assert [values[at].value for at in ("C1", "C2", "D1")] == ["1x", "2x", 2]
            assert formula.ref == "C1:C2" and formula.text.startswith("=_xlfn._xlws.SORT(")


def test_other_programs_find_values_beside_formulas(arrived):
    made = write(Calculation(arrived.workbook), FORMATS["xlsx"], Wish(), Progress())
    values = openpyxl.load_workbook(io.BytesIO(made.data), data_only=True)["Loads"]
    formulas = openpyxl.load_workbook(io.BytesIO(made.data))["Loads"]
    assert values["C5"].value == pytest.approx(50.4) and formulas["C5"].value == "=$B5*C$4"
    assert formulas["D7"].value.startswith("=_xlfn.IFS(") and values["A9"].value == "its"
    assert formulas["A3"].value == "=not a formula" and formulas["A3"].data_type == "s"
