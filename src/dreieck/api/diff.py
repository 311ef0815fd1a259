"""What differs between two workbooks, told by block."""

from __future__ import annotations

from pydantic import BaseModel

from dreieck.core.calculate import Calculation
from dreieck.core.checking.comparing import What, changes
from dreieck.core.sheet.workbook import Workbook


class ChangeAnswer(BaseModel):
    """Something that changed; ``before`` and ``after`` are those of the first of its cells."""

    what: What
    where: str
    count: int
    before: str
    after: str
    says: str


class DiffAnswer(BaseModel):
    """All that changed from one workbook to another; nothing where they are the same."""

    changes: list[ChangeAnswer]


def diff_answer(old: Workbook, new: Workbook) -> DiffAnswer:
    """What changed from one workbook to another."""
    return DiffAnswer(
        changes=[
            ChangeAnswer(
                what=each.what, where=each.where, count=each.count, before=each.before,
                after=each.after, says=each.says,
            )
            for each in changes(Calculation(old), Calculation(new))
        ]
    )  # fmt: skip
