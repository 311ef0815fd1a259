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
    """An answer, and what it was found from, by numbers of states.

    ``sheets`` are those that were looked at; ``formulas`` stands for all formulas, ``all`` for
    all sheets, where these were.
    """

    answer: Any
    sheets: dict[str, int]
    formulas: int | None
    all: int | None


class _Looked:
    """What was looked at for one answer."""

    def __init__(self, sheet: str) -> None:
        self.sheets = {sheet}
        self.formulas = False
        self.all = False


class Memory:
    """What is known of the sheets of a workbook, by their names as they spell themselves."""

    def __init__(self) -> None:
        self._known: dict[str, _Known] = {}
        self._looking: list[_Looked] = []
        self._formulas = next(_STATES)
        self._all = next(_STATES)

    def fork(self) -> Memory:
        """The same knowledge for a copy of the workbook; what is looked at there counts here."""
        other = Memory()
        other._known, other._looking = self._known.copy(), self._looking
        other._formulas, other._all = self._formulas, self._all
        return other

    def changed(self, sheets: Iterable[str]) -> None:
        """Some sheets hold or show something else now."""
        for name in sheets:
            self._known.pop(name, None)
            self._all = next(_STATES)

    def formulas_changed(self) -> None:
        """Formulas came, went or read something else."""
        self._formulas = next(_STATES)

    def clear(self) -> None:
        """Everything may have changed."""
        self._known.clear()
        self._all = next(_STATES)

    def look(self, sheet: str) -> None:
        """A sheet is looked at."""
        if self._looking:
            self._looking[-1].sheets.add(sheet)

    def look_at_all(self) -> None:
        """All sheets are looked at."""
        if self._looking:
            self._looking[-1].all = True

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
            looked = _Looked(sheet)
            self._looking.append(looked)
            try:
                answer = find()
            finally:
                self._looking.pop()
            found = _Answer(
                answer,
                {} if looked.all else {name: self._state(name).serial for name in looked.sheets},
                self._formulas if looked.formulas else None,
                self._all if looked.all else None,
            )
            if not current().hurried:
                if len(known.answers) >= _MOST:
                    known.answers.clear()
                known.answers[key] = found
        if self._looking:
            outer = self._looking[-1]
            outer.sheets.update(found.sheets)
            outer.formulas |= found.formulas is not None
            outer.all |= found.all is not None
        known_answer: T = found.answer
        return known_answer

    def _holds(self, found: _Answer) -> bool:
        if found.all not in (None, self._all) or found.formulas not in (None, self._formulas):
            return False
        return all(self._state(name).serial == serial for name, serial in found.sheets.items())

    def _state(self, sheet: str) -> _Known:
        known = self._known.get(sheet)
        if known is None:
            known = self._known[sheet] = _Known()
        return known
