"""Formulas in sentences that one would say to a friend: those of ``readings.txt``."""

import pytest
from sayings import HERE, LINES, NAMES, SHEETS

from dreieck.core.editing.entering import typed_workbook
from dreieck.core.sheet.stated import STANDS, Proof
from dreieck.core.values import Place
from dreieck.core.words.phrases import sentence
from dreieck.core.words.proving import statement_said
from dreieck.core.words.reading import reading


@pytest.mark.parametrize(
    ("formula", "said"), list(zip(LINES[::2], LINES[1::2], strict=True)), ids=LINES[::2]
)
def test_a_formula_is_said_as_to_a_friend(formula, said):
    made = typed_workbook(SHEETS, NAMES)
    phrases = reading(made, Place("Helpers", HERE), made.read_entry(formula, HERE).content)
    assert sentence(phrases) == said.strip()


STATED = {
    "=ISFORMULA(Weeks!B2:D4)": "Each of Flour to Cheese, Week 1 to Week 3 holds a formula",
    "=AND(Helpers!D2:D7>Helpers!E2:E7)": "Each of Nights is more than Fee",
    "=OR(Helpers!D2:D7>5)": "At least one of Nights is more than 5",
    "=NOT(ISERROR(Helpers!D2:D7))": "It is not so that any of Nights is an error",
    "=ISNUMBER(Helpers!D2)": "Ada, Nights is a number",
    "=AND(Helpers!D2:D7>0,Helpers!D8=21)": "Each of Nights is more than 0 and Total, Nights is 21",
}


@pytest.mark.parametrize(("text", "said"), STATED.items(), ids=list(STATED))
def test_what_is_stated_of_a_range_is_stated_of_each_of_its_cells(text, said):
    made = typed_workbook(SHEETS, NAMES)
    assert statement_said(made, Proof(1, made.read_entry(text, STANDS).content)) == said
