"""Arguments of a call, converted to what the function takes.

A range hands over only what is of the kind that is asked for; a value written in the
call itself is converted (OpenFormula 6.3).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache, partial
from itertools import chain, repeat
from typing import Any, Protocol

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.formula import tree
from dreieck.core.functions import Failure, Function, Parameter, Takes, find
from dreieck.core.ranges.operands import Array, Range, Several, Table, parts, values_in_pieces
from dreieck.core.ranges.totals import Total
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import VALUE, Error, Value, to_logical, to_number, to_text

Operand = Value | Range | Array | Several


class Evaluation(Protocol):
    """Who works out the nodes of a formula."""

    def value(self, node: tree.Node) -> Value:
        """The single value of a node."""

    def operand(self, node: tree.Node) -> Operand:
        """The value of a node, or the range that it refers to."""

    def array(self, node: tree.Node) -> Operand:
        """The same where ranges are taken whole: operators go through them cell by cell."""

    def addressed(self, text: str, *, by_number: bool) -> Operand:
        """The range that an address in a text names, with letters or ``by_number`` (R4C2)."""


_TOTALS = (Takes.TOTALS, Takes.COUNTED)
_SEQUENCES = (Takes.NUMBERS, Takes.VALUES, Takes.EVERY, Takes.LOGICALS)


def bound(function: Function, nodes: tuple[tree.Node, ...], evaluation: Evaluation) -> list[Any]:
    """The arguments for ``function.compute``.

    Raises Failure where their number is wrong or one of them is an error.
    """
    if why := refusal(function.name, len(nodes)):
        raise Failure(VALUE, why)
    arguments: list[Any] = []
    for index, node in enumerate(nodes):
        parameter = function.parameter(index)
        if takes_the_rest(parameter):
            arguments.append(bound_rest(parameter, nodes[index:], evaluation))
            break
        arguments.append(bound_one(parameter, node, evaluation))
    return arguments


def takes_the_rest(parameter: Parameter) -> bool:
    """Whether a parameter takes all further arguments as one."""
    return parameter.takes in _TOTALS or (parameter.repeated and parameter.takes in _SEQUENCES)


def bound_rest(
    parameter: Parameter, nodes: tuple[tree.Node, ...], evaluation: Evaluation
) -> list[Total] | Iterator[Value]:
    """Several arguments for a parameter that takes them as one. Raises Failure."""
    if parameter.takes in _TOTALS:
        return list(chain.from_iterable(_totals(parameter, node, evaluation) for node in nodes))
    return _sequence(parameter, nodes, evaluation)


def bound_one(parameter: Parameter, node: tree.Node, evaluation: Evaluation) -> Any:
    """An argument for a parameter. Raises Failure."""
    return _BINDERS[parameter.takes](parameter, node, evaluation)


def _converted(convert: Callable[[Value], Value]) -> Callable[..., Any]:
    return lambda parameter, node, evaluation: _sound(convert(evaluation.value(node)))


def _range(parameter: Parameter, operand: Operand) -> Table:
    if isinstance(operand, Error):
        raise Failure.of(operand)
    if isinstance(operand, Several):
        raise Failure(VALUE, f"“{parameter.name}” has to be one range; these are several.")
    if not isinstance(operand, Table):
        raise Failure(VALUE, f"“{parameter.name}” has to be a range, not a value.")
    return operand


def _areas(parameter: Parameter, operand: Operand) -> list[Table]:
    return [_range(parameter, part) for part in parts(operand)]


def _place(parameter: Parameter, operand: Operand) -> Range:
    table = _range(parameter, operand)
    if isinstance(table, Array):
        raise Failure(VALUE, f"“{parameter.name}” has to be a range of cells.")
    return table


def _table(parameter: Parameter, operand: Operand) -> Table:
    if isinstance(operand, Table | Several):
        return _range(parameter, operand)
    return Array.of([[_sound(operand)]])


def _ordered(parameter: Parameter, operand: Operand) -> Payload:
    found: list[Payload] = []
    for part in parts(operand):
        if isinstance(part, Table):
            _sound(part.total().error)
            found.append(part.ordered())
        else:
            found.append(np.array([_sound(to_number(part))]))
    return found[0] if len(found) == 1 else np.sort(np.concatenate(found))


def _sequence(
    parameter: Parameter, nodes: tuple[tree.Node, ...], evaluation: Evaluation
) -> Iterator[Value]:
    each = _EACH[parameter.takes]
    return chain.from_iterable(
        each(part) for node in nodes for part in parts(evaluation.array(node))
    )


def _totals(parameter: Parameter, node: tree.Node, evaluation: Evaluation) -> Iterator[Total]:
    """What the numbers of an argument come to; an error among them is one of the call."""
    for part in parts(evaluation.array(node)):
        yield _total(part, as_numbers=parameter.takes is Takes.TOTALS)


def _total(operand: Value | Table, *, as_numbers: bool) -> Total:
    if isinstance(operand, Table):
        total = operand.total().copy()
    else:
        total = Total()
        total.take([to_number(operand)] if as_numbers else [] if operand is None else [operand])
    if as_numbers and total.error:
        _sound(total.error)
    return total


def _numbers(operand: Value | Table) -> Iterator[Value]:
    if isinstance(operand, Table):
        return (value for value in map(_sound, operand.filled()) if isinstance(value, float))
    return iter((_sound(to_number(operand)),))


def _logicals(operand: Value | Table) -> Iterator[Value]:
    if isinstance(operand, Table):
        found = map(_sound, operand.filled())
        return (bool(value) for value in found if isinstance(value, float | bool))
    return iter((_sound(to_logical(operand)),))


def _values(operand: Value | Table) -> Iterator[Value]:
    return operand.filled() if isinstance(operand, Table) else iter((operand,))


def _every(operand: Value | Table) -> Iterator[Value]:
    """All values row by row, those of empty cells too."""
    if not isinstance(operand, Table):
        yield operand
        return
    expected = 0
    places, cells = operand.in_rows()
    for at, value in zip(places.tolist(), values_in_pieces(cells), strict=True):
        if at > expected:
            yield from _empty(at - expected)
        yield value
        expected = at + 1
    yield from _empty(operand.size - expected)


def _empty(count: int) -> Iterator[None]:
    spend(count // 8)
    return repeat(None, count)


def _sound(value: Any) -> Any:
    if isinstance(value, Error):
        raise Failure.of(value)
    return value


@lru_cache(maxsize=1024)
def refusal(name: str, count: int) -> str | None:
    """Why a function does not take so many arguments, None if it does."""
    function = find(name)
    assert function is not None
    most = function.most
    if function.least <= count and (most is None or count <= most):
        return None
    return f"{name} takes {_how_many(function)}, not {count}."


def _how_many(function: Function) -> str:
    least, most = function.least, function.most
    if most is None:
        return f"at least {least} argument{'s' * (least != 1)}"
    if least == most:
        return f"{least} argument{'s' * (least != 1)}"
    return f"{least} to {most} arguments"


_EACH = {
    Takes.NUMBERS: _numbers, Takes.VALUES: _values, Takes.EVERY: _every,
    Takes.LOGICALS: _logicals,
}  # fmt: skip
_BINDERS: dict[Takes, Callable[..., Any]] = {
    Takes.NUMBER: _converted(to_number),
    Takes.TEXT: _converted(to_text),
    Takes.LOGICAL: _converted(to_logical),
    Takes.WHOLE: lambda p, node, evaluation: int(_sound(to_number(evaluation.value(node)))),
    Takes.VALUE: lambda p, node, evaluation: evaluation.value(node),
    Takes.LATER: lambda p, node, evaluation: lambda: evaluation.operand(node),
    Takes.RANGE: lambda p, node, evaluation: _range(p, evaluation.array(node)),
    Takes.SIZE: lambda p, node, evaluation: _range(p, evaluation.array(node)),
    Takes.ORDERED: lambda p, node, evaluation: _ordered(p, evaluation.array(node)),
    Takes.PLACE: lambda p, node, evaluation: _place(p, evaluation.array(node)),
    Takes.AREAS: lambda p, node, evaluation: _areas(p, evaluation.array(node)),
    Takes.ARRAY: lambda p, node, evaluation: _table(p, evaluation.array(node)),
    Takes.ADDRESS: lambda p, node, evaluation: partial(
        evaluation.addressed, _sound(to_text(evaluation.value(node)))
    ),
    **dict.fromkeys(_EACH, lambda p, node, evaluation: _sequence(p, (node,), evaluation)),
}
