"""Formulas of Office Open XML (ISO/IEC 29500-1, 18.17), with those of later extensions."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cache

from dreieck.core.analysis.binding import binds
from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import tree
from dreieck.core.formula.over_sheets import read_over_sheets, written_over_sheets
from dreieck.core.formula.printer import Notation, area_text, reference_text, sheet_text
from dreieck.core.formula.reference import Reference
from dreieck.core.functions import every, find
from dreieck.core.grid import Area, Cell
from dreieck.files.formulas.dialect import SheetNamed
from dreieck.files.formulas.open_formula import within_rows

_PART = "_xlpm."
"""The mark of a name that a formula gives to a part of its own."""
_MARK = re.compile(r"(?:_xlfn\.|_xlws\.|_xludf\.)+", re.IGNORECASE)
_PIECE = re.compile(
    r"""
    (?P<text>"(?:[^"]|"")*+")
  | (?P<sheet>(?:'(?:[^']|'')++'|[^\W\d][\w.]*+|\[[0-9]++\][^!\s,()\[]*+)!)
  | (?P<table>[^\W\d][\w.]*+)?(?P<columns>\[(?:[^\[\]']|'.|\[(?:[^\[\]']|'.)*+\])*+\])
  | (?P<unclosed>["'\[])
  | (?P<range>\$?[A-Za-z]{1,3}\$?[0-9]++:\$?[A-Za-z]{1,3}\$?[0-9]++)
  | (?P<function>[^\W\d][\w.]*+)(?=\()
  | (?P<error>\#[A-Za-z0-9/!?]++)
  | (?P<open>\(\ ?) | (?P<close>\)) | (?P<comma>,)
  | (?P<brace>[{}]) | (?P<at>@)
  | (?P<gap>\ \ )
  | (?P<other>\w[\w.]*+|.)
    """,
    re.VERBOSE | re.DOTALL,
)


@dataclass(frozen=True, slots=True)
class Table:
    """A table of a file, whose columns formulas read by their headings (18.5)."""

    name: str
    sheet: str
    area: Area
    columns: tuple[str, ...]
    headings: int = 1
    totals: int = 0

    def part(self, items: frozenset[str]) -> Area:
        """Some of its rows: ``#data``, ``#headers``, ``#totals``, ``#all``.

        Raises FormulaError where it has none of them.
        """
        top, bottom = self.area.top, self.area.bottom
        if "#all" in items:
            return self.area
        first = top if "#headers" in items else top + self.headings
        last = bottom if "#totals" in items else bottom - self.totals
        if "#data" not in items:
            if items == {"#headers"}:
                last = top + self.headings - 1
            if items == {"#totals"}:
                first = bottom - self.totals + 1
        if first > last:
            raise FormulaError(f"The table {self.name} has no such rows.", 0)
        return self.area.spanning("row", first, last)


def _marked(node: tree.Node, own: frozenset[str]) -> tree.Node:
    """A formula in which names of its ``own`` have a mark, and those that it gives within."""
    if isinstance(node, tree.Name):
        return tree.Name(_PART + node.text) if node.text.casefold() in own else node
    if binds(node) and isinstance(node, tree.Call):
        names = [each for each in node.arguments[:-1:2] if isinstance(each, tree.Name)]
        own |= {name.text.casefold() for name in names}
    return tree.with_children(node, lambda child: _marked(child, own))


def _link(node: tree.Linked) -> tuple[str, str, str]:
    """Blanks tell apart what would be written alike."""
    if node.operator == "~":
        return "( ", ",", ")"
    return "", {" ": " ", "!": "  "}.get(node.operator, node.operator), ""


def _function(name: str) -> str:
    known = find(name)
    later = known.later if known else name if name in _our_names() else ""
    return f"_xlfn.{later}" if later else name


@cache
def _our_names() -> dict[str, str]:
    """What we call functions that have another name in these files."""
    return {each.later: each.name for each in every() if each.later not in ("", each.name)}


class OpenXmlDialect:
    """Much as we write them; unions are parted by commas, later functions have a mark."""

    notation = Notation(",", ",", ";", _link, _function, lambda value: str(value).upper(), "#REF!")

    def __init__(
        self,
        sheet_named: SheetNamed = str,
        tables: Iterable[Table] = (),
        home: str = "",
        called: Callable[[str], str | None] = lambda name: None,
    ) -> None:
        self._sheet_named = sheet_named
        self._called = called
        self._tables = {table.name.casefold(): table for table in tables}
        self._home = home

    def reference(self, reference: Reference, at: Cell) -> str:
        """A reference as it stands in a file."""
        return reference_text(reference, at)

    def understood(self, node: tree.Node, at: Cell) -> tree.Node:
        """What a formula of the file, as we write it, means here: over sheets, ``Jan:Mar!A1``."""
        return read_over_sheets(node, at, self._called)

    def prepared(self, node: tree.Node) -> tree.Node:
        """A formula as it can be laid out in the notation: over sheets, ``'Jan:Mar'!A1``.

        Names that a formula gives to its own parts have a mark.
        """
        return _marked(written_over_sheets(node), frozenset())

    def ours(self, text: str, at: Cell) -> str:
        """A formula of the file as we write it."""
        found: list[str] = []
        # Where each bracket opened, and whether a function did it or a table in braces.
        opened: list[tuple[int, str]] = []
        calls = False
        for match in _PIECE.finditer(text):
            piece, group = match[0], match.lastgroup
            if group == "open":
                opened.append((len(found), "call" if calls else piece))
                piece = "("
            elif group == "brace":
                if piece == "{":
                    opened.append((0, "call"))
                elif opened:
                    opened.pop()
            elif group == "comma" and opened and opened[-1][1] != "call":
                if opened[-1][1] == "( ":
                    # We wrote this bracket around a union that has none here.
                    opened[-1] = (opened[-1][0], "union")
                piece = "~"
            elif group == "close" and opened:
                start, how = opened.pop()
                if how == "union":
                    found[start], piece = "", ""
            else:
                piece = self._translated(match, at)
            calls = group == "function"
            found.append(piece)
        return "".join(found)

    def _translated(self, match: re.Match[str], at: Cell) -> str:
        piece = match[0]
        match match.lastgroup:
            case "unclosed":
                raise FormulaError(f"“{match.string[match.start() :][:80]}” has no end.", 0)
            case "sheet":
                name = piece[:-1]
                if "[" in name:
                    raise FormulaError(f"“{piece[:80]}” reads another file.", 0)
                if name.startswith("'"):
                    name = name[1:-1].replace("''", "'")
                return f"{sheet_text(':'.join(map(self._sheet_named, name.split(':'))))}!"
            case "columns":
                return self._of_table(match["table"], match["columns"][1:-1], at)
            case "range":
                return within_rows(piece)
            case "function":
                name = _MARK.sub("", piece)
                return _our_names().get(name.upper(), name)
            case "other":
                return piece.removeprefix(_PART)
            case "at":
                return ""
            case "gap":
                return " ! "
            case _:
                return piece

    def _of_table(self, name: str | None, said: str, at: Cell) -> str:
        """The range that columns of a table are (18.17.2.3, structure references)."""
        table = self._tables.get(name.casefold()) if name else self._around(at)
        if table is None:
            raise FormulaError(f"There is no table “{(name or '')[:60]}” in the file.", 0)
        parts = re.findall(r"\[((?:[^\[\]']|'.)*)\]", said) or ([said] if said else [])
        is_span = "]:[" in said
        items: set[str] = set()
        columns: list[str] = []
        for part in parts:
            plain = re.sub(r"'(.)", r"\1", part)
            if said.startswith("@") or plain.startswith("@"):
                items.add("#this row")
                plain = plain.removeprefix("@")
            if plain.startswith("#"):
                items.add(plain.casefold())
            elif plain:
                columns.append(plain)
        here = "#this row" in items
        area = table.part(frozenset(items - {"#this row"}) or frozenset({"#data"}))
        if here:
            if not area.top <= at.row <= area.bottom:
                raise FormulaError("The row of the formula is not one of the table.", 0)
            area = area.spanning("row", at.row, at.row)
        if columns:
            numbers = sorted(table.area.left + self._number(table, each) for each in columns)
            if len(numbers) > 1 and not is_span:
                raise FormulaError("Columns of a table that are not side by side.", 0)
            area = area.spanning("column", numbers[0], numbers[-1])
        return _locked(area, None if table.sheet == self._home else table.sheet, rows=not here)

    def _around(self, at: Cell) -> Table | None:
        """The table that a formula stands in."""
        own = (each for each in self._tables.values() if each.sheet == self._home)
        return next((each for each in own if each.area.holds(at)), None)

    @staticmethod
    def _number(table: Table, column: str) -> int:
        names = [each.casefold() for each in table.columns]
        if column.casefold() not in names:
            raise FormulaError(f"The table {table.name} has no column “{column[:60]}”.", 0)
        return names.index(column.casefold())


def _locked(area: Area, sheet: str | None, *, rows: bool) -> str:
    """An area whose columns, and rows too if wanted, stay."""
    body = re.sub(r"([A-Z]+)(\d+)", rf"$\1{'$' * rows}\2", area.text)
    return body if sheet is None else f"{area_text(area, sheet).rpartition('!')[0]}!{body}"
