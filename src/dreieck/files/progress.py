"""How far reading or writing a file has come, told to somebody who may stop it."""

from __future__ import annotations

from dreieck.core.budget import Budget, current
from dreieck.files.exceptions import Stopped


class Progress(Budget):
    """The work on one file: where it is, between 0 and 1, and whether it goes on."""

    def __init__(self) -> None:
        super().__init__()
        self.share = 0.0
        self.says = "reading"
        self.is_stopped = False

    def at(self, share: float, says: str = "") -> None:
        """The work has come so far. Raises Stopped."""
        self.share = min(max(self.share, share), 1.0)
        self.says = says or self.says
        self.watch()

    def stop(self) -> None:
        """Let the work end at the next opportunity."""
        self.is_stopped = True

    def watch(self) -> None:
        """Called now and then while work goes on. Raises Stopped."""
        if self.is_stopped:
            raise Stopped


class Within(Progress):
    """The work on a file as a part of other work: it ends when that does."""

    def __init__(self) -> None:
        super().__init__()
        self._whole = current()

    def watch(self) -> None:
        """Called now and then while work goes on. Raises Stopped, and WorkEnded."""
        super().watch()
        self._whole.watch()
