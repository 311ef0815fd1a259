"""Names that only look alike, told by the Unicode list of confusable characters (UTS #39)."""

from __future__ import annotations

from unicodedata import normalize

from confusable_homoglyphs.confusables import confusables_data


def looks_like(one: str, other: str) -> bool:
    """Whether two names cannot be told apart by looking."""
    return not _seen(one).isdisjoint(_seen(other))


def _seen(name: str) -> set[str]:
    name = " ".join(normalize("NFKC", name).split())
    return {_skeleton(name), _skeleton(name.casefold())}


def _skeleton(name: str) -> str:
    return "".join(map(_prototype, name)).casefold()


def _prototype(character: str) -> str:
    """The character that stands for all that look like this one."""
    alike = [each["c"] for each in confusables_data.get(character, ())]
    if len(alike) != 1:
        return character
    (only,) = alike
    of_many = len(confusables_data.get(only, ())) > 1
    return str(only) if of_many else min(character, only)
