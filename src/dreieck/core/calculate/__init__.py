"""From contents to values: evaluation, order, blocks."""

from dreieck.core.calculate.blocks import Block, block_at
from dreieck.core.calculate.calculation import Calculation, Grid

__all__ = ["Block", "Calculation", "Grid", "block_at"]
