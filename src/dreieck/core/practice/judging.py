"""What an answer leads to, beside what is right."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.analysis.reads import read_names
from dreieck.core.calculate import text_at
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.grid import AXES, Area, Cell
from dreieck.core.practice.exercise import Exercise
from dreieck.core.practice.misreading import differing
from dreieck.core.practice.question import CHOSEN, TYPED, Choice, Question
from dreieck.core.practice.saying import all_read, moved_said, read_said
from dreieck.core.sheet.content import Unreadable
from dreieck.core.words.counting import both

MAX_TYPED = 1_000
"""So many characters a formula of an answer can have."""
_ROOM = 16
MISTAKES: dict[str, str] = {
    "column-moved": "a column went along that should stay",
    "row-moved": "a row went along that should stay",
    "column-stayed": "a column stayed that should go along",
    "row-stayed": "a row stayed that should go along",
    "corner": "a corner of a range was locked wrongly",
    "constant": "a number was typed into the formula",
    "name": "the name was not used",
    "place": "another landing was pointed at",
    "cause": "another cause was chosen",
    "start": "the first formula read other cells",
    "other": "a cell beside was read",
}
"""What is mistaken, in words, by what verdicts call it."""


@dataclass(frozen=True)
class Given:
    """An answer: the number of a choice, a cell, a formula, as far as the form asks for them."""

    choice: int = -1
    cell: str = ""
    formula: str = ""


@dataclass(frozen=True)
class Verdict:
    """Whether an answer is right, why, and what is drawn: a landing read rightly and as given.

    ``right`` and ``given`` are formulas, as they stand in the landing. ``mistake`` names what was
    mistaken.
    """

    is_right: bool
    says: tuple[str, ...]
    landing: Cell
    right: Shape
    given: Shape | None = None
    mistake: str = ""


def judge(question: Question, given: Given) -> Verdict:
    """The verdict on an answer.

    Raises DreieckError where the answer is not complete or can't be read, and says what is
    missing.
    """
    if question.form in CHOSEN:
        return _chosen(question, given)
    if question.form == "reads":
        return _pointed(question, given)
    if question.form in TYPED:
        return _typed(question, given)
    return _found(question, given)


def _chosen(question: Question, given: Given) -> Verdict:
    exercise, landing = question.exercise, question.landing
    choice = _choice(question, given)
    if choice.is_right or choice.here is None:
        return Verdict(True, moves(exercise, landing), landing, exercise.shape)
    here = choice.here
    read = all_read(here, landing)
    said = {
        "stands": f"With {choice.text}, {landing.text} would read {read}.",
        "shows": f"{choice.text} would come out if {landing.text} read {read}.",
        "sentence": f"Your sentence is that of {here.text(exercise.start)}.",
        "drawing": f"Your drawing is that of {here.text(exercise.start)}.",
    }[question.form]
    mistake = _mistake(exercise, landing, here)
    return Verdict(
        False, (said, *moves(exercise, landing, here)), landing, exercise.shape, here, mistake
    )


def _choice(question: Question, given: Given) -> Choice:
    if not 0 <= given.choice < len(question.choices):
        raise DreieckError("Choose one of the answers first.")
    return question.choices[given.choice]


def _pointed(question: Question, given: Given) -> Verdict:
    exercise, landing, number = question.exercise, question.landing, question.exercise.number
    pointed = _cell(given, "Point at the cell that is read first.")
    says = (moved_said(exercise.shape, number, exercise.start, landing),)
    reference = exercise.shape.references[number]
    if reference.area(landing) == Area.of(pointed):
        return Verdict(True, says, landing, exercise.shape)
    other = exercise.shape.with_equals(
        number, reference.reading(Area.of(pointed), exercise.start, landing)
    )
    return Verdict(
        False, (f"You pointed at {pointed.text}.", *says), landing, exercise.shape, other,
        _mistake(exercise, landing, other),
    )  # fmt: skip


def _cell(given: Given, missing: str) -> Cell:
    if not given.cell.strip():
        raise DreieckError(missing)
    return Cell.parse(given.cell.strip().replace("$", ""))


def _typed(question: Question, given: Given) -> Verdict:
    exercise = question.exercise
    shape = _read_formula(exercise, given.formula, exercise.start)
    verdict = _of_formula(question, shape, exercise.start)
    if verdict:
        return verdict
    landing = question.landing
    return Verdict(True, moves(exercise, landing), landing, exercise.shape)


def _read_formula(exercise: Exercise, text: str, at: Cell) -> Shape:
    """A formula that was typed for a cell. Raises DreieckError where it is none."""
    text = text.strip()
    if len(text) > MAX_TYPED:
        raise DreieckError(f"A formula can have {MAX_TYPED:,} characters here.")
    if text and not text.startswith("="):
        text = f"={text}"
    if len(text) < 2:
        raise DreieckError(f"Write the formula for {at.text} first; it begins with “=”.")
    entry = exercise.workbook.read_entry(text, at)
    if isinstance(entry.content, Unreadable):
        raise DreieckError(f"{text} can't be read yet. {entry.problem}")
    assert isinstance(entry.content, Shape)
    return entry.content


def _of_formula(question: Question, shape: Shape, at: Cell) -> Verdict | None:
    """What is wrong with a formula that is filled over the target; None where nothing is."""
    exercise = question.exercise
    wrong = exercise.differing(shape)
    if wrong and exercise.differs_at(shape, at):
        # What stands wrongly where it is written is told of that cell.
        wrong = at
    if wrong:
        name, filled, right = (
            exercise.sheet_name, exercise.with_fill(shape), exercise.with_fill(exercise.shape)
        )  # fmt: skip
        shown, meant = (
            text_at(each, each.workbook.sheet(name), wrong, _ROOM) or "nothing"
            for each in (filled, right)
        )
        said = [f"With your formula {wrong.text} shows {shown}; it should show {meant}."]
        pairs = _paired(exercise, shape, at)
        told = []
        for number, own in pairs if wrong != at else ():
            meant_here = exercise.shape.references[number]
            if shape.references[own].area(wrong) != meant_here.area(wrong):
                told.append(
                    f"{moved_said(shape, own, at, wrong)} It should read"
                    f" {read_said(meant_here, wrong)}."
                )
        if not told:
            told.append(
                f"Your formula reads {all_read(shape, wrong) or 'no cell'} there; right is"
                f" {exercise.shape.text(wrong)}."
            )
        whole = len(pairs) == len(exercise.shape.distinct) and wrong != at
        own_order = _in_order(exercise, shape, pairs) if whole else None
        mistake = _mistake(exercise, wrong, own_order, at)
        return Verdict(False, (*said, *told), wrong, exercise.shape, shape, mistake)
    if question.form == "lock":
        return None
    return _right_by_chance(question, shape)


def _right_by_chance(question: Question, shape: Shape) -> Verdict | None:
    """What is wrong with a formula though its values are right: they would not stay so."""
    exercise = question.exercise
    wrong = exercise.differing_when_varied(shape)
    if wrong:
        constants = {str(each) for each in _numbers(shape)} - {
            str(each) for each in _numbers(exercise.shape)
        }
        if constants:
            says = "A number is typed into your formula. The values are right now, but they stay"
            says += " as they are when the input changes."
        else:
            says = "The values are right now, but with other numbers in the inputs"
            says += f" {wrong.text} would be wrong: your formula reads {all_read(shape, wrong)}."
        says += f" Right is {exercise.shape.text(wrong)}."
        mistake = "constant" if constants else "start"
        return Verdict(False, (says,), wrong, exercise.shape, shape, mistake)
    if exercise.skill == "names" and not read_names(shape):
        says = f"The values are right, but the name is not used: {exercise.formula} says it."
        return Verdict(False, (says,), question.landing, exercise.shape, shape, "name")
    return None


def _numbers(shape: Shape) -> list[float]:
    return [node.value for node in tree.walk(shape.tree) if isinstance(node, tree.Number)]


def _paired(exercise: Exercise, shape: Shape, at: Cell) -> list[tuple[int, int]]:
    """Right references, each with the one that reads the same in the cell that is written."""
    own = {(each.area(at), each.sheet): n for n, each in enumerate(shape.references)}
    meant = exercise.shape.references
    return [
        (number, own[key])
        for number in exercise.shape.distinct
        if (key := (meant[number].area(at), meant[number].sheet)) in own
    ]


def _in_order(exercise: Exercise, shape: Shape, pairs: list[tuple[int, int]]) -> Shape:
    """The right formula with the locks of another one."""
    ordered = exercise.shape
    for number, own in pairs:
        ordered = ordered.with_equals(number, shape.references[own])
    return ordered


def _found(question: Question, given: Given) -> Verdict:
    planted, exercise = question.planted, question.exercise
    assert planted is not None
    pointed = _cell(given, "Point at the first landing with a wrong value first.")
    choice = _choice(question, given)
    shape = _read_formula(exercise, given.formula, planted.first)
    cause = question.choices[question.right].text
    now = planted.contents[planted.first]
    stands = now if isinstance(now, Shape) else None
    mended = _of_formula(question, shape, planted.first)
    says: list[str] = []
    first = planted.first.text
    if pointed == planted.first:
        says.append(f"{first} is the first wrong landing, right.")
    else:
        says.append(f"The first landing with a wrong value is {first}, not {pointed.text}.")
    if choice.is_right:
        says.append(f"The cause is right: {cause[0].lower()}{cause[1:]}")
    else:
        says.append(f"The cause is another one: {cause[0].lower()}{cause[1:]}")
    says.append(_stands_now(exercise, planted.first, stands))
    if mended:
        says.extend(mended.says)
    else:
        says.append(f"Your mend is right; filled over {exercise.target.text} it holds everywhere.")
    checks = ((pointed == planted.first, "place"), (choice.is_right, "cause"))
    mistake = next((name for right, name in checks if not right), mended.mistake if mended else "")
    is_right = not mistake and mended is None
    return Verdict(
        is_right, tuple(says), planted.first, exercise.shape, None if is_right else stands, mistake
    )


def _stands_now(exercise: Exercise, first: Cell, stands: Shape | None) -> str:
    if stands is None:
        return f"A typed number stands there; {exercise.shape.text(first)} should."
    return (
        f"It reads {all_read(stands, first)} by {stands.text(first)}; it should read"
        f" {all_read(exercise.shape, first)}."
    )


def moves(exercise: Exercise, landing: Cell, other: Shape | None = None) -> tuple[str, ...]:
    """What becomes of the references: of all, or of those that another formula reads elsewhere."""
    shape, start = exercise.shape, exercise.start
    elsewhere = differing(shape, other, landing) if other else []
    numbers = elsewhere or shape.distinct
    said = [moved_said(shape, number, start, landing) for number in numbers]
    names = sorted(read_names(shape))
    if names:
        said.append(f"{both(names)} is a name: it means the same in every landing.")
    return tuple(said)


def _mistake(exercise: Exercise, landing: Cell, here: Shape | None, at: Cell | None = None) -> str:
    """What was mistaken, by the first reference that is read elsewhere.

    The formula was written ``at`` a cell, the start if none is given. A part *moved* where it went
    as far as the fill though it should stay, and the other way round.
    """
    shape, at = exercise.shape, at or exercise.start
    if here is None or len(here.references) != len(shape.references):
        return "start"
    for number in shape.distinct:
        meant, read = (each.references[number].area(landing) for each in (shape, here))
        if meant == read or meant is None:
            continue
        corners = shape.references[number].corners(at)
        if len(corners) > 1 and (read is None or meant.shape != read.shape):
            return "corner"
        if read is None:
            return "other"
        axis = next(each for each in AXES if meant.on(each) != read.on(each))
        begun, steps = shape.references[number].area(at), landing.on(axis) - at.on(axis)
        assert begun is not None  # it reads something wherever it is filled
        stayed = read.on(axis) == begun.on(axis)
        moved = read.on(axis) == tuple(end + steps for end in begun.on(axis))
        return f"{axis}-{'stayed' if stayed else 'moved'}" if stayed or moved else "other"
    return "start"
