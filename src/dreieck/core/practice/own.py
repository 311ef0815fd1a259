"""Questions about a block of one's own sheet."""

from __future__ import annotations

from random import Random

from dreieck.core.analysis.reads import read_names
from dreieck.core.calculate import Calculation, block_at
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.reference import RangeReference, Reference
from dreieck.core.grid import Area, Cell
from dreieck.core.practice.asking import lock
from dreieck.core.practice.catalogue import Ask
from dreieck.core.practice.exercise import Exercise
from dreieck.core.practice.explaining import sentence
from dreieck.core.practice.predicting import reads, shows, stands
from dreieck.core.practice.question import Question
from dreieck.core.practice.skills import SkillKey
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet

_COLUMNS, _ROWS = 5, 8
"""So much of a block is practised on."""
_FORMS: tuple[Ask, ...] = (stands, reads, lock, shows, sentence)
_SKILLS: dict[tuple[bool, bool], SkillKey] = {
    (False, False): "relative",
    (True, True): "absolute",
    (False, True): "mixed-row",
    (True, False): "mixed-column",
}


def own_question(calculation: Calculation, sheet: Sheet, at: Cell, seed: int) -> Question:
    """A question about the block that a cell of a workbook belongs to.

    The seed chooses what is asked. Raises DreieckError where there is no block to ask about.
    """
    block = block_at(sheet, at)
    if block is None or not block.shape.references:
        raise DreieckError(f"{at.text} holds no formula with a reference. Choose one that has.")
    if block.size < 2:
        raise DreieckError(
            f"The formula of {block.start.text} stands in one cell only. Choose one that is filled"
            " over several."
        )
    start = block.start
    part = next(each for each in block.parts if each.holds(start))
    target = Area(
        start.column,
        start.row,
        min(part.right, start.column + _COLUMNS - 1),
        min(part.bottom, start.row + _ROWS - 1),
    )
    if target.size < 2:
        raise DreieckError(f"Beside {start.text} the fill has a gap. Choose one that has none.")
    emptied = calculation.with_edits([SetCells.with_content(sheet, [target], None)])
    rng = Random(f"own-{seed}")
    number = rng.choice(block.shape.distinct)
    exercise = Exercise(
        emptied, sheet.name, start, target, block.shape, "what it holds now",
        _skill(block.shape.references[number], start, bool(read_names(block.shape))), number,
    )  # fmt: skip
    for turn in range(len(_FORMS)):
        found = _FORMS[(seed + turn) % len(_FORMS)](rng, exercise)
        if found is not None:
            return found
    raise DreieckError("Nothing can be asked about this formula.")


def _skill(reference: Reference, start: Cell, names: bool) -> SkillKey:
    """What a question about a reference trains."""
    if reference.sheet:
        return "sheets"
    if isinstance(reference, RangeReference):
        return "corners"
    corner = reference.corners(start)[0]
    return "names" if names else _SKILLS[corner.column, corner.row]


def around(exercise: Exercise, landing: Cell) -> list[Area]:
    """What has to be seen of the sheet: the target, and what the start and a landing read."""
    areas = [exercise.target]
    for at in (exercise.start, landing):
        for reference in exercise.shape.references:
            area = reference.area(at)
            if area and not reference.sheet:
                areas.append(area)
    return areas
