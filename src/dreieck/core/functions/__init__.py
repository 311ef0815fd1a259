"""The functions of the formula language, one module a family.

``find`` gives the record of a function: what it takes, does, and an example.
"""

from dreieck.core.functions import (
    angles,
    characters,
    conditional,
    database,
    dates,
    day_counts,
    depreciation,
    distributions,
    draws,
    feeds,
    finance,
    formatted,
    information,
    logic,
    lookup,
    mathematics,
    pairs,
    places,
    ranking,
    returns,
    rounding,
    spread,
    subtotals,
    summary,
    text,
    units,
    workdays,
)
from dreieck.core.functions.registry import (
    EXAMPLE_SHEET,
    Failure,
    Function,
    Parameter,
    Speech,
    Takes,
    Trait,
    Way,
    calls,
    every,
    find,
    has,
    speech_of,
)

FAMILIES = {
    module.__name__.rpartition(".")[2]: (module.__doc__ or "").strip().partition("\n")[0]
    for module in (
        summary,
        subtotals,
        conditional,
        lookup,
        places,
        logic,
        mathematics,
        rounding,
        angles,
        text,
        formatted,
        characters,
        dates,
        workdays,
        day_counts,
        information,
        ranking,
        spread,
        pairs,
        distributions,
        draws,
        feeds,
        finance,
        returns,
        depreciation,
        database,
        units,
    )
}
"""What each family is about, by its name."""
EVERYDAY = {"summary", "conditional", "lookup", "logic", "rounding", "text", "dates"}
"""The families of which nearly every table uses a function."""

__all__ = [
    "EVERYDAY",
    "EXAMPLE_SHEET",
    "FAMILIES",
    "Failure",
    "Function",
    "Parameter",
    "Speech",
    "Takes",
    "Trait",
    "Way",
    "calls",
    "every",
    "find",
    "has",
    "speech_of",
]
