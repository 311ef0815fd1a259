"""The guide: the drawing explained, the keys, and every function."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import Response

from dreieck.core.functions import EXAMPLE_SHEET, Function, every, sweeping
from dreieck.core.functions import families as all_families
from dreieck.core.functions import statements as proving
from dreieck.core.values.look import shown_text
from dreieck.web.answers import BesideWorkbook, page
from dreieck.web.navigation import Entry
from dreieck.web.workbench.holding_keys import TheKeys

router = APIRouter(include_in_schema=False)
ENTRY = Entry(9, "guide", "Guide", "/guide?of={workbook}")


@router.get("/guide")
def guide(request: Request, beside: BesideWorkbook, keys: TheKeys) -> Response:
    """The whole guide."""
    functions = every()
    families = [
        (family.name.replace("_", " "), family.about, [_entry(f) for f in of_it])
        for family in all_families()
        if (of_it := [f for f in functions if f.family == family.name])
    ]
    table = [
        [EXAMPLE_SHEET.get(f"{column}{row}", "") for column in "ABCDE"] for row in range(1, 12)
    ]
    statements = [*proving.FORMS.values(), *sweeping.FORMS.values()]
    return page(
        request, "guide.html", keys=keys, families=families, table=table, statements=statements,
        beside=beside,
    )  # fmt: skip


@router.get("/guide/keys")
def help_on_keys(request: Request, keys: TheKeys) -> Response:
    """The part of it that a dialog shows over the workbench."""
    return page(request, "help_dialog.html", keys=keys)


def _entry(function: Function) -> tuple[Function, str]:
    """A function, and what its example gives as text."""
    value = function.examples[0][1]
    return function, f"“{value}”" if isinstance(value, str) else shown_text(value)
