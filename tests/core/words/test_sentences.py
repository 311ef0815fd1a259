"""Formulas in sentences that one would say to a friend: those of ``readings.txt``."""

import pytest
from sayings import HERE, LINES, NAMES, SHEETS

from dreieck.core.editing.entering import typed_workbook
from dreieck.core.values import Place
from dreieck.core.words.phrases import sentence
from dreieck.core.words.reading import reading


@pytest.mark.parametrize(
    ("formula", "said"), list(zip(LINES[::2], LINES[1::2], strict=True)), ids=LINES[::2]
)
def test_a_formula_is_said_as_to_a_friend(formula, said):
    made = typed_workbook(SHEETS, NAMES)
    phrases = reading(made, Place("Helpers", HERE), made.read_entry(formula, HERE).content)
    assert sentence(phrases) == said.strip()
