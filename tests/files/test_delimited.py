"""Tables of text: guessed, read and written."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.calculate import Calculation
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.files import FORMATS, FileRefused, Progress, Wish, read, write
from dreieck.files.delimited import guessed, preview
from dreieck.files.delimited.writing import guarded
from dreieck.files.settings import Settings


def cells(arrived):
    """What the cells of a table hold, row by row."""
    sheet = arrived.workbook.sheets[0]
    used = sheet.used()
    return [[sheet.content(cell) for cell in row.cells()] for row in used.lines("row")]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("Item,kg\nFlour,1.5\n", Settings(header=True)),
        ("Item;kg\nFlour;1,5\nSalt;2,25\n", Settings(";", header=True, decimal=",")),
        ("a\tb\n1\t2\n", Settings("\t", header=True)),
        ("1|2|3\n4|5|6\n", Settings("|")),
        ("'a, b',1\n'c, d',2\n'e',3\n", Settings(quote="'")),
        ("day,n\n13/1/2026,1\n", Settings(header=True, order="dmy")),
        ("day,n\n1/13/2026,1\n", Settings(header=True, order="mdy")),
        ("2026-01-13,1\n2026-01-14,2\n", Settings()),
        ("1.234,56;2\n7.000,10;3\n", Settings(";", decimal=",")),
        ("just a text\n", Settings()),
    ],
)
def test_how_a_table_is_written_is_guessed(text, expected):
    assert guessed(text.encode()) == expected


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_letters_are_read_in_their_encoding(encoding):
    text = "Hütte;Größe\nLärche;1,5\nFöhre;2,5\nEspenhöhe;3,5\nübrige Hütten;4,5\n" * 5
    assert cells(read(text.encode(encoding), "x.csv"))[1] == ["Lärche", 1.5]


def test_numbers_dates_codes_and_texts():
    text = "1;1.234,5;12,5%;1.3.2026;2026-03-02 06:30;7:30;007;TRUE;=1+1;-;+49 1;1e3;;nan\n"
    arrived = read(text.encode(), "x.csv", settings=Settings(";", decimal=",", order="dmy"))
    row = cells(arrived)[0]
    assert row[:5] == [1.0, 1234.5, 0.125, 46082.0, 46083 + 6.5 / 24]
    assert row[5:] == [7.5 / 24, "007", True, "=1+1", "-", "+49 1", 1000.0, None, "nan"]
    looks = [arrived.workbook.sheets[0].look(Cell(column, 1)) for column in range(1, 10)]
    forms = [look.form for look in looks]
    assert forms == ["general", "grouped", "percent", "date", "datetime", "time", "typed-text",
                     "general", "typed-text"]  # fmt: skip
    said = [each.says for each in arrived.left_out]
    assert said == [
        "1 code with a 0 in front (x!G1): kept as text",
        "1 text with the sign of a formula in front (x!I1): kept as text, so nothing of it"
        " is worked out",
    ]


def test_telephones_stay_texts_and_two_digits_of_a_year_are_told():
    text = "030 123 456;01.02.99;1.3.26;0,123;1 234\n"
    arrived = read(text.encode(), "x.csv", settings=Settings(";", decimal=",", order="dmy"))
    assert cells(arrived)[0] == ["030 123 456", 36192.0, 46082.0, 0.123, 1234.0]
    assert [each.says for each in arrived.left_out] == [
        "1 code with a 0 in front (x!A1): kept as text",
        "2 dates with two digits of a year (x!B1, x!C1): they mean 1950 to 2049",
    ]


def test_formulas_are_taken_only_if_somebody_says_so():
    arrived = read(b"1,2\n=A1+B1,3\n", "x.csv", settings=Settings(formulas=True))
    assert typed_text(cells(arrived)[1][0], Cell(1, 2)) == "=A1+B1"


def test_a_preview_tells_what_will_be_read():
    shown = preview(b"Item;kg\nFlour;1,5\n007;=1\n", Settings(";", decimal=",", header=True))
    assert shown.rows[1] == [("Flour", False), ("1,5", True)]
    assert len(shown.notes) == 2 and shown.notes[0].startswith("1 code with a 0 in front")


plain_numbers = st.floats(allow_nan=False, allow_infinity=False).map(lambda number: number + 0.0)
words = st.text("abc,;\"'\n é=+-@", max_size=6).filter(
    lambda text: text.strip() and not text.startswith("'")
)


@given(st.lists(st.tuples(plain_numbers, words), min_size=1, max_size=12))
def test_what_is_written_as_it_is_comes_back(rows):
    workbook = Workbook("x")
    sheet = Sheet(1, "Loads")
    workbook.sheets.append(sheet)
    for row, (number, text) in enumerate(rows, 1):
        sheet.put(Cell(1, row), number, sheet.look(Cell(1, row)))
        sheet.put(Cell(2, row), text, sheet.look(Cell(2, row)))
    made = write(Calculation(workbook), FORMATS["csv"], Wish(safe=False), Progress())
    back = cells(read(made.data, "x.csv", settings=Settings()))
    assert [[number, text] for number, text in back] == [list(row) for row in rows]
    safe = write(Calculation(workbook), FORMATS["csv"], Wish(), Progress())
    written = list(csv.reader(io.StringIO(safe.data.decode(), newline="")))
    assert all(not text.lstrip().startswith(("=", "+", "-", "@")) for _, text in written)


@pytest.mark.parametrize(
    "text",
    [
        "=1",
        " +cmd",
        "-2+3",
        "@x",
        "\t=1",
        "＝1",
        "|x",
        "%0=x",
        "\u200b=1",
        "\ufeff\u2066 =1",
        "−2+3",
    ],
)
def test_what_could_be_a_formula_is_guarded(text):
    assert guarded(text) == "'" + text and guarded("-1.5") == "-1.5" and guarded("a=1") == "a=1"


def test_many_rows_are_read_in_stretches():
    rows = 40_000
    data = "".join(f"{n},{n / 8},w{n % 7}\n" for n in range(rows)).encode()
    sheet = read(data, "x.csv").workbook.sheets[0]
    assert len(sheet) == 3 * rows
    assert sheet.content(Cell(2, rows)) == (rows - 1) / 8
    assert sheet.content(Cell(3, 16_385)) == f"w{16_384 % 7}"


@pytest.mark.parametrize(
    ("data", "settings", "says"),
    [
        (b"x\n" * 20_001, Settings(), "20,000 rows"),
        (b"," * 3_000, Settings(), "another separator"),
        (b"a,b\n", Settings("#"), "not a way"),
        (b'"' + b"x" * 11_000_000, Settings(), "cannot be read"),
    ],
)
def test_what_cannot_be_a_table_is_refused(data, settings, says, monkeypatch):
    monkeypatch.setattr("dreieck.files.delimited.reading.MAX_ROW", 20_000)
    with pytest.raises(FileRefused, match=says):
        read(data, "x.csv", settings=settings)
