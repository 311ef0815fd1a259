"""Tells open pages that their workbook has a newer revision."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator

from fastapi import APIRouter, Request
from starlette.responses import StreamingResponse

from dreieck.web.answers import TheLibrary, TheWorkbook, WorkbookNumber

router = APIRouter(include_in_schema=False)

_PAUSE = 0.25
_SIGN_OF_LIFE = 60


@router.get("/workbooks/{workbook_id}/news")
async def news(
    request: Request, workbook_id: WorkbookNumber, opened: TheWorkbook, library: TheLibrary
) -> StreamingResponse:
    """A stream of revisions, as server-sent events; it holds no workbook in memory."""

    async def revisions() -> AsyncIterator[str]:
        told, silent = -1, 0
        while not await request.is_disconnected():
            revision = library.revision(workbook_id)
            if revision is None:
                return
            if revision != told:
                told, silent = revision, 0
                yield f"data: {told}\n\n"
            elif silent >= _SIGN_OF_LIFE:
                silent = 0
                yield ": still here\n\n"
            silent += 1
            await asyncio.sleep(_PAUSE)

    return StreamingResponse(
        revisions(), media_type="text/event-stream", headers={"Cache-Control": "no-store"}
    )
