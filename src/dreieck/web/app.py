"""The application, put together."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from importlib.metadata import version
from secrets import token_urlsafe

from anyio.to_thread import current_default_thread_limiter
from fastapi import FastAPI
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import PlainTextResponse

from dreieck import demo
from dreieck.store import (
    Database,
    Groups,
    Library,
    OwnKeys,
    People,
    Practised,
    Sessions,
    StoreError,
)
from dreieck.web import errors, gate
from dreieck.web.answers import templates
from dreieck.web.api import routes as api
from dreieck.web.gate import Gate, Keyring
from dreieck.web.incoming import Incoming
from dreieck.web.pages import ENTRIES, ROUTERS
from dreieck.web.security import Guard
from dreieck.web.settings import Settings
from dreieck.web.sign_in_tries import SignInTries
from dreieck.web.signed_in import SignedIn
from dreieck.web.static_files import Kept
from dreieck.web.sweeping import Sweepings
from dreieck.web.turns import Turns
from dreieck.web.workbench import commands, finder, news, numbers, ordering, selection
from dreieck.web.workbench import routes as workbench
from dreieck.web.workbench.answered import Answered
from dreieck.web.workbench.drawn import Drawn

_THREADS = 200


def create_app(settings: Settings) -> FastAPI:
    """Open the data file and make the application. Raises StoreError."""
    database = Database(settings.data)
    library = Library(database)
    try:
        library.check()
    except StoreError:
        library.close()
        raise
    if settings.demo and not any(listed.is_demo for listed in library.listed()):
        demo.make(library)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        # Work that waits for its turn inside a thread must not keep others from getting one.
        current_default_thread_limiter().total_tokens = _THREADS
        yield
        app.state.incoming.close()
        library.close()

    app = FastAPI(
        title="Dreieck",
        version=version("dreieck"),
        description="Where every reference of a filled formula lands. Nothing is stored.",
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/v1/openapi.json",
    )
    app.state.database = database
    app.state.library = library
    app.state.practised = Practised(database)
    app.state.own_keys = OwnKeys(database)
    app.state.people = People(database) if settings.people else None
    app.state.sessions = Sessions(database)
    app.state.groups = Groups(database)
    app.state.tries = SignInTries()
    app.state.drawn = Drawn()
    app.state.answered = Answered()
    app.state.sources = settings.sources
    app.state.incoming = Incoming()
    app.state.sweepings = Sweepings()
    keyring = Keyring(settings.key or ("" if settings.is_local else token_urlsafe(18)))
    app.state.keyring = keyring
    app.add_middleware(Turns)
    app.add_middleware(GZipMiddleware, compresslevel=5)
    if app.state.people:
        app.add_middleware(SignedIn, people=app.state.people, sessions=app.state.sessions)
    app.add_middleware(Gate, keyring=keyring)
    app.add_middleware(Guard, hosts=settings.served_hosts(), any_number=not settings.is_local)
    app.mount("/static", Kept(), name="static")
    beside = (commands, finder, news, numbers, ordering, selection)
    own = (workbench.router, *(each.router for each in beside))
    for router in (gate.router, *own, api.router, *ROUTERS):
        # Including a router would build each of its routes anew, with the first request.
        app.router.routes.extend(router.routes)
    templates.env.globals["bar"] = sorted([workbench.ENTRY, *ENTRIES])
    errors.install(app)

    @app.get("/healthz", include_in_schema=False)
    async def healthz() -> PlainTextResponse:
        return PlainTextResponse("ok")

    return app
