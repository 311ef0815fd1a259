"""Sets of drills: what is handed out together, and the test of ten before and after."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from random import Random

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.catalogue import again, code_for
from dreieck.core.practice.codes import Code
from dreieck.core.practice.skills import SKILLS

MAX_DRILLS = 60
MAX_TITLE = 80
TEST = 10
"""So many questions a test has."""
BEFORE, AFTER = "Test before", "Test after"


@dataclass(frozen=True)
class DrillSet:
    """Drills in their order, with a title. A test tells what was right only at its end."""

    title: str
    codes: tuple[Code, ...]
    is_test: bool = False

    @classmethod
    def of(cls, title: str, codes: Iterable[str], *, is_test: bool = False) -> DrillSet:
        """A set of codes as they are written. Raises DreieckError where it can't be one."""
        title = " ".join(title.split())
        read = tuple(dict.fromkeys(Code.parse(code) for code in codes if code.strip()))
        if not title or len(title) > MAX_TITLE or not title.isprintable():
            raise DreieckError(f"A set needs a title of at most {MAX_TITLE} characters.")
        if not read:
            raise DreieckError("A set needs at least one drill.")
        if len(read) > MAX_DRILLS:
            raise DreieckError(f"A set can have {MAX_DRILLS} drills; this one has {len(read)}.")
        return cls(title, read, is_test)

    @property
    def texts(self) -> list[str]:
        """The codes as they are written."""
        return [code.text for code in self.codes]


FIRST_TWELVE = DrillSet.of(
    "The first twelve",
    (
        "predict-1-0", "predict-1-5", "lock-1-1", "explain-1-1", "predict-2-5", "lock-2-1",
        "explain-2-1", "range-1-2", "name-1-1", "sheet-1-3", "find-1-0", "write-2-2",
    ),
)  # fmt: skip
"""The set that comes with the demo: all skills, from one locked input to a mixed grid."""
_LEVEL = 2


def before_and_after(seed: int) -> tuple[DrillSet, DrillSet]:
    """A test before and one after: the same questions, with other numbers in the second."""
    rng = Random(f"test-{seed}")
    skills = [*SKILLS, "mixed-row", "mixed-column"]
    codes = tuple(code_for(rng, skill, _LEVEL) for skill in skills)
    after = tuple(again(code) for code in codes)
    return DrillSet(BEFORE, codes, True), DrillSet(AFTER, after, True)


def drawn_set(seed: int, kinds: Iterable[str], level: int, count: int) -> DrillSet:
    """A set by a seed: so many drills of some kinds in turn. Raises DreieckError."""
    rng = Random(f"set-{seed}-{level}")
    chosen = list(kinds)
    if not chosen or not 1 <= count <= MAX_DRILLS:
        raise DreieckError(f"Choose at least one kind, and 1 to {MAX_DRILLS} drills.")
    texts = [
        f"{chosen[index % len(chosen)]}-{level}-{rng.randrange(1_000_000)}"
        for index in range(count)
    ]
    return DrillSet.of(f"Set {seed}", texts)
