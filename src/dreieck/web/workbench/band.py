"""The band of looks above the grid: how the active cell looks, and what can be chosen."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import get_args

from markupsafe import Markup

from dreieck.core.calculate import look_at
from dreieck.core.values.currencies import USUAL
from dreieck.core.values.formats import currency_form, currency_of
from dreieck.core.values.look import Look
from dreieck.core.values.style import Across, Size, Tone
from dreieck.web.answers import fragment
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
_MOST_LOOKS = 512
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


def band(situation: Situation) -> Markup:
    """The band for the selection of a page, as it is drawn."""
    look = look_at(situation.sheet, situation.active)
    return _drawn(look, situation.state.look_taken.partition(" ")[2])


@lru_cache(_MOST_LOOKS)
def _drawn(look: Look, taken: str) -> Markup:
    """The band of a look, drawn once: most cells of a sheet look alike."""
    return Markup(fragment("band.html", band=_band(look, taken)))


def _band(look: Look, taken: str) -> Band:
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
        taken,
    )


def _named(choices: object, usual: str) -> dict[str, str]:
    values: tuple[str, ...] = get_args(choices)
    return {value: usual if value in ("usual", "none") else value for value in values}
