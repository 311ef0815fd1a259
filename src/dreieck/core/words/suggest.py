"""What could be meant by a word that is being typed, and what the current argument is."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from dreieck.core.calculate import Calculation
from dreieck.core.formula.printer import sheet_text
from dreieck.core.formula.tokens import TokenKind, cut
from dreieck.core.functions import Function, every, families, find
from dreieck.core.sheet.names import Named
from dreieck.core.words.named import what_it_holds

MAX_SUGGESTIONS = 7
"""How many suggestions are made."""

_WORD = re.compile(r"(?:'[^']*|[^\W\d][\w.]*)$")


@dataclass(frozen=True, slots=True)
class Suggestion:
    """Something that could be meant: what it is, and the text that would be put in.

    ``start`` is where the word begins that it replaces.
    """

    kind: str
    name: str
    says: str
    insert: str
    start: int
    function: Function | None = None


@dataclass(frozen=True, slots=True)
class Argument:
    """The argument that the caret is in: the function, and its number counted from 0."""

    function: Function
    index: int


def suggestions(
    calculation: Calculation,
    text: str,
    caret: int,
    used: Mapping[str, int],
    *,
    forms: Mapping[str, Function] = MappingProxyType({}),
) -> list[Suggestion]:
    """Functions, names and sheets whose names begin with the word before the caret.

    ``forms`` are what may be written like functions beside them; they come first.

    Those that were used more often in this workbook come first, then those that nearly every
    table uses, then the shorter ones.
    """
    match = _WORD.search(text, 0, caret)
    if not text.startswith("=") or not match or not _begins_value(text, match.start()):
        return []
    if caret < len(text) and (text[caret].isalnum() or text[caret] in "_.!("):
        return []
    workbook = calculation.workbook
    word, start = match[0].lstrip("'").casefold(), match.start()
    found = [
        *(
            Suggestion("name", named.name, _said(calculation, named), named.name, start)
            for named in workbook.names.values()
            if named.name.casefold().startswith(word)
        ),
        *(
            Suggestion("sheet", sheet.name, "another sheet", f"{sheet_text(sheet.name)}!", start)
            for sheet in workbook.sheets
            if sheet.name.casefold().startswith(word)
        ),
        *(
            Suggestion("function", each.name, each.purpose, f"{each.name}(", start, each)
            for each in (*forms.values(), *every())
            if each.name.casefold().startswith(word) and not match[0].startswith("'")
        ),
    ]
    order = {"name": 0, "function": 1, "sheet": 1}

    def rank(each: Suggestion) -> tuple[object, ...]:
        usual = (-used.get(each.name, 0), _rare(each), len(each.name), each.name)
        return (each.name not in forms, order[each.kind], *usual)

    found.sort(key=rank)
    return found[:MAX_SUGGESTIONS]


def _rare(suggestion: Suggestion) -> bool:
    return bool(suggestion.function and suggestion.function.family not in _everyday())


@cache
def _everyday() -> frozenset[str]:
    return frozenset(family.name for family in families() if family.everyday)


def _said(calculation: Calculation, named: Named) -> str:
    """What a name stands for, and what it holds."""
    holds = what_it_holds(calculation, named)
    says = f"{named.kind}: {named.shape_text}"
    return says if holds == named.shape_text else f"{says}, holds {holds}"


def current_argument(
    text: str, caret: int, *, forms: Mapping[str, Function] = MappingProxyType({})
) -> Argument | None:
    """The innermost function whose brackets hold the caret, and which argument it is."""
    if not text.startswith("="):
        return None
    tokens, _ = cut(text[:caret])
    open_calls: list[tuple[Function | None, int]] = []
    for position, token in enumerate(tokens):
        if token.kind is TokenKind.OPEN_TABLE:
            open_calls.append((None, 0))
        elif token.kind is TokenKind.OPEN:
            before = tokens[position - 1] if position else None
            is_call = before is not None and before.kind is TokenKind.FUNCTION
            name = before.text.upper() if is_call and before else ""
            function = forms.get(name) or find(name)
            open_calls.append((function, 0))
        elif token.kind in (TokenKind.CLOSE, TokenKind.CLOSE_TABLE) and open_calls:
            open_calls.pop()
        elif token.kind is TokenKind.SEPARATOR and open_calls:
            function, index = open_calls[-1]
            open_calls[-1] = (function, index + 1)
    for function, index in reversed(open_calls):
        if function:
            return Argument(function, index)
    return None


def _begins_value(text: str, start: int) -> bool:
    """Whether a function or name may begin at ``start``: not inside text or an address."""
    tokens, whole = cut(text[:start])
    if not whole or text[start - 1 : start] in ("$", "!", "."):
        return False
    return not tokens or (
        tokens[-1].kind in (TokenKind.OPERATOR, TokenKind.OPEN, TokenKind.SEPARATOR)
        and tokens[-1].text != "%"
    )
