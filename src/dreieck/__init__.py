"""Dreieck: see where every reference of a filled formula lands."""
