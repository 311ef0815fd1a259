"""How long the command takes to start, against Python that does nothing."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Iterator

from bench.timing import Figure, ratio

_COMMAND = (sys.executable, "-m", "dreieck.cli.main")
_ASKED = (
    ("dreieck --help", 12.0, ("--help",)),
    ("dreieck shift", 25.0, ("shift", "=$B5*C$4", "--from", "C5", "--to", "C5:F10")),
)


def figures() -> Iterator[Figure]:
    """A figure for each command."""
    for name, asked, arguments in _ASKED:
        yield Figure(f"{name} / python -c pass", asked, lambda given=arguments: _measured(given))


def _measured(arguments: tuple[str, ...]) -> float:
    """How many times longer the command takes."""
    return ratio(lambda: _run(*_COMMAND, *arguments), lambda: _run(sys.executable, "-c", "pass"))


def _run(*command: str) -> None:
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
