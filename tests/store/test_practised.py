"""What was practised is kept, each answer once, and nobody sees another's."""

from concurrent.futures import ThreadPoolExecutor

import pytest

from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.practice.judging import Given, Verdict
from dreieck.core.practice.sets import DrillSet
from dreieck.store import Database, Practised

AT = Cell(3, 5)
SHAPE = Shape.parse("=B5*$B$2", AT)
RIGHT = Verdict(True, ("Right.",), AT, SHAPE)
WRONG = Verdict(False, ("Not yet.",), AT, SHAPE, SHAPE, "row-moved")
GIVEN = Given(formula="=B5*B2")


@pytest.fixture
def practised(path):
    database = Database(path)
    yield Practised(database)
    database.close()


def test_the_first_answer_to_a_drill_counts(practised):
    assert practised.record(0, "lock-1-1", "absolute", WRONG, GIVEN, 0)
    assert not practised.record(0, "lock-1-1", "absolute", RIGHT, GIVEN, 0)
    assert practised.record(0, "lock-1-3", "absolute", RIGHT, GIVEN, 1)
    assert practised.record(1, "lock-1-1", "absolute", RIGHT, GIVEN, 0)
    known = practised.mastery(0)["absolute"]
    assert (known.answered, known.right, known.steps, known.in_row) == (2, 1, 1, 1)
    assert practised.mastery(1)["absolute"].answered == 1
    assert practised.mastery(2)["absolute"].card is None
    # The same drill in a set is kept there, and is nothing new.
    number = practised.begin(0, DrillSet.of("Monday", ["lock-1-1"]))
    assert practised.record(0, "lock-1-1", "absolute", RIGHT, GIVEN, 0, number)
    assert practised.mastery(0)["absolute"].answered == 2


def test_an_answer_that_was_shown_before_counts_for_nothing(practised):
    assert practised.record(0, "lock-1-1", "absolute", RIGHT, GIVEN, 3)
    assert practised.mastery(0)["absolute"].answered == 0


def test_answers_at_the_same_moment_are_counted_once_each(practised):
    def answer(number):
        return practised.record(0, f"lock-1-{number % 20}", "absolute", RIGHT, GIVEN, 0)

    with ThreadPoolExecutor(8) as pool:
        taken = list(pool.map(answer, range(80)))
    assert taken.count(True) == 20
    assert practised.mastery(0)["absolute"].answered == 20


def test_a_set_is_taken_drill_by_drill_and_finished_with_the_last(practised):
    drills = DrillSet.of("Monday", ["lock-1-1", "find-1-0"], is_test=True)
    number = practised.begin(0, drills)
    assert practised.taking(0, number).next == 0
    practised.record(0, "lock-1-1", "absolute", WRONG, GIVEN, 0, number)
    taking = practised.taking(0, number)
    assert (taking.drills, taking.next, taking.finished, taking.right) == (drills, 1, "", 0)
    assert taking.answer("lock-1-1").given == GIVEN
    practised.record(0, "find-1-0", "faults", RIGHT, GIVEN, 0, number)
    taking = practised.taking(0, number)
    assert taking.finished
    assert (taking.next, taking.right) == (None, 1)
    with pytest.raises(KeyError):
        practised.taking(1, number)
    with pytest.raises(KeyError):
        practised.taking(0, number + 1)
    assert [each.id for each in practised.takings(0)] == [number]
    assert practised.takings(1) == []


def test_the_key_that_signs_results_is_made_once(path):
    database = Database(path)
    key = Practised(database).signing_key()
    database.close()
    database = Database(path)
    assert Practised(database).signing_key() == key
    assert len(key) > 30
    database.close()
