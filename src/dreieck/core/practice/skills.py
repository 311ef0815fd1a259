"""What is practised: eight skills."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

SkillKey = Literal[
    "relative", "absolute", "mixed-row", "mixed-column", "corners", "names", "sheets", "faults"
]


@dataclass(frozen=True, slots=True)
class Skill:
    """Something that one can or cannot do with references, and what it is in a line."""

    key: SkillKey
    name: str
    about: str
    example: str


SKILLS: dict[SkillKey, Skill] = {
    each.key: each
    for each in (
        Skill("relative", "Relative references", "both parts go along with the fill", "B5"),
        Skill("absolute", "Absolute references", "a lone input is read by all landings", "$B$2"),
        Skill("mixed-row", "Mixed, row locked", "a heading row is read column by column", "C$4"),
        Skill(
            "mixed-column", "Mixed, column locked", "a heading column is read row by row", "$B5"
        ),
        Skill("corners", "Corners of ranges", "each corner has locks of its own", "B$4:B4"),
        Skill("names", "Names", "a named range is the same everywhere", "carry_price"),
        Skill("sheets", "Other sheets", "a sheet that is named stays", "Prices!$B$2"),
        Skill("faults", "Finding faults", "where a fill goes wrong, and why", "#VALUE!"),
    )
}
