"""Contents, looks and edits as rows and JSON, and back."""

from __future__ import annotations

import json
from base64 import b64decode, b64encode
from collections.abc import Callable, Iterable, Sequence
from dataclasses import MISSING, astuple, fields
from functools import partial
from typing import Any, NamedTuple, get_args

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell, Lines
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.content import Content, Unreadable
from dreieck.core.sheet.edits import Edit, LookRun
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.series import KINDS, Counted
from dreieck.core.sheet.sheet import ColumnRun, Run
from dreieck.core.sheet.stated import SORTS, STANDS, Sort, Stated
from dreieck.core.values.look import Look
from dreieck.core.values.look_words import look_of, look_text
from dreieck.store.feeds import feed_of, feed_said
from dreieck.store.layouts import (
    charts_of,
    charts_said,
    layout_of,
    layout_said,
    rules_of,
    rules_said,
)
from dreieck.store.shapes import NumberOf, ShapeOf
from dreieck.store.stretches import NUMBERS, TEXTS, packed, together, unpacked


class Stored(NamedTuple):
    """A content as it is stored."""

    kind: int
    number: float | None = None
    text: str | bytes | None = None
    shape: int | None = None


SERIES = 32
"""The kind of cells that count on: the number is the position of the first of them."""


def stored(content: Content | Counted | None, at: Cell, number_of: NumberOf) -> Stored:
    """A content in the form of the columns of a cell."""
    match content:
        case None:
            return Stored(Kind.EMPTY)
        case bool():
            return Stored(Kind.LOGICAL, number=float(content))
        case float():
            return Stored(Kind.NUMBER, number=content)
        case str():
            return Stored(Kind.TEXT, text=content)
        case Shape():
            return Stored(Kind.FORMULA, shape=number_of(content, at))
        case Unreadable():
            return Stored(Kind.UNREADABLE, text=content.text)
        case Counted():
            series = content.series
            told = [type(series).__name__, *astuple(series)]
            return Stored(SERIES, number=float(content.position), text=json.dumps(told))


def content_of(said: Stored, shape_of: ShapeOf) -> Content | Counted | Cells | None:
    """The content that ``stored`` stored."""
    match said.kind:
        case Kind.EMPTY:
            return None
        case Kind.LOGICAL:
            return bool(said.number)
        case Kind.NUMBER:
            return float(said.number or 0)
        case Kind.TEXT:
            return _text(said)
        case Kind.FORMULA:
            assert said.shape is not None
            return shape_of(said.shape)
        case k if k == SERIES:
            name, *told = json.loads(_text(said))
            return Counted(KINDS[name](*told), int(said.number or 0))
        case k if k == NUMBERS:
            data = said.text or b""
            return unpacked(NUMBERS, b64decode(data) if isinstance(data, str) else data)
        case k if k == TEXTS:
            return unpacked(TEXTS, _text(said))
        case _:
            return Unreadable(_text(said))


def _text(said: Stored) -> str:
    return said.text if isinstance(said.text, str) else ""


def stored_run(run: Run | ColumnRun, number_of: NumberOf) -> Stored:
    """What the cells of a run hold, in the form of the columns of a stored run."""
    if isinstance(run.content, Cells):
        kind, data = packed(run.content)
        return Stored(kind, text=data)
    return stored(run.content, Cell(run.column, run.top), number_of)


def _in_text(run: Run | ColumnRun, number_of: NumberOf) -> Stored:
    """The same, without bytes."""
    said = stored_run(run, number_of)
    if not isinstance(said.text, bytes):
        return said
    return said._replace(text=b64encode(said.text).decode())


def edits_text(edits: Sequence[Edit], number_of: NumberOf) -> str:
    """Edits as JSON."""
    return json.dumps([_said(edit, number_of) for edit in edits], separators=(",", ":"))


def edits_of(text: str, shape_of: ShapeOf) -> list[Edit]:
    """The edits that ``edits_text`` wrote. Raises DreieckError where they are not to be read."""
    try:
        return [_made(said, shape_of) for said in json.loads(text)]
    except (LookupError, TypeError, ValueError, AttributeError) as fault:
        raise DreieckError(
            "What was done then is kept in a way that cannot be read here, so it can neither be"
            " taken back nor made again."
        ) from fault


class _Form(NamedTuple):
    """How a field of an edit is kept: under which key, and how it is said and made again."""

    key: str
    said: Callable[[Any, NumberOf], Any] = lambda value, _: value
    made: Callable[[Any, ShapeOf], Any] = lambda said, _: said


def _runs_made(said: list[list[Any]], shape_of: ShapeOf) -> tuple[Run | ColumnRun, ...]:
    return tuple(
        _run_of((column, top, bottom), content_of(Stored(*content), shape_of), look_of(look))
        for column, top, bottom, look, *content in said
    )


def _stated_said(stated: Iterable[Stated], number_of: NumberOf) -> list[list[int]]:
    return [[each.number, number_of(each.shape, STANDS)] for each in stated]


def _stated_made(said: list[list[int]], shape_of: ShapeOf, sort: Sort) -> tuple[Stated, ...]:
    return tuple(SORTS[sort](number, shape_of(shape)) for number, shape in said)


_FORMS = {
    "sheet_id": _Form("sheet"),
    "lines": _Form(
        "lines",
        lambda lines, _: [lines.axis, lines.first, lines.count],
        lambda said, _: Lines(*said),
    ),
    "runs": _Form(
        "cells",
        lambda runs, number_of: [
            [run.column, run.top, run.bottom, look_text(run.look), *_in_text(run, number_of)]
            for run in together(runs)
        ],
        _runs_made,
    ),
    "looks": _Form(
        "looks",
        lambda runs, _: [[*run[:3], look_text(run.look)] for run in runs],
        lambda said, _: tuple(
            LookRun(column, top, bottom, look_of(look)) for column, top, bottom, look in said
        ),
    ),
    "layout": _Form("layout", layout_said, layout_of),
    "rules": _Form("rules", rules_said, rules_of),
    "charts": _Form(
        "charts", lambda charts, _: charts_said(charts), lambda said, _: charts_of(said)
    ),
    "named": _Form(
        "named",
        lambda named, number_of: named and [named.name, number_of(named.shape, named.base)],
        lambda said, shape_of: Named(said[0], shape_of(said[1])) if said else None,
    ),
    "feed": _Form("feed", lambda feed, _: feed_said(feed), lambda said, _: feed_of(said)),
    "proofs": _Form("stated", _stated_said, partial(_stated_made, sort="proofs")),
    "sweeps": _Form("stated", _stated_said, partial(_stated_made, sort="sweeps")),
    "answers": _Form("stated", _stated_said, partial(_stated_made, sort="answers")),
}
"""The fields that are not kept as they are."""
_EDITS: dict[str, type[Edit]] = {edit.__name__: edit for edit in get_args(Edit)}


def _form(field: str, sort: str) -> _Form:
    """The form of a field; ``sort`` is that of what an edit lets be stated, if it does."""
    return _FORMS.get(sort if field == "stated" else field, _Form(field))


def _said(edit: Edit, number_of: NumberOf) -> dict[str, Any]:
    said: dict[str, Any] = {"edit": type(edit).__name__}
    for field in fields(edit):
        value = getattr(edit, field.name)
        # What follows by itself is not told.
        if value is not None or field.default is MISSING:
            form = _form(field.name, getattr(edit, "sort", ""))
            said[form.key] = form.said(value, number_of)
    return said


def _made(said: dict[str, Any], shape_of: ShapeOf) -> Edit:
    edit = _EDITS[said["edit"]]
    forms = {each.name: _form(each.name, said.get("sort", "")) for each in fields(edit)}
    told = {name: form for name, form in forms.items() if form.key in said}
    made = {name: form.made(said[form.key], shape_of) for name, form in told.items()}
    return edit(**made)


def _run_of(
    place: tuple[int, int, int], content: Content | Counted | Cells | None, look: Look
) -> Run | ColumnRun:
    if isinstance(content, Counted | Cells):
        return ColumnRun(*place, content, look)
    return Run(*place, content, look)
