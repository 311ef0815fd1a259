"""The values of a small workbook that comes with the request."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from dreieck.api.asked import place
from dreieck.core.calculate import Calculation, look_of
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.exceptions import AddressError, DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import place_text
from dreieck.core.grid import EVERYWHERE
from dreieck.core.sheet.content import Unreadable, typed_text
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Error, Place, Value
from dreieck.core.values.look import shown_text

MAX_CELLS = 100_000
"""How many cells a request can bring."""

Text = Annotated[str, Field(max_length=1_000_000)]
"""Whole characters only, and no more than a request can have anyway."""
Kind = Literal["number", "text", "logical", "empty", "error"]


class SmallWorkbook(BaseModel):
    """Entries as they would be typed, by sheet and address, and names."""

    model_config = ConfigDict(extra="forbid")

    sheets: Annotated[dict[Text, dict[Text, Text]], Field(min_length=1)]
    names: dict[Text, Text] = {}

    def made(self) -> Workbook:
        """The workbook. Raises DreieckError where it cannot be one, or is too large."""
        cells = sum(len(entries) for entries in self.sheets.values())
        if cells > MAX_CELLS:
            raise DreieckError(f"A request can have {MAX_CELLS:,} cells; this one has {cells:,}.")
        return typed_workbook(self.sheets, self.names)


class EvaluateRequest(SmallWorkbook):
    """A small workbook and the cells whose values are asked for; all filled ones if none."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "sheets": {"Loads": {"C4": "420", "B5": "0.12", "C5": "=$B5*C$4"}},
                    "names": {"carry_rate": "Loads!$B$5"},
                    "ask": ["Loads!C5"],
                }
            ]
        },
        extra="forbid",
    )

    ask: list[Text] = []


class CellAnswer(BaseModel):
    """A cell: its value, what kind that is, how it is shown, and the formula behind it.

    The value of an error is its code; ``error`` says in words what happened, ``cause`` is
    the address where it began.
    """

    value: float | str | bool | None
    kind: Kind
    shown: str
    formula: str | None
    error: str | None
    cause: str | None


class EvaluateAnswer(BaseModel):
    """The cells that were asked for, under the addresses that were asked with."""

    cells: dict[str, CellAnswer]


def evaluate_answer(request: EvaluateRequest) -> EvaluateAnswer:
    """The answer to a request. Raises DreieckError where it cannot be used."""
    return evaluate_workbook(request.made(), request.ask)


def evaluate_workbook(workbook: Workbook, ask: list[str]) -> EvaluateAnswer:
    """The values of the cells that are asked for, all filled ones if none is.

    Raises DreieckError where that cannot be answered.
    """
    if len(ask) > MAX_CELLS:
        raise DreieckError(f"A request can ask for {MAX_CELLS:,} cells.")
    too_many = f"More than {MAX_CELLS:,} cells are filled; name those that you want."
    if not ask and sum(len(sheet) for sheet in workbook.sheets) > MAX_CELLS:
        raise DreieckError(too_many)
    calculation = Calculation(workbook)
    asked = ask or [place_text(place) for place in islice(_filled(calculation), MAX_CELLS + 1)]
    if len(asked) > MAX_CELLS:
        raise DreieckError(too_many)
    return EvaluateAnswer(
        cells={text: _answer(workbook, calculation, _place(workbook, text)) for text in asked}
    )


def _filled(calculation: Calculation) -> Iterator[Place]:
    """The cells that hold something, or that formulas fill."""
    for sheet in calculation.workbook.sheets:
        for cell, _ in calculation.filled_values(sheet.name, EVERYWHERE):
            yield Place(sheet.name, cell)


def _place(workbook: Workbook, text: str) -> Place:
    """The cell that a text asks for."""
    try:
        return place(workbook, text)
    except AddressError as error:
        raise AddressError(f"In “ask”: {error}") from None


def _answer(workbook: Workbook, calculation: Calculation, place: Place) -> CellAnswer:
    sheet = workbook.sheet(place.sheet)
    content = sheet.content(place.cell)
    value = calculation.value(place.sheet, place.cell)
    problem = (
        workbook.read_entry(content.text, place.cell).problem
        if isinstance(content, Unreadable)
        else None
    )
    is_formula = isinstance(content, Shape | Unreadable)
    return CellAnswer(
        value=value.code if isinstance(value, Error) else value,
        kind=_kind(value),
        shown=shown_text(value, look_of(content, sheet.look(place.cell))),
        formula=typed_text(content, place.cell) if is_formula else None,
        error=str(problem or value.why or value.code) if isinstance(value, Error) else None,
        cause=place_text(value.origin or place) if isinstance(value, Error) else None,
    )


def _kind(value: Value) -> Kind:
    if isinstance(value, Error):
        return "error"
    if isinstance(value, bool):
        return "logical"
    if value is None:
        return "empty"
    return "text" if isinstance(value, str) else "number"
