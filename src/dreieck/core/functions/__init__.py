"""The functions of the formula language, one module a family.

``find`` gives the record of a function: what it takes, does, and an example.
"""

from dreieck.core.functions import (
    conditional,
    database,
    dates,
    finance,
    information,
    logic,
    lookup,
    mathematics,
    summary,
    text,
)
from dreieck.core.functions.registry import (
    EXAMPLE_SHEET,
    Failure,
    Function,
    Parameter,
    Takes,
    every,
    find,
)

FAMILIES = {
    module.__name__.rpartition(".")[2]: (module.__doc__ or "").strip().partition("\n")[0]
    for module in (
        summary,
        conditional,
        lookup,
        logic,
        mathematics,
        text,
        dates,
        information,
        finance,
        database,
    )
}
"""What each family is about, by its name."""

__all__ = [
    "EXAMPLE_SHEET",
    "FAMILIES",
    "Failure",
    "Function",
    "Parameter",
    "Takes",
    "every",
    "find",
]
