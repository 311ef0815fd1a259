"""What the page of the workbench says of itself with every request."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Form
from pydantic import BaseModel, Field

from dreieck.core.editing.copying import What
from dreieck.core.editing.fill import Values
from dreieck.core.editing.naming import Grows
from dreieck.core.formula.locks import Hold
from dreieck.core.grid import Area, Axis, Cell

Step = Literal["", "write", "fill", "check"]
View = Literal["values", "formulas", "both"]
MAX_TEXT = 1_000_000
MAX_PASTED = 4_000_000
"""How many characters a text from another program can have."""
MAX_NUMBER = 2**53
Number = Annotated[int, Field(ge=-1, le=MAX_NUMBER)]
MAX_PLACES = 100
"""How many areas can be selected at once beside the active one."""


def said(places: list[Area]) -> str:
    """Areas as they are told: up to three of them by their addresses."""
    texts = [area.text for area in places]
    return ", ".join(texts) if len(texts) <= 3 else f"{len(texts)} places"


class Bench(BaseModel):
    """The state of one page: what it shows, what is selected, written and rehearsed.

    ``sheet`` is the sheet that is shown, ``home`` the one that is written or rehearsed on if
    that is another. ``text`` is None unless something is being written into ``writing``;
    ``flipped`` says that it came from a switch of a kept formula, ``fresh`` that it was begun
    by typing, so that arrow keys point. ``pointed_from`` is where the reference begins in it
    that was pointed at just now, -1 if none was. ``source`` and ``target`` are the areas of a
    rehearsal, if there is one, ``values`` whether its plain values are copied or count on;
    with ``wait`` none lands before it is told to, with ``bare`` number formats stay behind.
    ``also`` are further areas that are selected, with commas between them.
    ``aiming`` is the reference whose reading in a landing is pointed at, -1 if none is,
    ``advice`` whether likely locks are shown. ``trial`` is what is held for a trial in
    ``tried_at``, a sheet's number and a cell. ``copied`` is the number of a sheet and the
    area on it that was copied last.
    """

    revision: Number = 0
    sheet: Number = 0
    home: Number = 0
    left: int = Field(1, ge=1, le=MAX_NUMBER)
    top: int = Field(1, ge=1, le=MAX_NUMBER)
    width: int = Field(900, ge=1, le=10_000)
    height: int = Field(540, ge=1, le=10_000)
    anchor: str = "A1"
    focus: str = "A1"
    also: str = Field("", max_length=4000)
    reveal: str = ""
    writing: str = ""
    text: str | None = Field(None, max_length=MAX_TEXT)
    caret: Number = 0
    flipped: bool = False
    fresh: bool = False
    pointed_from: Number = -1
    source: str = ""
    target: str = ""
    landing: str = ""
    values: Values = ""
    step: Step = ""
    view: View = "values"
    wait: bool = False
    bare: bool = False
    aiming: Number = -1
    advice: bool = False
    trial: str = Field("", max_length=200)
    tried_at: str = ""
    copied: str = ""

    @property
    def active(self) -> Cell:
        """The cell that entries go to. Raises AddressError."""
        return Cell.parse(self.anchor)

    @property
    def selection(self) -> Area:
        """The selected area. Raises AddressError."""
        return Area.spanned(self.active, Cell.parse(self.focus))

    @property
    def places(self) -> list[Area]:
        """All selected areas, the one with the active cell last. Raises AddressError."""
        further = [Area.parse(each) for each in self.also.split(",") if each]
        return [*further[:MAX_PLACES], self.selection]

    def select(self, area: Area) -> None:
        """Select an area, its first cell active, and bring it into view."""
        self.anchor, self.focus, self.also = area.first.text, area.last.text, ""
        self.reveal = area.first.text

    def stand(self, cell: Cell) -> None:
        """Select one cell."""
        self.anchor = self.focus = cell.text
        self.also = ""

    def stop_writing(self) -> None:
        """Nothing is being written any more."""
        self.writing, self.text, self.caret = "", None, 0
        self.flipped, self.fresh, self.pointed_from, self.home = False, False, -1, 0

    def rehearse(self, target: Area) -> None:
        """Rehearse a fill of an area from what is written or selected."""
        self.source = self.source or self.writing or self.selection.text
        self.target, self.landing, self.step = target.text, "", ""

    @property
    def place(self) -> str:
        """The sheet's number and the active cell."""
        return f"{self.sheet} {self.anchor}"

    @property
    def trying(self) -> bool:
        """Whether the active cell holds a trial value."""
        return bool(self.trial) and self.tried_at == self.place and self.text is None

    def stop_trying(self) -> None:
        """No trial value is held any more."""
        self.trial, self.tried_at = "", ""

    def drop_rehearsal(self) -> None:
        """Nothing is rehearsed any more."""
        self.source, self.target, self.landing, self.values = "", "", "", ""
        self.aiming, self.advice = -1, False


class Wish(Bench):
    """The state of a page together with what an action on it needs to know.

    What was copied is told as an area (``clip_…``) at a revision of its workbook, -1 if that is
    not known, or as text from another program (``pasted``). ``picture`` is the number of what
    the page drew last, ``offered`` the revision at which an offer was made that it takes up.
    An action sets ``insists`` where the page must take the state that it led to. A ``patient``
    page waits longer for values, and ends its wish when it has another.
    """

    move: Literal["", "down", "up", "right", "left"] = ""
    to: str = ""
    columns: int = Field(0, ge=-1, le=1)
    rows: int = Field(0, ge=-1, le=1)
    widen: bool = False
    index: Number = -1
    rule: str = ""
    mend: Number = 0
    axis: Axis = "column"
    hold: Hold | None = None
    clip_workbook: Number = 0
    clip_sheet: Number = 0
    clip_revision: Number = -1
    clip_area: str = ""
    clip_cut: bool = False
    pasted: str | None = Field(None, max_length=MAX_PASTED)
    what: What = "all"
    clear: bool = False
    picture: Number = 0
    says: str = Field("", max_length=10_001)
    offered: Number = -1
    grows: Grows = ""
    anew: bool = False
    insists: bool = False
    patient: bool = False


WishForm = Annotated[Wish, Form()]
