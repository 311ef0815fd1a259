"""Functions that tell what a value is."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from dreieck.core.formula import Shape
from dreieck.core.functions.one_number import of_one
from dreieck.core.functions.registry import (
    Failure,
    Result,
    Speech,
    Takes,
    Trait,
    arg,
    at_once,
    function,
)
from dreieck.core.ranges.operands import Range, Several, Table
from dreieck.core.sheet.cells import Cells, Kind, is_kind
from dreieck.core.values import NA, VALUE, Error, Value

_VALUE = arg("value", Takes.VALUE, "what is asked about")


def _question(
    name: str,
    section: str,
    what: str,
    example: tuple[str, bool],
    holds: Callable[[Value], bool],
    kinds: tuple[int, ...] = (),
    trait: Trait = Trait.ASKS,
    speech: Speech | None = None,
) -> None:
    """Register a function that tells whether a value is something: of some kinds, if that."""
    purpose = f"Whether a value is {what}."
    function(
        name, section, purpose, _VALUE, words=f"{{0}} is {what}", example=example,
        traits=(trait,), speech=speech,
    )(holds)  # fmt: skip
    if kinds:
        at_once(name)(lambda cells: is_kind(cells.kinds, *kinds))


_question(
    "ISBLANK",
    "6.13.14",
    "an empty cell",
    ("=ISBLANK(A6)", True),
    lambda v: v is None,
    (Kind.EMPTY,),
)
_question(
    "ISNUMBER",
    "6.13.22",
    "a number",
    ("=ISNUMBER(B2)", True),
    lambda v: isinstance(v, float),
    (Kind.NUMBER,),
    speech=Speech.IS_THERE,
)
_question(
    "ISTEXT", "6.13.25", "text", ("=ISTEXT(A2)", True), lambda v: isinstance(v, str), (Kind.TEXT,)
)
_question(
    "ISNONTEXT",
    "6.13.21",
    "not text",
    ("=ISNONTEXT(A2)", False),
    lambda v: not isinstance(v, str),
    (Kind.EMPTY, Kind.NUMBER, Kind.LOGICAL, Kind.ERROR),
)
_question(
    "ISLOGICAL",
    "6.13.19",
    "TRUE or FALSE",
    ("=ISLOGICAL(B2>1)", True),
    lambda v: isinstance(v, bool),
    (Kind.LOGICAL,),
)
_question(
    "ISERROR",
    "6.13.16",
    "an error",
    ("=ISERROR(B2/0)", True),
    lambda v: isinstance(v, Error),
    (Kind.ERROR,),
    trait=Trait.GUARDS,
    speech=Speech.IS_MISSING,
)
_question(
    "ISERR",
    "6.13.15",
    "an error other than #N/A",
    ("=ISERR(NA())", False),
    lambda v: isinstance(v, Error) and v.code != NA,
    trait=Trait.GUARDS,
)
_question(
    "ISNA",
    "6.13.20",
    "the error #N/A",
    ("=ISNA(NA())", True),
    lambda v: isinstance(v, Error) and v.code == NA,
    trait=Trait.GUARDS,
    speech=Speech.IS_MISSING,
)


@function(
    "NA", "6.13.27", "The error #N/A.", words="not available", example=("=ISNA(NA())", True),
    traits=(Trait.MEANT,),
)  # fmt: skip
def _na() -> Value:
    raise Failure(NA, "NA() says that the value is not available.")


@function(
    "N",
    "6.13.26",
    "A value as a number: TRUE is 1, text is 0.",
    _VALUE,
    words="{0} as a number",
    example=("=N(B2>40)", 1.0),
    traits=(Trait.ASKS,),
)
def _n(value: Value) -> Value:
    if isinstance(value, Error):
        return value
    return float(value) if isinstance(value, float | bool) else 0.0


@at_once("N")
def _n_in_rows(cells: Cells) -> Cells:
    counted = is_kind(cells.kinds, Kind.NUMBER, Kind.LOGICAL, Kind.ERROR)
    kinds = np.where(cells.kinds == Kind.ERROR, cells.kinds, np.uint8(Kind.NUMBER))
    return Cells(kinds, np.where(counted, cells.payload, 0.0), cells.pool)


for _each in (
    ("ISEVEN", "6.13.17", "Whether a number is even; what stands behind the point is cut off.",
     "{0} is even", lambda n: math.trunc(n) % 2 == 0, lambda n: np.trunc(n) % 2 == 0,
     ("=ISEVEN(4)", True)),
    ("ISODD", "6.13.23", "Whether a number is odd; what stands behind the point is cut off.",
     "{0} is odd", lambda n: math.trunc(n) % 2 == 1, lambda n: np.trunc(n) % 2 == 1,
     ("=ISODD(4)", False)),
):  # fmt: skip
    of_one(__name__, *_each)


@function(
    "ISREF",
    "6.13.24",
    "Whether something is a reference, and not a value.",
    arg("reference", Takes.LATER, "what is asked about"),
    words="{0} is a reference",
    example=("=ISREF(B2)", True),
    traits=(Trait.ASKS,),
)
def _isref(asked: Callable[[], Result]) -> bool:
    return isinstance(asked(), Range | Several)


@function(
    "ISFORMULA",
    "6.13.18",
    "Whether a cell holds a formula.",
    arg("cell", Takes.RANGE, "the cell"),
    words="{0} holds a formula",
    example=("=ISFORMULA(B2)", False),
    traits=(Trait.ASKS, Trait.LOOKS_INSIDE),
)
def _isformula(cells: Table) -> bool:
    return isinstance(_content(cells), Shape)


@function(
    "FORMULA",
    "6.13.12",
    "The formula of a cell, as text; #N/A where it holds none.",
    arg("cell", Takes.RANGE, "the cell"),
    words="the formula of {0}",
    example=('=IFNA(FORMULA(B2),"none")', "none"),
    traits=(Trait.ASKS, Trait.LOOKS_INSIDE),
)
def _formula(cells: Table) -> str:
    content = _content(cells)
    if not isinstance(content, Shape) or not isinstance(cells, Range):
        raise Failure(NA, "The cell holds no formula.")
    return content.text(cells.area.first)


def _content(cells: Table) -> object:
    """What the first cell of a range holds."""
    if not isinstance(cells, Range):
        raise Failure(VALUE, "A cell is needed, not a value.")
    return cells.reader.workbook.content(cells.sheet, cells.area.first)


@function(
    "TYPE",
    "6.13.33",
    "The kind of a value: 1 number, 2 text, 4 TRUE or FALSE, 16 error, 64 several values.",
    arg("value", Takes.LATER, "what is asked about"),
    words="the kind of {0}",
    example=("=TYPE(A2)", 2.0),
    traits=(Trait.ASKS, Trait.GUARDS),
)
def _type(asked: Callable[[], Result]) -> float:
    found = asked()
    if isinstance(found, Table) and found.size == 1:
        found = found.at(0, 0)
    if isinstance(found, Table | Several):
        return 64.0
    if isinstance(found, Error):
        return 16.0
    return 4.0 if isinstance(found, bool) else 2.0 if isinstance(found, str) else 1.0
