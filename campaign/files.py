"""Hostile files: of everything there can be too much; each is read or refused within bounds."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

from campaign.server import LostError

_SECONDS, _MEMORY = 45, 900
"""So many seconds of the processor and so many megabytes at the most."""
_MANY = 60_000
_READ = """
import re
import sys
from pathlib import Path
from dreieck.files import FileRefused, Progress, read
from dreieck.files.differences import compared
try:
    progress = Progress()
    compared(read(Path(sys.argv[1]).read_bytes(), "sheet", progress), progress)
except FileRefused as refusal:
    print(refusal)
print("took", re.search("VmHWM:\\s+([0-9]+)", Path("/proc/self/status").read_text())[1])
"""


def run(folder: Path, _: float) -> str:
    """Read each of them; what was measured."""
    slowest = largest = 0
    files = _files()
    for name, made in files.items():
        path = folder / name.replace(" ", "-")
        path.write_bytes(made())
        took, memory, said = _read(path)
        slowest, largest = max(slowest, took), max(largest, memory)
        if took > _SECONDS or memory > _MEMORY or "Traceback" in said:
            raise LostError(f"{name}: {took} s, {memory} MB: {said[-500:]}")
        path.unlink()
    return f"{len(files)} files, each within {slowest} s of the processor and {largest} MB"


def _read(path: Path) -> tuple[int, int, str]:
    """How long the processor works on a file, how much memory it takes, what is said of it."""
    with subprocess.Popen(
        [sys.executable, "-c", _READ, str(path)], stdout=subprocess.PIPE, stderr=subprocess.STDOUT
    ) as process:
        assert process.stdout
        said = process.stdout.read().decode("utf-8", "replace")
        _, process.returncode, used = os.wait4(process.pid, 0)
    # What the child takes by its own account: that of its parent is counted in to begin with.
    memory = int(said.rpartition("took ")[2]) // 1024 if "took " in said else 10**6
    return round(used.ru_utime + used.ru_stime), memory, said


def _files() -> dict[str, Callable[[], bytes]]:
    """What each file is about, and how it is made."""
    sys.path.insert(0, str(Path(__file__).parents[1] / "tests"))
    from packages import package  # noqa: PLC0415  # of the tests

    def ods(rows: str = "", styles: str = "", names: str = "") -> Callable[[], bytes]:
        def put(data: bytes) -> bytes:
            behind, before = b"<table:named-expressions>", b"</office:automatic-styles>"
            data = data.replace(b"<table:table-row", rows.encode() + b"<table:table-row", 1)
            data = data.replace(behind, behind + names.encode())
            return data.replace(before, styles.encode() + before)

        return lambda: package("open_document", {"content.xml": put})

    def xlsx(rows: str = "", after: str = "", styles: str = "") -> Callable[[], bytes]:
        return lambda: package("open_xml", {
            "xl/worksheets/sheet1.xml": lambda data: data.replace(
                b"</sheetData>", rows.encode() + b"</sheetData>" + after.encode()),
            "xl/styles.xml": lambda data: data.replace(b"<fonts", styles.encode() + b"<fonts", 1),
        })  # fmt: skip

    def row(cells: str) -> str:
        return f"<table:table-row>{cells}</table:table-row>"

    def number(more: str = "") -> str:
        return f'<table:table-cell office:value-type="float" office:value="1" {more}/>'

    def formula(text: str, more: str = "") -> str:
        return number(f'table:formula="of:={text}" {more}')

    def text(inside: str, more: str = "") -> str:
        return (
            f'<table:table-cell office:value-type="string" {more}><text:p>{inside}</text:p>'
            "</table:table-cell>"
        )

    def line(at: int, said: str, kind: str = "") -> str:
        return f'<row r="{at}"><c r="H{at}"><f {kind}>{said}</f><v>1</v></c></row>'

    def style(at: int, inside: str = "", more: str = "") -> str:
        named = f'<style:style style:name="x{at}" style:family="table-cell" {more}>'
        return f"{named}{inside}</style:style>"

    many, some = range(1, _MANY), range(100, 2_100)
    array = 'table:number-matrix-columns-spanned="1" table:number-matrix-rows-spanned="2"'
    wide, covered = 'table:number-columns-spanned="2"', "<table:covered-table-cell/>"
    ink = '<style:text-properties fo:color="#{:06x}"/>'
    rule = (
        '<conditionalFormatting sqref="A1:A{0}"><cfRule type="expression" priority="{0}">'
        "<formula>A1&gt;{0}</formula></cfRule></conditionalFormatting>"
    )
    return {
        "many attributes": ods(row(number(" ".join(f'a{n}="x"' for n in many)))),
        "many merged": ods("".join(row(text("x", wide) + covered) for _ in many)),
        "many arrays": ods("".join(row(formula("SUM([.B1:.B2])", array)) for _ in many)),
        "many styles": ods("".join(row(number(f'table:style-name="x{n}"')) for n in many),
                           "".join(style(n, ink.format(n)) for n in many)),
        "a chain of styles": ods(row(number('table:style-name="x1"')) * 2_000, "".join(
            style(n, more=f'style:parent-style-name="x{n + 1}"') for n in many)),
        "many columns": ods("".join(
            f'<table:table-column table:default-cell-style-name="x{n}"/>' for n in range(16_000)
            ) + row("<table:table-cell/>" * 16_000) * 40),
        "many blanks": ods(row(text('<text:s text:c="99999999"/>' * _MANY))),
        "many drawings": ods(row(text("x" + "<draw:frame/>" * _MANY))),
        "many names": ods(names="".join(
            f'<table:named-expression table:name="x{n}_" table:expression="{"&apos;" * 900}"/>'
            for n in range(4_000))),
        "a long chain": ods("".join(row(formula(f"[.A{n + 1}]+{n}")) for n in many)),
        "a long circle": ods("".join(
            row(formula(f"[.A{n % (_MANY - 1) + 1}]*{n}")) for n in many)),
        "a tangled circle": ods("".join(
            row(formula(f"[.B{n * 7 % _MANY + 1}]*{n}") + formula(f"[.A{n * 3 % _MANY + 1}]+{n}"))
            for n in many)),
        "all below": xlsx("".join(line(n, f"SUM(H{n + 1}:H9999)*{n}") for n in range(100, 6_000))),
        "heavy formulas": xlsx("".join(
            line(n, f"SUMPRODUCT((A$1:A$20000&gt;{n})*(B$1:B$20000&lt;9))") for n in some)),
        "long texts": xlsx("".join(line(n, f'REPT("{n}",9000)') for n in range(100, 9_000))),
        "shared and long": xlsx("".join(
            line(n, "+".join(["B1"] * 2_500) if n == 100 else "", 't="shared" si="7"')
            for n in many if n >= 100)),
        "merged in a workbook": xlsx(after="<mergeCells>" + "".join(
            f'<mergeCell ref="A{n}:XFD{n}"/>' for n in many) + "</mergeCells>"),
        "many rules": xlsx(after="".join(rule.format(n) for n in many)),
        "many formats": xlsx(styles="".join((
            "<numFmts>",
            *(f'<numFmt numFmtId="{n + 200}" formatCode="{"0" * 90}{n}"/>' for n in many),
            "</numFmts>"))),
        "an endless format": xlsx(
            styles=f'<numFmts><numFmt numFmtId="200" formatCode="{"[$" * _MANY}"/></numFmts>'),
        **{f"signs {sign}": ods("".join(row(formula(f"{sign * 9_000}{n}")) for n in some))
           for sign in ("&apos;", "[.", "(", "&quot;", "-", "a.", " ", "[.A1]~", "{")},
        **{f"workbook {sign}": xlsx("".join(line(n, f"{sign * 4_000}{n}") for n in some))
           for sign in ("'", "a[", "(", '"', "-", "a.", " ", "A1:", "{", "[1]")},
        "text of quotes": lambda: b'"' * 9_000_001,
        "text of one line": lambda: b"1," * 9_000_000,
        "text of long numbers": lambda: b"\n".join(b"9" * 9_000 for _ in range(4_000)),
    }  # fmt: skip
