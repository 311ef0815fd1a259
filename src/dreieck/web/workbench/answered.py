"""What pages were answered last: what is asked for once more, for want of the answer, gets it."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import Annotated

from fastapi import Depends, Request

from dreieck.store import Piece

_MAX_ANSWERS = 200
_LONGEST = 100_000
"""A longer answer is drawn anew instead, so that they take 20 MB together at most."""


class Answered:
    """The last answers, by workbook, piece, and the picture from which they tell what differs."""

    def __init__(self) -> None:
        self._answers: OrderedDict[tuple[int, Piece | None, int], str] = OrderedDict()
        self._lock = Lock()

    def to(self, workbook_id: int, piece: Piece | None, picture: int) -> str | None:
        """The answer that a piece was given on top of a picture, if it is still known."""
        return self._answers.get((workbook_id, piece, picture))

    def keep(self, workbook_id: int, piece: Piece | None, picture: int, answer: str) -> None:
        """Remember an answer; the oldest is forgotten."""
        if piece is None or len(answer) > _LONGEST:
            return
        with self._lock:
            self._answers[workbook_id, piece, picture] = answer
            if len(self._answers) > _MAX_ANSWERS:
                self._answers.popitem(last=False)


def _answered(request: Request) -> Answered:
    answered: Answered = request.app.state.answered
    return answered


TheAnswered = Annotated[Answered, Depends(_answered)]
