"""The files that pages are made of: under addresses that change with their contents.

So a browser keeps them for good and asks for none of them twice. One part of the address stands
for all files together, so that scripts name each other by relative addresses.
"""

from __future__ import annotations

import gzip
import hashlib
import mimetypes
import re
from functools import cache
from pathlib import Path

from starlette.exceptions import HTTPException
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

FOLDER = Path(__file__).parent / "static"
_IMPORT = re.compile(r'^(?:import|export)[^"]*"(\./[^"]+)"', re.MULTILINE)
_VERSION = re.compile("[0-9a-f]{12}")
_FOR_GOOD = "public, max-age=31536000, immutable"
_LEAST = 1_000
"""Shorter files are not worth compressing, in bytes."""


@cache
def version() -> str:
    """What stands for the contents of all files."""
    digest = hashlib.sha256()
    for path in sorted(FOLDER.rglob("*")):
        if path.is_file():
            digest.update(f"{path.relative_to(FOLDER)} ".encode() + path.read_bytes())
    return digest.hexdigest()[:12]


def address(path: str) -> str:
    """The address of a file, such as ``js/workbench.js``."""
    return f"/static/{version()}/{path}"


@cache
def modules(name: str) -> tuple[str, ...]:
    """The addresses of all scripts that a script needs, itself among them."""
    found = {name: None}
    waiting = [name]
    while waiting:
        for each in _IMPORT.findall((FOLDER / "js" / waiting.pop()).read_text("utf-8")):
            needed = each.removeprefix("./")
            if needed not in found:
                found[needed] = None
                waiting.append(needed)
    return tuple(address(f"js/{each}") for each in found)


class Kept(StaticFiles):
    """Serves the files below their version; compressed where the browser takes that."""

    def __init__(self) -> None:
        super().__init__(directory=FOLDER)

    async def get_response(self, path: str, scope: Scope) -> Response:
        """A file. Raises HTTPException where there is none."""
        asked, _, rest = path.partition("/")
        if not _VERSION.fullmatch(asked):
            asked, rest = "", path
        # A page that was opened before the files changed still gets them, for now.
        held = _FOR_GOOD if asked == version() else "no-cache"
        headers = dict(scope["headers"])
        if b"gzip" in headers.get(b"accept-encoding", b"") and (packed := _packed(rest)):
            kind = mimetypes.guess_type(rest)[0]
            more = {"Content-Encoding": "gzip", "Vary": "Accept-Encoding", "Cache-Control": held}
            return Response(packed, media_type=kind, headers=more)
        response = await super().get_response(rest, scope)
        if response.status_code == 404:
            raise HTTPException(404)
        response.headers["Cache-Control"] = held
        return response


@cache
def _texts() -> dict[str, Path]:
    kinds = (".css", ".js", ".svg")
    return {
        path.relative_to(FOLDER).as_posix(): path
        for path in FOLDER.rglob("*")
        if path.suffix in kinds and path.stat().st_size > _LEAST
    }


@cache
def _packed(path: str) -> bytes | None:
    """A file compressed, if it is a text that is long enough."""
    known = _texts().get(path)
    return gzip.compress(known.read_bytes(), mtime=0) if known else None
