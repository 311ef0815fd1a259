"""Choices in words: *if Nights is more than 4, then “long”, else “short”*."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from dreieck.core.formula import tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Speech, speech_of
from dreieck.core.words.lookups import is_listed
from dreieck.core.words.phrases import Phrase, Reader, words

Said = Iterator[Phrase]
_JOINED = (Speech.ALL_OF, Speech.ONE_OF)
_LISTED = {Speech.IS_THERE: "is in", Speech.IS_MISSING: "is not in"}


def choice_said(reader: Reader, node: tree.Call) -> Said | None:
    """A choice or condition in words; None where it has no words of its own."""
    speech = speech_of(node.function)
    say = _SAID.get(speech)
    if speech in _LISTED and node.arguments:
        listed = is_listed(reader, node.arguments[0])
        does = _LISTED[speech]
        return listed and (words(does) if each.text == "is in" else each for each in listed)
    return say(reader, node.arguments) if say else None


def _joined(reader: Reader, arguments: tuple[tree.Node, ...], word: str) -> Said | None:
    """Conditions that hold together, or of which one holds."""
    if len(arguments) < 2 or any(isinstance(each, RangeReference) for each in arguments):
        return None
    return _with(reader, arguments, word)


def _with(reader: Reader, arguments: tuple[tree.Node, ...], word: str) -> Said:
    for number, each in enumerate(arguments):
        if number:
            yield words(word)
        yield from _inner(reader, each)


def _inner(reader: Reader, node: tree.Node) -> Said:
    """A condition within another one; one of several in brackets."""
    several = isinstance(node, tree.Call) and (
        speech_of(node.function) in _JOINED and len(node.arguments) > 1
    )
    yield from reader.bracketed(node, several)


def _not(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    return _denied(reader, arguments[0]) if arguments else None


def _denied(reader: Reader, node: tree.Node) -> Said:
    yield words("it is not so that")
    yield from _inner(reader, node)


def _first(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    """IFS: pairs of a condition and what it leads to."""
    return _pairs(reader, arguments) if len(arguments) > 1 and not len(arguments) % 2 else None


def _pairs(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said:
    for number in range(0, len(arguments), 2):
        condition, result = arguments[number : number + 2]
        is_rest = isinstance(condition, tree.Logical) and condition.value
        if number:
            yield words(", else")
        if not is_rest:
            yield words("if")
            yield from reader.node(condition)
            yield words(", then")
        yield from reader.node(result)


def _switch(reader: Reader, arguments: tuple[tree.Node, ...]) -> Said | None:
    """SWITCH: what a value is, and what that leads to."""
    return _cases(reader, *arguments) if len(arguments) > 2 else None


def _cases(reader: Reader, tested: tree.Node, *cases: tree.Node) -> Said:
    yield words("by")
    yield from reader.node(tested)
    yield words(":")
    for number in range(0, len(cases), 2):
        if number:
            yield words(",")
        if number + 1 == len(cases):
            yield words("else")
            yield from reader.node(cases[number])
            return
        yield from reader.node(cases[number + 1])
        yield words("for")
        yield from reader.node(cases[number])


_SAID: dict[Speech | None, Callable[[Reader, tuple[tree.Node, ...]], Said | None]] = {
    Speech.ALL_OF: lambda reader, arguments: _joined(reader, arguments, "and"),
    Speech.ONE_OF: lambda reader, arguments: _joined(reader, arguments, "or"),
    Speech.DENIES: _not,
    Speech.CASES: _first,
    Speech.SWITCHES: _switch,
}
