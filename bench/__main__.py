"""Prints every figure with what is asked for."""

from __future__ import annotations

import sys
from collections.abc import Iterator

from bench import (
    arrays,
    chain,
    changing,
    changing_by_cell,
    checking,
    checking_alternating,
    checking_sheet,
    columns,
    counting,
    counting_on,
    files_memory,
    first_screen,
    inserting,
    keystroke,
    logging,
    memory,
    opening,
    parsing,
    pulling,
    questioning,
    reading_csv,
    reading_ods,
    reading_xlsx,
    reviewing,
    running,
    saving,
    scrolling,
    starting,
    sweeping,
    traffic,
    trying,
    typing_in,
    writing_ods,
    writing_xlsx,
)
from bench.timing import Figure

MODULES = (
    parsing,
    keystroke,
    traffic,
    changing,
    changing_by_cell,
    trying,
    sweeping,
    inserting,
    running,
    counting,
    chain,
    counting_on,
    typing_in,
    saving,
    opening,
    memory,
    checking,
    checking_alternating,
    checking_sheet,
    logging,
    questioning,
    pulling,
    scrolling,
    first_screen,
    reading_csv,
    reading_ods,
    reading_xlsx,
    writing_ods,
    writing_xlsx,
    files_memory,
)


def figures() -> Iterator[Figure]:
    """All figures: one of each module, and those that belong together."""
    for module in MODULES:
        yield Figure(module.TITLE, module.ASKED, module.measure)
    yield from columns.figures()
    yield from arrays.figures()
    yield from reviewing.figures()
    yield from starting.figures()


def main(wanted: str) -> None:
    """Measure and print all figures, or those whose title holds a text."""
    print(f"{'work / yardstick':72}  {'ratio':>8}  {'asked':>8}")
    for figure in figures():
        if wanted in figure.title:
            print(f"{figure.title:72}  {figure.measure():8.2f}  {figure.asked:8.2f}", flush=True)


main(" ".join(sys.argv[1:]))
