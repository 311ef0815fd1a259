"""The text of a formula, cut into tokens that know their place."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import Enum

from dreieck.core.budget import spend
from dreieck.core.exceptions import FormulaError
from dreieck.core.formula.reference import CellReference, Part, RangeReference, Reference, Span
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Cell, column_letters, column_number
from dreieck.core.values import ERROR_CODES


class TokenKind(Enum):
    """What a token is."""

    NUMBER = "a number"
    TEXT = "text"
    LOGICAL = "TRUE or FALSE"
    ERROR = "an error value"
    REFERENCE = "a reference"
    NAME = "a name"
    FUNCTION = "a function"
    OPERATOR = "an operator"
    OPEN = "an opening bracket"
    CLOSE = "a closing bracket"
    SEPARATOR = "a comma"
    OPEN_TABLE = "an opening brace"
    CLOSE_TABLE = "a closing brace"
    BAR = "a bar"
    END = "the end of the formula"


@dataclass(frozen=True, slots=True)
class Token:
    """A piece of a formula from ``start`` to before ``end``, counted from 0."""

    kind: TokenKind
    text: str
    start: int
    end: int
    reference: Reference | None = None


@dataclass(frozen=True, slots=True)
class Mention:
    """A reference and the place in the text where it is written."""

    reference: Reference
    start: int
    end: int

    def replaced(self, text: str, written: str) -> str:
        """The text with something else written in its place."""
        return text[: self.start] + written + text[self.end :]


_CELL = r"\$?[A-Za-z]{1,3}\$?[0-9]+"
_TOKEN = re.compile(
    rf"""
    (?P<space>\s+)
  | (?P<text>"(?:[^"]|"")*")
  | (?P<error>\#(?i:{"|".join(re.escape(code[1:]) for code in ERROR_CODES)}))
  | (?P<reference>
      (?:(?P<sheet>'(?:[^']|'')+'|[^\W\d][\w.]*)!)?
      (?: (?P<cells>{_CELL}(?:\s*:\s*{_CELL})?)
        | (?P<columns>\$?[A-Za-z]{{1,3}}\s*:\s*\$?[A-Za-z]{{1,3}})
        | (?P<rows>\$?[0-9]+\s*:\s*\$?[0-9]+)
        | (?P<lost>(?<=!)\#REF!)
      )(?![\w.(]|\s*\()
    )
  | (?P<number>(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][+-]?[0-9]+)?)
  | (?P<function>[^\W\d][\w.]*(?=\s*\())
  | (?P<name>[^\W\d][\w.]*)
  | (?P<operator><>|<=|>=|[-+*/^%&=<>:!~])
  | (?P<open>\()
  | (?P<close>\))
  | (?P<separator>[,;])
  | (?P<open_table>\{{)
  | (?P<close_table>\}})
  | (?P<bar>\|)
    """,
    re.VERBOSE,
)
_CORNER = re.compile(r"(\$?)([A-Za-z]*)(\$?)([0-9]*)")

_KINDS = {
    "text": TokenKind.TEXT,
    "error": TokenKind.ERROR,
    "number": TokenKind.NUMBER,
    "function": TokenKind.FUNCTION,
    "operator": TokenKind.OPERATOR,
    "open": TokenKind.OPEN,
    "close": TokenKind.CLOSE,
    "separator": TokenKind.SEPARATOR,
    "open_table": TokenKind.OPEN_TABLE,
    "close_table": TokenKind.CLOSE_TABLE,
    "bar": TokenKind.BAR,
}


def tokenise(text: str, at: Cell) -> list[Token]:
    """Cut a formula, which begins with ``=``, into tokens; the last one is END.

    ``at`` is the cell that holds the formula. Raises FormulaError at the first
    character that begins no token.
    """
    tokens, problem = _scan(text, at)
    if problem:
        raise problem
    tokens.append(Token(TokenKind.END, "", len(text), len(text)))
    return tokens


def mentions(text: str, at: Cell) -> list[Mention]:
    """Return the references written in a formula that may still be unfinished."""
    if not text.startswith("="):
        return []
    tokens, _ = _scan(text, at)
    return [
        Mention(token.reference, token.start, token.end) for token in tokens if token.reference
    ]


def cut(text: str) -> tuple[list[Token], bool]:
    """Cut a formula that may be unfinished; also whether all of it could be cut."""
    tokens, problem = _scan(text, Cell(1, 1))
    return tokens, problem is None


def _scan(text: str, at: Cell) -> tuple[list[Token], FormulaError | None]:
    spend(len(text))
    tokens: list[Token] = []
    position = 1
    while position < len(text):
        match = _TOKEN.match(text, position)
        if not match:
            return tokens, _unreadable(text, position)
        start, position = position, match.end()
        group = match.lastgroup or ""
        if group == "space":
            continue
        if match["reference"]:
            try:
                tokens.append(_reference(match, at))
            except FormulaError as problem:
                return tokens, problem
        elif group == "name":
            logical = match[0].upper() in ("TRUE", "FALSE")
            kind = TokenKind.LOGICAL if logical else TokenKind.NAME
            tokens.append(Token(kind, match[0], start, position))
        else:
            tokens.append(Token(_KINDS[group], match[0], start, position))
    return tokens, None


def _reference(match: re.Match[str], at: Cell) -> Token:
    start, end = match.span()
    sheet = match["sheet"]
    if sheet and sheet.startswith("'"):
        sheet = sheet[1:-1].replace("''", "'")
    if match["lost"]:
        return Token(TokenKind.ERROR, match[0], start, end)
    body = match["cells"] or match["columns"] or match["rows"]
    corners = [_CORNER.fullmatch(corner.strip()) for corner in body.split(":")]
    columns: list[Part] = []
    rows: list[Part] = []
    for corner in corners:
        assert corner is not None  # the token's own pattern is stricter
        lock_column, letters, lock_row, digits = corner.groups()
        if letters:
            columns.append(
                Part.seen_from(at.column, column_number(letters), locked=bool(lock_column))
            )
        if digits:
            number = int(digits[:9])
            if not 1 <= number <= MAX_ROW:
                raise FormulaError(
                    f"{corner[0].upper()} is not on the sheet: rows go from 1 to {MAX_ROW},"
                    f" columns from A to {column_letters(MAX_COLUMN)}.",
                    start,
                    end - start,
                )
            # In "4:4" the pattern hands the only "$" to the column's place.
            locked = bool(lock_row) if letters else bool(lock_column or lock_row)
            rows.append(Part.seen_from(at.row, number, locked=locked))
    reference: Reference
    if len(corners) == 1:
        reference = CellReference(columns[0], rows[0], sheet)
    else:
        reference = RangeReference(
            Span.of(*columns) if columns else None, Span.of(*rows) if rows else None, sheet
        )
    return Token(TokenKind.REFERENCE, match[0], start, end, reference)


def _unreadable(text: str, position: int) -> FormulaError:
    if text[position] == '"':
        return FormulaError(
            'This text has no closing quote: a “"” is missing at its end.',
            position,
            len(text) - position,
        )
    if text[position] == "'":
        return FormulaError(
            "A sheet name in quotes needs a closing quote and a “!”, as in 'Week 1'!B4.",
            position,
            len(text) - position,
        )
    return FormulaError(
        f"“{text[position]}” has no meaning here. Text inside a formula stands in"
        " double quotes; a reference looks like C5 or $C$5.",
        position,
        1,
    )
