import pytest
from tables import LOADS, workbook

from dreieck.core.functions import every
from dreieck.core.grid import Cell
from dreieck.core.values import Place
from dreieck.core.words.reading import reading


def said(formula, at="D6", **more):
    made = workbook(
        Loads={**LOADS, **more, at: formula}, Prices={"A3": "Carrying price", "B3": "1.8"}
    )
    cell = Cell.parse(at)
    phrases = reading(made, Place("Loads", cell), made.content("Loads", cell))
    return " ".join(phrase.text for phrase in phrases)


@pytest.mark.parametrize(
    ("formula", "words"),
    [
        (
            "=$B6*D$4",
            "Lentils, kg a guest-night (always column B, this row)"
            " × Guest-nights, Larch (this column, always row 4)",
        ),
        ("=C6", "Lentils, Kestrel (the cell to the left)"),
        ("=B4", "Guest-nights, kg a guest-night (the cell 2 up and 2 left)"),
        ("=$G$1", "Load for the first week, kg (always G1)"),
        ("=Prices!$B$3*2", "Carrying price (always B3 on Prices) × 2"),
        (
            "=SUM(B$5:B6)",
            "the sum of kg a guest-night, Flour to Lentils"
            " (the column 2 left, always from row 5 to this row)",
        ),
        (
            "=IF(D4>300,D4,0)",
            "if Guest-nights, Larch (the cell 2 up) is more than 300 ,"
            " then Guest-nights, Larch (the cell 2 up) , else 0",
        ),
        ("=ROUND(-B6%,1)", "minus Lentils, kg a guest-night (the cell 2 left) percent"
                           " , rounded to 1 decimal"),
        ("=SUM(B:B)", "the sum of kg a guest-night (the column 2 left, the whole column)"),
        ('=A6&""&nights', "“Lentils” (the cell 3 left) joined with no text joined with nights"),
        ("=NOSUCH(#REF!,TRUE)", "NOSUCH of a lost reference and true"),
        ("=Nowhere!B4", "a lost reference"),
        ("=$B$5 $B$6~$B$5", "what is both in Flour, kg a guest-night (always B5) and in Lentils,"
                            " kg a guest-night (always B6) together with Flour, kg a guest-night"
                            " (always B5)"),
        ("=7.50*TRUNC(1E3)", "7.50 × 1E3 , cut off after 0 decimals"),
    ],
)  # fmt: skip
def test_formulas_in_words(formula, words):
    assert said(formula) == words


@pytest.mark.parametrize("function", every(), ids=lambda function: function.name)
def test_every_function_is_said_in_words_with_and_without_its_optional_arguments(function):
    least = ",".join(["B5:B6"] * function.least)
    most = ",".join(["B5:B6"] * (function.most if function.most is not None else 4))
    for arguments in (least, most):
        words = said(f"={function.name}({arguments})", at="H9")
        assert "{" not in words and "nothing" not in words
        if arguments:
            assert "kg a guest-night" in words


def test_a_heading_far_above_is_found():
    column = {f"H{row}": "1" for row in range(2, 40)}
    assert said("=H39", H1="Nights", **column).startswith("Nights (")
