"""Looks as files tell them, and back: letters in points, tones as colours, formats as codes.

A file cannot tell all that a look is: a heading is bold there as a bold cell is. A look that
would not come back from its appearance is therefore told by name besides; the name counts as
long as nobody changed the appearance.
"""

from __future__ import annotations

import colorsys
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import get_args

from dreieck.core.exceptions import DreieckError
from dreieck.core.values.formats import TYPED_TEXT, format_named
from dreieck.core.values.look import MAX_DECIMALS, PLAIN, Look, Role
from dreieck.core.values.look_words import look_of, look_text
from dreieck.core.values.style import PLAIN_STYLE, Across, Edges, Line, Size, Style, Tone, Upright
from dreieck.files.number_codes import GENERAL, code_of, format_of

FONT = "IBM Plex Sans"
USUAL_POINTS = 10.0
_POINTS: dict[Size, float] = {"small": 8, "usual": USUAL_POINTS, "large": 12.5, "huge": 16}
TONES: dict[Tone, str] = {
    "gentian": "3d3a94",
    "larch": "b9621b",
    "lake": "167a86",
    "rose": "a83267",
    "moss": "5f6f12",
    "plum": "6d3f91",
    "slate": "4c5d75",
    "sound": "2d7a5f",
    "doubt": "9a6a00",
    "broken": "ad2f2f",
}
"""The colours of tones as ink."""
_PREFIX = "Dreieck "
_INPUT, _RESULT = "fcf7e9", "edecf6"


def _washed(colour: str, share: float = 0.15) -> str:
    """A colour laid thinly on white."""
    parts = (int(colour[at : at + 2], 16) for at in (0, 2, 4))
    return "".join(f"{round(255 - (255 - part) * share):02x}" for part in parts)


WASHES: dict[Tone, str] = {tone: _washed(colour) for tone, colour in TONES.items()}
"""The colours of tones as ground."""
_TONE_OF_INK = {colour: tone for tone, colour in TONES.items()}
_TONE_OF_WASH = {colour: tone for tone, colour in WASHES.items()}


NO_EDGES = Edges()


@dataclass(frozen=True, slots=True)
class Appearance:
    """How a cell appears in a file.

    ``code`` is its number format, ``quoted`` whether it is text on purpose; ``ink`` and
    ``ground`` are colours as six hexadecimal digits, None for the usual ones.
    """

    code: str = GENERAL
    quoted: bool = False
    bold: bool = False
    italic: bool = False
    points: float = USUAL_POINTS
    ink: str | None = None
    ground: str | None = None
    across: Across = "usual"
    upright: Upright = "middle"
    wrap: bool = False
    edges: Edges = NO_EDGES


@lru_cache(4096)
def appearance_of(look: Look, *, quoted: bool | None = None) -> Appearance:
    """How a look appears; ``quoted`` tells whether text is one on purpose, if that is known."""
    style = look.style
    roles: dict[Role, dict[str, object]] = {
        "plain": {},
        "title": {"bold": True, "points": 12.5 if style.size == "usual" else _POINTS[style.size]},
        "heading": {"bold": True},
        "input": {"ground": _INPUT},
        "result": {"bold": True, "ground": _RESULT},
    }
    own: dict[str, object] = {
        "bold": style.bold,
        "points": _POINTS[style.size],
        "ground": WASHES.get(style.ground),
    }
    role = roles[look.role]
    shown = {name: value or role.get(name) for name, value in own.items()} | (
        {"points": role["points"]} if "points" in role else {}
    )
    return Appearance(
        code=code_of(look.form, look.decimals),
        quoted=look.form == TYPED_TEXT if quoted is None else quoted,
        bold=bool(shown["bold"]),
        italic=style.italic,
        points=float(shown["points"]),  # type: ignore[arg-type]
        ink=TONES.get(style.ink),
        ground=shown["ground"],  # type: ignore[arg-type]
        across=style.across,
        upright=style.upright,
        wrap=style.wrap,
        edges=style.edges,
    )


def look_from(
    seen: Appearance,
    name: str = "",
    usual: float = USUAL_POINTS,
    told: Callable[[Appearance], Appearance] = lambda seen: seen,
) -> Look:
    """The look that appears so, in a file whose usual letters have so many points.

    ``told`` is what the format can tell of an appearance.
    """
    named = _named(name)
    if named and told(appearance_of(named, quoted=seen.quoted)) == seen:
        return named
    return _look_from(seen, usual)


def told_name(look: Look, seen: Appearance) -> str:
    """The name under which a look is told; empty where its appearance tells it all."""
    if _look_from(seen, USUAL_POINTS) == look:
        return ""
    return _PREFIX + (look_text(look) or "plain")


@lru_cache(1024)
def _named(name: str) -> Look | None:
    """The look of a name that ``told_name`` gave, distrusted."""
    if not name.startswith(_PREFIX):
        return None
    text = name.removeprefix(_PREFIX)
    if text == "plain":
        return PLAIN
    try:
        return checked(look_of(text))
    except (ValueError, TypeError, KeyError, DreieckError):
        return None


def checked(look: Look) -> Look:
    """A look that was told by a file, if it can be. Raises ValueError or KeyError."""
    format_named(look.form)
    style = look.style
    known = (
        (look.role, Role), (style.size, Size), (style.across, Across), (style.upright, Upright),
        (style.ink, Tone), (style.ground, Tone), *((edge, Line) for edge in _sides(style.edges)),
    )  # fmt: skip
    for value, allowed in known:
        if value not in get_args(allowed):
            raise ValueError(value)
    if any(not isinstance(value, bool) for value in (style.bold, style.italic, style.wrap)):
        raise ValueError("on or off")
    if look.decimals is not None and not 0 <= look.decimals <= MAX_DECIMALS:
        raise ValueError(look.decimals)
    return look


def _sides(edges: Edges) -> tuple[Line, ...]:
    return (edges.left, edges.top, edges.right, edges.bottom)


@lru_cache(4096)
def _look_from(seen: Appearance, usual: float) -> Look:
    form, decimals = format_of(seen.code)
    if seen.quoted and form == "general":
        form = TYPED_TEXT
    if decimals is not None:
        decimals = min(decimals, MAX_DECIMALS)
    style = Style(
        bold=seen.bold,
        italic=seen.italic,
        size=_size(seen.points / usual),
        across=seen.across,
        upright=seen.upright,
        wrap=seen.wrap,
        ink=tone_of(seen.ink, _TONE_OF_INK),
        ground="none" if seen.ground == _INPUT else tone_of(seen.ground, _TONE_OF_WASH),
        edges=seen.edges,
    )
    role: Role = "plain"
    if seen.ground == _INPUT:
        role = "input"
    elif seen.ground == _RESULT and seen.bold:
        role, style = "result", replace(style, bold=False, ground="none")
    return Look(form, decimals, role, PLAIN_STYLE if style == PLAIN_STYLE else style)


def spanning(look: Look) -> Look:
    """The look of a text in the middle of a merged row: it stands over the cells that follow."""
    if look.style.across != "middle":
        return look
    return replace(look, style=replace(look.style, across="spanning"))


def _size(share: float) -> Size:
    if share < 0.87:
        return "small"
    if share < 1.15:
        return "usual"
    return "large" if share < 1.45 else "huge"


def tone_of_ground(colour: str | None) -> Tone:
    """The tone that comes closest to a colour behind text."""
    return tone_of(colour, _TONE_OF_WASH)


def tone_of(colour: str | None, known: dict[str, Tone]) -> Tone:
    """The tone that comes closest to a colour; the usual black and white have none."""
    if colour is None:
        return "none"
    colour = colour.lower()
    if colour in known:
        return known[colour]
    red, green, blue = (int(colour[at : at + 2], 16) / 255 for at in (0, 2, 4))
    hue, light, strength = colorsys.rgb_to_hls(red, green, blue)
    if light < 0.12 or light > 0.985:
        return "none"
    if strength < 0.12 or max(red, green, blue) - min(red, green, blue) < 0.06:
        return "slate"
    return min(_HUES, key=lambda tone: min(abs(_HUES[tone] - hue), 1 - abs(_HUES[tone] - hue)))


_HUES: dict[Tone, float] = {
    "broken": 0.0, "larch": 0.075, "doubt": 0.13, "moss": 0.2, "sound": 0.38, "lake": 0.52,
    "gentian": 0.66, "plum": 0.76, "rose": 0.92,
}  # fmt: skip
