"""What data files tell of functions: texts, parameters, traits, examples.

A family of functions has one, in TOML, beside the module that computes them. A table tells of
one function, named as in ``Function``; of its parameters, ``takes`` has what each takes (``as``,
by its name in ``Takes``), what it is for (``is``), and what holds where it is left out
(``otherwise``), if it can be. What is the ``same`` as another function but for its name tells
just that.
"""

from __future__ import annotations

import pkgutil
import tomllib
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from dreieck.core.functions.record import Function, Parameter, Result, Speech, Takes, Trait


@dataclass(frozen=True, slots=True)
class Family:
    """Functions that belong together: what they are about, and whether every table has some."""

    name: str
    about: str
    everyday: bool = False


def family_of(module: str) -> Family:
    """The family that a module computes, as its data file tells.

    Raises OSError where there is none.
    """
    return _read(module)[0]


def functions_of(
    module: str,
    computed: Mapping[str, Callable[..., Result]],
    at_once: Mapping[str, Callable[..., Any]],
) -> dict[str, Function]:
    """The functions of a module by name, with what computes them, one by one and at once.

    Raises ValueError where its data file tells of others, or of what there is not.
    """
    family, tables = _read(module)
    if apart := tables.keys() ^ computed.keys():
        raise ValueError(f"{family.name}: told or computed alone: {', '.join(sorted(apart))}.")
    return {
        name: _function(name, family, computed[name], at_once.get(name), table)
        for name, table in tables.items()
    }


def forms_of(module: str, compute: Callable[..., Result]) -> dict[str, Function]:
    """What is written like calls and is told of beside a module, all computed alike."""
    family, tables = _read(module)
    return {name: _function(name, family, compute, None, table) for name, table in tables.items()}


@cache
def _read(module: str) -> tuple[Family, dict[str, dict[str, Any]]]:
    """The family and the tables of a data file; they are asked for apart, and read once."""
    package, _, name = module.rpartition(".")
    content = tomllib.loads((pkgutil.get_data(package, f"{name}.toml") or b"").decode())
    family = Family(name, content.pop("about"), content.pop("everyday", False))
    for each, table in content.items():
        if "same" in table:
            content[each] = _renamed(content[table["same"]], table.pop("same"), each) | table
    return family, content


def _renamed(told: dict[str, Any], before: str, name: str) -> dict[str, Any]:
    """What is told of a function under a name that came after the standards; files mark it."""
    examples = [
        [text.replace(f"{before}(", f"{name}("), value] for text, value in told["examples"]
    ]
    return told | {"section": "", "later": name, "examples": examples}


def _function(
    name: str,
    family: Family,
    compute: Callable[..., Result],
    at_once: Callable[..., Any] | None,
    table: dict[str, Any],
) -> Function:
    told = dict(table)
    try:
        return Function(
            name,
            family.name,
            parameters=tuple(_parameter(each) for each in told.pop("takes", ())),
            examples=tuple((text, _value(value)) for text, value in told.pop("examples", ())),
            traits=frozenset(Trait[each.upper()] for each in told.pop("traits", ())),
            speech=Speech[speech.upper()] if (speech := told.pop("speech", "")) else None,
            compute=compute,
            at_once=at_once,
            **told,
        )
    except (KeyError, TypeError) as wrong:
        raise ValueError(f"{name} in {family.name}.toml: {wrong}") from None


def _value(value: Any) -> Any:
    """Numbers of the language are all of one kind."""
    return value if isinstance(value, bool | str) else float(value)


def _parameter(told: dict[str, Any]) -> Parameter:
    return Parameter(
        told["name"],
        Takes[told["as"].upper()],
        told["is"],
        optional="otherwise" in told,
        repeated=told.get("repeated", False),
        left_out=told.get("otherwise", "nothing"),
    )
