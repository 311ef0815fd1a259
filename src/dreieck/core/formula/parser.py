"""Tokens to a tree, by the precedence of OpenFormula (OpenDocument part 4, 5.5).

From the closest: ``:``, ``!`` or a blank, ``~``, signs in front, ``%``, ``^``, ``* /``, ``+ -``,
``&``, comparisons. Operators of one level group to the left, ``^`` too.
"""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.formula.tokens import Token, TokenKind, tokenise
from dreieck.core.grid import Cell
from dreieck.core.values import number_text

MAX_DEPTH = 200
"""How many steps of a formula may build on one another."""
MAX_NESTING = 64
"""How many brackets may stand inside each other."""
MAX_LENGTH = 10_000
"""How many characters a formula may have."""

_LEVELS = {
    operator: level
    for level, operators in enumerate((tree.COMPARISONS, "&", "+-", "*/", "^"))
    for operator in operators
}


_REFERS = (
    CellReference, RangeReference, tree.Call, tree.Name, tree.Group, tree.Lost, tree.Linked,
)  # fmt: skip
"""What can be a reference once it is worked out."""
_LITERALS = (TokenKind.NUMBER, TokenKind.TEXT, TokenKind.LOGICAL, TokenKind.ERROR)
"""What can stand in a table in braces; behind a sign only the first."""
_WHAT_LINKS = {":": "as in B4:B9", "!": "as in B4:B9!A6:C6", "~": "as in B4:B9~D4:D9"}


@dataclass(frozen=True, slots=True)
class Parsed:
    """A formula that could be read.

    ``brackets_added`` tells how many closing brackets were missing at the end.
    """

    tree: tree.Node
    brackets_added: int = 0


def parse(text: str, at: Cell) -> Parsed:
    """Read a formula, which begins with ``=``, as typed into the cell ``at``.

    Brackets left open at the very end are closed. Raises FormulaError, which knows the
    place, for everything else that is not a formula.
    """
    if len(text) > MAX_LENGTH:
        raise FormulaError(
            f"A formula can have {MAX_LENGTH:,} characters; this one has {len(text):,}.",
            MAX_LENGTH,
            len(text) - MAX_LENGTH,
        )
    parser = _Parser(tokenise(text, at))
    node = parser.formula()
    return Parsed(node, parser.brackets_added)


def _joined_at_bars(rows: list[tuple[list[tree.Node], str]]) -> list[tuple[list[tree.Node], str]]:
    """Rows in which ``;`` parts values, not rows."""
    joined: list[tuple[list[tree.Node], str]] = []
    going_on = False
    for row, mark in rows:
        if going_on:
            joined[-1] = (joined[-1][0] + row, mark)
        else:
            joined.append((row, mark))
        going_on = mark == ";"
    return joined


class _Parser:
    def __init__(self, tokens: list[Token]) -> None:
        self.tokens = tokens
        self.index = 0
        self.nesting = 0
        self.brackets_added = 0

    @property
    def token(self) -> Token:
        return self.tokens[self.index]

    def advance(self) -> Token:
        token = self.token
        self.index += 1
        return token

    def formula(self) -> tree.Node:
        node, _ = self.binary(0)
        if self.token.kind is not TokenKind.END:
            raise self.expected("an operator such as + or *")
        return node

    def binary(self, level: int) -> tuple[tree.Node, int]:
        """A value and operators of at least ``level``; also how deep the tree got."""
        left, depth = self.postfix()
        while self.token.kind is TokenKind.OPERATOR:
            own = _LEVELS.get(self.token.text, -1)
            if own < level:
                break
            operator = self.advance()
            right, right_depth = self.binary(own + 1)
            depth = self.deeper(max(depth, right_depth), operator)
            left = tree.Binary(operator.text, left, right)
        return left, depth

    def postfix(self) -> tuple[tree.Node, int]:
        node, depth = self.prefix()
        while self.token.kind is TokenKind.OPERATOR and self.token.text == "%":
            depth = self.deeper(depth, self.advance())
            node = tree.Percent(node)
        return node, depth

    def prefix(self) -> tuple[tree.Node, int]:
        signs: list[Token] = []
        while self.token.kind is TokenKind.OPERATOR and self.token.text in "+-":
            signs.append(self.advance())
        node, depth = self.linked("~!:")
        for sign in reversed(signs):
            depth = self.deeper(depth, sign)
            node = tree.Prefix(sign.text, node)
        return node, depth

    def linked(self, operators: str) -> tuple[tree.Node, int]:
        """A value, or references with operators between them, from the loosest one down."""
        if not operators:
            return self.atom()
        own, closer = operators[0], operators[1:]
        node, depth = self.linked(closer)
        while True:
            token = self.token
            if token.kind is TokenKind.OPERATOR and token.text == own:
                self.advance()
                operator = own
            elif own == "!" and self.blank_links(node):
                operator = " "
            else:
                return node, depth
            other, other_depth = self.linked(closer)
            if not isinstance(node, _REFERS) or not isinstance(other, _REFERS):
                raise self.at_token(
                    token, f"“{own}” stands between two references, {_WHAT_LINKS[own]}."
                )
            depth = self.deeper(max(depth, other_depth), token)
            node = tree.Linked(operator, node, other)

    def blank_links(self, before: tree.Node) -> bool:
        """Whether a blank in front of the token links it with what stands before.

        Between calls a blank is more likely a forgotten operator.
        """
        if isinstance(before, tree.Call) or not isinstance(before, _REFERS):
            return False
        apart = self.token.start > self.tokens[self.index - 1].end
        lost = self.token.kind is TokenKind.ERROR and self.token.text.upper().endswith("#REF!")
        return apart and (lost or self.token.kind in (TokenKind.REFERENCE, TokenKind.NAME))

    def atom(self) -> tuple[tree.Node, int]:
        token = self.token
        match token.kind:
            case TokenKind.NUMBER:
                value = float(token.text)
                if value == float("inf"):
                    raise self.at_token(token, f"{token.text} is too large for a number.")
                spelled = "" if token.text == number_text(value) else token.text
                node: tree.Node = tree.Number(value, spelled)
            case TokenKind.TEXT:
                node = tree.Text(token.text[1:-1].replace('""', '"'))
            case TokenKind.LOGICAL:
                node = tree.Logical(token.text.upper() == "TRUE")
            case TokenKind.ERROR:
                lost = token.text.upper().endswith("#REF!")
                node = tree.Lost() if lost else tree.ErrorLiteral(token.text.upper())
            case TokenKind.NAME:
                node = tree.Name(token.text)
            case TokenKind.REFERENCE:
                assert token.reference is not None
                node = token.reference
            case TokenKind.FUNCTION:
                return self.call()
            case TokenKind.OPEN:
                return self.group()
            case TokenKind.OPEN_TABLE:
                return self.inline(), 1
            case _:
                raise self.expected("a number, a reference, a function or a bracket")
        self.advance()
        return node, 1

    def group(self) -> tuple[tree.Node, int]:
        opening = self.advance()
        self.enter(opening)
        inner, depth = self.binary(0)
        self.close("an operator or a closing bracket")
        return tree.Group(inner), self.deeper(depth, opening)

    def inline(self) -> tree.Inline:
        """A table of values in braces (OpenFormula 5.13).

        Rows are parted by ``;``, values in a row by ``,``; where rows are parted by ``|``,
        as the standard writes them, ``;`` parts values.
        """
        opening = self.advance()
        row: list[tree.Node] = []
        rows: list[tuple[list[tree.Node], str]] = []
        while True:
            row.append(self.inline_value())
            end = self.advance()
            if end.kind is TokenKind.CLOSE_TABLE:
                rows.append((row, ""))
                break
            if end.kind not in (TokenKind.SEPARATOR, TokenKind.BAR):
                self.index -= 1
                raise self.expected("a comma, a semicolon or a closing brace")
            if end.text != ",":
                rows.append((row, end.text))
                row = []
        if any(mark == "|" for _, mark in rows):
            rows = _joined_at_bars(rows)
        if len({len(row) for row, _ in rows}) > 1:
            raise self.at_token(opening, "The rows of a table in braces have to be of one length.")
        return tree.Inline(tuple(tuple(row) for row, _ in rows))

    def inline_value(self) -> tree.Node:
        sign = self.advance() if self.token.text in ("-", "+") else None
        kinds = (
            (TokenKind.NUMBER,)
            if sign
            else (TokenKind.NUMBER, TokenKind.TEXT, TokenKind.LOGICAL, TokenKind.ERROR)
        )
        if self.token.kind not in kinds:
            raise self.expected("a value such as 3 or a text in double quotes")
        node, _ = self.atom()
        return tree.Prefix(sign.text, node) if sign else node

    def call(self) -> tuple[tree.Node, int]:
        name = self.advance()
        self.enter(name)
        self.advance()  # the bracket that made it a function
        arguments: list[tree.Node] = []
        depth = 0
        if self.token.kind not in (TokenKind.CLOSE, TokenKind.END):
            while True:
                if self.token.kind in (TokenKind.SEPARATOR, TokenKind.CLOSE, TokenKind.END):
                    arguments.append(tree.Missing())
                else:
                    argument, own_depth = self.binary(0)
                    arguments.append(argument)
                    depth = max(depth, own_depth)
                if self.token.kind is not TokenKind.SEPARATOR:
                    break
                self.advance()
        self.close("an operator, a comma or a closing bracket")
        return tree.Call(name.text.upper(), tuple(arguments)), self.deeper(depth, name)

    def enter(self, token: Token) -> None:
        # Brackets are counted on the way in, before Python's own stack is deep.
        self.nesting += 1
        if self.nesting > MAX_NESTING:
            raise self.at_token(
                token,
                f"More than {MAX_NESTING} brackets stand inside each other here."
                " Split the formula over several cells.",
            )

    def close(self, expected: str) -> None:
        self.nesting -= 1
        if self.token.kind is TokenKind.END:
            self.brackets_added += 1
        elif self.token.kind is TokenKind.CLOSE:
            self.advance()
        else:
            raise self.expected(expected)

    def deeper(self, depth: int, token: Token) -> int:
        if depth >= MAX_DEPTH:
            raise self.at_token(
                token,
                f"More than {MAX_DEPTH} steps build on one another up to here."
                " Split the formula over several cells, or use a function over a range.",
            )
        return depth + 1

    def expected(self, what: str) -> FormulaError:
        token = self.token
        if token.kind is TokenKind.END:
            if self.index == 0:
                return self.at_token(token, f"The formula is empty: {what} is expected after “=”.")
            before = self.tokens[self.index - 1].text
            return self.at_token(
                token, f"The formula ends too early: {what} is expected after “{before}”."
            )
        return self.at_token(token, f"Here {what} is expected, not “{token.text[:40]}”.")

    @staticmethod
    def at_token(token: Token, message: str) -> FormulaError:
        return FormulaError(message, token.start, token.end - token.start)
