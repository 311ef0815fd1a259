"""What was found out about sheets, kept until one of those that were looked at changes."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from itertools import count
from typing import Any, NamedTuple, TypeVar

from dreieck.core.budget import current

T = TypeVar("T")
_MOST = 50_000
"""So much is kept of one sheet."""
_STATES = count()


class _Known:
    """What was found out about a sheet as it is; a changed sheet begins anew."""

    def __init__(self) -> None:
        self.serial = next(_STATES)
        self.answers: dict[object, _Answer] = {}


class _Answer(NamedTuple):
    """An answer, and what it was found from: states of sheets, and all formulas or none."""

    answer: Any
    sheets: tuple[tuple[str, int], ...]
    formulas: object


class _Looked:
    """What was looked at for one answer."""

    def __init__(self) -> None:
        self.sheets: set[str] = set()
        self.formulas = False


class Memory:
    """What is known of the sheets of a workbook, by their names as they spell themselves."""

    def __init__(self) -> None:
        self._known: dict[str, _Known] = {}
        self._looking: list[_Looked] = []
        self.formulas: object = None
        """What stands for all formulas of the workbook as they are."""

    def fork(self) -> Memory:
        """The same knowledge for a copy of the workbook; what is looked at there counts here."""
        other = Memory()
        other._known, other._looking = self._known.copy(), self._looking
        other.formulas = self.formulas
        return other

    def changed(self, sheets: Iterable[str]) -> None:
        """Some sheets hold or show something else now."""
        for name in sheets:
            self._known.pop(name, None)

    def clear(self) -> None:
        """Everything may have changed."""
        self._known.clear()

    def look(self, sheet: str) -> None:
        """A sheet is looked at."""
        if self._looking:
            self._looking[-1].sheets.add(sheet)

    def look_at_formulas(self) -> None:
        """It is asked which formulas read something."""
        if self._looking:
            self._looking[-1].formulas = True

    def recall(self, sheet: str, key: object, find: Callable[[], T]) -> T:
        """What is found out about a sheet under a key: as it was, if all is as it was.

        In a hurry nothing is kept, since values may be missing.
        """
        known = self._state(sheet)
        found = known.answers.get(key)
        if found is None or not self._holds(found):
            looked = _Looked()
            looked.sheets.add(sheet)
            self._looking.append(looked)
            try:
                answer = find()
            finally:
                self._looking.pop()
            states = tuple((name, self._state(name).serial) for name in looked.sheets)
            found = _Answer(answer, states, self.formulas if looked.formulas else None)
            if not current().hurried:
                if len(known.answers) >= _MOST:
                    known.answers.clear()
                known.answers[key] = found
        if self._looking:
            outer = self._looking[-1]
            outer.sheets.update(name for name, _ in found.sheets)
            outer.formulas |= found.formulas is not None
        known_answer: T = found.answer
        return known_answer

    def _holds(self, found: _Answer) -> bool:
        if found.formulas is not None and found.formulas is not self.formulas:
            return False
        return all(self._state(name).serial == serial for name, serial in found.sheets)

    def _state(self, sheet: str) -> _Known:
        known = self._known.get(sheet)
        if known is None:
            known = self._known[sheet] = _Known()
        return known
