"""Hostile and damaged files: each is refused in words, within bounds of time and memory."""

import io
import json
import math
import random
import resource
import struct
import zipfile

import pytest
from packages import flat_document, package, zipped

from dreieck.core.editing.entering import typed_workbook
from dreieck.core.grid import EVERYWHERE
from dreieck.core.sheet.content import MAX_ENTRY
from dreieck.files import FileRefused, Progress, read
from dreieck.files.arrived import Arrived, StoredValue
from dreieck.files.differences import compared

BOMB = b'<?xml version="1.0"?><!DOCTYPE a [<!ENTITY a "aaaaaaaaaa">' + b"".join(
    b'<!ENTITY a%d "%s">' % (n, b"&a%d;" % (n - 1) * 10 if n else b"&a;" * 10) for n in range(9)
) + b"]>"  # fmt: skip
OUTSIDE = b'<?xml version="1.0"?><!DOCTYPE a SYSTEM "file:///etc/passwd">'
ODS, XLSX = package("open_document"), package("open_xml")
CONTENT, SHEET = "content.xml", "xl/worksheets/sheet1.xml"
ROOTS = {CONTENT: "open_document", "styles.xml": "open_document", SHEET: "open_xml",
         "xl/workbook.xml": "open_xml", "xl/styles.xml": "open_xml",
         "xl/sharedStrings.xml": "open_xml"}  # fmt: skip


def declared(name, head):
    """A package one part of which begins with a declaration."""
    return package(ROOTS[name], {name: lambda data: head + data.partition(b"?>")[2]})


def replaced(kind, name, old, new):
    def change(data):
        assert old in data
        return data.replace(old, new, 1)

    return package(kind, {name: change})


def flooded(name, size=410_000_000):
    """A package with a part that unpacks to very much."""
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        if name == CONTENT:
            archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        else:
            archive.writestr("[Content_Types].xml", "<Types/>")
        with archive.open(name, "w", force_zip64=True) as file:
            for _ in range(size // 10_000_000):
                file.write(b" " * 10_000_000)
    return stream.getvalue()


def encrypted():
    data = bytearray(XLSX)
    at = data.index(b"PK\x01\x02")
    data[at + 8] |= 1
    return bytes(data)


def lying_about_size(data):
    """A package whose directory tells another size than there is."""
    changed = bytearray(data)
    at = changed.rindex(b"PK\x01\x02")
    changed[at + 24 : at + 28] = struct.pack("<I", 2**31 - 1)
    return bytes(changed)


def document(**changes):
    said = {"format": "dreieck workbook", "version": 1, "sheets": [{"name": "A"}]}
    return json.dumps(said | changes).encode()


def cell(**said):
    return document(sheets=[{"name": "A", "cells": {"A1": said}}])


def scrambled(data, seed):
    """A file with bytes of its middle changed."""
    chance = random.Random(seed)
    changed = bytearray(data)
    for _ in range(40):
        changed[chance.randrange(60, len(changed))] = chance.randrange(256)
    return bytes(changed)


def ods(old, new):
    return lambda: replaced("open_document", CONTENT, old, new)


def xlsx(old, new, name=SHEET):
    return lambda: replaced("open_xml", name, old, new)


FLOUR = b'<table:table-cell office:value-type="float" office:value="0.12"/>'
HOSTILE = {
    "nothing": lambda: b"",
    "blanks": lambda: b" \n" * 40,
    "binary": lambda: bytes(range(256)) * 9,
    "a picture": lambda: b"\x89PNG\r\n" + b"x" * 90,
    "a document for paper": lambda: b"%PDF-1.7",
    "an older closed format": lambda: b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"x" * 900,
    "a program": lambda: b"\x7fELF" + b"x" * 90,
    "a packed archive": lambda: b"\x1f\x8b" + b"x" * 90,
    "a page": lambda: b"<html><table><tr><td>1</table></html>",
    "other markup": lambda: b"<?xml version='1.0'?><note/>",
    "too many bytes": lambda: b"1" * 50_000_001,
    "a zip of something else": lambda: zipped({"notes.txt": b"x"}),
    "an empty zip": lambda: zipped({}),
    "half a document": lambda: ODS[: len(ODS) // 2],
    "half a workbook": lambda: XLSX[: len(XLSX) // 2],
    "a head alone": lambda: b"PK\x03\x04",
    "encrypted": encrypted,
    "a wrong size": lambda: lying_about_size(XLSX),
    "another wrong size": lambda: lying_about_size(ODS),
    "a flood of text": lambda: flooded(CONTENT),
    "a flood of cells": lambda: flooded(SHEET),
    "many parts": lambda: zipped({"[Content_Types].xml": b"<Types/>"} | {
        f"p{n}.xml": b"<a/>" for n in range(5_001)}),
    "a document for text": lambda: package(
        "open_document", {"mimetype": b"application/vnd.oasis.opendocument.text"}),
    "a document that says nothing": lambda: package("open_document", {CONTENT: b""}),
    "no sheets": lambda: package("open_xml", {"xl/workbook.xml": lambda data: data.partition(
        b"<sheets>")[0] + b"<sheets/></workbook>"}),
    "no workbook": lambda: package("open_xml", without=["xl/workbook.xml"]),
    "no relations": lambda: package("open_xml", without=["xl/_rels/workbook.xml.rels"]),
    "no types": lambda: package("open_xml", {"[Content_Types].xml": b"<Types/>"}),
    "a locked document": lambda: package("open_document", {"META-INF/manifest.xml":
        b"<m xmlns='x'><encryption-data/></m>"}),
    "broken markup": lambda: package("open_document", {CONTENT: b"<office:document-content>"}),
    "broken cells": lambda: package("open_xml", {SHEET: b"<worksheet><sheetData>"}),
    "cells cut off": lambda: package("open_xml", {SHEET: lambda data: data[:900]}),
    "content cut off": lambda: package("open_document", {CONTENT: lambda data: data[:5_000]}),
    "deep markup": ods(FLOUR, b"<text:p>" * 5_000 + b"</text:p>" * 5_000),
    "a cell without end": ods(FLOUR, FLOUR.replace(
        b"/>", b' table:number-columns-repeated="99999999"/>')),
    "a row without end": ods(b'<table:table-row table:number-rows-repeated="3">',
                             b'<table:table-row table:number-rows-repeated="999999">'
                             b'<table:table-cell office:value-type="float" office:value="1"'
                             b' table:number-columns-repeated="9"/>'),
    "minus one row": ods(b'number-rows-repeated="3"', b'number-rows-repeated="-1"'),
    "more rows than can be": ods(
        b'number-rows-repeated="3"', b'number-rows-repeated="9999999999"'),
    "a million sheets": ods(b"<table:named-expressions>",
                            b"<table:table table:name='s'/>" * 300 + b"<table:named-expressions>"),
    "many names": ods(b"<table:named-expressions>", b"<table:named-expressions>" + b"".join(
        b'<table:named-range table:name="n%d_" table:cell-range-address="Loads.A1"/>' % n
        for n in range(5_100))),
    "an address that is none": xlsx(b'r="C4"', b'r="4C"'),
    "an address in row 0": xlsx(b'r="C4"', b'r="C0"'),
    "a text that is not there": xlsx(b'<c r="A2" t="s"><v>2</v>', b'<c r="A2" t="s"><v>99</v>'),
    "a text with a wrong number": xlsx(b'<c r="A2" t="s"><v>2</v>', b'<c r="A2" t="s"><v>x</v>'),
    "a formula shared with nobody": xlsx(b'ref="C5:D6" si="0">$B5*C$4<', b'ref="C5:D6" si="0"><'),
    "a wrong style": xlsx(b's="1"', b's="x"'),
    "a wrong row": xlsx(b'<row r="2">', b'<row r="zwei">'),
    "an array nowhere": xlsx(b'ref="A8"', b'ref="here"'),
    "a sheet that leads nowhere": xlsx(b'r:id="rId1"', b'r:id="rId99"', "xl/workbook.xml"),
    "a format without end": xlsx(
        b"<fonts", b'<numFmts><numFmt numFmtId="200" formatCode="' + b"[$" * 9_000
        + b'"/></numFmts><fonts', "xl/styles.xml"),
    "no text at all": lambda: package("open_xml", {"xl/sharedStrings.xml": b"no"}),
    "a broken style sheet": lambda: package("open_xml", {"xl/styles.xml": b"<styleSheet>"}),
    "not a workbook of ours": lambda: b"{}",
    "broken JSON": lambda: document()[:-3],
    "deep JSON": lambda: b'{"a":' * 90_000,
    "a later version": lambda: document(version=2),
    "no sheet in it": lambda: document(sheets=[]),
    "unknown parts": lambda: document(macro="x"),
    "two contents": lambda: cell(number=1, text="x"),
    "a number that is none": lambda: cell(number="Infinity"),
    "a formula that is none": lambda: cell(formula="=1+"),
    "a look that is none": lambda: cell(number=1, look="general  input bold=onclick"),
    "a format that is none": lambda: cell(number=1, look="script  plain"),
    "a text too long": lambda: cell(text="x" * 10_001),
    "an address off the sheet": lambda: document(
        sheets=[{"name": "A", "cells": {"A1000001": {"number": 1}}}]),
    "cells over one another": lambda: document(
        sheets=[{"name": "A", "cells": {"A1:A5": {"number": 1}, "A3": {"number": 2}}}]),
    "cells without end": lambda: document(sheets=[{"name": "A", "cells": {
        f"{c}1:{c}1000000": {"number": 1} for c in "ABCD"}}]),
    "lines out of order": lambda: document(sheets=[{"name": "A", "rows": [
        {"first": 5, "last": 2}]}]),
    "a place without end": lambda: document(locale="xx_YY"),
    **{f"entities in {name}": (lambda name=name: declared(name, BOMB)) for name in ROOTS},
    **{f"a file outside in {name}": (lambda name=name: declared(name, OUTSIDE)) for name in ROOTS},
    "entities in one text": lambda: BOMB + flat_document().partition(b"?>")[2],
}  # fmt: skip


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_files_are_refused_in_words(name, monkeypatch):
    data = HOSTILE[name]()
    # Nothing may be asked of any other file or address.
    monkeypatch.setattr("socket.socket", None)
    before = resource.getrusage(resource.RUSAGE_SELF)
    with pytest.raises(FileRefused) as refused:
        read(data, "sheet.ods")
    after = resource.getrusage(resource.RUSAGE_SELF)
    said = str(refused.value)
    assert len(said) > 15 and said.endswith(".") and "Traceback" not in said
    assert after.ru_utime - before.ru_utime < 60
    assert after.ru_maxrss - before.ru_maxrss < 700_000


def test_there_are_as_many_as_asked():
    assert len(HOSTILE) >= 60


@pytest.mark.parametrize("seed", range(30))
@pytest.mark.parametrize("data", [ODS, XLSX], ids=["document", "workbook"])
def test_scrambled_files_are_read_or_refused(data, seed):
    try:
        assert read(scrambled(data, seed), "sheet").workbook.sheets
    except FileRefused as refused:
        assert str(refused).endswith(".")


def formula(text):
    return ods(FLOUR, FLOUR.replace(b"/>", b' table:formula="of:=' + text + b'"/>'))


MANY = {
    "blanks": lambda: text_cell(b'<text:s text:c="99999999"/>' * 40_000),
    "frames": lambda: text_cell(b"<draw:frame/>" * 30_000),
    "apostrophes": formula(b"'" * 9_000),
    "brackets": formula(b"[." * 9_000),
    "an endless time": ods(FLOUR, b'<table:table-cell office:value-type="time"'
                                  b' office:time-value="PT' + b"9" * 400 + b'H"/>'),
    "merged areas": xlsx(b"</sheetData>", b"</sheetData><mergeCells>"
                         + b'<mergeCell ref="E1:ZZ1"/>' * 9_000 + b"</mergeCells>"),
}  # fmt: skip


def text_cell(inside):
    said = b'<table:table-cell office:value-type="string"><text:p>x' + inside
    return replaced("open_document", CONTENT, FLOUR, said + b"</text:p></table:table-cell>")


@pytest.mark.parametrize("name", MANY)
def test_what_is_many_or_long_is_read_within_bounds(name):
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    arrived = read(MANY[name](), "sheet")
    held = [
        content for sheet in arrived.workbook.sheets for _, content in sheet.filled(EVERYWHERE)
    ]
    assert all(len(each) <= MAX_ENTRY for each in held if isinstance(each, str))
    assert all(math.isfinite(each) for each in held if isinstance(each, float))
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 300_000


def test_a_file_takes_no_longer_than_a_file_may(monkeypatch):
    monkeypatch.setattr("dreieck.files.formats.LONGEST", -1.0)
    with pytest.raises(FileRefused, match="takes longer to read than any file may"):
        read(ODS, "sheet.ods")
    arrived = Arrived(
        typed_workbook({"S": {"A1": "=1+1"}}), stored={"S": {1: [StoredValue(1, 2.0)]}}
    )
    assert compared(arrived, Progress()) == (1, 0, (), True)
    monkeypatch.setattr("dreieck.files.differences.LONGEST", -1.0)
    monkeypatch.setattr("dreieck.core.budget._STRETCH", 1)
    assert compared(arrived, Progress()) == (0, 0, (), False)
