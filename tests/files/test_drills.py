"""Files of sets and results of drills."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.sets import FIRST_TWELVE, DrillSet
from dreieck.files.drills import (
    MAX_BYTES,
    AnswerFile,
    ResultFile,
    read_result,
    read_set,
    set_text,
    signed,
)

ANSWER = AnswerFile(
    drill="lock-2-1", right=False, hints=1, mistake="row-moved", choice=-1, cell="",
    formula="=$B6*C5", at="2026-11-27T08:00:00+00:00",
)  # fmt: skip
RESULT = ResultFile(
    who="Ada", title="Monday", test=False, begun="2026-11-27T08:00:00+00:00",
    finished="2026-11-27T08:10:00+00:00",
    answers=[ANSWER, ANSWER.model_copy(update={"right": True})],
)  # fmt: skip


@pytest.mark.parametrize(
    "drills", [FIRST_TWELVE, DrillSet.of("Übung “1”", ["find-3-0"], is_test=True)]
)
def test_a_set_is_read_as_it_was_written(drills):
    assert read_set(set_text(drills).encode()) == drills


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "not a set of drills"),
        (b"[]", "not a set of drills"),
        (b'{"title": "x"}', "drills: Field required"),
        (b'{"title": "x", "drills": ["bake-1-1"]}', "no code of a drill"),
        (b'{"title": "x", "drills": ["lock-1-1"], "more": 1}', "more: Extra"),
        (b'{"title": "x", "version": 2, "drills": ["lock-1-1"]}', "version"),
        (b" " * (MAX_BYTES + 1), "too large"),
        (b"\xff\xfe", "not a set of drills"),
    ],
)
def test_what_is_no_set_is_refused_with_the_reason(data, says):
    with pytest.raises(DreieckError, match=says):
        read_set(data)


def test_a_result_is_known_by_its_signature():
    text = signed(RESULT, "key")
    result, is_genuine = read_result(text.encode(), "key")
    assert is_genuine
    assert result.right == 1
    assert result.answers == RESULT.answers
    # How it is spaced does not matter, another key does.
    assert read_result(json.dumps(json.loads(text)).encode(), "key")[1]
    assert not read_result(text.encode(), "another")[1]


@given(st.data())
def test_any_change_of_a_result_is_seen(data):
    held = json.loads(signed(RESULT, "key"))
    place = held if data.draw(st.booleans()) else held["answers"][0]
    name = data.draw(st.sampled_from([n for n in place if not isinstance(place[n], list)]))
    kinds = {bool: st.booleans(), int: st.integers(-1, 99), str: st.text(max_size=20)}
    changed = data.draw(kinds[type(place[name])])
    was, place[name] = place[name], changed
    try:
        _, is_genuine = read_result(json.dumps(held).encode(), "key")
    except DreieckError:
        assert name in ("format", "version")
    else:
        assert is_genuine == (changed == was)
