"""Formulas: text to tokens to a tree, and back to text; the shape.

``parse`` reads a formula typed into a cell; ``Shape`` is what a cell keeps of it.
"""

from dreieck.core.formula.parser import Parsed, parse
from dreieck.core.formula.pointing import Pointed, may_point, point, re_aim, touched
from dreieck.core.formula.shape import Shape
from dreieck.core.formula.tokens import Mention, mentions

__all__ = [
    "Mention",
    "Parsed",
    "Pointed",
    "Shape",
    "may_point",
    "mentions",
    "parse",
    "point",
    "re_aim",
    "touched",
]
