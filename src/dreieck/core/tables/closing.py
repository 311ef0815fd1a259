"""What labels say of a line that is no plain entry: a total, a mean, a part, an agreement."""

from __future__ import annotations

import pkgutil
import re
import tomllib
from functools import cache, lru_cache
from typing import Literal

Says = Literal[
    "total", "statistic", "part", "memo", "period", "agreed", "balance", "common", "number",
    "small", "of_which", "yearly", "month",
    "remark", "lone",
]  # fmt: skip
"""What a label may say; the words for each stand in ``closing.toml``."""
LONGEST = 200
"""A label has no more characters; what follows is a remark."""
_SPAN = re.compile(r"\d\s*(?:to|bis|till|à|a|al|tot|do|–|—|-)\s*\d", re.IGNORECASE)
_SPACELESS = re.compile(r"[\u3040-\u30ff\u4e00-\u9fff]")
"""Signs of the languages that put no spaces between words."""


@cache
def _patterns() -> dict[str, re.Pattern[str]]:
    content = tomllib.loads((pkgutil.get_data(__package__, "closing.toml") or b"").decode())
    return {
        says: _pattern([each for words in languages.values() for each in words.split()])
        for says, languages in content.items()
    }


def _pattern(words: list[str]) -> re.Pattern[str]:
    """What finds one of some words in a label; ``_`` parts the words of a phrase."""
    told = [re.escape(word).replace("_", r"\s+").replace(r"\*", r"\w+") for word in words]
    whole = "|".join(one for one in told if not _SPACELESS.search(one))
    inside = "|".join(one for one in told if _SPACELESS.search(one))
    return re.compile(rf"(?<!\w)(?:{whole})(?!\w)|(?:{inside})", re.IGNORECASE)


def says(text: str, *what: Says) -> bool:
    """Whether a label says one of some things anywhere in it."""
    return _says(text[:LONGEST], what)


@lru_cache(maxsize=8192)
def _says(text: str, what: tuple[Says, ...]) -> bool:
    return any(_patterns()[each].search(text) for each in what)


def names(text: str, name: str) -> bool:
    """Whether a text has a name in it, as whole words and whatever their case."""
    return bool(re.search(rf"(?<!\w){re.escape(name)}(?!\w)", text, re.IGNORECASE))


def names_span(text: str) -> bool:
    """Whether a label says from which number to which: *Years 2 to 4*, *Woche 1–3*."""
    return bool(_SPAN.search(text))


def names_number(text: str) -> bool:
    """Whether a label says no more than that its line holds years, codes or the like."""
    return bool(_patterns()["number"].fullmatch(text.strip().removesuffix(".")))


def names_whole(text: str) -> bool:
    """Whether a label names a total, a mean or the like, not something of its own."""
    return not text or says(text, "total", "statistic", "common")


def closes(text: str) -> bool:
    """Whether a label says nothing but that its line is a total, a mean or the like."""
    told = [_patterns()[each] for each in ("total", "statistic", "common", "small")]
    words = re.findall(r"[^\W\d_]+", text)
    if not all(any(each.fullmatch(word) for each in told) for word in words):
        return False
    return says(text, "total", "statistic")


@lru_cache(maxsize=4096)
def meaning(text: str) -> frozenset[str]:
    """The words of a label that tell it from others, in one form for one and for many."""
    words = re.findall(r"[^\W_]+", text.casefold())
    return frozenset(stem(word) for word in words if not _patterns()["small"].fullmatch(word))


def stem(word: str) -> str:
    """A word in one form for one and for many, as far as its end tells."""
    if len(word) > 3 and word.endswith("s") and not word.endswith("ss"):
        word = word[:-1]
    return word[:-1] if len(word) > 4 and word[-1] in "en" else word
