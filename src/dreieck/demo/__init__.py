"""The demo: what four mountain huts need, all made up."""

from dreieck.demo.hut_supplies import NAME, OPEN_SHEET, sheets

__all__ = ["NAME", "OPEN_SHEET", "sheets"]
