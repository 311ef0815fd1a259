"""Tones by condition (18.3.1.18, conditional formatting), read and written."""

from __future__ import annotations

from collections.abc import Iterable
from operator import itemgetter
from typing import Any

from openpyxl.formatting.rule import FormulaRule
from openpyxl.styles import Font, PatternFill
from openpyxl.workbook import Workbook

from dreieck.core.budget import spend
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area
from dreieck.core.sheet.layout import Rule
from dreieck.files.appearance import TONES, WASHES, tone_of_ground
from dreieck.files.arrived import Leavings
from dreieck.files.building import bounded_rules
from dreieck.files.formulas import FormulaWriter, OpenXmlDialect
from dreieck.files.formulas.dialect import read_formula
from dreieck.files.open_xml.styles import Looks

_AREA = 4
"""So many steps it takes to look at an area of a rule."""
_COMPARED = {
    "equal": "=", "notEqual": "<>", "greaterThan": ">", "greaterThanOrEqual": ">=",
    "lessThan": "<", "lessThanOrEqual": "<=",
}  # fmt: skip
_BETWEEN = {"between": "AND({0}>={1},{0}<={2})", "notBetween": "OR({0}<{1},{0}>{2})"}
_WHAT = "colouring by condition"


def read_rules(
    said: Iterable[Any],
    book: Workbook,
    looks: Looks,
    dialect: OpenXmlDialect,
    leavings: Leavings,
    sheet: str,
) -> tuple[Rule, ...]:
    """The rules of a sheet, the first one that counts first."""
    found: list[tuple[int, Rule]] = []
    for each in said:
        spend(_AREA * len(each.sqref.ranges))
        areas = [Area(r.min_col, r.min_row, r.max_col, r.max_row) for r in each.sqref.ranges]
        for rule in each.rules:
            made = _rules(rule, areas, book, looks, dialect)
            if not made:
                leavings.add(_WHAT, f"{sheet}!{areas[0].text}")
            found += [(rule.priority or 0, one) for one in made]
    in_order = [rule for _, rule in sorted(found, key=itemgetter(0))]
    return bounded_rules(in_order, leavings, sheet)


def _rules(
    rule: Any, areas: list[Area], book: Any, looks: Looks, dialect: OpenXmlDialect
) -> list[Rule]:
    styles = book._differential_styles.styles
    style = styles[rule.dxfId] if rule.dxfId is not None and rule.dxfId < len(styles) else None
    fill = getattr(style, "fill", None)
    colour = fill and (looks.colour(fill.bgColor) or looks.colour(fill.fgColor))
    font = getattr(style, "font", None)
    tone = tone_of_ground(colour or looks.colour(getattr(font, "color", None)))
    first = Area(min(area.left for area in areas), min(area.top for area in areas), 1, 1).first
    text = rule.formula[0] if rule.formula else ""
    if rule.type == "cellIs" and rule.operator in _COMPARED:
        text = f"{first.text}{_COMPARED[rule.operator]}{text}"
    elif rule.type == "cellIs" and rule.operator in _BETWEEN and len(rule.formula) == 2:
        low, high = rule.formula
        text = _BETWEEN[rule.operator].format(first.text, low, high)
    elif rule.type != "expression":
        return []
    if tone == "none":
        return []
    try:
        shape = read_formula(dialect, text, first)
    except DreieckError:
        return []
    return [Rule(area, shape, tone) for area in areas]


def written_rule(rule: Rule, writer: FormulaWriter) -> tuple[str, Any]:
    """The area of a rule, and the rule for the library to write."""
    first = rule.area.first
    text = writer.text(rule.shape, first)
    ground = PatternFill("solid", bgColor=WASHES[rule.tone], fgColor=WASHES[rule.tone])
    made = FormulaRule(formula=[text], fill=ground, font=Font(color=TONES[rule.tone]))
    return f"{first.text}:{rule.area.last.text}", made
