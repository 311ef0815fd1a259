"""What may be meant by a function that there is not."""

from __future__ import annotations

import pkgutil
import tomllib
from difflib import get_close_matches
from functools import cache, lru_cache

from dreieck.core.functions.registry import every

_ALIKE = 0.75
"""How much alike names are where one may be a slip for the other."""
_LONGEST = 40


@cache
def _elsewhere() -> dict[str, list[str]]:
    """Names that people know from elsewhere, with ours."""
    data = pkgutil.get_data("dreieck.core.functions", "unknown.toml") or b""
    return tomllib.loads(data.decode())


@lru_cache(maxsize=1024)
def no_function(name: str) -> str:
    """That there is no function of a name in capitals, and which one may be meant."""
    names = [each.name for each in every()]
    near = get_close_matches(name[:_LONGEST], names, 2, _ALIKE)
    found = _elsewhere().get(name) or near
    may = f"; {' or '.join(found)} may be meant" if found else ""
    return f"There is no function {name[:_LONGEST]}{may}."
