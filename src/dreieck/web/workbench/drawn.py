"""What pages drew last, so that only what differs from that is sent.

Of cells and charts in view those that differ are sent, of the rest of the picture and of the
fragments around it those parts that do.
"""

from __future__ import annotations

from collections import OrderedDict
from itertools import count
from threading import Lock
from typing import Annotated, Any, NamedTuple

from fastapi import Depends, Request

from dreieck.web.workbench.charts_shown import ChartDrawn
from dreieck.web.workbench.scene import CellShown, Scene

_MAX_PICTURES = 256
_TOLD_ALWAYS = {
    "picture", "since", "gone", "revision", "began", "unfinished", "refused", "moved", "insists",
    "heard", "state", "cells", "charts",
}  # fmt: skip
PART = "<!--part-->"
"""Stands between two parts of an answer."""


class _Picture(NamedTuple):
    place: tuple[int, int]
    """The number of the workbook and of the sheet."""
    cells: dict[tuple[int, int], CellShown]
    charts: dict[int, ChartDrawn]
    told: dict[str, Any]
    """The rest of the scene."""
    parts: tuple[int, ...]
    """The fragments, as hashes."""


class Drawn:
    """The last pictures, by number; a page whose picture is forgotten gets all of it."""

    def __init__(self) -> None:
        self._pictures: OrderedDict[int, _Picture] = OrderedDict()
        self._numbers = count(1)
        self._lock = Lock()

    def since(
        self, number: int, place: tuple[int, int], scene: Scene, asked: dict[str, Any]
    ) -> dict[str, Any]:
        """The scene as it is sent: what differs from the picture with this number.

        ``asked`` is the state that the page told of itself; of the new one only what differs from
        it is sent, too.
        """
        cells = {(each.column, each.row): each for each in scene.cells}
        told = scene.model_dump(mode="json", exclude={"cells", "charts"})
        with self._lock:
            known = self._pictures.get(number)
            new = next(self._numbers)
            before = known.charts if known and known.place == place else {}
            # In a hurry it is not worked out what a chart shows: the page keeps what it has.
            charts = {each.number: each.drawn or before.get(each.number) for each in scene.charts}
            shown = {number: drawn for number, drawn in charts.items() if drawn}
            plain = {name: value for name, value in told.items() if name not in _TOLD_ALWAYS}
            self._pictures[new] = _Picture(place, cells, shown, plain, ())
            if len(self._pictures) > _MAX_PICTURES:
                self._pictures.popitem(last=False)
        told["picture"] = new
        if known is None or known.place != place:
            told["cells"] = [each.model_dump(mode="json") for each in scene.cells]
            told["charts"] = [each.model_dump(mode="json") for each in scene.charts]
            return told
        same = {number for number, drawn in shown.items() if known.charts.get(number) == drawn}
        told["since"] = number
        told["cells"] = [
            each.model_dump(mode="json")
            for at, each in cells.items()
            if known.cells.get(at) != each
        ]
        told["gone"] = [at for at in known.cells if at not in cells]
        told["charts"] = [
            each.model_dump(mode="json", exclude={"drawn"} if each.number in same else None)
            for each in scene.charts
        ]
        told["state"] = _differing(told["state"], asked)
        always = {name: value for name, value in told.items() if name not in plain}
        return always | _differing(plain, known.told)

    def parts(self, number: int, new: int, answer: str, *, all_of_it: bool) -> str:
        """The parts of an answer that differ from those around the picture with this number.

        The first part is always sent; ``new`` is the picture that they are drawn around.
        """
        parts = answer.split(PART)
        hashes = tuple(hash(part) for part in parts)
        with self._lock:
            known = self._pictures.get(number)
            if new in self._pictures:
                self._pictures[new] = self._pictures[new]._replace(parts=hashes)
        if all_of_it or known is None or len(known.parts) != len(parts):
            return "".join(parts)
        return parts[0] + "".join(
            part
            for part, now, before in zip(parts[1:], hashes[1:], known.parts[1:], strict=True)
            if now != before
        )


def _differing(now: dict[str, Any], before: dict[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in now.items() if before.get(name, ...) != value}


def _drawn(request: Request) -> Drawn:
    drawn: Drawn = request.app.state.drawn
    return drawn


TheDrawn = Annotated[Drawn, Depends(_drawn)]
