"""Looks of the selected cells: number formats, letters, tones, edges, roles; taken and given."""

from __future__ import annotations

import re
from typing import Any, Literal, get_args

from pydantic import BaseModel, Field, TypeAdapter, ValidationError

from dreieck.core.calculate import look_at
from dreieck.core.editing import dressing
from dreieck.core.editing.lifting import labelled
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area
from dreieck.core.sheet.edits import SetLocale, SetLooks
from dreieck.core.values.formats import format_named
from dreieck.core.values.locales import MAX_IDENTIFIER, identifier, takes_comma
from dreieck.core.values.look import Look, shown_text
from dreieck.core.values.style import Line, Style
from dreieck.core.words.counting import addresses
from dreieck.web.workbench.actions.context import Context, action
from dreieck.web.workbench.page_state import held

_STYLES: TypeAdapter[Style] = TypeAdapter(Style)
_EDGES = "({}) ({})".format(*("|".join(get_args(each)) for each in (dressing.Where, Line)))


class Form(BaseModel):
    """The name of a number format."""

    form: str = Field("general", max_length=40)


class Locale(BaseModel):
    """The identifier of a locale, none for the neutral one."""

    locale: str = Field("", max_length=MAX_IDENTIFIER)


class Finer(BaseModel):
    """One decimal more, or less."""

    steps: int = Field(1, ge=-1, le=1)


class Dress(BaseModel):
    """One thing of a style, and what it is to be; bold, italic and wrap are switched."""

    name: Literal["bold", "italic", "wrap", "size", "across", "upright", "ink", "ground"]
    value: str = Field("", max_length=40)


class EdgesWanted(BaseModel):
    """Where lines are drawn and which, such as ``around thin``."""

    edges: str = Field("", pattern=_EDGES)


class Mark(BaseModel):
    """What cells are marked as, and the label that an input gets."""

    role: Literal["input", "result"] = "input"
    says: str = Field("", max_length=200)


@action()
def format_numbers(context: Context, wish: Form) -> str:
    """Show the numbers of the selection in a format."""
    try:
        format_named(wish.form)
    except KeyError:
        raise DreieckError(f"There is no number format “{wish.form}”.") from None
    return _dress(context, "number format", dressing.with_format(wish.form))


@action()
def write_as(context: Context, wish: Locale) -> str:
    """Let numbers and dates of the workbook be written as in a language and place."""
    try:
        locale = identifier(wish.locale)
    except KeyError:
        raise DreieckError(f"“{wish.locale}” is no language and place that is known.") from None
    if locale == context.opened.workbook.locale:
        return ""
    context.change("how numbers and dates are written", SetLocale(locale))
    shown = shown_text(1234.5, Look("grouped", 2), locale=locale)
    if takes_comma(locale):
        written = "in formulas, too, whose arguments are parted by semicolons"
    else:
        written = "in formulas with a point"
    return f"Numbers are written and typed like {shown} now, {written}."


@action()
def group_thousands(context: Context) -> str:
    """Set thousands apart, or no longer."""
    return _dress(context, "thousands", dressing.grouped)


@action()
def count_decimals(context: Context, wish: Finer) -> str:
    """Show one decimal more or less than the active cell shows."""
    change = dressing.with_decimals(shown_decimals(context) + wish.steps)
    return _dress(context, "decimals", change)


@action()
def dress(context: Context, wish: Dress) -> str:
    """Dress the selection: bold, a size, a tone …"""
    sheet, places = context.sheet, context.state.places
    if wish.name in ("bold", "italic", "wrap"):
        edits = dressing.switched(sheet, places, **{wish.name: True})
    else:
        try:
            style = _STYLES.validate_python({wish.name: wish.value})
        except ValidationError:
            raise DreieckError(f"“{wish.value}” is no {wish.name} that there is.") from None
        told: dict[str, Any] = {wish.name: getattr(style, wish.name)}
        edits = dressing.dressed(sheet, places, dressing.with_style(**told))
    return _change(context, wish.name, edits)


@action()
def draw_edges(context: Context, wish: EdgesWanted) -> str:
    """Draw lines around the selection, or between its cells; or take them away."""
    where, _, line = wish.edges.partition(" ")
    edits = dressing.edged(context.sheet, context.state.places, where, line)  # type: ignore[arg-type]
    return _change(context, "lines", edits)


@action()
def mark(context: Context, wish: Mark) -> str:
    """Mark the selection as input or result, or take the mark away; an input may get a label."""
    sheet, places = context.sheet, context.state.places
    label = labelled(sheet, places[-1].first, wish.says.strip())
    edits = dressing.with_role(sheet, places, wish.role)
    context.change(f"{wish.role} mark of {addresses(places)}", *label, *edits)
    is_so = sheet.look(places[-1].first).role == wish.role
    said = f"{wish.role} from now on" if is_so else f"no {wish.role} any more"
    return f"{addresses(places)}: {said}."


@action()
def take_look(context: Context) -> str:
    """Take over how the selection looks, to give it to other cells."""
    state, taken = context.state, context.state.selection.text
    state.look_taken = f"{state.sheet} {taken}"
    return f"The look of {taken} is taken. Whatever is selected now gets it, until Esc."


@action()
def give_look(context: Context) -> str:
    """Give the look that was taken to what is selected."""
    looked = held(context.state.look_taken)
    if looked is None:
        raise DreieckError("No look was taken. Select cells that look right and take theirs.")
    source, taken = context.opened.workbook.sheet_by_id(looked[0]), Area.parse(looked[1])
    edits = [
        edit
        for place in context.state.places
        for edit in dressing.given(source, taken, context.sheet, place)
    ]
    return _change(context, f"look of {taken.text}", edits)


def shown_decimals(context: Context) -> int:
    """How many decimals the active cell shows."""
    sheet, cell = context.sheet, context.state.active
    look = look_at(sheet, cell)
    value = context.opened.calculation.value(sheet.name, cell)
    number = value if isinstance(value, float) else 0.0
    decimals = re.search(r"\.(\d+)", shown_text(number, look))
    return len(decimals[1]) if decimals else 0


def _dress(context: Context, label: str, change: dressing.Change) -> str:
    return _change(context, label, dressing.dressed(context.sheet, context.state.places, change))


def _change(context: Context, label: str, edits: list[SetLooks]) -> str:
    if edits:
        context.change(f"{label} of {addresses(context.state.places)}", *edits)
    return ""
