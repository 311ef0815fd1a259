"""Looks and the styles of a document (part 3, 16), read and written."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import Any, NamedTuple

from dreieck.core.budget import spend
from dreieck.core.sheet.layout import Rule
from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.style import Across, Edges, Line, Upright
from dreieck.files.appearance import (
    FONT,
    TONES,
    USUAL_POINTS,
    WASHES,
    Appearance,
    appearance_of,
    look_from,
    told_name,
)
from dreieck.files.number_codes import GENERAL
from dreieck.files.open_document.numbers import code_of_style, data_style
from dreieck.files.open_document.tags import add, element, tag

_ACROSS: dict[str, Across] = {
    "start": "left", "left": "left", "center": "middle", "end": "right", "right": "right",
}  # fmt: skip
_UPRIGHT: dict[str, Upright] = {"top": "top", "bottom": "bottom"}
_LINES: dict[Line, str] = {
    "thin": "0.75pt solid #23263a",
    "thick": "1.5pt solid #23263a",
    "double": "2.25pt double #23263a",
}
_SIDES = ("left", "top", "right", "bottom")
_STYLE = 50
"""So many steps it takes to learn a style."""
_LONGEST_CHAIN = 100
"""So far back a style is followed to those that it goes back to."""
_LENGTH = re.compile(r"([0-9.]+)(cm|mm|in|pt|pc|px)")
_POINTS = {"cm": 72 / 2.54, "mm": 72 / 25.4, "in": 72.0, "pt": 1.0, "pc": 12.0, "px": 0.75}
Properties = dict[str, str]


def points(text: str | None) -> float | None:
    """A length in points."""
    match = _LENGTH.fullmatch(text or "")
    return float(match[1]) * _POINTS[match[2]] if match else None


class Map(NamedTuple):
    """A style that cells take where a condition holds (part 3, 16.3)."""

    condition: str
    base: str
    applies: str


class _Style(NamedTuple):
    parent: str
    properties: Properties
    data: str
    shown_name: str
    maps: tuple[Map, ...]


def told_here(seen: Appearance) -> Appearance:
    """What the format tells of an appearance."""
    return replace(
        seen, quoted=False, across="middle" if seen.across == "spanning" else seen.across
    )


class Looks:
    """The looks of the cell styles of a document, by name."""

    def __init__(self) -> None:
        self._styles: dict[tuple[str, str], _Style] = {}
        self._data: dict[str, str] = {}
        self._known: dict[str, Look] = {}
        self._default: Properties = {}
        self.sizes: dict[str, Properties] = {}
        """What styles of columns and rows say, by name."""

    def learn(self, group: Any) -> None:
        """Take the styles of a group: the common ones, or those of the content."""
        for each in group:
            spend(_STYLE)
            kind = str(each.tag).rpartition("}")[2] if isinstance(each.tag, str) else ""
            name, family = each.get(tag("style:name")) or "", each.get(tag("style:family"))
            if kind == "default-style" and family == "table-cell":
                self._default = _properties(each)
            elif kind == "style" and family == "table-cell":
                self._styles[family, name] = _Style(
                    each.get(tag("style:parent-style-name")) or "",
                    _properties(each),
                    each.get(tag("style:data-style-name")) or "",
                    each.get(tag("style:display-name")) or "",
                    tuple(_map(found) for found in each.iterfind(tag("style:map"))),
                )
            elif kind == "style":
                self.sizes[name] = _properties(each)
            elif kind.endswith("-style") and "datastyle" in str(each.tag):
                self._data[name] = code_of_style(each)

    def at(self, name: str) -> Look:
        """The look of a cell style."""
        if not name:
            return PLAIN
        known = self._known.get(name)
        if known is None:
            known = self._known[name] = self._look(name)
        return known

    def maps(self, name: str) -> tuple[Map, ...]:
        """The conditions of a cell style."""
        style = self._styles.get(("table-cell", name))
        return style.maps if style else ()

    def ground(self, name: str) -> str | None:
        """The colour that a style lays behind text, or that of its letters."""
        properties, *_ = self._resolved(name)
        return _colour(properties.get("background-color")) or _colour(properties.get("color"))

    def _resolved(self, name: str) -> tuple[Properties, str, str]:
        """All that a style says with those it goes back to, its data style, the name of a look."""
        chain: list[_Style] = []
        seen: set[str] = set()
        while name and name not in seen and len(chain) < _LONGEST_CHAIN:
            seen.add(name)
            style = self._styles.get(("table-cell", name))
            if style is None:
                break
            chain.append(style)
            name = style.parent
        found = dict(self._default)
        for style in reversed(chain):
            found |= _relative(style.properties, found)
        data = next((style.data for style in chain if style.data), "")
        shown = next((style.shown_name for style in chain if style.shown_name), "")
        return found, data, shown

    def _look(self, name: str) -> Look:
        said, data, shown = self._resolved(name)
        usual = points(self._default.get("font-size")) or USUAL_POINTS
        fixed = said.get("text-align-source") != "value-type"
        is_usual_ink = said.get("use-window-font-color") == "true"
        seen = Appearance(
            code=self._data.get(data, GENERAL),
            bold=_is_bold(said.get("font-weight")),
            italic=said.get("font-style") in ("italic", "oblique"),
            points=points(said.get("font-size")) or usual,
            ink=None if is_usual_ink else _colour(said.get("color")),
            ground=_colour(said.get("background-color")),
            across=_ACROSS.get(said.get("text-align", ""), "usual") if fixed else "usual",
            upright=_UPRIGHT.get(said.get("vertical-align", ""), "middle"),
            wrap=said.get("wrap-option") == "wrap",
            edges=Edges(*(_line(said, side) for side in _SIDES)),
        )
        return look_from(seen, shown, usual, told_here)


def _properties(style: Any) -> Properties:
    """What a style says of itself, by local names."""
    found: Properties = {}
    for each in style:
        if isinstance(each.tag, str) and each.tag.endswith("-properties"):
            for name, value in each.attrib.items():
                found[str(name).rpartition("}")[2]] = str(value)
    return found


def _relative(own: Properties, parent: Properties) -> Properties:
    """The properties of a style; a size in percent is one of its parent's."""
    size = own.get("font-size", "")
    before = points(parent.get("font-size")) or USUAL_POINTS
    match = re.fullmatch(r"([0-9.]+)%", size)
    return own | {"font-size": f"{before * float(match[1]) / 100}pt"} if match else own


def _map(found: Any) -> Map:
    names = ("condition", "base-cell-address", "apply-style-name")
    condition, base, applies = (str(found.get(tag(f"style:{name}")) or "") for name in names)
    return Map(condition, base, applies)


def _is_bold(weight: str | None) -> bool:
    return weight == "bold" or bool(weight and weight.isdecimal() and int(weight) >= 600)


def _colour(text: str | None) -> str | None:
    return text[1:].lower() if text and re.fullmatch("#[0-9A-Fa-f]{6}", text) else None


def _line(said: Properties, side: str) -> Line:
    text = said.get(f"border-{side}", said.get("border", "none"))
    if text in ("none", "hidden", ""):
        return "none"
    if "double" in text:
        return "double"
    width = next((w for part in text.split() if (w := points(part))), 0.75)
    return "thick" if width >= 1.4 else "thin"


class Styles:
    """The styles of a document that is written: common ones, and those of the content."""

    def __init__(self) -> None:
        self.common = element("office:styles")
        self.automatic = element("office:automatic-styles")
        self._cells: dict[tuple[Look, tuple[str, ...]], str | None] = {(PLAIN, ()): None}
        self._data: dict[str, str | None] = {}
        self._named: dict[str, str] = {}
        self._lines: dict[tuple[str, int], str] = {}
        self._count = 0
        usual = add(self.common, "style:default-style", {"style:family": "table-cell"})
        letters = {"fo:font-family": FONT, "fo:font-size": f"{USUAL_POINTS:g}pt"}
        add(usual, "style:text-properties", letters)
        _style(self.common, "Default", None)

    def cell(self, look: Look, maps: tuple[tuple[str, Map], ...] = ()) -> str | None:
        """The name of the style of cells that look so, and take others where conditions hold."""
        key = (look, tuple(name for name, _ in maps))
        if key not in self._cells:
            self._cells[key] = self._made(look, [each for _, each in maps])
        return self._cells[key]

    def rule(self, rule: Rule) -> str:
        """The name of the style that a rule applies; its number tells the order of rules."""
        name = self._new("Rule")
        style = _style(self.common, name, "Default")
        ground = {"fo:background-color": f"#{WASHES[rule.tone]}"}
        add(style, "style:table-cell-properties", ground)
        add(style, "style:text-properties", {"fo:color": f"#{TONES[rule.tone]}"})
        return name

    def line(self, axis: str, size: int) -> str:
        """The name of the style of columns or rows of a size in pixels."""
        known = self._lines.get((axis, size))
        if known is None:
            known = self._lines[axis, size] = self._new("co" if axis == "column" else "ro")
            said: dict[str, str | None] = {"style:name": known, "style:family": f"table-{axis}"}
            style = add(self.automatic, "style:style", said)
            what = "column-width" if axis == "column" else "row-height"
            length: dict[str, str | None] = {f"style:{what}": f"{size * 0.75:g}pt"}
            if axis == "row":
                length["style:use-optimal-row-height"] = "false"
            add(style, f"style:table-{axis}-properties", length)
        return known

    def _new(self, begin: str) -> str:
        self._count += 1
        return f"{begin}{self._count}"

    def _made(self, look: Look, maps: list[Map]) -> str:
        seen = told_here(appearance_of(look))
        name, parent = self._new("ce"), "Default"
        if shown := told_name(look, seen):
            if shown not in self._named:
                self._named[shown] = self._new("Look")
                style = _style(self.common, self._named[shown], "Default", shown)
            parent = self._named[shown]
        style = _style(self.automatic, name, parent)
        if data := self._number(seen.code):
            style.set(tag("style:data-style-name"), data)
        _dress(style, seen)
        for each in maps:
            said: dict[str, str | None] = {
                "style:condition": each.condition,
                "style:apply-style-name": each.applies,
                "style:base-cell-address": each.base,
            }
            add(style, "style:map", said)
        return name

    def _number(self, code: str) -> str | None:
        if code not in self._data:
            name = self._new("N")
            made = data_style(name, code)
            if made is not None:
                self.automatic.insert(0, made)
            self._data[code] = None if made is None else name
        return self._data[code]


def _style(group: Any, name: str, parent: str | None, shown: str = "") -> Any:
    said: dict[str, str | None] = {
        "style:name": name,
        "style:family": "table-cell",
        "style:parent-style-name": parent,
        "style:display-name": shown or None,
    }
    return add(group, "style:style", said)


def _dress(style: Any, seen: Appearance) -> None:
    sides = {side: getattr(seen.edges, side) for side in _SIDES}
    across = next((k for k, v in _ACROSS.items() if v == seen.across), None)
    cell: dict[str, str | None] = {
        "fo:background-color": seen.ground and f"#{seen.ground}",
        "fo:wrap-option": "wrap" if seen.wrap else None,
        "style:vertical-align": seen.upright if seen.upright != "middle" else None,
        "style:text-align-source": "fix" if across else None,
    }
    cell |= {f"fo:border-{side}": _LINES[line] for side, line in sides.items() if line != "none"}
    add(style, "style:table-cell-properties", cell)
    if across:
        add(style, "style:paragraph-properties", {"fo:text-align": across})
    letters: dict[str, str | None] = {
        "fo:font-weight": "bold" if seen.bold else None,
        "fo:font-style": "italic" if seen.italic else None,
        "fo:font-size": f"{seen.points:g}pt" if seen.points != USUAL_POINTS else None,
        "fo:color": seen.ink and f"#{seen.ink}",
    }
    if any(letters.values()):
        add(style, "style:text-properties", letters)
