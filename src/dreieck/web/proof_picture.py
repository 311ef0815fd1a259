"""The small picture of a proof: what adds up, what lies where, what differs."""

from __future__ import annotations

from dataclasses import dataclass, field

from dreieck.core.checking.proofs.verdict import Picture

WIDTH, HEIGHT = 260.0, 56.0
_EDGE = 6.0
_TILE = 12.0
_ROWS = 4


@dataclass(frozen=True)
class Bar:
    """A rectangle."""

    x: float
    y: float
    width: float
    height: float
    kind: str


@dataclass(frozen=True)
class Dot:
    """A point."""

    x: float
    y: float
    kind: str


@dataclass
class Drawing:
    """What is drawn: bars, lines through points, dots."""

    bars: list[Bar] = field(default_factory=list)
    lines: list[tuple[str, str]] = field(default_factory=list)
    """The points of each line, and what it is."""
    dots: list[Dot] = field(default_factory=list)


def drawing(picture: Picture) -> Drawing:
    """The drawing of a picture."""
    if picture.kind == "sum":
        return _sum(picture)
    if picture.kind == "tiles":
        return _tiles(picture)
    if picture.kind == "pairs" and len(picture.numbers) == 1:
        return _two(picture)
    return _line(picture)


def _sum(picture: Picture) -> Drawing:
    """Parts side by side, and a mark where they should end."""
    numbers = [each for each in picture.numbers if each]
    most = max(sum(numbers), picture.wanted) or 1.0
    scale = (WIDTH - 2 * _EDGE) / most
    made, x = Drawing(), _EDGE
    for index, number in enumerate(numbers):
        width = number * scale
        made.bars.append(_bar(x, 16, width, 24, "part" if index % 2 else "part other"))
        x += width
    goal = _EDGE + picture.wanted * scale
    over = x - goal
    if abs(over) > 0.5:
        made.bars.append(_bar(min(x, goal), 16, abs(over), 24, "over" if over > 0 else "missing"))
    made.lines.append((f"{goal:.1f},8 {goal:.1f},48", "goal"))
    return made


def _two(picture: Picture) -> Drawing:
    """Two numbers, one above the other."""
    one, other = picture.numbers[0], picture.others[0]
    made = Drawing()
    if one is None or other is None:
        return made
    scale = (WIDTH - 2 * _EDGE) / (max(abs(one), abs(other)) or 1.0)
    kind = "part wrong" if any(picture.wrong) else "part"
    made.bars.append(_bar(_EDGE, 10, abs(one) * scale, 14, kind))
    made.bars.append(_bar(_EDGE, 32, abs(other) * scale, 14, "part other"))
    return made


def _tiles(picture: Picture) -> Drawing:
    """A tile for each cell; those to blame stand out, empty ones are hollow."""
    made = Drawing()
    columns = int((WIDTH - 2 * _EDGE) // _TILE)
    for index, number in enumerate(picture.numbers[: columns * _ROWS]):
        row, column = divmod(index, columns)
        wrong = index < len(picture.wrong) and picture.wrong[index]
        kind = "spot wrong" if wrong else "spot" if number is not None else "spot empty"
        made.bars.append(_bar(_EDGE + column * _TILE, 5 + row * _TILE, _TILE - 3, _TILE - 3, kind))
    return made


def _line(picture: Picture) -> Drawing:
    """Numbers in their order, what they are held against, and what they must lie between."""
    series = [picture.numbers, *([picture.others] if picture.kind == "pairs" else [])]
    known = [each for numbers in series for each in numbers if each is not None]
    if picture.kind == "band":
        known += [picture.low, picture.high]
    made = Drawing()
    if not known:
        return made
    low, high = min(known), max(known)
    room = HEIGHT - 2 * _EDGE
    scale = room / (high - low) if high > low else 0.0

    def y(number: float) -> float:
        return HEIGHT - _EDGE - (number - low) * scale if scale else HEIGHT / 2

    step = (WIDTH - 2 * _EDGE) / max(len(picture.numbers) - 1, 1)
    if picture.kind == "band":
        top, bottom = y(picture.high), y(picture.low)
        made.bars.append(_bar(0, top, WIDTH, max(bottom - top, 1), "band"))
    for number, numbers in enumerate(series):
        points = [
            f"{_EDGE + index * step:.1f},{y(each):.1f}"
            for index, each in enumerate(numbers)
            if each is not None
        ]
        if picture.kind != "band":
            made.lines.append((" ".join(points), "held" if number else "found"))
    for index, each in enumerate(picture.numbers):
        wrong = index < len(picture.wrong) and picture.wrong[index]
        if each is not None and (wrong or len(picture.numbers) <= 60):
            made.dots.append(
                Dot(round(_EDGE + index * step, 1), round(y(each), 1), "wrong" if wrong else "")
            )
    return made


def _bar(x: float, y: float, width: float, height: float, kind: str) -> Bar:
    return Bar(round(x, 1), round(y, 1), round(max(width, 0.5), 1), round(height, 1), kind)
