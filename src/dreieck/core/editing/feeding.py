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
from dreieck.core.sheet.feed import MAX_FEEDS, Feed, Reading, is_code
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import Look


def codes_in(shape: Shape) -> tuple[str, ...]:
    """The codes of the feeds that a formula uses, as they are written in it."""
    found = (
        node.arguments[0].value
        for node in tree.walk(shape.tree)
        if _is_feed(node) and isinstance(node, tree.Call)
        if isinstance(node.arguments[0], tree.Text)
    )
    return tuple(dict.fromkeys(found))


def _is_feed(node: tree.Node) -> bool:
    """Whether a node gives an outside figure whose code stands in it."""
    is_call = isinstance(node, tree.Call) and has(node.function, Trait.FEEDS)
    return is_call and isinstance(node, tree.Call) and len(node.arguments) == 1


def used_codes(workbook: Workbook) -> dict[str, str]:
    """The codes that formulas and names use, and those that are known, by them without case."""
    found = {key: feed.code for key, feed in workbook.feeds.items()}
    for shape in _shapes(workbook):
        for code in codes_in(shape):
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
        before = workbook.feeds.get(key, Feed(codes[key]))
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
        if _is_alone(patch.shape, key)
    ]
    names = [named for named in workbook.names.values() if _is_alone(named.shape, key)]
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
        return shape if _is_alone(shape, key) else Shape.of(_with(shape.tree, key, instead))

    edits += edits_of(each for s in workbook.sheets for each in rewritings(s, rewritten))
    return [*edits, SetFeed(key, None)]


def _areas(cells: Iterable[tuple[Sheet, Area]], sheet: Sheet) -> Iterator[Area]:
    return (area for home, area in cells if home is sheet)


def _as_input(look: Look) -> Look:
    return replace(look, role="input")


def _is_alone(shape: Shape, key: str) -> bool:
    return _is_feed(shape.tree) and key in map(str.casefold, codes_in(shape))


def _with(node: tree.Node, key: str, instead: tree.Node) -> tree.Node:
    """A formula in which something stands in place of a feed."""
    if _is_feed(node) and isinstance(node, tree.Call):
        code = node.arguments[0]
        if isinstance(code, tree.Text) and code.value.casefold() == key:
            return instead
    return tree.with_children(node, lambda each: _with(each, key, instead))


def _call(code: str) -> str:
    return f'FEED("{code}")'
