"""The application, put together."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import PlainTextResponse
from starlette.staticfiles import StaticFiles

from dreieck import demo
from dreieck.store import Database, Library
from dreieck.web import (
    api,
    errors,
    guide,
    home,
    lift,
    log,
    map,
    names,
    news,
    selection,
    ways,
    workbench,
)
from dreieck.web.drawn import Drawn
from dreieck.web.security import Guard
from dreieck.web.settings import Settings

_STATIC = Path(__file__).parent / "static"


def create_app(settings: Settings) -> FastAPI:
    """Open the data file and make the application. Raises StoreError."""
    library = Library(Database(settings.data))
    if settings.demo and not any(listed.is_demo for listed in library.listed()):
        library.create(demo.NAME, demo.sheets(), is_demo=True, open_sheet=demo.OPEN_SHEET)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        yield
        library.close()

    app = FastAPI(
        title="Dreieck",
        description="Where every reference of a filled formula lands. Nothing is stored.",
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/v1/openapi.json",
    )
    app.state.library = library
    app.state.drawn = Drawn()
    app.add_middleware(Guard, hosts=settings.served_hosts())
    app.mount("/static", StaticFiles(directory=_STATIC), name="static")
    for pages in (home, workbench, selection, log, map, names, lift, ways, news, guide, api):
        app.include_router(pages.router)
    errors.install(app)

    @app.get("/healthz", include_in_schema=False)
    def healthz() -> PlainTextResponse:
        return PlainTextResponse("ok")

    return app
