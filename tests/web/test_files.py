"""Files over HTTP: taken, looked at, kept, handed out, printed."""

import io
import json
import re
import sqlite3
import time
import zipfile
from contextlib import closing

import pytest
from packages import package

from dreieck.files import FORMATS, read
from dreieck.files.formats import written_ones

ODS = package("open_document")


def sent(client, data, name="x.ods"):
    return client.post("/files", files={"file": (name, data)})


def settled(client, answer):
    """The answer when nothing is under way any more."""
    while match := re.search(r'hx-get="(/files/[^"]+)" hx-trigger="load', answer.text):
        time.sleep(0.05)
        answer = client.get(match[1])
    return answer


def kept(client, answer):
    token = re.search(r'hx-post="/files/([^/"]+)/keep"', answer.text)[1]
    address = settled(client, client.post(f"/files/{token}/keep")).headers["hx-redirect"]
    return address.partition("?")[0]


def test_a_file_is_looked_at_before_it_becomes_a_workbook(client):
    answer = settled(client, sent(client, ODS))
    for part in ("OpenDocument spreadsheet", "Hut prices", "1 comment (Loads!A5)",
                 "Of 10 values", "5 come to something else", "Loads!D6", "2 names"):  # fmt: skip
        assert part in " ".join(answer.text.split())
    assert client.get("/").text.count("shelf-name") == 1
    address = kept(client, answer)
    assert ">Loads</button>" in client.get(address).text or "Loads" in client.get(address).text
    arrival = client.get(f"{address}/arrival").text
    assert "1 comment (Loads!A5)" in arrival and "it reads Loads!D6, which differs" in arrival
    assert "1 comment (Loads!A5)" in client.get(f"{address}/files").text
    copy = client.post(f"{address}/copy", data={"name": "Next"}).headers["hx-redirect"]
    assert "1 comment (Loads!A5)" in client.get(f"{copy}/arrival").text
    assert client.get("/workbooks/1/arrival").status_code == 404


def test_a_table_of_text_is_read_as_somebody_says(client):
    answer = sent(client, b"Item;kg\nFlour;1,5\n007;=1+1\n", "loads.csv")
    assert "1,5 with a comma" in answer.text and "1 code with a 0 in front" in answer.text
    token = re.search(r'hx-post="/files/([^/"]+)/settings"', answer.text)[1]
    said = {"separator": ";", "quote": '"', "encoding": "utf-8", "decimal": ".", "order": "ymd"}
    changed = client.post(f"/files/{token}/settings", data=said).text
    assert re.search(r'<option value="\." selected', changed)
    wrong = client.post(f"/files/{token}/settings", data=said | {"separator": "abc"})
    assert re.search(r'<option value=";" selected', wrong.text)
    client.post(f"/files/{token}/settings", data=said | {"decimal": ",", "formulas": "true"})
    address = settled(client, client.post(f"/files/{token}/keep")).headers["hx-redirect"]
    assert address.endswith("?came=yes")
    address = address.partition("?")[0]
    made = json.loads(client.get(f"{address}/files/json").content)
    cells = made["sheets"][0]["cells"]
    assert cells["B2"] == {"number": 1.5} and cells["B3"] == {"formula": "=1+1"}
    assert made["name"] == "loads"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"%PDF-1.7", "which cannot be read here"),
        (ODS[:900], "cannot be unpacked"),
        (b"SQLite format 3\0" + b"x" * 500, "Take them in"),
    ],
)
def test_what_cannot_be_opened_is_told_and_nothing_changes(client, data, says):
    answer = settled(client, sent(client, data))
    assert answer.status_code == 200 and says in answer.text
    if "keep" in answer.text:
        token = re.search(r'hx-post="/files/([^/"]+)/keep"', answer.text)[1]
        answer = settled(client, client.post(f"/files/{token}/keep"))
        assert "no data file of Dreieck" in answer.text
    assert client.get("/").text.count("shelf-name") == 1


def test_a_file_can_be_given_up_and_is_forgotten(client):
    answer = sent(client, b"1,2\n3,4\n" * 9, "x.csv")
    token = re.search(r'hx-post="/files/([^/"]+)/stop"', answer.text)[1]
    assert "stopped" in client.post(f"/files/{token}/stop").text
    assert client.get(f"/files/{token}").status_code == 404
    assert "No file came along" in client.post("/files", files={"file": ("", b"")}).text
    tokens = [re.search(r"/files/([^/\"]+)/stop", sent(client, b"1,2\n", "x.csv").text)[1]
              for _ in range(12)]  # fmt: skip
    assert client.get(f"/files/{tokens[0]}").status_code == 404
    assert client.get(f"/files/{tokens[-1]}").status_code == 200


def test_a_request_may_not_bring_more_than_a_file_can_have(client):
    assert client.post("/files", content=b"x" * 51_000_000).status_code == 413
    assert client.post("/workbooks", content=b"x" * 13_000_000).status_code == 413


@pytest.mark.parametrize("name", [each.name for each in written_ones()])
def test_a_workbook_downloads_in_each_format(client, name):
    answer = client.get(f"/workbooks/1/files/{name}")
    assert answer.status_code == 200
    assert answer.headers["content-type"].startswith(FORMATS[name].media_type)
    assert f"Hut supplies{FORMATS[name].ending}" in answer.headers["content-disposition"]
    if FORMATS[name].holds_all:
        assert len(read(answer.content, "x").workbook.sheets) == 4


def test_sheets_download_as_somebody_says(client):
    values = client.get("/workbooks/1/files/csv?sheet=2").text
    assert "Flour,0.12,50.4," in values
    assert "Flour,0.12,'=$B5*C$4," in client.get("/workbooks/1/files/csv?sheet=2&formulas=1").text
    asked = "/workbooks/1/files/csv?sheet=2&formulas=1&as_it_is=1"
    assert "Flour,0.12,=$B5*C$4," in client.get(asked).text
    assert client.get("/workbooks/1/files/csv?sheet=99").status_code == 422
    assert client.get("/workbooks/1/files/exe").status_code == 404


def test_a_workbook_goes_out_with_its_history_and_comes_back(client, page):
    page.enter("B5", "0.15")
    whole = client.get("/workbooks/1/files/json?history=true").content
    assert "history" in json.loads(whole)
    answer = settled(client, sent(client, whole, "again.json"))
    assert kept(client, answer) == "/workbooks/2"


def test_all_workbooks_go_out_as_one_file_and_come_back(client):
    client.post("/workbooks", data={"name": "Winter plan"})
    whole = client.get("/data-file")
    assert whole.content.startswith(b"SQLite format 3")
    answer = sent(client, whole.content, "dreieck-workbooks.db")
    assert kept(client, answer) == "/"
    assert client.get("/").text.count("shelf-name") == 4


def test_the_fill_report_says_it_all(client):
    report = " ".join(client.get("/workbooks/1/sheets/4/report?cell=C7&by=Ida<").text.split())
    for part in ("To mend!C6:C9", "=B6*B3", "Carrying price, per kg", "handed in by Ida&lt;",
                 "1 sound, 2 in doubt, 1 broken", "slides off B3", "=B6*B$3", "Shift log",
                 "<svg class=\"picture\"", "#VALUE!"):  # fmt: skip
        assert part in report
    assert client.get("/workbooks/1/sheets/4/report?cell=A1").status_code == 404
    large = client.get("/workbooks/1/sheets/2/report?cell=C5").text
    assert (
        "more are not listed" in large
        and "more are" not in client.get("/workbooks/1/sheets/2/report?cell=C5&log=whole").text
    )


def test_a_report_tells_what_was_mended(client, broken):
    broken.select("C6")
    broken.act("mend", rule="input-slid", index=1, to="C7", mend=0)
    report = " ".join(client.get("/workbooks/1/sheets/4/report?cell=C7").text.split())
    assert "What was mended" in report and "Nothing is in doubt" in report
    assert '<span class="mono">=B6*B3</span> became <span class="mono">=B6*B$3</span>' in report


def test_a_sheet_prints_with_formulas_headings_and_charts(client):
    printed = client.get("/workbooks/1/sheets/1/print?show=formulas&heads=true").text
    assert "=C7*carry_price" in printed and "lying.css" in printed
    assert "data-chart=" in printed and "What each item costs" in printed
    plain = client.get("/workbooks/1/sheets/3/print").text
    assert "upright.css" in plain and "=SUM" not in plain and ">1795<" in plain
    assert client.get("/workbooks/1/sheets/99/print").status_code == 404


def test_scripts_send_files(client):
    upload = {"file": ("x.ods", ODS)}
    asked = {"cell": ["Loads!C5", "carry_price"], "set": ["Loads!C4=500"]}
    answer = client.post("/api/v1/files/calc", files=upload, data=asked)
    assert answer.json()["cells"]["Loads!C5"]["value"] == 60
    assert answer.json()["cells"]["carry_price"]["value"] == 2.5
    checked = client.post("/api/v1/files/check", files=upload).json()
    assert {block["area"] for block in checked["blocks"]} >= {"Loads!C5:D6"}
    shifted = client.post("/api/v1/files/shift", files=upload, data={"cell": "Loads!D6"}).json()
    assert [each["cell"] for each in shifted["landings"]] == ["C5", "D5", "C6", "D6"]
    both = {"old": ("a.ods", ODS), "new": ("b.xlsx", package("open_xml"))}
    changes = client.post("/api/v1/files/diff", files=both).json()["changes"]
    assert ("sheet" not in {each["what"] for each in changes}) and len(changes) > 5
    made = client.post("/api/v1/files/convert?to=xlsx", files=upload)
    assert "xl/workbook.xml" in zipfile.ZipFile(io.BytesIO(made.content)).namelist()
    table = client.post("/api/v1/files/convert?to=csv&sheet=Loads", files=upload)
    assert "other sheet" in table.headers["x-left-out"]
    refused = client.post("/api/v1/files/check", files={"file": ("x", b"%PDF")})
    assert refused.status_code == 422 and "cannot be read here" in refused.json()["error"]


@pytest.mark.logs_a_fault
@pytest.mark.parametrize(
    ("damage", "says"),
    [
        ("UPDATE sheet SET layout = '[]' WHERE workbook_id = 1", "“Hut supplies” cannot be read"),
        (
            "UPDATE alembic_version SET version_num = '9999'",
            "The file was made by a newer Dreieck",
        ),
        ("UPDATE workbook SET name = printf('%.90c', 'x') WHERE id = 1", "can have 80 characters"),
    ],
)
def test_a_data_file_comes_in_as_a_whole_or_not_at_all(client, page, tmp_path, damage, says):
    page.enter("H5", "7")
    client.post("/workbooks", data={"name": "Second"})
    path = tmp_path / "brought.db"
    path.write_bytes(client.get("/data-file").content)
    before = client.get("/").text.count("shelf-name")
    with closing(sqlite3.connect(path)) as data, data:
        data.execute(damage)
    data.close()
    answer = sent(client, path.read_bytes(), "all.db")
    token = re.search(r'hx-post="/files/([^/"]+)/keep"', answer.text)[1]
    answer = settled(client, client.post(f"/files/{token}/keep"))
    assert says in " ".join(answer.text.split()) and "/tmp" not in answer.text
    assert client.get("/").text.count("shelf-name") == before


@pytest.mark.logs_a_fault
def test_what_no_reader_expects_is_told_too(client, monkeypatch):
    monkeypatch.setattr("dreieck.web.incoming.checked", lambda _: 1 / 0)
    answer = sent(client, client.get("/data-file").content, "all.db")
    token = re.search(r'hx-post="/files/([^/"]+)/keep"', answer.text)[1]
    answer = settled(client, client.post(f"/files/{token}/keep"))
    assert "holds something that no file of its kind should" in " ".join(answer.text.split())
