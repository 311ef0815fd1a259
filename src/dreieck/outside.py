"""A small outside world for the demo: made-up figures by code, and faults on demand."""

from __future__ import annotations

import math
import time
from datetime import UTC, datetime, timedelta
from typing import Any, Literal

from fastapi import FastAPI, HTTPException
from starlette.responses import PlainTextResponse, Response

Manner = Literal["well", "slow", "failing", "nonsense", "stale"]
SLOW = 6.0
"""So many seconds a slow answer takes."""
FIGURES = {
    "fuel": ("Fuel at the valley station, a litre", 1.74, 0.12),
    "crown": ("Crowns for a thaler, both made up", 11.35, 0.6),
    "fair-days": ("Fair days in the week to come", 4.0, 3.0),
}
"""What each figure is, around which number it goes, and how far from it."""


def figure(code: str, now: datetime) -> dict[str, Any]:
    """A figure at a moment: it changes with the day, the same for all who ask."""
    says, middle, swing = FIGURES[code]
    wave = math.sin(now.toordinal() * 0.7 + len(code))
    value = round(middle + swing * wave, 2)
    if code == "fair-days":
        value = float(round(value))
    at = now.replace(hour=6, minute=0, second=0, microsecond=0)
    return {"code": code, "says": says, "value": value, "at": at.isoformat()}


def create_outside() -> FastAPI:
    """The application: each figure at ``/figures/CODE``, and how it behaves."""
    app = FastAPI(title="Outside", docs_url=None, redoc_url=None)
    manners: dict[str, Manner] = {}

    @app.get("/figures")
    def figures() -> list[str]:
        return list(FIGURES)

    @app.get("/figures/{code}", response_model=None)
    def one(code: str) -> Response | dict[str, Any]:
        if code not in FIGURES:
            raise HTTPException(404)
        now = datetime.now(UTC)
        match manners.get(code, "well"):
            case "slow":
                time.sleep(SLOW)
            case "failing":
                raise HTTPException(503)
            case "nonsense":
                return PlainTextResponse("ask the warden")
            case "stale":
                return figure(code, now - timedelta(days=9))
        return figure(code, now)

    @app.post("/manners/{code}/{manner}")
    def behave(code: str, manner: Manner) -> dict[str, str]:
        manners[code] = manner
        return {code: manner}

    return app
