"""The demo: what four mountain huts need, all made up."""

from dreieck.demo.hut_supplies import FEEDS, NAME, NAMES, OPEN_SHEET, OUTSIDE, STATED, sheets
from dreieck.store import Library

__all__ = ["OUTSIDE", "make"]


def make(library: Library) -> int:
    """Make the demo, and return the number of its workbook."""
    return library.create(
        NAME, sheets(), NAMES, stated=STATED, feeds=FEEDS, is_demo=True, open_sheet=OPEN_SHEET
    )
