"""What an action works with, and how a function becomes an action of the workbench."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any, TypeVar, get_type_hints

from pydantic import BaseModel, Field

from dreieck.core.budget import WorkEnded
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import Edit
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import Proof
from dreieck.core.words.proving import statement_said
from dreieck.store import Library, OpenWorkbook
from dreieck.web.turns import time_for_drawing
from dreieck.web.workbench.actions.offers import Offer
from dreieck.web.workbench.page_state import Number, PageState
from dreieck.web.workbench.proof_cache import failing
from dreieck.web.workbench.situation import Situation


@dataclass
class Context:
    """An open workbook, the state of the page that asks, and what the answer tells besides.

    An action sets ``insists`` where the page must take the state that it led to, ``in_parts``
    where what was pasted can be pasted in part instead, ``waits`` where a fill does because of
    something in doubt; ``offers`` are what could be done next.
    """

    opened: OpenWorkbook
    state: PageState
    library: Library
    insists: bool = False
    in_parts: bool = False
    waits: bool = False
    offers: list[Offer] = field(default_factory=list)

    @property
    def sheet(self) -> Sheet:
        """The sheet that the page shows. Raises SheetError."""
        return self.opened.workbook.sheet_by_id(self.state.sheet)

    @property
    def home(self) -> Sheet:
        """The sheet that is written or rehearsed on. Raises SheetError."""
        return self.opened.workbook.sheet_by_id(self.state.home or self.state.sheet)

    @property
    def writing_cell(self) -> Cell:
        """The cell that is written into."""
        return self.state.writing_cell

    def situation(self) -> Situation:
        """The page's state, looked up."""
        return Situation(self.opened, self.state)

    def check_nothing_open(self) -> None:
        """Raise DreieckError where something is being written or rehearsed."""
        if self.state.text is not None or self.state.target:
            raise DreieckError("Keep or drop first what is written or rehearsed.")

    def change(self, label: str, *edits: Edit) -> None:
        """Make edits as one action, for the revision that the page shows.

        Proofs that fail then and held before are offered to be looked at.
        """
        before = {proof.number for proof in self._failing()}
        self.opened.change(label, list(edits), self.state.revision)
        self.offers += [
            Offer(f"Fails now: {statement_said(self.opened.workbook, proof)}", "show-proof",
                  {"index": proof.number})
            for proof in self._failing()[:_MAX_TOLD]
            if proof.number not in before
        ]  # fmt: skip

    def _failing(self) -> list[Proof]:
        """The proofs that fail, as far as there is time to look."""
        try:
            with time_for_drawing():
                return [proof for proof, _ in failing(self.opened)]
        except WorkEnded:
            return []

    def show_sheet(self, sheet: Sheet, area: Area | None = None) -> None:
        """Show a sheet, and select an area of it unless something is being written."""
        state = self.state
        if sheet.id != state.sheet:
            if state.text is not None or state.target:
                state.home = state.home or state.sheet
            state.sheet, state.left, state.top = sheet.id, 1, 1
            if state.home == sheet.id:
                state.home = 0
                area = area or Area.of(self.writing_cell)
            area = area or Area(1, 1, 1, 1)
        if area and not state.target:
            state.select(area)


class Effect(StrEnum):
    """What an action does to the state of its page, so that hands that run ahead can wait."""

    MOVES = "something else is selected"
    REHEARSES = "a rehearsal begins, changes or ends"
    REWRITES = "the text that is written changes"


class Nothing(BaseModel):
    """The wish of an action that needs to know nothing more."""


class To(BaseModel):
    """A place, a name or a text that an action is about."""

    to: str = ""


class Index(BaseModel):
    """The number of a reference, or of a sheet; -1 for none."""

    index: Number = -1


class Aim(Index, To):
    """A reference, and what it should read."""


class Steps(BaseModel):
    """A direction; ``widen`` says that only the far end of the selection goes there."""

    columns: int = Field(0, ge=-1, le=1)
    rows: int = Field(0, ge=-1, le=1)
    widen: bool = False


@dataclass(frozen=True)
class Action:
    """Something that can be done on the workbench.

    ``do`` changes the workbook or the page's state, and returns what is told to the user; it
    takes the context and a ``wish``, what it needs to know more. It raises DreieckError or
    StoreError where it refuses. One that ``must_be_seen`` is done only for a page that shows all
    that others did.
    """

    do: Callable[..., str]
    wish: type[BaseModel]
    effects: tuple[Effect, ...]
    must_be_seen: bool

    def __call__(self, context: Context, wish: BaseModel) -> str:
        """Do it."""
        return self.do(context) if self.wish is Nothing else self.do(context, wish)


ACTIONS: dict[str, Action] = {}
_MAX_TOLD = 3


F = TypeVar("F", bound=Callable[..., str])


def action(*effects: Effect, must_be_seen: bool = False) -> Callable[[F], F]:
    """Make a function an action; its name with hyphens is the action's."""

    def register(function: F) -> F:
        wish: Any = get_type_hints(function).get("wish", Nothing)
        name = function.__name__.replace("_", "-")
        if name in ACTIONS:
            raise ValueError(f"There are two actions {name}.")
        ACTIONS[name] = Action(function, wish, effects, must_be_seen)
        return function

    return register


def effects() -> dict[str, list[str]]:
    """The names of the actions with each effect, for the page."""
    return {
        effect.name.lower(): [name for name, each in ACTIONS.items() if effect in each.effects]
        for effect in Effect
    }
