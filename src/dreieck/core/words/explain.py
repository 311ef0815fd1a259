"""Errors in words: what happened, and what usually mends it."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.values import (
    DIV0,
    LOOP,
    NA,
    NAME,
    NULL,
    NUM,
    REF,
    ROOM,
    VALUE,
    WORK,
    Error,
    Place,
)


@dataclass(frozen=True, slots=True)
class Explanation:
    """An error value in words; ``began`` is the cell where it began."""

    code: str
    means: str
    why: str
    mend: str
    began: Place | None


_WORDS = {
    DIV0: (
        "It divides by zero.",
        "Look at what stands below the division line: an empty cell counts as 0. Often a"
        " reference slid off the cell that held the divisor; let it stay.",
    ),
    NA: (
        "A value was looked for and is not there.",
        "Compare the sought value with the list, letter by letter; check that the list is"
        " whole and that its reference stays when the formula is filled.",
    ),
    NAME: (
        "The formula uses a word that means nothing here.",
        "Check the spelling. Text inside a formula needs double quotes.",
    ),
    NULL: (
        "A blank or “!” between two references means the cells that both share; these share none.",
        "If an operator such as + or * was forgotten, put it in. To use both areas, put a comma"
        " between them, or “~”.",
    ),
    NUM: (
        "A number is too large, or outside of what the function can take.",
        "Look at the numbers that it reads: is one of them negative, zero or far too large?",
    ),
    REF: (
        "A reference points to nothing any more.",
        "It fell off the sheet when the formula was filled or copied, or its cell was deleted."
        " Point at the cell anew, and lock what has to stay.",
    ),
    VALUE: (
        "Something of the wrong kind stands where a number or a single value is needed.",
        "Often a reference slid onto a heading or another text; let it stay, or point at the"
        " number instead.",
    ),
    WORK: (
        "Working it out would take too long, so it was not done.",
        "Let its ranges end where the data ends, split it over helper cells, or look at the"
        " names it uses: does one stand for another again and again?",
    ),
    ROOM: (
        "The formula gives several values, and something stands where they would go.",
        "Empty the cells that it needs, or move the formula to where there is room."
        " Where only the first value is wanted, take it by INDEX(…, 1).",
    ),
    LOOP: (
        "The cell reads itself, directly or over other cells.",
        "Follow what it reads: one of those cells reads this one. Let a range end one row"
        " before the formula.",
    ),
}


def explain(error: Error) -> Explanation:
    """An error in words."""
    means, mend = _WORDS[error.code]
    return Explanation(error.code, means, error.why, mend, error.origin)
