"""Tables written down as text, and what a review of them finds, mends and leaves alone.

A table begins with ``## its name``. ``wrong`` lists the cells that are mistaken, ``right`` what a
cell holds after the mend. Cells are split by ``|`` from A1 on; ``"`` is filled from above,
``<`` from the left; ``-- Name`` begins another sheet, ``name`` tells a name and its reference.
"""

from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_workbook, told
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import number_text

TABLES = Path(__file__).parent / "core" / "checking" / "tables"


@dataclass
class Table:
    """A table, and what is known of its mistake."""

    name: str
    wrong: list[str] = field(default_factory=list)
    right: list[tuple[str, str]] = field(default_factory=list)
    sheets: dict[str, list[str]] = field(default_factory=dict)
    names: dict[str, str] = field(default_factory=dict)

    @cached_property
    def entries(self) -> dict[str, dict[str, str]]:
        """What would be typed into each sheet, cell by cell."""
        return {name: _entries(rows) for name, rows in self.sheets.items()}

    def made(self) -> Workbook:
        """The workbook that holds the table."""
        return typed_workbook(self.entries, self.names)


def tables(file: str) -> list[Table]:
    """The tables of a file."""
    return read((TABLES / file).read_text("utf-8"))


def examples() -> dict[str, Table]:
    """The examples of the rules that have one, by the rules' identifiers."""
    return {
        rule: read(f"## {rule}\n{each.example}")[0]
        for rule, each in told().items()
        if each.example
    }


def read(text: str) -> list[Table]:
    """The tables of a text."""
    found: list[Table] = []
    sheet = ""
    for line in text.splitlines():
        if line.startswith("## "):
            found.append(Table(line[3:]))
            sheet = "Loads"
        elif line.startswith("wrong "):
            found[-1].wrong = line.split()[1:]
        elif line.startswith("right "):
            _, cell, content = line.split(" ", 2)
            found[-1].right.append((cell, content))
        elif line.startswith("name "):
            _, name, stands_for = line.split(" ", 2)
            found[-1].names[name] = stands_for
        elif line.startswith("-- "):
            sheet = line[3:]
        elif line.strip():
            found[-1].sheets.setdefault(sheet, []).append(line)
    return found


def _entries(rows: list[str]) -> dict[str, str]:
    scratch = typed_workbook({"Loads": {}})
    entries: dict[str, str] = {}
    contents: dict[Cell, object] = {}
    for row, line in enumerate(rows, 1):
        for column, held in enumerate(line.split("|"), 1):
            cell = Cell(column, row)
            axis = {'"': "row", "<": "column"}.get(held.strip())
            text = typed_text(contents[cell.step(axis, -1)], cell) if axis else held.strip()
            if text:
                entries[cell.text] = text
                contents[cell] = scratch.read_entry(text, cell).content
    return entries


def findings(made: Workbook):
    """All findings in the order in which they are told, notes last."""
    found = [each for checked in check_workbook(Calculation(made)) for each in checked.findings]
    return sorted(found, key=lambda each: each.state == "note")


def in_doubt(made: Workbook):
    """The findings that are more than notes."""
    return [each for each in findings(made) if each.state != "note"]


def written(finding) -> str:
    """A finding with all that it says, line by line."""
    where = " ".join(area.text for area in finding.areas)
    lines = [f"{finding.rule} {finding.sheet}!{where}: {finding.says}", f"why: {finding.why}"]
    lines += [f"because: {each}" for each in finding.because]
    lines += [f"of that: {each}" for each in finding.causes]
    lines += [f"mend: {each.says}: {each.before} -> {each.after}" for each in finding.mends]
    return "".join(line.replace("\n", " ") + "\n" for line in lines)


def is_found(table: Table, told) -> bool:
    """Whether the first finding is about cells that are mistaken."""
    wrong = [Area.parse(text) for text in table.wrong]
    return bool(told) and any(one.common(other) for one in told[0].areas for other in wrong)


def is_mended(table: Table, told) -> bool:
    """Whether the first mend of the first finding writes what is right, but for locks."""
    if not told or not told[0].mends:
        return False
    made = table.made()
    for edit in told[0].mends[0].edits:
        edit.apply(made)
    sheet = made.sheet(told[0].sheet)
    values = Calculation(made)
    for at, content in table.right:
        cell = Cell.parse(at)
        held = typed_text(sheet.content(cell), cell).replace("$", "")
        shown = (
            number_text(value)
            if isinstance(value := values.value(sheet.name, cell), float)
            else ""
        )
        if content.replace("$", "") not in (held, shown):
            return False
    return True


def report() -> str:
    """How many of all tables are found, mended and left alone."""
    mistaken, sound = tables("mistaken.txt"), tables("sound.txt")
    told = [(table, in_doubt(table.made())) for table in mistaken]
    found = sum(is_found(*each) for each in told)
    mended = sum(is_mended(*each) for each in told)
    quiet = sum(not in_doubt(table.made()) for table in sound)
    return (
        f"{len(mistaken)} mistaken tables: {found} found, {mended} mended by the first mend;"
        f" {len(sound)} sound ones: {quiet} left alone."
    )


if __name__ == "__main__":
    print(report())
