"""Arguments of a call, converted to what the function takes.

A range hands over only what is of the kind that is asked for; a value written in the
call itself is converted (OpenFormula 6.3).
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import chain
from typing import Any, Protocol

from dreieck.core.formula import tree
from dreieck.core.functions import Failure, Function
from dreieck.core.functions.registry import Parameter, Takes
from dreieck.core.ranges import Range
from dreieck.core.values import VALUE, Error, Value, to_logical, to_number, to_text


class Evaluation(Protocol):
    """Who works out the nodes of a formula."""

    def value(self, node: tree.Node) -> Value:
        """The single value of a node."""

    def operand(self, node: tree.Node) -> Value | Range:
        """The value of a node, or the range that it refers to."""


_SINGLE: dict[Takes, Callable[[Value], Value]] = {
    Takes.NUMBER: to_number,
    Takes.TEXT: to_text,
    Takes.LOGICAL: to_logical,
}


def bound(function: Function, nodes: tuple[tree.Node, ...], evaluation: Evaluation) -> list[Any]:
    """The arguments for ``function.compute``.

    Raises Failure where their number is wrong or one of them is an error.
    """
    most = function.most
    if len(nodes) < function.least or (most is not None and len(nodes) > most):
        raise Failure(VALUE, f"{function.name} takes {_how_many(function)}, not {len(nodes)}.")
    arguments: list[Any] = []
    for index, node in enumerate(nodes):
        parameter = function.parameter(index)
        if parameter.repeated and parameter.takes in (Takes.NUMBERS, Takes.VALUES):
            arguments.append(_sequence(parameter, nodes[index:], evaluation))
            break
        arguments.append(_argument(parameter, node, evaluation))
    return arguments


def _argument(parameter: Parameter, node: tree.Node, evaluation: Evaluation) -> Any:
    if parameter.takes is Takes.LATER:
        return lambda: evaluation.operand(node)
    if parameter.takes in (Takes.NUMBERS, Takes.VALUES):
        return _sequence(parameter, (node,), evaluation)
    value = evaluation.value(node)
    if parameter.takes is Takes.VALUE:
        return value
    return _sound(_SINGLE[parameter.takes](value))


def _sequence(
    parameter: Parameter, nodes: tuple[tree.Node, ...], evaluation: Evaluation
) -> Iterator[Value]:
    each = _numbers if parameter.takes is Takes.NUMBERS else _values
    return chain.from_iterable(each(evaluation, node) for node in nodes)


def _numbers(evaluation: Evaluation, node: tree.Node) -> Iterator[float]:
    operand = evaluation.operand(node)
    if isinstance(operand, Range):
        for value in operand.filled():
            if isinstance(value, Error):
                raise Failure(value.code, value.why, value.origin)
            if isinstance(value, float):
                yield value
    else:
        yield _sound(to_number(operand))


def _values(evaluation: Evaluation, node: tree.Node) -> Iterator[Value]:
    operand = evaluation.operand(node)
    if isinstance(operand, Range):
        yield from operand.filled()
    else:
        yield operand


def _sound(value: Any) -> Any:
    if isinstance(value, Error):
        raise Failure(value.code, value.why, value.origin)
    return value


def _how_many(function: Function) -> str:
    least, most = function.least, function.most
    if most is None:
        return f"at least {least} argument{'s' * (least != 1)}"
    if least == most:
        return f"{least} argument{'s' * (least != 1)}"
    return f"{least} to {most} arguments"
