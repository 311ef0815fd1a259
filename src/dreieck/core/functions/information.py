"""Functions that tell what a value is."""

from __future__ import annotations

from collections.abc import Callable

from dreieck.core.functions.registry import Failure, Takes, arg, function
from dreieck.core.values import NA, Error, Value

_VALUE = arg("value", Takes.VALUE, "what is asked about")


def _question(
    name: str, section: str, what: str, example: tuple[str, bool], holds: Callable[[Value], bool]
) -> None:
    """Register a function that tells whether a value is something."""
    purpose = f"Whether a value is {what}."
    function(name, section, purpose, _VALUE, words=f"{{0}} is {what}", example=example)(holds)


_question("ISBLANK", "6.13.14", "an empty cell", ("=ISBLANK(A6)", True), lambda v: v is None)
_question(
    "ISNUMBER", "6.13.22", "a number", ("=ISNUMBER(B2)", True), lambda v: isinstance(v, float)
)
_question("ISTEXT", "6.13.25", "text", ("=ISTEXT(A2)", True), lambda v: isinstance(v, str))
_question(
    "ISNONTEXT", "6.13.21", "not text", ("=ISNONTEXT(A2)", False), lambda v: not isinstance(v, str)
)
_question(
    "ISLOGICAL",
    "6.13.19",
    "TRUE or FALSE",
    ("=ISLOGICAL(B2>1)", True),
    lambda v: isinstance(v, bool),
)
_question(
    "ISERROR", "6.13.16", "an error", ("=ISERROR(B2/0)", True), lambda v: isinstance(v, Error)
)
_question(
    "ISERR",
    "6.13.15",
    "an error other than #N/A",
    ("=ISERR(NA())", False),
    lambda v: isinstance(v, Error) and v.code != NA,
)
_question(
    "ISNA",
    "6.13.20",
    "the error #N/A",
    ("=ISNA(NA())", True),
    lambda v: isinstance(v, Error) and v.code == NA,
)


@function("NA", "6.13.27", "The error #N/A.", words="not available", example=("=ISNA(NA())", True))
def _na() -> Value:
    raise Failure(NA, "NA() says that the value is not available.")


@function(
    "N",
    "6.13.26",
    "A value as a number: TRUE is 1, text is 0.",
    _VALUE,
    words="{0} as a number",
    example=("=N(B2>40)", 1.0),
)
def _n(value: Value) -> Value:
    if isinstance(value, Error):
        return value
    return float(value) if isinstance(value, float | bool) else 0.0
