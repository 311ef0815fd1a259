"""The keys of the workbench: one table for the browser, the foot and the help."""

from __future__ import annotations

from typing import Literal, NamedTuple

When = Literal["always", "selecting", "writing", "rehearsing", "checking"]


class Key(NamedTuple):
    """A key, what it does, and when it matters.

    ``code`` and ``modifiers`` are how a browser names it, empty for keys that the
    browser module handles together with others; ``foot`` is the short text for the foot.
    """

    keys: str
    does: str
    when: When
    action: str = ""
    code: str = ""
    modifiers: str = ""
    foot: str = ""


KEYS = (
    Key("arrows", "move the selection", "selecting"),
    Key("Shift + arrows", "widen the selection", "selecting"),
    Key("Ctrl + click", "select one more area, to paste into, clear or mark together",
        "selecting"),
    Key("Ctrl + arrows", "jump to the edge of the data", "selecting"),
    Key("Enter, Tab", "keep the entry and go down, or right; with Shift the other way", "always"),
    Key("Esc", "discard the entry, or drop the rehearsal", "always"),
    Key("Delete", "clear the selection", "selecting"),
    Key("Alt + W", "write on in the selected cell", "selecting", "write", "KeyW", "alt", "write"),
    Key("Alt + C", "column of the reference under the caret: moves or stays", "writing",
        "lock-column", "KeyC", "alt", "column moves or stays"),
    Key("Alt + R", "row of the reference under the caret: moves or stays", "writing",
        "lock-row", "KeyR", "alt", "row moves or stays"),
    Key("Alt + arrows", "stretch a fill and rehearse it", "selecting",
        foot="stretch a fill"),
    Key("Alt + Shift + arrows", "go alongside: as far as the neighbouring data goes", "selecting"),
    Key("Alt + O", "plain values are copied, or count on", "rehearsing", "switch-values", "KeyO",
        "alt", "copy or count on"),
    Key("Enter", "land the rehearsed fill", "rehearsing", foot="land"),
    Key("Esc", "drop the rehearsed fill", "rehearsing", foot="drop"),
    Key("Alt + J", "next landing", "checking", "next-landing", "KeyJ", "alt", "next landing"),
    Key("Alt + K", "previous landing", "checking", "previous-landing", "KeyK", "alt",
        "previous landing"),
    Key("Alt + V", "next view: values, formulas, both", "always", "next-view", "KeyV", "alt"),
    Key("Alt + N", "name the selection", "selecting", "name", "KeyN", "alt", "name"),
    Key("Alt + I", "mark the selection as input, or not", "selecting", "mark-input", "KeyI",
        "alt"),
    Key("Alt + L", "insert or delete rows and columns, and what else the selection offers",
        "selecting", "about", "KeyL", "alt"),
    Key("Alt + G", "go to a cell or name; several, with commas, are selected", "always", "go-to",
        "KeyG", "alt"),
    Key("Alt + .", "next sheet", "always", "next-sheet", "Period", "alt"),
    Key("Alt + ,", "previous sheet", "always", "previous-sheet", "Comma", "alt"),
    Key("Alt + S", "rename, duplicate, move or delete this sheet", "always", "this-sheet", "KeyS",
        "alt"),
    Key("arrows, or a click", "point at the cell that the formula should read", "writing"),
    Key("Tab", "take the first suggestion; arrow down chooses another", "writing"),
    Key("Alt + B", "back to the cell that is written", "writing", "to-the-start", "KeyB", "alt"),
    Key("Ctrl + C, X, V", "copy, cut, paste", "selecting"),
    Key("Ctrl + Z", "undo", "always", "undo", "KeyZ", "ctrl"),
    Key("Ctrl + Shift + Z", "redo", "always", "redo", "KeyZ", "ctrl shift"),
    Key("?", "this help", "selecting"),
)  # fmt: skip


def for_browser() -> list[dict[str, str]]:
    """The keys that stand for one action each."""
    return [
        {"code": key.code, "modifiers": key.modifiers, "action": key.action}
        for key in KEYS
        if key.action
    ]


def for_foot(when: When) -> list[Key]:
    """The keys that matter now."""
    return [key for key in KEYS if key.foot and key.when == when]
