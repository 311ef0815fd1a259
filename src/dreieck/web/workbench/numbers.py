"""The dialog that tells how numbers and dates are written, and offers every currency."""

from __future__ import annotations

from fastapi import APIRouter, Request
from starlette.responses import Response

from dreieck.core.values import currencies
from dreieck.core.values.formats import currency_form
from dreieck.core.values.locales import known
from dreieck.core.values.look import Look, shown_text
from dreieck.web.answers import TheWorkbook, page

router = APIRouter(include_in_schema=False)
_NUMBER, _DAY = 1234.5, 46113.0
_SAMPLES = (
    (_NUMBER, Look("grouped", 2)), (0.125, Look("percent", 1)), (_NUMBER, Look("currency:EUR")),
    (_DAY, Look("date")),
)  # fmt: skip


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/numbers")
def dialog(request: Request, opened: TheWorkbook, sheet_id: int) -> Response:
    """How numbers are written, and the currencies."""
    locale = opened.workbook.locale
    samples = [shown_text(value, look, locale=locale) for value, look in _SAMPLES]
    forms = {currency_form(code): f"{code}, {name}" for code, name in currencies.codes().items()}
    return page(
        request, "numbers.html", opened=opened, locale=locale, locales=known(), samples=samples,
        forms=dict(sorted(forms.items(), key=lambda each: each[1])),
    )  # fmt: skip
