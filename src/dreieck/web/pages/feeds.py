"""The page of feeds: outside figures, refreshed with before and after, fixed as inputs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from fastapi import APIRouter, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.calculate import text_at
from dreieck.core.calculate.read_map import touched_areas
from dreieck.core.editing.feeding import fixed, refreshed, used_codes, users
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.grid import Area
from dreieck.core.sheet.edits import SetFeed
from dreieck.core.sheet.feed import Feed
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Place, number_text
from dreieck.core.words.counting import many
from dreieck.store import OpenWorkbook, StoreError
from dreieck.web.answers import TheForm, TheWorkbook, page, whole_number
from dreieck.web.sources import asked
from dreieck.web.sweep_picture import Lines, line_over
from dreieck.web.turns import in_time
from dreieck.web.workbench.feeds_shown import FeedShown, feed_shown, moment

router = APIRouter(include_in_schema=False)

_LISTED = 12
_CHANGED = 40
_ROOM = 14


@dataclass(frozen=True)
class FeedCard:
    """A feed on the page: what is known, who uses it, and what it was before."""

    shown: FeedShown
    users: list[tuple[int, str, str]]
    """The number of a sheet, a cell on it, and the formulas that begin there as text."""
    readings: list[tuple[str, str, str]]
    line: Lines | None


@dataclass(frozen=True)
class Changed:
    """What a refresh changed: a figure, or a cell that uses it."""

    what: str
    before: str
    after: str
    problem: str


@router.get("/workbooks/{workbook_id}/feeds")
def feeds(request: Request, opened: TheWorkbook, told: str = "") -> Response:
    """The page of feeds; nobody is asked by that."""
    with opened.lock:
        notice = "The feed is an input now." if told == "fixed" else ""
        return in_time(lambda: _page(request, opened, notice=notice))


@router.post("/workbooks/{workbook_id}/feeds/refresh")
def refresh(request: Request, opened: TheWorkbook) -> Response:
    """Ask the sources for all figures, and take in what they tell."""
    with opened.lock:
        codes = used_codes(opened.workbook)
    # Others go on working meanwhile.
    answers = asked(request.app.state.sources, codes)
    with opened.lock:
        edits = refreshed(opened.workbook, codes, answers)
        try:
            changes = _changes(opened, edits)
            if edits:
                opened.change("refreshing feeds", list(edits), opened.revision)
        except (DreieckError, StoreError) as refusal:
            problem = str(refusal)
            return in_time(lambda: _page(request, opened, problem=problem))
        failing = [answer for answer in answers.values() if isinstance(answer, str)]
        notice = _notice(len(answers), len(failing), changed=bool(edits))
        return in_time(lambda: _page(request, opened, changes=changes, notice=notice))


@router.post("/workbooks/{workbook_id}/feeds/fix")
def fix(request: Request, opened: TheWorkbook, form: TheForm) -> Response:
    """Let the last figure of a feed be an input from now on."""
    key = str(form.get("key", ""))[:200]
    with opened.lock:
        try:
            edits = fixed(opened.workbook, key)
            opened.change(f"fixing the feed {key}", edits, whole_number(form, "revision"))
        except (DreieckError, StoreError) as refusal:
            problem = str(refusal)
            return in_time(lambda: _page(request, opened, problem=problem))
    return RedirectResponse(f"/workbooks/{opened.id}/feeds?told=fixed", 303)


def _notice(asked: int, failing: int, *, changed: bool) -> str:
    if not asked:
        return "No formula uses a feed, so nobody was asked."
    told = f"{many(asked, 'figure')} asked for"
    if failing:
        told += f"; {failing} could not be told, and the last ones that are known stay"
    same = "" if changed else "; nothing has changed"
    return f"{told}{same}." + (" On the workbench Ctrl+Z takes it back." if changed else "")


def _changes(opened: OpenWorkbook, edits: list[SetFeed]) -> list[Changed]:
    """Each figure before and after, and the cells that use it."""
    if not edits:
        return []
    found = []
    after = opened.calculation.with_edits(edits)
    for edit in edits:
        before = opened.workbook.feeds.get(edit.key)
        assert edit.feed
        found.append(Changed(edit.feed.code, _value(before), _value(edit.feed), edit.feed.problem))
        using = users(opened.workbook, edit.key)[:_LISTED]
        for sheet, area in dict.fromkeys([*using, *_depending(opened, using)]):
            one = text_at(opened.calculation, sheet, area.first, _ROOM) or "empty"
            other = text_at(after, sheet, area.first, _ROOM) or "empty"
            if one != other and len(found) < _CHANGED:
                place = place_text(Place(sheet.name, area.first))
                found.append(Changed(place, one, other, ""))
    return found


def _depending(
    opened: OpenWorkbook, using: list[tuple[Sheet, Area]]
) -> Iterator[tuple[Sheet, Area]]:
    """The formulas that depend on others, by areas."""
    read_map = opened.calculation.read_map()
    for home, area in using:
        for name, touched in touched_areas(read_map, home.name, [area]):
            yield opened.workbook.sheet(name), touched


def _value(feed: Feed | None) -> str:
    return number_text(feed.last.value) if feed and feed.last else "–"


def _page(
    request: Request,
    opened: OpenWorkbook,
    *,
    notice: str = "",
    problem: str = "",
    changes: list[Changed] | None = None,
) -> Response:
    workbook = opened.workbook
    cards = [_card(opened, workbook.feed(code)) for code in used_codes(workbook).values()]
    return page(
        request, "feeds.html", opened=opened, cards=cards, notice=notice, problem=problem,
        changes=changes or [], sources=request.app.state.sources,
    )  # fmt: skip


def _card(opened: OpenWorkbook, feed: Feed) -> FeedCard:
    readings = [(moment(each.at), number_text(each.value), each.source) for each in feed.readings]
    values = [each.value for each in feed.readings]
    line = line_over(feed.code, [each[0][:10] for each in readings], values)
    return FeedCard(
        feed_shown(feed),
        [
            (sheet.id, area.first.text, area_text(area, sheet.name))
            for sheet, area in users(opened.workbook, feed.key)[:_LISTED]
        ],
        readings[::-1][:_LISTED],
        line if len(values) > 1 else None,
    )
