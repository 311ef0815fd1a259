"""Prints every figure with what is asked for."""

from __future__ import annotations

from bench import (
    chain,
    changing,
    changing_by_cell,
    checking,
    checking_alternating,
    checking_sheet,
    counting,
    files_memory,
    keystroke,
    logging,
    memory,
    opening,
    parsing,
    pulling,
    reading_csv,
    reading_ods,
    reading_xlsx,
    running,
    saving,
    scrolling,
    writing_ods,
    writing_xlsx,
)

FIGURES = (
    parsing,
    keystroke,
    changing,
    changing_by_cell,
    running,
    counting,
    chain,
    saving,
    opening,
    memory,
    checking,
    checking_alternating,
    checking_sheet,
    logging,
    pulling,
    scrolling,
    reading_csv,
    reading_ods,
    reading_xlsx,
    writing_ods,
    writing_xlsx,
    files_memory,
)


def main() -> None:
    """Measure and print all figures."""
    print(f"{'work / yardstick':60}  {'ratio':>8}  {'asked':>8}")
    for figure in FIGURES:
        print(f"{figure.TITLE:60}  {figure.measure():8.2f}  {figure.ASKED:8.2f}", flush=True)


main()
