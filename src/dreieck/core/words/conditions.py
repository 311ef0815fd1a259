"""Criteria in words: *Voice is “Alt” and Town is “Bern”*."""

from __future__ import annotations

import re
from collections.abc import Iterator

from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.words.headings import column_heading
from dreieck.core.words.phrases import Phrase, Reader, words

COMPARED = {
    "=": "is",
    "<>": "is not",
    "<": "is less than",
    ">": "is more than",
    "<=": "is at most",
    ">=": "is at least",
}
_CRITERION = re.compile(r"(<=|>=|<>|=|<|>)?(.*)", re.DOTALL)
_NUMBER = re.compile(r"-?\d+(\.\d+)?%?")


def conditions(
    reader: Reader, arguments: tuple[tree.Node, ...], *, same: bool
) -> Iterator[Phrase]:
    """Pairs of a range and its criterion; with ``same`` the range was named just before."""
    pairs = list(zip(arguments[::2], arguments[1::2], strict=False))
    if not pairs:
        for each in arguments:
            yield from reader.node(each)
    for number, (tested, criterion) in enumerate(pairs):
        if number:
            yield words("and")
        yield from (words("it"),) if same else column(reader, tested)
        yield from _fits(reader, criterion)


def column(reader: Reader, node: tree.Node) -> Iterator[Phrase]:
    """A list by its heading alone."""
    read = reader.read(node)
    if read is None or not isinstance(node, CellReference | RangeReference):
        yield from reader.node(node)
        return
    sheet, area = read
    is_column = area.width == 1 and area.height > 1
    name = column_heading(sheet, area) if is_column else None
    if name is None:
        yield from reader.node(node)
    else:
        yield from reader.thing(node, name)


def _fits(reader: Reader, criterion: tree.Node) -> Iterator[Phrase]:
    """What a cell has to be: ``is more than 5``, ``begins with “Al”``."""
    if isinstance(criterion, tree.Text):
        yield words(_said(criterion.value))
        return
    if isinstance(criterion, tree.Binary) and criterion.operator == "&":
        left = criterion.left
        if isinstance(left, tree.Text) and left.value in COMPARED:
            yield words(COMPARED[left.value])
            yield from sought(reader, criterion.right)
            return
    yield words("is")
    yield from sought(reader, criterion)


def sought(reader: Reader, node: tree.Node) -> Iterator[Phrase]:
    """What is sought: a text by itself, wherever it stands."""
    read = reader.read(node)
    content = read[0].content(read[1].first) if read and read[1].size == 1 else None
    if isinstance(content, str) and isinstance(node, CellReference):
        yield from reader.thing(node, f"“{content.strip()}”")
    else:
        yield from reader.node(node)


def _said(text: str) -> str:
    """A criterion that is written out."""
    matched = _CRITERION.fullmatch(text)
    assert matched is not None
    compared, sought = matched[1] or "=", matched[2]
    if not sought:
        return "is not empty" if compared == "<>" else "is empty"
    if _NUMBER.fullmatch(sought):
        return f"{COMPARED[compared]} {sought}"
    inner = sought.strip("*")
    if compared in ("=", "<>") and inner and not re.search(r"[*?~]", inner):
        begins, ends = not sought.startswith("*"), not sought.endswith("*")
        does = {
            (True, False): "begins with", (False, True): "ends with", (False, False): "contains",
        }.get((begins, ends))  # fmt: skip
        if does and compared == "<>":
            does = f"does not {does.replace('begins', 'begin').replace('ends', 'end')}"
            does = does.replace("contains", "contain")
        return f"{does} “{inner}”" if does else f"{COMPARED[compared]} “{sought}”"
    if sought == "*":
        return "is any text"
    if compared == "=" and re.search(r"[*?]", sought):
        return f"looks like “{sought}”"
    return f"{COMPARED[compared]} “{sought}”"


def number_of(node: tree.Node) -> float | None:
    """The number that a node is, if it is written out."""
    if isinstance(node, tree.Prefix) and isinstance(node.operand, tree.Number):
        return -node.operand.value if node.sign == "-" else node.operand.value
    return node.value if isinstance(node, tree.Number) else None
