"""Tones by condition, which cell styles tell by maps (part 3, 16.3), read and written."""

from __future__ import annotations

import re

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.layout import Rule
from dreieck.core.sheet.sheet import Sheet
from dreieck.files.appearance import tone_of_ground
from dreieck.files.arrived import Leavings
from dreieck.files.building import bounded_rules
from dreieck.files.formulas import FormulaWriter, OpenFormulaDialect
from dreieck.files.formulas.dialect import read_formula
from dreieck.files.open_document.styles import Looks, Map, Styles

_FORMULA = re.compile(r"is-true-formula\((?:[\w.-]+:=?|=)?(.*)\)", re.DOTALL)
_COMPARED = re.compile(r"cell-content\(\)\s*(<=|>=|!=|<>|=|<|>)\s*(.*)", re.DOTALL)
_BETWEEN = re.compile(r"cell-content-is-(not-)?between\((.*),(.*)\)", re.DOTALL)


class RuleReader:
    """Gathers for which cells of a sheet which conditions are told."""

    def __init__(
        self, sheet: Sheet, looks: Looks, dialect: OpenFormulaDialect, leavings: Leavings
    ) -> None:
        self._sheet = sheet
        self._looks = looks
        self._dialect = dialect
        self._leavings = leavings
        self._areas: dict[Map, list[Area]] = {}

    def add(self, maps: tuple[Map, ...], area: Area) -> None:
        """Some cells take other styles where conditions hold."""
        for each in maps:
            areas = self._areas.setdefault(each, [])
            before = areas[-1] if areas else None
            # Rows that follow each other are one area.
            if before and before._replace(top=before.bottom + 1, bottom=area.bottom) == area:
                areas[-1] = before._replace(bottom=area.bottom)
            else:
                areas.append(area)

    def made(self) -> tuple[Rule, ...]:
        """The rules of the sheet, in the order of the styles that they apply."""
        found: list[Rule] = []
        for each in sorted(self._areas, key=lambda found: _number(found.applies)):
            shape = self._shape(each)
            tone = tone_of_ground(self._looks.ground(each.applies))
            if shape is None or tone == "none":
                where = f"{self._sheet.name}!{self._areas[each][0].text}"
                self._leavings.add("colouring by condition", where)
                continue
            found += [Rule(area, shape, tone) for area in joined(self._areas[each])]
        return bounded_rules(found, self._leavings, self._sheet.name)

    def _shape(self, told: Map) -> Shape | None:
        """The condition of a map as a formula."""
        base = self._base(told)
        own = f"[.{base.text}]"
        text: str | None = None
        if match := _FORMULA.fullmatch(told.condition):
            text = match[1]
        elif match := _COMPARED.fullmatch(told.condition):
            text = f"{own}{match[1].replace('!=', '<>')}{match[2]}"
        elif match := _BETWEEN.fullmatch(told.condition):
            text = f"AND({own}>={match[2]};{own}<={match[3]})"
            text = f"NOT({text})" if match[1] else text
        try:
            return None if text is None else read_formula(self._dialect, text, base)
        except DreieckError:
            return None

    def _base(self, told: Map) -> Cell:
        try:
            return Cell.parse(told.base.rpartition(".")[2].replace("$", ""))
        except DreieckError:
            return self._areas[told][0].first


def _number(name: str) -> tuple[int, str]:
    match = re.fullmatch(r"Rule(\d{1,9})", name)
    return (int(match[1]) if match else 10**9, name)


def told_rules(sheet: Sheet, styles: Styles, writer: FormulaWriter) -> list[tuple[Area, str, Map]]:
    """The rules of a sheet as maps: where they hold, and under which name."""
    found: list[tuple[Area, str, Map]] = []
    for rule in sheet.layout.rules:
        first = rule.area.first
        name = styles.rule(rule)
        condition = f"is-true-formula({writer.text(rule.shape, first)})"
        quoted = "'" + sheet.name.replace("'", "''") + "'"
        found.append((rule.area, name, Map(condition, f"{quoted}.{first.text}", name)))
    return found
