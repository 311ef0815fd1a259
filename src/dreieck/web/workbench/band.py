"""The band of looks above the grid: how the active cell looks, and what can be chosen."""

from __future__ import annotations

from dataclasses import dataclass
from typing import get_args

from dreieck.core.calculate import look_at
from dreieck.core.values.currencies import USUAL
from dreieck.core.values.formats import currency_form, currency_of
from dreieck.core.values.look import Look
from dreieck.core.values.style import Across, Size, Tone
from dreieck.web.workbench.situation import Situation

FORMS = {
    "general": "general",
    "number": "decimals 12.50",
    "grouped": "thousands 1,250",
    "percent": "percent 13%",
    "scientific": "scientific 1.25E+3",
    "date": "date 2026-03-01",
    "time": "time 9:30",
    "datetime": "date and time",
    "duration": "duration 42:05:00",
    "text": "text",
}
TONES: dict[str, str] = {tone: tone for tone in get_args(Tone)}
EDGES = {
    "": "lines",
    "around thin": "thin around",
    "around thick": "thick around",
    "around double": "double around",
    "between thin": "thin between",
    "above thin": "thin above",
    "below thin": "thin below",
    "below thick": "thick below",
    "below double": "double below",
    "none none": "no lines",
}


@dataclass(frozen=True)
class Band:
    """How the active cell looks; each choice as its value and what it is called."""

    look: Look
    forms: dict[str, str]
    sizes: dict[str, str]
    across: dict[str, str]
    upright: dict[str, str]
    inks: dict[str, str]
    grounds: dict[str, str]
    edges: dict[str, str]
    taken: str


def band(situation: Situation) -> Band:
    """The band for the selection of a page."""
    sheet, cell = situation.sheet, situation.active
    look = look_at(sheet, cell)
    codes = dict.fromkeys((*USUAL, *filter(None, [currency_of(look.form)])))
    return Band(
        look,
        FORMS | {currency_form(code): f"currency {code}" for code in codes},
        _named(Size, "size"),
        _named(Across, "place") | {"spanning": "over the next cells"},
        {"middle": "height", "top": "top", "bottom": "bottom"},
        TONES | {"none": "text tone"},
        TONES | {"none": "ground"},
        EDGES,
        situation.state.look_taken.partition(" ")[2],
    )


def _named(choices: object, usual: str) -> dict[str, str]:
    values: tuple[str, ...] = get_args(choices)
    return {value: usual if value in ("usual", "none") else value for value in values}
