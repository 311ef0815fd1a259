"""The functions of the formula language, one module and one data file a family.

``find`` gives the record of a function: what it takes, does, and examples.
"""

import pkgutil
from importlib import import_module

from dreieck.core.functions import families as _families
from dreieck.core.functions.described import Family, family_of
from dreieck.core.functions.record import (
    EXAMPLE_SHEET,
    SINGLE,
    Function,
    Parameter,
    Speech,
    Takes,
    Trait,
    Way,
)
from dreieck.core.functions.registry import Failure, calls, every, find, has, speech_of

_MODULES = [
    f"{_families.__name__}.{module.name}" for module in pkgutil.iter_modules(_families.__path__)
]
for _module in _MODULES:
    import_module(_module)


def families() -> list[Family]:
    """The families of functions, those that nearly every table uses first."""
    return sorted(map(family_of, _MODULES), key=lambda family: (not family.everyday, family.name))


__all__ = [
    "EXAMPLE_SHEET",
    "SINGLE",
    "Failure",
    "Family",
    "Function",
    "Parameter",
    "Speech",
    "Takes",
    "Trait",
    "Way",
    "calls",
    "every",
    "families",
    "find",
    "has",
    "speech_of",
]
