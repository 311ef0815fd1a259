"""Lookups in words: *the Price of the code in A5, from the list on Codes*."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Speech, speech_of
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.conditions import column, number_of, sought
from dreieck.core.words.filtered import all_said, conditions_of
from dreieck.core.words.headings import column_heading, heading_left, list_heading
from dreieck.core.words.phrases import Phrase, Reader, words

Said = Iterator[Phrase]
_NEAR = {1: "still at most", -1: "still at least"}
"""What an entry is, by the sign of the last argument of MATCH, up to the one that is found."""
_HOLDS = (tree.Number(1.0), tree.Logical(True))
"""What is sought in products of conditions: that all of them hold."""
_AS_TOLD = "equal or near as"
"""How near an entry has to be where a value tells it."""


def lookup_said(reader: Reader, node: tree.Call) -> Said | None:
    """A lookup in words; None where it is written in a way that has none of its own."""
    say = _SAID.get(speech_of(node.function))
    return say(reader, node.arguments) if say else None


def _from_table(reader: Reader, arguments: tuple[tree.Node, ...], *, down: bool) -> Said | None:
    """VLOOKUP and HLOOKUP: a line of a table, by its number, of what is sought."""
    if len(arguments) < 3:
        return None
    key, table, place, *way = arguments
    read, number = reader.read(table), number_of(place)
    if read is None or number is None:
        return None
    sheet, area = read
    line = int(number) - 1
    if not 0 <= line < (area.width if down else area.height):
        return None
    if down:
        at = area.left + line
        name = column_heading(sheet, Area(at, area.top, at, area.bottom))
    else:
        name = heading_left(sheet, area.first.step("row", line))
        first = sheet.content(area.first.step("row", line))
        name = first.strip() if isinstance(first, str) else name
    if _is_near(way):
        return _near_in_table(reader, key, table, name, line + 1, down=down)
    return _of_table(reader, key, table, name, line + 1, _told_by(way), down=down)


def _of_table(
    reader: Reader,
    key: tree.Node,
    table: tree.Node,
    name: str | None,
    number: int,
    told_by: tree.Node | None,
    *,
    down: bool,
) -> Said:
    yield from _line(name, number, down=down)
    yield words("of" if name else "for")
    yield from _key(reader, key)
    if told_by:
        yield from _as_told(reader, told_by)
    yield from _from_list(reader, table)


def _near_in_table(
    reader: Reader, key: tree.Node, table: tree.Node, name: str | None, number: int, *, down: bool
) -> Said:
    """The same where the first line goes up, and the last one before a larger one is taken."""
    yield from _line(name, number, down=down)
    yield words(f"in the last {'row' if down else 'column'} where")
    sheet, area = reader.read(table) or (None, None)
    if sheet and area and (first := _first_line(sheet, area, down=down)):
        yield Phrase("thing", first)
    else:
        yield words(f"the first {'column' if down else 'row'}")
    yield words(f"is {_NEAR[1]}")
    yield from sought(reader, key)
    yield from _from_list(reader, table)


def _first_line(sheet: Sheet, area: Area, *, down: bool) -> str | None:
    if down:
        return column_heading(sheet, area._replace(right=area.left))
    return heading_left(sheet, area.first)


def _line(name: str | None, number: int, *, down: bool) -> Said:
    """A line of a table, by its name or number."""
    if name:
        yield words("the")
        yield Phrase("thing", name)
    else:
        yield words(f"what stands in {'column' if down else 'row'} {number}")


def _as_told(reader: Reader, told_by: tree.Node) -> Said:
    yield words(f", {_AS_TOLD}")
    yield from reader.node(told_by)
    yield words("says")


def _from_list(reader: Reader, table: tree.Node) -> Said:
    yield words(", from the list")
    if isinstance(table, RangeReference):
        yield from reader.thing(table, f"on {table.sheet}" if table.sheet else None)
    else:
        yield from reader.node(table)


def _key(reader: Reader, node: tree.Node) -> Said:
    """What is sought: by the heading of its column, *the code in A5*."""
    read = reader.read(node)
    if read is None or not isinstance(node, CellReference):
        yield from reader.node(node)
        return
    sheet, area = read
    heading = list_heading(sheet, area.first)
    if heading is None:
        yield from reader.node(node)
        return
    small = heading[0].lower() + heading[1:] if heading[1:2].islower() else heading
    where = f" on {node.sheet}" if node.sheet else ""
    yield from reader.called(node, f"{small} in {area.first.text}{where}")


def _is_near(way: list[tree.Node]) -> bool:
    """Whether also what is near is found, by the last argument of a lookup."""
    if not way:
        return True
    last = way[0]
    if isinstance(last, tree.Logical):
        return last.value
    return bool(number_of(last))


def _told_by(way: list[tree.Node]) -> tree.Node | None:
    """The last argument of a lookup where its value tells how near an entry has to be."""
    is_told = way and not isinstance(way[0], tree.Logical | tree.Missing)
    return way[0] if is_told and number_of(way[0]) is None else None


def _index(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    """INDEX with MATCH: a list in the row where another one is what is sought."""
    if len(arguments) < 2:
        return None
    result, *places = arguments
    matches = [_matched(each) for each in places]
    if not any(matches):
        return _entry(reader, result, places)
    read = reader.read(result)
    is_line = read is not None and min(read[1].shape) == 1
    is_row = read is not None and is_line and read[1].width > 1
    if len(places) == 1:
        return _in_line(reader, result, [("column" if is_row else "row", places[0])])
    rows, columns = places[0], places[1]
    if is_row:
        return _in_line(reader, result, [("column", columns)])
    if is_line or isinstance(columns, tree.Missing):
        return _in_line(reader, result, [("row", rows)])
    number = number_of(columns)
    if read and number and matches[0] and 1 <= number <= read[1].width:
        at = read[1].left + int(number) - 1
        name = column_heading(read[0], read[1]._replace(left=at, right=at))
        return _in_line(reader, result, [("row", rows)], name)
    return _in_line(reader, result, [("row", rows), ("column", columns)])


def _in_line(
    reader: Reader,
    result: tree.Node,
    places: list[tuple[str, tree.Node]],
    name: str | None = None,
) -> Said:
    """What stands in the lines that are found."""
    if name and isinstance(result, RangeReference):
        yield words("the")
        yield from reader.thing(result, name)
    elif len(places) == 1:
        yield words("the")
        yield from column(reader, result)
    elif isinstance(result, RangeReference):
        yield words("what stands in")
        where = f"on {result.sheet}" if result.sheet else None
        yield from reader.thing(result, where and f"the table {where}")
    else:
        yield words("what stands in")
        yield from reader.node(result)
    for number, (line, place) in enumerate(places):
        if number:
            yield words("and")
        matched = _matched(place)
        if matched is None:
            yield words(f"in {line}")
            yield from reader.node(place)
            continue
        key, keys, near = matched
        held = conditions_of(keys) if key in _HOLDS and not near else None
        if held:
            yield words(f"in the {line} where")
            yield from all_said(reader, held)
            continue
        if not near and not _is_named(reader, keys):
            yield words(f"in the {line}")
            yield from sought(reader, key)
            continue
        yield words(f"in the {line} where" if not near else f"in the last {line} where")
        yield from column(reader, keys)
        yield words(f"is {near}" if near else "is")
        yield from sought(reader, key)


def _entry(reader: Reader, result: tree.Node, places: list[tree.Node]) -> Said | None:
    """One of a list, by its number."""
    read = reader.read(result)
    if read is None or len(places) > 1 or min(read[1].shape) > 1:
        return None
    return _numbered(reader, result, places[0])


def _numbered(reader: Reader, result: tree.Node, place: tree.Node) -> Said:
    yield words("entry")
    yield from reader.node(place)
    yield words("of")
    yield from column(reader, result)


def is_listed(reader: Reader, node: tree.Node) -> Said | None:
    """Whether something is in a list, as MATCH of what has to be equal tells."""
    matched = _matched(node)
    if matched is None or matched[2]:
        return None
    return _listed(reader, *matched[:2])


def _listed(reader: Reader, key: tree.Node, keys: tree.Node) -> Said:
    yield from sought(reader, key)
    yield words("is in")
    yield from column(reader, keys)


def _is_named(reader: Reader, keys: tree.Node) -> bool:
    """Whether a list has a name or a heading."""
    read = reader.read(keys)
    if read is None or not isinstance(keys, RangeReference):
        return True
    sheet, area = read
    if area.height == 1 < area.width:
        return heading_left(sheet, area.first) is not None
    return column_heading(sheet, area) is not None


def _matched(node: tree.Node) -> tuple[tree.Node, tree.Node, str] | None:
    """What MATCH seeks, in what, and how near it has to be; no word where it has to be equal."""
    if isinstance(node, tree.Group):
        return _matched(node.inner)
    if not isinstance(node, tree.Call) or len(node.arguments) < 2:
        return None
    if speech_of(node.function) is not Speech.PLACE:
        return None
    return _match_of(node.arguments)


def _match_of(arguments: tuple[tree.Node, ...]) -> tuple[tree.Node, tree.Node, str] | None:
    key, keys, *way = arguments
    near: float | None = 1.0
    if way:
        near = 0.0 if isinstance(way[0], tree.Missing) else number_of(way[0])
    return (key, keys, _NEAR.get((near > 0) - (near < 0), "")) if near is not None else None


def _place(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    """MATCH: the place of what is sought, or of the last entry before one beyond it."""
    if not 2 <= len(arguments) <= 3:
        return None
    return _placed(reader, arguments)


def _placed(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said:
    matched, (key, keys, *kind) = _match_of(arguments), arguments
    yield words("the place of")
    if matched and matched[2]:
        yield words("the last of")
        yield from column(reader, keys)
        yield words(f"that is {matched[2]}")
        yield from sought(reader, key)
        return
    yield from sought(reader, key)
    yield words("in")
    yield from column(reader, keys)
    if matched is None:
        yield from _as_told(reader, kind[0])


def _lookup(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    """LOOKUP over two lists: one in the last row where the other is at most what is sought."""
    if len(arguments) != 3:
        return None
    key, keys, results = arguments
    if isinstance(keys, tree.Binary) and keys.operator == "/" and number_of(keys.left) == 1:
        number = number_of(key)
        if number is not None and number >= 1:
            # What does not fit is divided by 0: the last 1 stands where all holds.
            return _last_that_fits(reader, keys.right, results)
    return _beside(reader, key, keys, results)


def _last_that_fits(reader: Reader, fits: tree.Node, results: tree.Node) -> Said:
    yield words("the")
    yield from column(reader, results)
    yield words("in the last row where")
    for number, each in enumerate(_factors(fits)):
        if number:
            yield words("and")
        yield from reader.node(each)


def _factors(node: tree.Node) -> list[tree.Node]:
    """The conditions of a product."""
    if isinstance(node, tree.Group):
        return _factors(node.inner)
    if isinstance(node, tree.Binary) and node.operator == "*":
        return [*_factors(node.left), *_factors(node.right)]
    return [node]


def _rank(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    """RANK: a place among others, from the largest one or the smallest."""
    return _ranked(reader, *arguments) if 2 <= len(arguments) <= 3 else None


def _ranked(
    reader: Reader, number: tree.Node, others: tree.Node, upwards: tree.Node | None = None
) -> Said:
    yield words("the place of")
    yield from reader.node(number)
    yield words("among")
    yield from reader.node(others)
    way = [upwards] if upwards else []
    if told_by := _told_by(way):
        yield words(", counted from the smallest if")
        yield from reader.node(told_by)
        yield words("is not 0, else from the largest")
    else:
        yield words(f", counted from the {'smallest' if way and _is_near(way) else 'largest'}")


def _beside(reader: Reader, key: tree.Node, keys: tree.Node, results: tree.Node) -> Said:
    read = reader.read(keys)
    line = "column" if read and read[1].height == 1 < read[1].width else "row"
    yield words("the")
    yield from column(reader, results)
    yield words(f"in the last {line} where")
    yield from column(reader, keys)
    yield words(f"is {_NEAR[1]}")
    yield from sought(reader, key)


def _in_place_of(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    """XLOOKUP: a list in the row where another one is what is sought, equal to the letter."""
    if len(arguments) < 3:
        return None
    key, keys, result, *rest = arguments
    exact = len(rest) < 2 or isinstance(rest[1], tree.Missing) or number_of(rest[1]) == 0
    from_the_first = len(rest) < 3 or number_of(rest[2]) == 1
    if not exact or not from_the_first or not _is_named(reader, keys):
        return None
    return _in_place_said(reader, key, keys, result, rest[0] if rest else tree.Missing())


def _in_place_said(
    reader: Reader, key: tree.Node, keys: tree.Node, result: tree.Node, instead: tree.Node
) -> Said:
    read = reader.read(keys)
    yield words("the")
    yield from column(reader, result)
    yield words(f"in the {'column' if read and read[1].width > 1 else 'row'} where")
    yield from column(reader, keys)
    yield words("is")
    yield from sought(reader, key)
    if not isinstance(instead, tree.Missing):
        yield words(", or")
        yield from reader.node(instead)
        yield words("if there is none")


_SAID: dict[Speech | None, Callable[[Reader, tuple[tree.Node, ...]], Said | None]] = {
    Speech.TABLE_DOWN: lambda reader, arguments: _from_table(reader, arguments, down=True),
    Speech.TABLE_ACROSS: lambda reader, arguments: _from_table(reader, arguments, down=False),
    Speech.ENTRY: _index,
    Speech.NEAREST: _lookup,
    Speech.PLACE: _place,
    Speech.RANK: _rank,
    Speech.BESIDE: _in_place_of,
}
