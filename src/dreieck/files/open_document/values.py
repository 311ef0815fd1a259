"""Values of cells as attributes (part 3, 19.385 and following), and back."""

from __future__ import annotations

import math
import re
from datetime import datetime, timedelta
from typing import Any

from dreieck.core.budget import spend
from dreieck.core.sheet.content import MAX_ENTRY
from dreieck.core.values import ERROR_CODES, Error, Value
from dreieck.core.values.formats import currency_of
from dreieck.files.open_document.tags import tag

_ELEMENT = 4
"""So many steps it takes to look at an element of a text."""
_FIRST_DAY = datetime(1899, 12, 30)
_PASSED = re.compile(r"(-?)P(?:(\d+)D)?T?(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:\.\d+)?)S)?")
_MANY_BLANKS = re.compile(r"(?<=^)[ ]|[ ](?=$)| {2,}|\t")
_FORBIDDEN = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff\ud800-\udfff]")


def value_of(cell: Any) -> Value:
    """What stands in a cell, or what its formula came to."""
    kind = cell.get(tag("office:value-type"))
    match kind:
        case "float" | "percentage" | "currency":
            return _finite(cell.get(tag("office:value")))
        case "boolean":
            return bool(cell.get(tag("office:boolean-value")) == "true")
        case "date":
            return _serial(cell.get(tag("office:date-value")) or "")
        case "time":
            return _share_of_day(cell.get(tag("office:time-value")) or "")
        case "string":
            said = cell.get(tag("office:string-value"))
            text = text_of(cell) if said is None else str(said)
            is_error = text in ERROR_CODES and cell.get(tag("table:formula"))
            return Error(text, "") if is_error else text
        case None:
            paragraphs = cell.find(tag("text:p"))
            return text_of(cell) if paragraphs is not None else None
        case _:
            return text_of(cell)


def _finite(text: str | None) -> Value:
    try:
        number = float(text or "")
    except ValueError:
        return text
    return number if math.isfinite(number) else text


def _serial(text: str) -> Value:
    """The number of a day or moment in ISO 8601."""
    try:
        moment = datetime.fromisoformat(text[:26])
    except ValueError:
        return text
    passed = moment.replace(tzinfo=None) - _FIRST_DAY
    return passed.days + (passed.seconds + passed.microseconds / 1e6) / 86_400


def _share_of_day(text: str) -> Value:
    match = _PASSED.fullmatch(text)
    if not match or not any(match.groups()[1:]):
        return text
    days, hours, minutes, seconds = (float(each or 0) for each in match.groups()[1:])
    passed = days + (hours * 3600 + minutes * 60 + seconds) / 86_400
    if not math.isfinite(passed):
        return text
    return -passed if match[1] else passed


def text_of(cell: Any) -> str:
    """The paragraphs of a cell, one in a line."""
    found: list[str] = []
    room = MAX_ENTRY + 1
    for each in cell.iterfind(tag("text:p")):
        if room < 0:
            break
        found.append(_words(each, room))
        room -= len(found[-1])
    return "\n".join(found)


def _words(paragraph: Any, room: int) -> str:
    """The text of a paragraph, as far as there is room; blanks in a row are told by elements."""
    found = [paragraph.text or ""]
    for each in paragraph:
        room -= len(found[-1])
        if room < 0:
            break
        spend(_ELEMENT)
        name = str(each.tag).rpartition("}")[2] if isinstance(each.tag, str) else ""
        said = ""
        if name == "s":
            count = each.get(tag("text:c")) or "1"
            said = " " * min(int(count[:9]) if count.isdecimal() else 1, MAX_ENTRY)
        elif name == "tab":
            said = "\t"
        elif name == "line-break":
            said = "\n"
        elif name not in ("annotation", ""):
            said = _words(each, room)
        found.append(said + (each.tail or ""))
    return "".join(found)


def value_attributes(value: Value, form: str) -> dict[str, str | None]:
    """How a value is told in a cell with a number format."""
    match value:
        case None:
            return {}
        case bool():
            return {"office:value-type": "boolean", "office:boolean-value": str(value).lower()}
        case Error():
            return {"office:value-type": "string", "office:string-value": value.code}
        case str():
            exact = value if _is_folded(value) else None
            return {"office:value-type": "string", "office:string-value": exact}
    if form in ("date", "datetime") and (said := _date_text(value)):
        return {"office:value-type": "date", "office:date-value": said}
    if form in ("time", "duration") and (said := _time_text(value)):
        return {"office:value-type": "time", "office:time-value": said}
    told: dict[str, str | None] = {"office:value-type": "float", "office:value": repr(value)}
    if form == "percent":
        told["office:value-type"] = "percentage"
    if code := currency_of(form):
        told |= {"office:value-type": "currency", "office:currency": code}
    return told


def tellable(text: str) -> str:
    """A text without the characters that XML cannot hold."""
    return _FORBIDDEN.sub("\ufffd", text)


def _is_folded(text: str) -> bool:
    """Whether a text is changed where blanks are folded."""
    return bool(_MANY_BLANKS.search(text)) or "\n" in text or "\r" in text or not text


def _date_text(value: float) -> str | None:
    """A moment in ISO 8601, if that is exactly this number."""
    try:
        moment = _FIRST_DAY + timedelta(days=value)
    except (OverflowError, ValueError):
        return None
    moment = moment.replace(microsecond=0)
    text = moment.date().isoformat() if value == int(value) else moment.isoformat()
    return text if moment.year >= 1000 and _serial(text) == value else None


def _time_text(value: float) -> str | None:
    """Time that passes in ISO 8601, if that is exactly this number."""
    if abs(value) > 1e7:
        return None
    seconds = round(abs(value) * 86_400)
    hours, rest = divmod(seconds, 3600)
    text = f"{'-' * (value < 0)}PT{hours:02d}H{rest // 60:02d}M{rest % 60:02d}S"
    return text if _share_of_day(text) == value else None
