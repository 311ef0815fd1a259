"""What a page of the workbench says of itself with every request, in parts by step."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from dreieck.core.editing.fill import PlainValues
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell
from dreieck.core.values.style import Tone

Step = Literal["", "write", "fill", "check"]
View = Literal["values", "formulas", "both"]
MAX_TEXT = 1_000_000
MAX_NUMBER = 2**53
Number = Annotated[int, Field(ge=-1, le=MAX_NUMBER)]
MAX_PLACES = 100
"""How many areas can be selected at once beside the active one."""


class InView(BaseModel):
    """What is shown: a sheet at a ``revision`` of its workbook, from ``left`` and ``top`` on.

    ``width`` and ``height`` are those of the window in pixels; ``reveal`` is a cell, or an
    area, that is to be brought into view; ``step`` is the panel's, where it was turned by hand.
    ``working`` says that formulas are worked out in numbers, ``parts`` that they are laid out
    part by part.
    """

    revision: Number = 0
    sheet: Number = 0
    left: int = Field(1, ge=1, le=MAX_NUMBER)
    top: int = Field(1, ge=1, le=MAX_NUMBER)
    width: int = Field(900, ge=1, le=10_000)
    height: int = Field(540, ge=1, le=10_000)
    reveal: str = ""
    view: View = "values"
    step: Step = ""
    working: bool = False
    parts: bool = False


class Selected(BaseModel):
    """What is selected: from ``anchor`` to ``focus``.

    Entries go to ``inner``, a cell in that area, or to ``anchor`` where there is none. ``also``
    are further areas, with commas between them. ``copied`` is the number of a sheet and the
    area on it that was copied last, ``look_taken`` those whose look is given on; ``chart`` is
    the number of the chart that is chosen, 0 if none is.
    """

    anchor: str = "A1"
    focus: str = "A1"
    inner: str = ""
    also: str = Field("", max_length=4000)
    copied: str = ""
    look_taken: str = ""
    chart: Number = 0
    reveal: str = ""

    @property
    def active(self) -> Cell:
        """The cell that entries go to. Raises AddressError."""
        return Cell.parse(self.inner or self.anchor)

    @property
    def selection(self) -> Area:
        """The selected area. Raises AddressError."""
        return Area.spanned(Cell.parse(self.anchor), Cell.parse(self.focus))

    @property
    def places(self) -> list[Area]:
        """All selected areas, the one with the active cell last. Raises AddressError."""
        further = [Area.parse(each) for each in self.also.split(",") if each]
        return [*further[:MAX_PLACES], self.selection]

    def select(self, area: Area) -> None:
        """Select an area, its first cell active, and bring it into view."""
        self.anchor, self.focus, self.also = area.first.text, area.last.text, ""
        self.chart, self.inner = 0, ""
        self.reveal = area.first.text

    def stand(self, cell: Cell) -> None:
        """Select one cell."""
        self.anchor = self.focus = cell.text
        self.also, self.inner, self.chart = "", "", 0


class Written(BaseModel):
    """What is written: ``text`` into the cell ``writing``; None where nothing is.

    ``over`` are the areas that were selected when it was begun, where they are several cells.
    ``home`` is the sheet that is written or rehearsed on, if another one is shown. ``flipped``
    says that the text came from a switch of a kept formula, ``fresh`` that it was begun by
    typing, so that arrow keys point. ``pointed_from`` is where the reference begins in it that
    was pointed at just now, -1 if none was. With ``rule_for`` the text is the condition of a
    rule for that area, with a tone; ``rule_index`` is the number of the one that changes. With
    ``proving`` it is the statement of the proof with that number, 0 for a new one, -1 for none.
    """

    home: Number = 0
    writing: str = ""
    over: str = Field("", max_length=4000)
    text: str | None = Field(None, max_length=MAX_TEXT)
    caret: Number = 0
    flipped: bool = False
    fresh: bool = False
    pointed_from: Number = -1
    rule_for: str = ""
    rule_tone: Tone = "rose"
    rule_index: Number = -1
    proving: Number = -1

    def stop_writing(self) -> None:
        """Nothing is being written any more."""
        self.writing, self.over, self.text, self.caret = "", "", None, 0
        self.rule_for, self.rule_index, self.proving = "", -1, -1
        self.flipped, self.fresh, self.pointed_from, self.home = False, False, -1, 0


class Rehearsed(BaseModel):
    """What is rehearsed: a fill of ``target`` from ``source``, no text where none is.

    ``landing`` is the one that is looked at, ``values`` says whether plain values are copied or
    count on. With ``wait`` no fill lands before it is told to, with ``bare`` number formats
    stay behind. ``aiming`` is the reference whose reading in a landing is pointed at, -1 if
    none is; ``aimed_at`` that landing, a sheet's number and a cell. ``advice`` says whether
    likely locks are shown.
    """

    source: str = ""
    target: str = ""
    landing: str = ""
    values: PlainValues = ""
    wait: bool = False
    bare: bool = False
    aiming: Number = -1
    aimed_at: str = ""
    advice: bool = False

    def drop_rehearsal(self) -> None:
        """Nothing is rehearsed any more."""
        self.source, self.target, self.landing, self.values = "", "", "", ""
        self.advice = False
        self.stop_aiming()

    def stop_aiming(self) -> None:
        """Nothing is pointed at any more that a landing should read."""
        self.aiming, self.aimed_at = -1, ""


class Tried(BaseModel):
    """What is tried out while one walks about: ``trial`` is held in ``tried_at``.

    That is a sheet's number and a cell.
    """

    trial: str = Field("", max_length=200)
    tried_at: str = ""

    def stop_trying(self) -> None:
        """No trial value is held any more."""
        self.trial, self.tried_at = "", ""


class PageState(Tried, Rehearsed, Written, Selected, InView):
    """The state of one page: what it shows, what is selected, written, rehearsed and tried."""

    def rehearse(self, target: Area) -> None:
        """Rehearse a fill of an area from what is written or selected. Raises DreieckError."""
        if self.rule_for:
            raise DreieckError("A rule is kept with Enter; it holds for the area that it is for.")
        if self.proving >= 0:
            raise DreieckError("A proof is kept with Enter; it is not filled.")
        self.source = self.source or self.writing or self.selection.text
        self.target, self.landing, self.step = target.text, "", ""

    @property
    def place(self) -> str:
        """The sheet's number and the active cell."""
        return f"{self.sheet} {self.active.text}"

    @property
    def writing_cell(self) -> Cell:
        """The cell that is written into, or would be. Raises AddressError."""
        return Cell.parse(self.writing) if self.writing else self.active

    @property
    def trying(self) -> bool:
        """Whether a cell holds a trial value; writing and rehearsing end it."""
        return bool(self.trial) and self.text is None and not self.target


def held(said: str) -> tuple[int, str] | None:
    """The number of a sheet and the place on it that a page holds, if it holds any."""
    number, _, place = said.partition(" ")
    return (int(number), place) if number.isdecimal() and place else None


class Asked(BaseModel):
    """What a page says with a request beside its state.

    ``picture`` is the number of what it drew last. A ``patient`` page waits longer for values,
    and ends its request when it has another one. ``piece`` names what it asks for, the same when
    it asks again.
    """

    picture: Number = 0
    patient: bool = False
    piece: str = Field("", max_length=60)
