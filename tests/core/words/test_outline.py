"""A formula part by part: its structure, the way that is taken, and what each part is worth."""

import pytest
from sayings import HERE, LINES, calculated, ways_to_tell

from dreieck.core.calculate.evaluation import result_at
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.values import Place
from dreieck.core.words.outline import MAX_LINES, is_long, outline
from dreieck.core.words.working import told

PLACE = Place("Helpers", HERE)


def laid_out(formula):
    calculation, shape = calculated(formula)
    return calculation, shape, outline(calculation, PLACE, shape)


@pytest.mark.parametrize("formula", [line for line in LINES[::2] if "RAND" not in line])
def test_what_is_written_whole_comes_to_what_it_comes_to_by_itself(formula):
    calculation, shape, parts = laid_out(formula)
    assert 0 < len(parts) <= MAX_LINES
    for part in parts:
        node = Shape.parse(f"={part.text}", HERE) if part.taken and part.says else None
        # Ranges and names are told by what they hold.
        if node is None or isinstance(node.tree, tree.Name | RangeReference | tree.Inline):
            continue
        assert part.worth in ways_to_tell(part.text, calculation), part
    assert told(result_at(shape, PLACE, calculation)) in (parts[0].worth, "")


@pytest.mark.parametrize(
    ("formula", "lines"),
    [
        (
            "=IF(D2>2,D2*D3*(1-0.1),IF(D3>1,D2,0))",
            ["0  IF( … 7.2", "1 if D2>2 true", "1 then D2*D3*(1-0.1) 7.2", "1 else IF( … -",
             "2 if D3>1 -", "2 then D2 -", "2 else 0 -"],
        ),
        (
            "=IFS(D3>4,1/0,D3>1,D3,TRUE,0)",
            ["0  IFS( … 2", "1 if D3>4 false", "1 then 1/0 -", "1 else if D3>1 true",
             "1 then D3 2", "1 else if TRUE -", "1 then 0 -"],
        ),
        ("=IFERROR(D2/0,D3)", ["0  IFERROR( … 2", "1 try D2/0 #DIV/0!", "1 else D3 2"]),
        ("=IFERROR(D2,1/0)", ["0  IFERROR( … 4", "1 try D2 4", "1 else 1/0 -"]),
        ("=D2*2", ["0  D2*2 8"]),
    ],
)  # fmt: skip
def test_of_a_choice_only_the_way_that_is_taken_is_worked_out(formula, lines):
    *_, parts = laid_out(formula)
    told_as = [
        f"{part.depth} {part.role} {part.text} {part.worth if part.taken else '-'}"
        for part in parts
    ]
    assert told_as == lines


def test_why_a_way_is_taken_is_told_and_plain_formulas_are_not_laid_out():
    *_, parts = laid_out("=IF(D2>2,D2,0)")
    assert parts[0].why == "4 is more than 2"
    _, shape, _ = laid_out("=D2*D3")
    assert not is_long(shape)
    _, shape, _ = laid_out("=IF(D2>2,D2,0)")
    assert is_long(shape)
