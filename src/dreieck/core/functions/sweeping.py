"""How a sweep is written: which inputs run over which values, and what is to be seen of it."""

from __future__ import annotations

from dreieck.core.functions.forms import form
from dreieck.core.functions.registry import Takes, arg, optional, repeated

SWEEP, OVER, DRAWN = "SWEEP", "OVER", "DRAWN"


FORMS = {
    SWEEP: form(
        SWEEP,
        "One or two inputs run over many values, and results are kept.",
        "{*1} {0}",
        arg("input", Takes.LATER, "OVER(cell, …) or DRAWN(cell, …), once or twice"),
        repeated("results", Takes.LATER, "the cells whose values are to be seen"),
    ),
    OVER: form(
        OVER,
        "An input runs from a value to another one by steps, or over a list.",
        "over {*}",
        arg("cell", Takes.LATER, "the input"),
        arg("from", Takes.ARRAY, "the first value, or all values as a range or in braces"),
        optional("to", Takes.NUMBER, "the last value"),
        optional("step", Takes.NUMBER, "how far apart the values are"),
    ),
    DRAWN: form(
        DRAWN,
        "An input runs over numbers drawn between two others.",
        "drawn for {*}",
        arg("cell", Takes.LATER, "the input"),
        arg("low", Takes.NUMBER, "the smallest number"),
        arg("high", Takes.NUMBER, "the largest number"),
        arg("count", Takes.WHOLE, "how many are drawn"),
        optional("seed", Takes.WHOLE, "what the numbers follow from", "1"),
    ),
}
"""How sweeps are written."""
