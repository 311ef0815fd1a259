"""Formats are told by what files hold; what each of them keeps, and what it tells to be lost."""

import json

import pytest
from packages import flat_document, package
from random_workbooks import differences

from dreieck.core.calculate import Calculation
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.sheet.names import named as named_range
from dreieck.core.sheet.workbook import Workbook
from dreieck.demo import hut_supplies as demo
from dreieck.files import FORMATS, FileRefused, Progress, Stopped, Wish, named, read, write
from dreieck.files.document.models import WorkbookModel
from dreieck.files.formats import recognised, shown_name


def the_demo():
    made = demo.sheets()
    workbook = typed_workbook({sheet.name: {} for sheet in made}, demo.NAMES)
    workbook.name = demo.NAME
    typed = typed_workbook({sheet.name: sheet.entries for sheet in made}, demo.NAMES)
    for sheet, source, told in zip(workbook.sheets, typed.sheets, made, strict=True):
        for run in source.all_runs():
            look = told.looks.get(run.area.first.text, run.look)
            sheet.put_run(run._replace(look=look))
        sheet.layout = told.layout
    return workbook


@pytest.mark.parametrize("name", [name for name, each in FORMATS.items() if each.holds_all])
def test_the_demo_goes_out_and_comes_back_equal(name):
    workbook = the_demo()
    made = write(Calculation(workbook), FORMATS[name], Wish(), Progress())
    back = read(made.data, f"Hut supplies{FORMATS[name].ending}")
    assert differences(workbook, back.workbook) == [] and back.workbook.name == demo.NAME
    assert made.left_out == back.left_out == ()


@pytest.mark.parametrize(
    ("data", "kind"),
    [
        (package("open_document"), "ods"),
        (package("open_xml"), "xlsx"),
        (flat_document(), "fods"),
        (b'\xef\xbb\xbf {"format": "x"}', "json"),
        (b"a,b\n1,2\n", "csv"),
        ("a;b\n".encode("utf-16"), "csv"),
    ],
)
def test_a_wrong_ending_does_not_matter(data, kind):
    assert {
        recognised(data, name).name for name in ("x.csv", "x.ods", "x.xlsx", "x", "x.png")
    } == {kind}


def test_formats_are_named_by_endings():
    assert named("a.b.ODS").name == "ods" and named("md").name == "md"
    with pytest.raises(FileRefused, match="no format that is known here"):
        named("picture.png")


@pytest.mark.parametrize(
    ("file", "expected"),
    [("loads.ods", "loads"), ("a/b\\c d.JSON", "c d"), ("", "Table"), (".csv", "Table"),
     ("x" * 90 + ".csv", "x" * 60), ("a\u202eb.ods", "a b")],
)  # fmt: skip
def test_a_workbook_is_called_like_its_file(file, expected):
    assert shown_name(file) == expected


def test_markup_is_escaped_and_says_what_it_lacks():
    workbook = typed_workbook({"Loads": {"A1": "<b>kg|*</b>", "B1": "=2*3", "A2": "a\nb"}})
    calculation = Calculation(workbook)
    page = write(calculation, FORMATS["html"], Wish(), Progress()).data.decode()
    assert "&lt;b&gt;kg|*&lt;/b&gt;" in page and '<td class="number">6</td>' in page
    table = write(calculation, FORMATS["md"], Wish(formulas=True), Progress()).data.decode()
    assert "| \\<b>kg\\|\\*\\</b> | =2\\*3 |" in table and "| a b |  |" in table
    made = write(calculation, FORMATS["csv"], Wish(), Progress())
    assert [each.what for each in made.left_out] == ["formula"]


def test_reading_can_be_stopped_and_tells_how_far_it_is():
    class Impatient(Progress):
        def at(self, share, says=""):
            super().at(share, says)
            shares.append(self.share)
            if len(shares) == 3:
                self.stop()

    shares = []
    with pytest.raises(Stopped):
        read(b"1,2\n" * 200_000, "x.csv", Impatient())
    assert shares == sorted(shares) and 0 < shares[-1] < 1


def test_the_schema_that_ships_is_that_of_the_code(pytestconfig):
    shipped = json.loads((pytestconfig.rootpath / "docs" / "workbook.schema.json").read_text())
    assert shipped == WorkbookModel.model_json_schema()


def test_sheets_and_names_that_cannot_be_get_others():
    def renamed(data):
        return data.replace(b'name="Hut prices"', b'name="Hut: prices"').replace(
            b'<definedName name="R1C1">', b'<definedName name="a b">'
        )

    arrived = read(package("open_xml", {"xl/workbook.xml": renamed}), "x")
    assert [sheet.name for sheet in arrived.workbook.sheets] == ["Loads", "Hut  prices"]
    said = [each.what for each in arrived.left_out]
    assert "sheet name that cannot be" in said and "name that cannot be" in said


def test_a_workbook_without_cells_goes_out_and_comes_back():
    workbook = Workbook("Empty")
    workbook.sheets = typed_workbook({"Loads": {}, "Prices": {}}).sheets
    made = named_range("share", "0.25")
    workbook.names[made.key] = made
    for name in ("ods", "xlsx", "json"):
        data = write(Calculation(workbook), FORMATS[name], Wish(), Progress()).data
        assert differences(workbook, read(data, "x").workbook) == []
