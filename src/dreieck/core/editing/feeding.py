"""Feeds: who uses them, what refreshing them changes, and an input in place of one."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace

from dreieck.core.calculate.blocks import patches
from dreieck.core.editing.rewriting import edits_of, rewritings
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import staying
from dreieck.core.functions import Trait, has
from dreieck.core.grid import Area
from dreieck.core.sheet.edits import Edit, SetCells, SetFeed, SetName
from dreieck.core.sheet.feed import MAX_FEEDS, Reading, is_code
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import Look


def codes_in(*shapes: Shape) -> tuple[str, ...]:
    """The codes of the feeds that formulas use, as they are written in them."""
    nodes = (node for shape in shapes for node in tree.walk(shape.tree))
    return tuple(dict.fromkeys(code for node in nodes if (code := _code(node)) is not None))


def _code(node: tree.Node) -> str | None:
    """The code of the outside figure that a node gives, if it is one whose code stands in it."""
    match node:
        case tree.Call(arguments=(tree.Text(value=code),)) if has(node.function, Trait.FEEDS):
            return code
    return None


def _gives(node: tree.Node, key: str) -> bool:
    """Whether a node gives the outside figure of a feed."""
    code = _code(node)
    return code is not None and code.casefold() == key


def used_codes(workbook: Workbook) -> dict[str, str]:
    """The codes that formulas and names use, and those that are known, by them without case."""
    found = {key: feed.code for key, feed in workbook.feeds.items()}
    for code in codes_in(*_shapes(workbook)):
        if is_code(code):
            found.setdefault(code.casefold(), code)
    return dict(list(found.items())[:MAX_FEEDS])


def _shapes(workbook: Workbook) -> Iterator[Shape]:
    yield from {patch.shape for sheet in workbook.sheets for patch in patches(sheet)}
    yield from (named.shape for named in workbook.names.values())


def users(workbook: Workbook, key: str) -> list[tuple[Sheet, Area]]:
    """The formulas that use a feed themselves."""
    return [
        (sheet, patch.area)
        for sheet in workbook.sheets
        for patch in patches(sheet)
        if key in map(str.casefold, codes_in(patch.shape))
    ]


def refreshed(
    workbook: Workbook, codes: Mapping[str, str], answers: Mapping[str, Reading | str]
) -> list[SetFeed]:
    """The edits after feeds were asked for: a reading each, or what was wrong in words."""
    edits = []
    for key, answer in answers.items():
        before = workbook.feed(codes[key])
        after = before.told(answer) if isinstance(answer, Reading) else before.failed(answer)
        if after != before:
            edits.append(SetFeed(key, after))
    return edits


def fixed(workbook: Workbook, key: str) -> list[Edit]:
    """Let the last figure of a feed be an input from now on; formulas read that instead.

    It stands where the feed stands alone: in a cell, or as a name. Raises DreieckError where
    there is no such place, or no figure.
    """
    feed = workbook.feeds.get(key)
    if feed is None or feed.last is None:
        raise DreieckError("No figure of this feed is known yet, so there is nothing to fix.")
    cells = [
        (sheet, patch.area)
        for sheet in workbook.sheets
        for patch in patches(sheet)
        if _gives(patch.shape.tree, key)
    ]
    names = [named for named in workbook.names.values() if _gives(named.shape.tree, key)]
    value = feed.last.value
    if cells:
        home, place = cells[0][0], cells[0][1].first
        instead: tree.Node = staying(Area.of(place), home.name)
    elif names:
        instead = tree.Name(names[0].name)
    else:
        raise DreieckError(
            f"The feed stands inside formulas only. Put ={_call(feed.code)} into a cell of its"
            " own first: that becomes the input."
        )
    edits: list[Edit] = [
        SetCells.of(sheet.id, {
            cell: (value, _as_input(sheet.look(cell)))
            for area in _areas(cells, sheet) for cell in area.cells()
        })
        for sheet in dict.fromkeys(sheet for sheet, _ in cells)
    ]  # fmt: skip
    edits += [SetName(each.key, Named(each.name, Shape.of(tree.Number(value)))) for each in names]

    def rewritten(shape: Shape) -> Shape:
        is_feed = _gives(shape.tree, key)
        return shape if is_feed else Shape.of(_with(shape.tree, key, instead))

    edits += edits_of(each for s in workbook.sheets for each in rewritings(s, rewritten))
    return [*edits, SetFeed(key, None)]


def _areas(cells: Iterable[tuple[Sheet, Area]], sheet: Sheet) -> Iterator[Area]:
    return (area for home, area in cells if home is sheet)


def _as_input(look: Look) -> Look:
    return replace(look, role="input")


def _with(node: tree.Node, key: str, instead: tree.Node) -> tree.Node:
    """A formula in which something stands in place of a feed."""
    if _gives(node, key):
        return instead
    return tree.with_children(node, lambda each: _with(each, key, instead))


def _call(code: str) -> str:
    return f'FEED("{code}")'
