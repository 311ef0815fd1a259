"""Many entries of one column, read together.

Plain numbers are read at once. A formula that says the same as the one before it, seen from its
own row, has the same shape: it is known by its text, and not parsed again.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from typing import NamedTuple

from dreieck.core.formula import Shape
from dreieck.core.formula.tokens import mentions
from dreieck.core.grid import MAX_ROW, Cell
from dreieck.core.sheet.content import Content, Entry

_PLAIN = re.compile(r"-?+(?:0|[1-9][0-9]{0,14}+)(?:\.[0-9]{1,9}+)?+")
"""Numbers that have no other reading, and imply no number format."""
_ALL_PLAIN = re.compile(rf"(?:{_PLAIN.pattern}\n)*+")
_AHEAD = 4096
"""So many texts at most are held against a formula at once."""
_ROW = re.compile(r"(\$?)(\d+)")


class ReadColumn(NamedTuple):
    """What a column of entries says: its contents, and the entries that say more than that."""

    contents: list[Content | None]
    more: dict[int, Entry]


def read_column(
    texts: Sequence[str],
    column: int,
    rows: Sequence[int],
    read: Callable[[str, Cell], Entry],
    *,
    plain: bool,
) -> ReadColumn:
    """Read entries of some rows; ``plain`` where numbers are written with a point.

    ``read`` understands a single one. Raises what that raises.
    """
    joined = "\n".join(texts)
    if plain and joined.count("\n") == len(texts) - 1 and _ALL_PLAIN.fullmatch(joined + "\n"):
        return ReadColumn(list(map(float, texts)), {})
    contents: list[Content | None] = []
    more: dict[int, Entry] = {}
    repeated: _Repeated | None = None
    is_plain = _PLAIN.fullmatch
    while (index := len(contents)) < len(texts):
        text, cell = texts[index], Cell(column, rows[index])
        if plain and is_plain(text):
            contents.append(float(text))
            continue
        if repeated and (alike := repeated.how_many(texts, rows, index)):
            contents += [repeated.shape] * alike
            continue
        entry = read(text, cell)
        if isinstance(entry.content, Shape) and not (entry.taken or entry.brackets_added):
            repeated = _Repeated.of(text, cell, entry.content)
        elif entry.form or entry.taken or entry.problem:
            more[index] = entry
        contents.append(entry.content)
    return ReadColumn(contents, more)


class _Repeated(NamedTuple):
    """A formula as it is typed in other rows: its text with gaps, and what stands in them."""

    shape: Shape
    text: str
    rows: tuple[int, ...]
    """The rows that move along, seen from the row of the formula."""

    @classmethod
    def of(cls, text: str, cell: Cell, shape: Shape) -> _Repeated | None:
        """The formula typed into a cell."""
        if not text.startswith("="):
            return None
        pieces: list[str] = []
        rows: list[int] = []
        end = 0
        for mention in mentions(text, cell):
            begin = mention.start + text[mention.start : mention.end].rfind("!") + 1
            for match in _ROW.finditer(text, begin, mention.end):
                if not match[1]:
                    pieces.append(text[end : match.start(2)].replace("%", "%%"))
                    rows.append(int(match[2]) - cell.row)
                    end = match.end(2)
        pieces.append(text[end:].replace("%", "%%"))
        return cls(shape, "%d".join(pieces), tuple(rows))

    def how_many(self, texts: Sequence[str], rows: Sequence[int], first: int) -> int:
        """How many texts from one on are the same formula, each in its own row."""
        found, ahead = 0, 1
        while found < len(texts) - first:
            begin = first + found
            here = rows[begin : begin + ahead]
            count = self._alike(texts[begin : begin + ahead], here)
            found += count
            if count < len(here):
                break
            ahead = min(2 * ahead, _AHEAD)
        return found

    def _alike(self, texts: Sequence[str], rows: Sequence[int]) -> int:
        steps = self.rows
        if steps and (min(rows) + min(steps) < 1 or max(rows) + max(steps) > MAX_ROW):
            return 0
        moved = zip(*([row + step for row in rows] for step in steps), strict=True)
        said = [self.text % here for here in moved] if steps else [self.text % ()] * len(rows)
        if said == texts:
            return len(rows)
        pairs = zip(said, texts, strict=True)
        return next(place for place, (one, other) in enumerate(pairs) if one != other)
