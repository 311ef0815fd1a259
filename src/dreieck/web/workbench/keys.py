"""The keys of the workbench: one table for the browser, the foot and the help."""

from __future__ import annotations

from collections.abc import Mapping
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
_CODES = {".": "Period", ",": "Comma"}


class Key(NamedTuple):
    """A key, what it does, and when it matters.

    It asks for an ``action`` with a ``wish``, or is an ``act`` of the page itself; keys that
    the browser handles together with others have neither. ``foot`` is the text for the foot.
    """

    keys: str
    does: str
    when: When
    action: str = ""
    wish: Mapping[str, str | int] = MappingProxyType({})
    act: str = ""
    foot: str = ""

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
    Key("Enter, Tab", "keep the entry and go down, or right; with Shift the other way", "always"),
    Key("Esc", "discard the entry, drop the rehearsal, end an aim or a trial", "always"),
    Key("Delete", "clear the selection", "selecting"),
    Key("Alt + W", "write on in the selected cell", "selecting", act="write", foot="write"),
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
    Key("Ctrl + Shift + Z", "redo", "always", action="redo"),
    Key("?", "this help", "selecting"),
)  # fmt: skip


def for_browser() -> list[dict[str, object]]:
    """The keys that stand for one thing each, as a browser names their presses."""
    return [
        {
            "code": _CODES.get(key.keys[-1], f"Key{key.keys[-1]}"),
            "modifiers": " ".join(key.keys.lower().split(" + ")[:-1]),
            "action": key.action,
            "wish": dict(key.wish),
            "act": key.act,
        }
        for key in KEYS
        if key.action or key.act
    ]


def for_foot(when: When) -> list[Key]:
    """The keys that matter now."""
    return [key for key in KEYS if key.foot and key.when == when]
