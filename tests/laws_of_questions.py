"""What holds for every question, whatever its seed: used by the tests and by the campaign."""

from dreieck.core.checking.findings import check_workbook
from dreieck.core.grid import Cell
from dreieck.core.practice import hints
from dreieck.core.practice.catalogue import again, question
from dreieck.core.practice.codes import Code
from dreieck.core.practice.exercise import alike
from dreieck.core.practice.faults import RULES
from dreieck.core.practice.judging import Given, judge
from dreieck.core.practice.question import CHOSEN
from dreieck.core.practice.skills import SKILLS

SLIGHT = 0.004
"""Values to choose from differ by more than this share of themselves: not by rounding alone."""


def right_answer(asked):
    """The answer that is right, as a learner would give it."""
    exercise = asked.exercise
    if asked.planted:
        first = asked.planted.first
        return Given(asked.right, first.text, exercise.shape.text(first))
    if asked.form in CHOSEN:
        return Given(asked.right)
    if asked.form == "reads":
        area = exercise.shape.references[exercise.number].area(asked.landing)
        return Given(cell=area.first.text)
    return Given(formula=exercise.formula)


def check(code):
    """A question is the same each time, can be answered, and has no two answers alike."""
    asked = check_lightly(code)
    assert question(code).asks == asked.asks
    assert hints.which_part_moves(asked)
    assert hints.answer(asked)
    _check_cells(asked)
    if asked.planted:
        _check_fault(asked)
    return asked


def check_lightly(code):
    """The same, as far as it can be seen without much work."""
    asked = question(code)
    assert asked.skill in SKILLS
    exercise = asked.exercise
    assert exercise.target.holds(asked.landing)
    assert exercise.differing(exercise.shape) is None
    assert not any(str(value).startswith("Error") for value in exercise.values(exercise.shape))
    assert all(exercise.sheet.content(cell) is None for cell in exercise.landings)
    verdict = judge(asked, right_answer(asked))
    assert verdict.is_right, verdict.says
    assert all(verdict.says)
    _check_choices(asked)
    return asked


def _check_choices(asked):
    texts = [choice.text for choice in asked.choices]
    assert len({text.casefold() for text in texts}) == len(texts)
    if not asked.choices:
        return
    assert sum(choice.is_right for choice in asked.choices) == 1
    assert len(asked.choices) >= 3
    for number, choice in enumerate(asked.choices):
        if asked.form in CHOSEN and not choice.is_right:
            assert not judge(asked, Given(number)).is_right
    if asked.form == "shows":
        name, landing = asked.exercise.sheet_name, asked.landing
        values = [
            asked.exercise.with_fill(each.here).value(name, landing) for each in asked.choices
        ]
        right = values.pop(asked.right)
        for value in values:
            assert not alike(value, right)
            if isinstance(value, float) and isinstance(right, float):
                assert abs(value - right) > SLIGHT * max(abs(value), abs(right))
    if asked.form == "stands":
        exercise = asked.exercise
        assert asked.choices[asked.right].text == exercise.shape.text(asked.landing)


def _check_cells(asked):
    """Of all cells that could be pointed at one is right."""
    if asked.form != "reads":
        return
    used = asked.exercise.sheet.used()
    every = [Cell(c, r) for c in range(1, used.right + 2) for r in range(1, used.bottom + 2)]
    right = [cell for cell in every if judge(asked, Given(cell=cell.text)).is_right]
    assert [cell.text for cell in right] == [right_answer(asked).cell]


def _check_fault(asked):
    """The finding that tells such a mistake tells it, and nothing else is in doubt."""
    exercise, planted = asked.exercise, asked.planted
    shown, right = asked.shown, exercise.with_fill(exercise.shape)
    name = exercise.sheet_name
    wrong = [
        cell
        for cell in exercise.landings
        if not alike(shown.value(name, cell), right.value(name, cell))
    ]
    assert wrong[0] == planted.first
    found = {
        finding.rule
        for checked in check_workbook(shown)
        for finding in checked.findings
        if finding.state != "note"
    }
    assert found
    assert found <= set(RULES[planted.cause])


def check_again(code):
    """The same with other numbers is the same question about another table."""
    one, two = question(code), question(again(code))
    assert (one.form, one.skill) == (two.form, two.skill)
    assert one.planted is None or one.planted.cause == two.planted.cause


def codes(kind, level, seeds):
    """Codes of one kind and level."""
    return (Code(kind, level, seed) for seed in seeds)
