"""The reads map: which blocks and inputs feed which, from inputs at the left to results."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter, Request
from starlette.responses import Response

from dreieck.core.budget import current
from dreieck.core.calculate import text_at
from dreieck.core.checking.feeding_map import FeedingMap, Knot, feeding_map
from dreieck.core.words.counting import addresses
from dreieck.core.words.headings import heading_of
from dreieck.core.words.held import held_said
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page
from dreieck.web.navigation import Entry
from dreieck.web.turns import in_time

router = APIRouter(include_in_schema=False)
ENTRY = Entry(3, "reads", "Reads map", "/workbooks/{workbook}/reads")

WIDTH, HEIGHT = 196, 50
_ACROSS, _DOWN = 246, 62
_EDGE = 12
_ROOM = 26
_SWEEPS = 4
SAID = {
    "input": "typed here", "unread": "nobody reads it", "block": "", "result": "read by no other",
    "loop": "reads itself round and round",
}  # fmt: skip


@dataclass(frozen=True)
class Box:
    """A knot as it is drawn, and where it leads."""

    number: int
    sort: str
    x: float
    y: float
    place: str
    called: str
    shows: str
    says: str
    leads_to: str
    reads_itself: bool


@dataclass(frozen=True)
class Tie:
    """A line from one box to another that reads it."""

    start: int
    end: int
    path: str


@router.get("/workbooks/{workbook_id}/reads")
def reads_map(request: Request, opened: TheWorkbook) -> Response:
    """The page of the map."""
    with opened.lock:
        return in_time(lambda: _page(request, opened))


def _page(request: Request, opened: OpenWorkbook) -> Response:
    found = feeding_map(opened.calculation)
    places = _places(found)
    boxes = [_box(opened, n, knot, *places[n]) for n, knot in enumerate(found.knots)]
    ties = [
        Tie(number, fed, _path(places[number], places[fed]))
        for number, knot in enumerate(found.knots)
        for fed in knot.feeds
    ]
    across = max((x for x, _ in places), default=0) + WIDTH + _EDGE
    down = max((y for _, y in places), default=0) + HEIGHT + _EDGE
    counts = {sort: sum(each.sort == sort for each in boxes) for sort in SAID}
    return page(
        request, "reads.html", opened=opened, boxes=boxes, ties=ties, width=across, height=down,
        box_width=WIDTH, box_height=HEIGHT, counts=counts, is_cut=found.is_cut,
        hurried=current().hurried,
    )  # fmt: skip


def _places(found: FeedingMap) -> list[tuple[float, float]]:
    """Where each knot stands: by its layer, and near to what it reads and feeds."""
    knots = found.knots
    layers: dict[int, list[int]] = {}
    for number, knot in enumerate(knots):
        layers.setdefault(knot.layer, []).append(number)
    before: dict[int, list[int]] = {}
    for number, knot in enumerate(knots):
        for fed in knot.feeds:
            before.setdefault(fed, []).append(number)
    # What nobody reads stands below the others.
    rank = {n: float(i + 1000 * (knots[n].sort == "unread"))
            for layer in layers.values() for i, n in enumerate(layer)}  # fmt: skip
    for sweep in range(_SWEEPS):
        forth = sweep % 2 == 0
        for layer in sorted(layers, reverse=not forth):

            def near(number: int, forth: bool = forth) -> float:
                others = before.get(number, []) if forth else list(knots[number].feeds)
                told = [rank[other] for other in others]
                return sum(told) / len(told) if told else rank[number]

            order = sorted(layers[layer], key=lambda n: (knots[n].sort == "unread", near(n)))
            rank.update({n: float(i) for i, n in enumerate(order)})
            layers[layer] = order
    most = max((len(each) for each in layers.values()), default=0)
    places = [(0.0, 0.0)] * len(knots)
    for layer, numbers in layers.items():
        # A short column stands beside the middle of a long one, but not far down.
        begin = min((most - len(numbers)) * _DOWN / 2, 120.0)
        for index, number in enumerate(numbers):
            places[number] = (_EDGE + layer * _ACROSS, _EDGE + begin + index * _DOWN)
    return places


def _path(start: tuple[float, float], end: tuple[float, float]) -> str:
    """A line from the right edge of one box to the left edge of another."""
    x1, y1 = start[0] + WIDTH, start[1] + HEIGHT / 2
    x2, y2 = end[0], end[1] + HEIGHT / 2
    bend = max((x2 - x1) / 2, 36)
    return f"M{x1:g} {y1:g}C{x1 + bend:g} {y1:g} {x2 - bend:g} {y2:g} {x2:g} {y2:g}"


def _box(opened: OpenWorkbook, number: int, knot: Knot, x: float, y: float) -> Box:
    sheet, around = opened.workbook.sheet(knot.sheet), knot.area
    called = heading_of(sheet, around) or ""
    if knot.shape:
        shows = opened.workbook.typed(knot.shape, knot.start)
    elif around.size == 1:
        shows = text_at(opened.calculation, sheet, around.first, _ROOM)
    else:
        shows = held_said(opened.calculation, sheet.name, around)
    place = f"{knot.sheet}!{addresses(list(knot.areas))}"
    tells = [place, called, shows, SAID[knot.sort]]
    return Box(
        number, knot.sort, x, y, _cut(place, 24), _cut(called, 30), _cut(shows, 28),
        ", ".join(each for each in tells if each),
        f"/workbooks/{opened.id}/sheets/{sheet.id}?at={around.text}", knot.reads_itself,
    )  # fmt: skip


def _cut(text: str, room: int) -> str:
    return text if len(text) <= room else text[: room - 1] + "…"
