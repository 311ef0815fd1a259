"""Parsing 10,000 different formulas, against tokenising them with Python's own tokenizer."""

from __future__ import annotations

import io
import tokenize

from bench.timing import ratio
from dreieck.core.formula import parse
from dreieck.core.grid import Cell, column_letters

ASKED = 15.0
TITLE = "parse 10,000 formulas / tokenize"


def measure() -> float:
    """How many times longer parsing takes."""
    at = Cell(20, 20)
    formulas = [
        f"=SUM({column_letters(n % 90 + 1)}{n}:C{n + 9})*1.{n}+IF(A{n}>B{n + 1},D{n},{n})"
        for n in range(1, 10_001)
    ]
    lines = [formula[1:].replace("=", "==").replace(":", "+") + "\n" for formula in formulas]

    def parsed() -> None:
        for formula in formulas:
            parse(formula, at)

    def tokenised() -> None:
        for line in lines:
            list(tokenize.generate_tokens(io.StringIO(line).readline))

    return ratio(parsed, tokenised, rounds=3)
