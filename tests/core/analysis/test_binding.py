"""Formulas that give names to their own parts, written out without these names."""

import pytest

from dreieck.core.analysis.binding import written_out
from dreieck.core.analysis.uses import uses
from dreieck.core.formula import Shape, parse
from dreieck.core.grid import Cell

AT = Cell(5, 5)


@pytest.mark.parametrize("text", ["=SUM(A1:A3*B1)+RAND()", "=A1*$B$2"])
def test_what_gives_no_names_is_the_very_same_tree_though_equal_ones_were_asked(text):
    first, second = parse(text, AT).tree, parse(text, AT).tree
    assert first is not second
    assert written_out(first) is first and written_out(second) is second


def test_references_are_told_by_what_their_names_are_used_for():
    shape = Shape.parse("=LET(loads,B2:B9,key,A2,unused,C2,SUM(loads)-MAX(loads)*key)", AT)
    assert [(use.reference, use.how, use.function) for use in uses(shape)] == [
        (shape.references[0], "total", "SUM"),
        (shape.references[1], "number", ""),
        (shape.references[2], "value", ""),
    ]
