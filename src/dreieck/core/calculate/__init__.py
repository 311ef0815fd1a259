"""From contents to values: evaluation, order, blocks."""

from dreieck.core.calculate.appearance import look_at, look_of, text_at
from dreieck.core.calculate.blocks import Block, block_at
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.calculate.dependents import Dependents, dependents

__all__ = [
    "Block",
    "Calculation",
    "Dependents",
    "block_at",
    "dependents",
    "look_at",
    "look_of",
    "text_at",
]
