"""All that can be done on the workbench, by name: one list that narrows as one types."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import NamedTuple

from fastapi import APIRouter, Request
from starlette.responses import Response

from dreieck.web.answers import TheWorkbook, page
from dreieck.web.workbench.band import EDGES, FORMS
from dreieck.web.workbench.chart_card import KINDS
from dreieck.web.workbench.holding_keys import TheKeys
from dreieck.web.workbench.keys import KEYS, name_of

router = APIRouter(include_in_schema=False)


class Command(NamedTuple):
    """Something that can be done: its name, what it asks for, and the keys for it."""

    does: str
    action: str = ""
    wish: Mapping[str, str | int] = MappingProxyType({})
    act: str = ""
    keys: str = ""

    @property
    def name(self) -> str:
        """As the name of a key that does the same."""
        return name_of(self.action, self.act, self.wish)

    @property
    def attributes(self) -> dict[str, str | int]:
        """What its button tells the page."""
        asked = {"data-action": self.action} if self.action else {"data-act": self.act}
        return asked | {f"data-{name}": value for name, value in self.wish.items()}


_SIDES = (("row", "above", ""), ("row", "below", "down"), ("column", "to the left", ""),
          ("column", "to the right", "right"))  # fmt: skip


def _commands() -> list[Command]:
    by_key = [
        Command(key.does, key.action, key.wish, key.act, key.said)
        for key in KEYS
        if key.action or key.act not in ("", "commands")
    ]
    inserted = [
        Command(f"insert {axis}s {where}", "insert-lines", {"axis": axis, "move": move})
        for axis, where, move in _SIDES
    ]
    lines = [
        Command(f"{does} the selected {axis}s", f"{does.split()[0]}-lines", {"axis": axis})
        for axis in ("row", "column")
        for does in ("delete", "fit", "hide", "show hidden ones among")
    ]
    forms = [
        Command(f"number format: {says}", "format-numbers", {"form": form})
        for form, says in FORMS.items()
    ]
    edges = [
        Command(f"lines: {says}", "draw-edges", {"edges": edges})
        for edges, says in EDGES.items()
        if edges
    ]
    charts = [Command(f"chart as {kind}", "chart-kind", {"kind": kind}) for kind in KINDS] + [
        Command("chart: rows are series instead of columns, or the other way", "turn-chart"),
        Command("delete the chosen chart", "delete-chart"),
    ]
    moved = [
        Command(f"move the selected {axis}s {to}", "nudge-lines", {"axis": axis, "steps": steps})
        for axis, to, steps in (
            ("row", "up", -1), ("row", "down", 1), ("column", "left", -1), ("column", "right", 1),
        )
    ] + [
        Command(f"duplicate the selected {axis}s", "duplicate-lines", {"axis": axis})
        for axis in ("row", "column")
    ]  # fmt: skip
    others = [
        Command("save as a file, print, copy the workbook", act="files"),
        Command("open a file", act="open-file"),
        Command("work the formula out in numbers, or not", "show-working"),
        Command("likely locks for the formula, or not", "advise"),
        Command("order rows by columns", act="order"),
        Command("how numbers and dates are written; other currencies", act="numbers"),
        Command("refresh outside figures: the page of feeds", act="feeds"),
        Command("practise on the block of the selected cell", act="practise"),
        Command("rule: a tone where a condition holds", "write-rule"),
        Command("italic, or not", "dress", {"name": "italic"}),
        Command("break long text into lines, or not", "dress", {"name": "wrap"}),
        Command("title over the next cells", "dress", {"name": "across", "value": "spanning"}),
        Command("thousands set apart, or not", "group-thousands"),
        Command("one decimal more", "count-decimals", {"steps": 1}),
        Command("one decimal less", "count-decimals", {"steps": -1}),
        Command("keys: give them others", act="keys"),
        Command("copy", act="copy", keys="Ctrl + C"),
        Command("cut", act="cut", keys="Ctrl + X"),
        Command("paste", act="paste", keys="Ctrl + V"),
        Command("clear the selection", "clear", keys="Delete"),
        Command("copy a link to the selected cells", act="copy-link"),
        Command("duplicate this sheet", "duplicate-sheet"),
    ]
    every = by_key + inserted + lines + forms + edges + charts + moved + others
    return sorted(every, key=lambda command: command.does)


COMMANDS = tuple(_commands())


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/commands")
def listed(request: Request, opened: TheWorkbook, sheet_id: int, keys: TheKeys) -> Response:
    """The list of all commands, with the keys that hold for who asks."""
    said = {key.name: key.said for key in keys if key.name}
    commands = [
        command._replace(keys=said[command.name]) if command.name in said else command
        for command in COMMANDS
    ]
    return page(request, "commands.html", commands=commands)
