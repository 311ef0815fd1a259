"""What pages drew last, so that of cells and charts in view only those that differ are sent."""

from __future__ import annotations

from collections import OrderedDict
from itertools import count
from threading import Lock
from typing import Annotated, NamedTuple

from fastapi import Depends, Request

from dreieck.web.workbench.charts_shown import ChartDrawn
from dreieck.web.workbench.scene import CellShown, Scene

_MAX_PICTURES = 256


class _Picture(NamedTuple):
    place: tuple[int, int]
    """The number of the workbook and of the sheet."""
    cells: dict[tuple[int, int], CellShown]
    charts: dict[int, ChartDrawn]


class Drawn:
    """The last pictures, by number; a page whose picture is forgotten gets all its cells."""

    def __init__(self) -> None:
        self._pictures: OrderedDict[int, _Picture] = OrderedDict()
        self._numbers = count(1)
        self._lock = Lock()

    def since(self, number: int, place: tuple[int, int], scene: Scene) -> Scene:
        """The scene with only those cells that differ from the picture with this number."""
        cells = {(each.column, each.row): each for each in scene.cells}
        with self._lock:
            known = self._pictures.get(number)
            new = next(self._numbers)
            before = known.charts if known and known.place == place else {}
            # In a hurry it is not worked out what a chart shows: the page keeps what it has.
            charts = {each.number: each.drawn or before.get(each.number) for each in scene.charts}
            shown = {number: drawn for number, drawn in charts.items() if drawn}
            self._pictures[new] = _Picture(place, cells, shown)
            if len(self._pictures) > _MAX_PICTURES:
                self._pictures.popitem(last=False)
        if known is None or known.place != place:
            return scene.model_copy(update={"picture": new})
        changed = [each for at, each in cells.items() if known.cells.get(at) != each]
        gone = [at for at in known.cells if at not in cells]
        same = {number for number, drawn in shown.items() if known.charts.get(number) == drawn}
        told = [
            each.model_copy(update={"drawn": None}) if each.number in same else each
            for each in scene.charts
        ]
        update = {
            "picture": new, "since": number, "cells": changed, "gone": gone, "charts": told,
        }  # fmt: skip
        return scene.model_copy(update=update)


def _drawn(request: Request) -> Drawn:
    drawn: Drawn = request.app.state.drawn
    return drawn


TheDrawn = Annotated[Drawn, Depends(_drawn)]
