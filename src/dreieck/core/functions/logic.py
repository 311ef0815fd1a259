"""Functions that decide."""

from __future__ import annotations

from collections.abc import Callable

from dreieck.core.functions.registry import Parameter, Result, Takes, function


@function(
    "IF",
    "6.15.4",
    "One value if a condition holds, another if it does not.",
    Parameter("condition", Takes.LOGICAL, "what is asked"),
    Parameter("then", Takes.LATER, "the value if it holds", optional=True),
    Parameter("else", Takes.LATER, "the value if it does not", optional=True),
    words="if {0}, then {1}, else {2}",
    example=('=IF(420>400,"full","free")', "full"),
)
def _if(
    condition: bool,
    then: Callable[[], Result] = lambda: True,
    otherwise: Callable[[], Result] = lambda: False,
) -> Result:
    return then() if condition else otherwise()
