"""What came out of a sweep as pictures: lines, and a toned map."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from dreieck.core.checking.sweeps.asked import Seen, Swept
from dreieck.core.checking.sweeps.running import Outcome
from dreieck.core.values import Place, number_text

WIDTH, HEIGHT = 420.0, 170.0
_LEFT, _BOTTOM, _EDGE = 64.0, 24.0, 12.0
_MOST_LINES = 40
_MOST_POINTS = 1_000
_MOST_TILES = 2_500
_MOST_MAPS = 6
_TEXTS = 260
Tell = Callable[[Place, float], str]
"""Tells a number as it looks in a cell."""


@dataclass(frozen=True)
class Lines:
    """Lines in a frame, with the ends of both axes."""

    label: str
    lines: list[str]
    dots: list[tuple[float, float]]
    ends: tuple[str, str, str, str]
    """The first and last value across, the smallest and largest upwards."""


@dataclass(frozen=True)
class Tile:
    """One run on the map: where, how strong its tone is, and its value."""

    x: float
    y: float
    strength: float
    text: str
    says: str


@dataclass(frozen=True)
class Map:
    """A toned map of two inputs; ``number`` is that of the result."""

    number: int
    tiles: list[Tile]
    rows: list[tuple[float, str]]
    columns: list[tuple[float, str]]
    tile_width: float
    tile_height: float
    width: float
    height: float
    low: str
    high: str


def lines_of(outcome: Outcome, tell: Tell) -> list[Lines]:
    """A picture for each result over the input; of a chain a line for each run over its steps."""
    asked = outcome.asked
    across = asked.inputs[0].values.only_numbers()
    input = asked.inputs[0].place
    in_order = sorted(range(len(across)), key=lambda at: (across[at] is None, across[at] or 0.0))
    found: list[Lines] = []
    first = 0
    for seen in asked.seen:
        last = first + len(seen.places)
        columns = [each.only_numbers() for each in outcome.columns[first:last]]
        first = last
        if len(columns) > 1:
            runs = [list(run) for run in zip(*columns, strict=True)]
            steps = [float(at) for at in range(1, len(columns) + 1)]
            made = _drawn(f"{seen.label}, step by step", steps, runs[:_MOST_LINES])
            found.append(_told(made, steps, columns, lambda number: f"{number:g}", tell, seen))
        else:
            values = [columns[0][at] for at in in_order]
            xs = [across[at] for at in in_order]
            if all(each is None for each in xs):
                xs = [float(at) for at in range(1, len(values) + 1)]
            made = _drawn(seen.label, xs, [values])
            found.append(_told(made, xs, [values], lambda n: tell(input, n), tell, seen))
    return found


def _told(
    made: Lines,
    across: Sequence[float | None],
    lines: Sequence[Sequence[float | None]],
    tell_input: Callable[[float], str],
    tell: Tell,
    seen: Seen,
) -> Lines:
    """The same picture with the ends of its axes as their cells look."""
    xs = [each for each in across if each is not None]
    ys = [each for line in lines for each in line if each is not None]
    if not xs or not ys:
        return made
    place = seen.places[0]
    ends = (tell_input(min(xs)), tell_input(max(xs)), tell(place, min(ys)), tell(place, max(ys)))
    return replace(made, ends=ends)


def _drawn(
    label: str, across: Sequence[float | None], lines: Sequence[Sequence[float | None]]
) -> Lines:
    xs = [each for each in across if each is not None]
    ys = [each for line in lines for each in line if each is not None]
    if not xs or not ys:
        return Lines(label, [], [], ("", "", "", ""))
    low, high = min(ys), max(ys)
    left, right = min(xs), max(xs)

    def x(value: float) -> float:
        share = (value - left) / (right - left) if right > left else 0.5
        return round(_LEFT + share * (WIDTH - _LEFT - _EDGE), 1)

    def y(value: float) -> float:
        share = (value - low) / (high - low) if high > low else 0.5
        return round(HEIGHT - _BOTTOM - share * (HEIGHT - _BOTTOM - _EDGE), 1)

    step = max(len(across) // _MOST_POINTS, 1)
    points = [
        [(x(a), y(v)) for a, v in list(zip(across, line, strict=True))[::step]
         if a is not None and v is not None]
        for line in lines
    ]  # fmt: skip
    texts = [" ".join(f"{a},{b}" for a, b in each) for each in points]
    dots = points[0] if len(points) == 1 and len(points[0]) <= 60 else []
    return Lines(label, texts, dots, ("", "", "", ""))


def line_over(label: str, moments: Sequence[str], values: Sequence[float]) -> Lines:
    """A line of values in their order, with the moments of the first and the last one."""
    across = [float(at) for at in range(len(values))]
    made = _drawn(label, across, [values])
    if not values:
        return made
    ends = (moments[0], moments[-1], number_text(min(values)), number_text(max(values)))
    return replace(made, ends=ends)


def maps_of(outcome: Outcome, tell: Tell) -> list[Map]:
    """A map for each of the first results of a sweep of two inputs."""
    count = min(len(outcome.columns), _MOST_MAPS)
    made = (_map_of(outcome, number, tell) for number in range(count))
    return [each for each in made if each]


def _map_of(outcome: Outcome, number: int, tell: Tell) -> Map | None:
    """The map of a result; None where it has too many tiles."""
    one, two = outcome.asked.inputs
    rows, columns = len(one.values), len(two.values)
    if rows * columns > _MOST_TILES:
        return None
    result = outcome.asked.results[number]
    values = outcome.columns[number].only_numbers()
    known = np.array([each for each in values if each is not None])
    low, high = (float(known.min()), float(known.max())) if len(known) else (0.0, 0.0)
    width = max(min(760.0 / columns, 84.0), 8.0)
    height = max(min(420.0 / rows, 30.0), 8.0)
    texts = rows * columns <= _TEXTS and width >= 44
    tiles = []
    for at, value in enumerate(values):
        row, column = divmod(at, columns)
        share = 0.0 if value is None or high == low else (value - low) / (high - low)
        said = "no number" if value is None else tell(result, value)
        tiles.append(
            Tile(
                round(_LEFT + column * width, 1), round(_BOTTOM + row * height, 1),
                round(0.05 + 0.55 * share, 3), said if texts else "",
                f"{one.label} {_head(one, row, tell)}, {two.label} {_head(two, column, tell)}:"
                f" {said}",
            )
        )  # fmt: skip
    every = max(1, round(14 / height)), max(1, round(40 / width))
    return Map(
        number, tiles,
        [(round(_BOTTOM + (at + 0.5) * height + 4, 1), _head(one, at, tell))
         for at in range(0, rows, every[0])],
        [(round(_LEFT + (at + 0.5) * width, 1), _head(two, at, tell))
         for at in range(0, columns, every[1])],
        width, height, _LEFT + columns * width + 4, _BOTTOM + rows * height + 4,
        tell(result, low), tell(result, high),
    )  # fmt: skip


def _head(swept: Swept, index: int, tell: Tell) -> str:
    value = swept.values.value(index)
    return tell(swept.place, value) if isinstance(value, float) else str(value)
