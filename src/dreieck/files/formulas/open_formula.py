"""Formulas of OpenDocument: OpenFormula, with references in square brackets (part 4, 5)."""

from __future__ import annotations

import re
from collections.abc import Sequence

from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import tree
from dreieck.core.formula.printer import Notation, sheet_text
from dreieck.core.formula.reference import CellReference, Reference
from dreieck.core.functions import find
from dreieck.core.grid import MAX_ROW, Cell
from dreieck.files.formulas.arrays import intersected
from dreieck.files.formulas.dialect import SheetNamed

_PIECE = re.compile(
    r"""
    (?P<text>"(?:[^"]|"")*+")
  | (?P<reference>\[(?:'(?:[^']|'')*+'|[^\]'])*+\])
  | (?P<unclosed>["\[])
  | (?P<logical>\b(?:TRUE|FALSE)\(\ \))
  | (?P<function>[^\W\d][\w.]*+(?=\s*+\())
  | (?P<brace>[{}]) | (?P<separator>[;|]) | (?P<meet>!\ ?)
  | (?P<other>[^"\[{};|!\w]++|\w[\w.]*+|.)
    """,
    re.VERBOSE | re.DOTALL,
)
_CORNER = re.compile(
    r"""
    (?P<file>'(?:[^']|'')*+'\#)?
    (?:\$?(?P<sheet>'(?:[^']|'')++'|[^\].'#\s]++))?
    \.(?P<column>\$?[A-Za-z]{1,3})?(?P<row>\$?[0-9]{1,9})?
    """,
    re.VERBOSE,
)
_PLAIN_SHEET = re.compile(r"[^\W\d]\w*")


def _link(node: tree.Linked) -> tuple[str, str, str]:
    """Two spellings of one operator are told apart by a blank behind it."""
    return "", "! " if node.operator == " " else node.operator, ""


class OpenFormulaDialect:
    """References stand in brackets, arguments are parted by ``;``."""

    # The standard has no logical constants, only functions; a blank tells ours from theirs.
    notation = Notation(
        ";",
        ";",
        "|",
        _link,
        lambda name: name,
        lambda value: f"{str(value).upper()}( )",
        "[#REF!]",
    )

    def __init__(self, sheet_named: SheetNamed = str) -> None:
        self._sheet_named = sheet_named

    def reference(self, reference: Reference, at: Cell) -> str:
        """A reference as it stands in a file, such as ``[$Loads.B4:.B9]``."""
        if reference.area(at) is None:
            return "[#REF!]"
        sheet = "" if reference.sheet is None else f"${_quoted(reference.sheet)}"
        if isinstance(reference, CellReference):
            return f"[{sheet}.{reference.text(at)}]"
        first, _, last = reference.text(at).partition(":")
        return f"[{sheet}.{first}:.{last}]"

    def understood(self, node: tree.Node, at: Cell) -> tree.Node:
        """What a formula of the file, as we write it, means here: the same."""
        return node

    def prepared(self, node: tree.Node) -> tree.Node:
        """A formula as it can be laid out in the notation; level cells are an intersection."""
        return intersected(node)

    def ours(self, text: str, at: Cell) -> str:
        """A formula of the file as we write it. Raises FormulaError."""
        found: list[str] = []
        in_table = False
        for match in _PIECE.finditer(text):
            piece = match[0]
            match match.lastgroup:
                case "unclosed":
                    raise FormulaError(f"“{text[match.start() :][:80]}” has no end.", 0)
                case "reference":
                    found.append(self.our_reference(piece[1:-1]))
                case "logical":
                    found.append(piece[:-3])
                case "function":
                    found.append(_our_function(piece))
                case "separator":
                    found.append({";": ",", "|": ";"}[piece] if in_table else piece)
                case "meet":
                    found.append(" ! " if piece == "!" else " ")
                case "brace":
                    in_table = piece == "{"
                    found.append(piece)
                case _:
                    found.append(piece)
        return "".join(found)

    def our_reference(self, text: str) -> str:
        """A reference, without its brackets, as we write it. Raises FormulaError."""
        if text.endswith("#REF!"):
            return "#REF!"
        corners = [_CORNER.fullmatch(each) for each in _corners(text)]
        if not 1 <= len(corners) <= 2 or not all(corners):
            raise FormulaError(f"“[{text[:80]}]” is no reference.", 0)
        said: list[str] = []
        sheet: str | None = None
        for number, corner in enumerate(corners):
            assert corner is not None
            if corner["file"]:
                raise FormulaError(f"“[{text[:80]}]” reads another file.", 0)
            if corner["sheet"]:
                named = _unquoted(corner["sheet"])
                if number and named != sheet:
                    return self._over_sheets(corners, (sheet, named))
                sheet = named
            said.append((corner["column"] or "") + (corner["row"] or ""))
        body = within_rows(":".join(said))
        return body if sheet is None else f"{sheet_text(self._sheet_named(sheet))}!{body}"

    def _over_sheets(
        self, corners: Sequence[re.Match[str] | None], sheets: tuple[str | None, str]
    ) -> str:
        """A range over sheets. Raises FormulaError where its first end names none."""
        ends = []
        for corner, sheet in zip(corners, sheets, strict=True):
            if sheet is None or corner is None or not (corner["column"] and corner["row"]):
                raise FormulaError("A range over sheets names both of them, and two cells.", 0)
            at = f"{corner['column']}{corner['row']}"
            ends.append(f"{sheet_text(self._sheet_named(sheet))}!{at}")
        return ":".join(ends)


_RANGE = re.compile(r"(\$?[A-Za-z]{1,3})\$?([0-9]+):(\$?[A-Za-z]{1,3})(\$?)([0-9]+)")
LAST_ROW = 1_048_576
"""The last row of a sheet in most programs; columns as long as that are whole ones."""


def within_rows(body: str) -> str:
    """A range that goes on beyond our last row, ending there; over all rows it has no rows."""
    match = _RANGE.fullmatch(body)
    if not match or not MAX_ROW < int(match[5][:9]) <= LAST_ROW:
        return body
    if (int(match[2]), int(match[5])) == (1, LAST_ROW):
        return f"{match[1]}:{match[3]}"
    return f"{body[: match.start(4)]}{match[4]}{MAX_ROW}"


def _corners(text: str) -> list[str]:
    """Both corners of a range; a colon in quotes does not part them."""
    parts = re.findall(r"(?:'(?:[^']|'')*+'|[^':])++", text)
    return parts if ":".join(parts) == text else []


def _quoted(sheet: str) -> str:
    if _PLAIN_SHEET.fullmatch(sheet):
        return sheet
    return "'" + sheet.replace("'", "''") + "'"


def _unquoted(sheet: str) -> str:
    return sheet[1:-1].replace("''", "'") if sheet.startswith("'") else sheet


def _our_function(name: str) -> str:
    """A function without the reversed domain of whoever defined it, where we have it."""
    plain = name.rpartition(".")[2]
    return plain if plain != name and not find(name.upper()) and find(plain.upper()) else name
