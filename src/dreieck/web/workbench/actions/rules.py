"""Rules: a tone for cells where a condition holds, which is written like any formula."""

from __future__ import annotations

from pydantic import BaseModel

from dreieck.core.editing.ruling import rule_of, ruled, unruled
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area
from dreieck.core.values.style import Tone
from dreieck.web.workbench.actions.context import Context, Effect, Index, To, action


class Which(Index, To):
    """A rule by its number, and the area that it is for."""


class Toned(BaseModel):
    """The tone of a rule."""

    tone: Tone = "rose"


@action(Effect.REWRITES)
def write_rule(context: Context, wish: Toned) -> str:
    """Begin to write the condition of a rule for the selection."""
    _write(context, context.state.selection, "=", wish.tone, -1)
    return (
        "Write when the first cell is to take the tone, for example"
        f" ={context.state.selection.first.text}>100. It shifts over the others as in a fill."
    )


@action(Effect.REWRITES)
def change_rule(context: Context, wish: Which) -> str:
    """Write on in the condition of a rule."""
    rule = rule_of(context.sheet, wish.index, wish.to)
    first = rule.area.first
    _write(context, rule.area, rule.shape.landed(first).text(first), rule.tone, wish.index)
    return ""


@action()
def tone_rule(context: Context, wish: Toned) -> str:
    """Let the rule that is written have another tone."""
    context.state.rule_tone = wish.tone
    return ""


@action()
def delete_rule(context: Context, wish: Which) -> str:
    """Take a rule away."""
    rule = rule_of(context.sheet, wish.index, wish.to)
    context.change("deleting a rule", unruled(context.sheet, rule))
    return "The rule is gone. Ctrl+Z brings it back."


def keep_rule(context: Context) -> str:
    """Keep the rule that is written. Raises DreieckError where it is no condition."""
    state, sheet = context.state, context.home
    area = Area.parse(state.rule_for)
    entry = context.opened.workbook.read_entry(state.text or "", area.first)
    if not isinstance(entry.content, Shape):
        said = str(entry.problem) if entry.problem else ""
        raise DreieckError(
            said or f"A rule is a condition that begins with =, such as ={area.first.text}>100."
        )
    edit = ruled(sheet, area, entry.content, state.rule_tone, state.rule_index)
    context.change(f"rule for {area.text}", edit)
    state.stop_writing()
    state.select(area)
    context.insists = True
    return f"{area.text} takes the tone {state.rule_tone} where it holds."


def _write(context: Context, area: Area, text: str, tone: Tone, index: int) -> None:
    state = context.state
    state.select(area)
    state.writing, state.text, state.caret = area.first.text, text, len(text)
    state.rule_for, state.rule_tone, state.rule_index = area.text, tone, index
    state.flipped, state.fresh, state.step, state.landing = False, True, "write", ""
