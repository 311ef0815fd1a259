"""The keys of the workbench: one table for the browser, the foot and the help."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import Literal, NamedTuple

When = Literal["always", "selecting", "writing", "rehearsing", "checking"]
_SAID: dict[When, str] = {
    "always": "",
    "selecting": "on a selected cell",
    "writing": "while writing, or on a formula",
    "rehearsing": "while rehearsing",
    "checking": "in a filled block",
}
_NAMES = {"Space": " "}
_CODES = {".": "Period", ",": "Comma", "/": "Slash", " ": "Space"}


def name_of(action: str, act: str, wish: Mapping[str, str | int]) -> str:
    """What tells something that can be asked for apart from all else; no text for nothing."""
    return " ".join([act or action, *(str(each) for each in wish.values())])


class Key(NamedTuple):
    """A key, what it does, and when it matters.

    It asks for an ``action`` with a ``wish``, or is an ``act`` of the page itself; keys that
    the browser handles together with others have neither. ``foot`` is the text for the foot,
    ``also`` another key that does the same.
    """

    keys: str
    does: str
    when: When
    action: str = ""
    wish: Mapping[str, str | int] = MappingProxyType({})
    act: str = ""
    foot: str = ""
    also: str = ""

    @property
    def name(self) -> str:
        """What tells it apart from the others; no text where the browser handles it together."""
        return name_of(self.action, self.act, self.wish)

    @property
    def said(self) -> str:
        """All keys that do it."""
        return f"{self.keys} or {self.also}" if self.also else self.keys

    @property
    def says_when(self) -> str:
        """When it matters, in words."""
        return _SAID[self.when]


KEYS = (
    Key("arrows", "move the selection", "selecting"),
    Key("Shift + arrows", "widen the selection", "selecting"),
    Key("Ctrl + click", "select one more area, to paste into, clear or mark together",
        "selecting"),
    Key("Ctrl + arrows", "jump to the edge of the data", "selecting"),
    Key("Home, End", "to the first column, or the last cell of the row that is filled; with Ctrl"
        " to A1, or the last cell of the sheet", "selecting"),
    Key("Page Up, Page Down", "a view up or down", "selecting"),
    Key("Ctrl + A", "select all that is filled; once more, the whole sheet", "selecting",
        action="select-all"),
    Key("Ctrl + Space", "select whole columns", "selecting", act="whole-columns"),
    Key("Shift + Space", "select whole rows", "selecting", act="whole-rows"),
    Key("Enter, Tab", "keep the entry and go down, or right; with Shift the other way; in a"
        " selected area round and round", "always"),
    Key("Ctrl + Enter", "keep the entry in all selected cells", "writing"),
    Key("Alt + Enter", "break the line in a text", "writing"),
    Key("Esc", "close the suggestions, drop the entry or the rehearsal, end an aim or a"
        " trial; from anywhere back to the cell", "always"),
    Key("Delete", "clear the selection", "selecting"),
    Key("Alt + W", "write on at the desk", "selecting", act="write", foot="write"),
    Key("F2", "write on in the cell; while writing, arrows point or move the caret", "always",
        act="write-in-cell"),
    Key("Alt + E", "open the formula part by part: what each is worth, which branch was taken",
        "always", action="open-formula"),
    Key("Alt + C", "column of the reference under the caret: moves or stays", "writing",
        action="lock", wish={"axis": "column"}, foot="column moves or stays"),
    Key("Alt + R", "row of the reference under the caret: moves or stays", "writing",
        action="lock", wish={"axis": "row"}, foot="row moves or stays"),
    Key("Alt + arrows", "stretch a fill and rehearse it", "selecting",
        foot="stretch a fill"),
    Key("Alt + Shift + arrows", "go alongside: as far as the neighbouring data goes", "selecting"),
    Key("Alt + O", "plain values are copied, or count on", "rehearsing",
        action="switch-values", foot="copy or count on"),
    Key("Enter", "land the rehearsed fill", "rehearsing", foot="land"),
    Key("Esc", "drop the rehearsed fill", "rehearsing", foot="drop"),
    Key("Alt + J", "next landing", "checking",
        action="walk", wish={"rows": 1}, foot="next landing"),
    Key("Alt + K", "previous landing", "checking",
        action="walk", wish={"rows": -1}, foot="previous landing"),
    Key("Alt + D", "do the mend on top of what is found", "checking", act="mend", foot="mend"),
    Key("Alt + Shift + J", "next finding on this sheet", "checking",
        action="walk-findings", wish={"rows": 1}),
    Key("Alt + Shift + K", "previous finding on this sheet", "checking",
        action="walk-findings", wish={"rows": -1}),
    Key("Alt + Y", "aim: point at what the landing should read; again for the next reference",
        "checking", action="aim-next"),
    Key("Alt + X", "the whole shift log of the block", "checking", act="shift-log"),
    Key("Alt + V", "next view: values, formulas, both", "always", act="next-view"),
    Key("Alt + N", "name the selection", "selecting", act="name", foot="name"),
    Key("Alt + M", "prove: state what must hold for the selection", "selecting",
        action="write-proof", foot="prove"),
    Key("Alt + I", "mark the selection as input, or not", "selecting",
        action="mark", wish={"role": "input"}),
    Key("Alt + U", "mark the selection as result, or not", "selecting",
        action="mark", wish={"role": "result"}),
    Key("Alt + A", "to the looks: number formats, letters, tones, lines", "selecting",
        act="looks"),
    Key("Alt + T", "take the look of the selection, then give it to what is selected", "selecting",
        act="look"),
    Key("Ctrl + B", "bold, or not", "selecting", action="dress", wish={"name": "bold"}),
    Key("Alt + L", "insert or delete rows and columns, and what else the selection offers",
        "selecting", act="about"),
    Key("Alt + H", "keep headings in view, or let them scroll", "always", action="keep-in-view"),
    Key("Alt + G", "go to a cell or name; several, with commas, are selected", "always",
        act="address"),
    Key("Alt + .", "next sheet", "always", action="show-sheet", wish={"columns": 1}),
    Key("Alt + ,", "previous sheet", "always", action="show-sheet", wish={"columns": -1}),
    Key("Alt + Shift + S", "add a sheet", "always", action="add-sheet"),
    Key("Alt + S", "rename, duplicate, move or delete this sheet", "always", act="this-sheet"),
    Key("arrows, or a click", "point at the cell that the formula should read", "writing"),
    Key("Ctrl + arrows", "point as far as the edge of the data; with Shift at all up to there",
        "writing"),
    Key("second click", "point at the whole list of the cell; with Shift at all up to a cell",
        "writing"),
    Key("Tab", "take the first suggestion; arrow down chooses another", "writing"),
    Key("Alt + B", "back to the cell that is written", "writing", action="to-the-start"),
    Key("Alt + P", "draw a chart of the selection", "selecting", action="draw-chart"),
    Key("Alt + Q", "choose the next chart; then arrows move it, with Shift size it", "always",
        action="next-chart"),
    Key("Ctrl + F", "find and replace", "always", act="find"),
    Key("Ctrl + K", "all that can be done, by name", "always", act="commands"),
    Key("Ctrl + C, X, V", "copy, cut, paste", "selecting"),
    Key("Ctrl + Z", "undo", "always", action="undo"),
    Key("Ctrl + Y", "redo", "always", action="redo", also="Ctrl + Shift + Z"),
    Key("F6", "to the next region: desk, cells, panel, sheets, top bar; with Shift back", "always",
        act="next-region"),
    Key("Shift + F6", "to the region before", "always", act="previous-region"),
    Key("Alt + 1", "to the desk", "always", act="to-desk"),
    Key("Alt + 2", "to the cells", "always", act="to-grid"),
    Key("Alt + 3", "to the panel", "always", act="to-panel"),
    Key("Alt + 4", "to the sheets and views", "always", act="to-sheets"),
    Key("Alt + 5", "to the top bar", "always", act="to-top"),
    Key("F1", "this help; ? does the same where nothing is typed", "always", act="help",
        also="Alt + /"),
)  # fmt: skip


CHANGEABLE = tuple(key for key in KEYS if key.name)
"""Those that can be given another key."""


def held_by(own: Mapping[str, str]) -> tuple[Key, ...]:
    """The keys that hold for somebody who has given some of them others, by name."""
    return tuple(
        key._replace(keys=own[key.name], also="") if key.name and key.name in own else key
        for key in KEYS
    )


def for_browser(keys: Iterable[Key] = KEYS) -> list[dict[str, object]]:
    """The keys that stand for one thing each: by the letter that a layout gives.

    ``code`` is the physical key, for layouts that give no Latin letters.
    """
    return [
        {
            **_press(pressed),
            "when": key.when,
            "action": key.action,
            "wish": dict(key.wish),
            "act": key.act,
        }
        for key in keys
        if key.name
        for pressed in (key.keys, key.also)
        if pressed
    ]


def _press(pressed: str) -> dict[str, str]:
    *modifiers, last = pressed.split(" + ")
    key = _NAMES.get(last, last)
    digit = f"Digit{key}" if key.isdecimal() else f"Key{key}"
    code = key if len(key) > 1 else _CODES.get(key, digit)
    return {"key": key.lower(), "code": code, "modifiers": " ".join(modifiers).lower()}


def for_foot(when: When, keys: Iterable[Key] = KEYS) -> list[Key]:
    """The keys that matter now."""
    return [key for key in keys if key.foot and key.keys and key.when == when]
