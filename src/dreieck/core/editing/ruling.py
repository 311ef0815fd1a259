"""Rules: a tone where a condition holds, given to an area, changed and taken away."""

from __future__ import annotations

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area
from dreieck.core.sheet.edits import SetRules
from dreieck.core.sheet.layout import Rule
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.style import Tone

MAX_RULES = 40
"""How many rules a sheet can have."""


def ruled(sheet: Sheet, area: Area, shape: Shape, tone: Tone, index: int = -1) -> SetRules:
    """Give a rule to an area, or change the one with this number, if that is for the area.

    ``shape`` is the condition in every cell; a new rule counts before the others. Raises
    DreieckError for too many rules.
    """
    rules = list(sheet.layout.rules)
    rule = Rule(area, shape, tone)
    if 0 <= index < len(rules) and rules[index].area == area:
        rules[index] = rule
    else:
        rules.insert(0, rule)
    if len(rules) > MAX_RULES:
        raise DreieckError(f"A sheet can have {MAX_RULES} rules. Delete one of them first.")
    return SetRules(sheet.id, tuple(rules))


def rule_of(sheet: Sheet, index: int, area: str) -> Rule:
    """The rule with this number, which is for an area.

    Raises DreieckError where another one has its number by now.
    """
    rules = sheet.layout.rules
    if not 0 <= index < len(rules) or rules[index].area.text != area:
        raise DreieckError("This rule is no longer there, or for other cells. Look again.")
    return rules[index]


def unruled(sheet: Sheet, rule: Rule) -> SetRules:
    """Take a rule away."""
    return SetRules(sheet.id, tuple(each for each in sheet.layout.rules if each is not rule))
