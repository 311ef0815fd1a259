"""What is looked up once for each revision of a workbook."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar
from weakref import WeakKeyDictionary

from dreieck.store import OpenWorkbook

T = TypeVar("T")
_KNOWN: WeakKeyDictionary[OpenWorkbook, tuple[int, dict[object, Any]]] = WeakKeyDictionary()


def once(
    opened: OpenWorkbook,
    key: object,
    look_up: Callable[[], T],
    *,
    keep: Callable[[T], bool] = lambda found: True,
) -> T:
    """What is looked up under a key; another time as well if it is not one to ``keep``."""
    known = _KNOWN.get(opened)
    if known is None or known[0] != opened.revision:
        known = _KNOWN[opened] = (opened.revision, {})
    if key in known[1]:
        kept: T = known[1][key]
        return kept
    found = look_up()
    if keep(found):
        known[1][key] = found
    return found
