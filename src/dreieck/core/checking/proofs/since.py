"""Since which change a proof fails: changes are taken back on a copy until it holds."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass

from dreieck.core.budget import WorkEnded
from dreieck.core.calculate import Calculation
from dreieck.core.checking.proofs.judging import judged
from dreieck.core.editing.steps import Step, followed_area, steps_of
from dreieck.core.grid import Area
from dreieck.core.sheet.edits import Change, SetStated
from dreieck.core.sheet.stated import Proof
from dreieck.core.sheet.workbook import Workbook


@dataclass(frozen=True, slots=True)
class Since:
    """The change since which a proof fails: its label, when it was made, and where.

    ``kept`` says that the proof was kept, or changed, with it. ``place`` is the number of a
    sheet and an area on it as they are now; None where no cells were written that are left.
    """

    label: str
    at: str
    kept: bool
    place: tuple[int, Area] | None


def since(
    workbook: Workbook,
    failing: Collection[int],
    changes: Iterable[Change],
    may_go_on: Callable[[], bool] = lambda: True,
) -> dict[int, Since]:
    """Since which change proofs fail, by their numbers; ``changes`` begin with the last one.

    Those are left out whose change is too long ago, or for which there was no time.
    """
    found: dict[int, Since] = {}
    tried = workbook.copy(*workbook.sheets)
    calculation = Calculation(tried)
    later: list[Step] = []
    try:
        for change in changes:
            open = [each for each in tried.proofs if each.number in failing]
            open = [each for each in open if each.number not in found]
            if not open or not may_go_on():
                break
            for edit in change.backward:
                edit.apply(tried)
            calculation.edited(change.backward)
            before = {each.number: each for each in tried.proofs}
            for proof in open:
                earlier = before.get(proof.number)
                kept = _was_changed(change, earlier, proof)
                if kept or not judged(calculation, earlier or proof).fails:
                    place = _place(change, later)
                    found[proof.number] = Since(change.label, change.at, kept, place)
            later = [*steps_of(change.forward), *later]
    except WorkEnded:
        pass
    return found


def _was_changed(change: Change, before: Proof | None, after: Proof) -> bool:
    """Whether a change wrote a proof anew, rather than let it follow something that moved."""
    only_proofs = all(isinstance(edit, SetStated) for edit in change.forward)
    return before is None or (only_proofs and before.shape is not after.shape)


def _place(change: Change, later: Sequence[Step]) -> tuple[int, Area] | None:
    """Where a change was made, as it stands after later ones."""
    for step in steps_of(change.forward):
        areas = [step.change.lines.area] if step.change else list(step.areas)
        for area in areas:
            if there := followed_area(later, step.sheet_id, area):
                return step.sheet_id, there
    return None
