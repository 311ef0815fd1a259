"""Run all attacks one after the other, and print figures: about 25 minutes, and an hour more
for a million questions."""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

from campaign import (
    classroom,
    crossing,
    disk,
    doors,
    files,
    hostile,
    kills,
    largest,
    questions,
)
from campaign.server import SEED, LostError

_ATTACKS = {
    "hostile formulas": (hostile.run, 240),
    "largest arguments": (largest.run, 240),
    "doors": (doors.run, 120),
    "files": (files.run, 1),
    "kills": (kills.run, 180),
    "crossing": (crossing.run, 60),
    "disk": (disk.run, 60),
    "classroom": (classroom.run, 120),
    "questions": (questions.run, 1),
}
"""Each attack, and its length: in seconds, of the questions as a share of all."""


def main() -> None:
    """Run the attacks; a number multiplies how long they take, such as 0.1 for a short try.

    Names of attacks behind it run those alone. What is drawn by chance is so anew each time;
    ``SEED`` in the environment draws the same again.
    """
    print(f"SEED={SEED}", flush=True)
    factor = float(sys.argv[1]) if len(sys.argv) > 1 else 1.0
    for name, (attack, seconds) in _ATTACKS.items():
        if len(sys.argv) > 2 and name not in sys.argv[2:]:
            continue
        begun = time.monotonic()
        with tempfile.TemporaryDirectory() as folder:
            try:
                told = attack(Path(folder), seconds * factor)
            except LostError as lost:
                sys.exit(f"{name}: LOST: {lost}")
        print(f"{name} ({time.monotonic() - begun:.0f} s): {told}", flush=True)


if __name__ == "__main__":
    main()
