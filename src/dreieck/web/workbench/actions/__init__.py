"""What can be done on the workbench, one module for each kind of thing.

``ACTIONS`` maps the name of every action to its function: importing this package fills it.
"""

from dreieck.web.workbench.actions import (
    cells,
    checks,
    copies,
    fills,
    lines,
    naming,
    pointing,
    sheets,
    trials,
)
from dreieck.web.workbench.actions.hands import ACTIONS, Hands

__all__ = ["ACTIONS", "Hands"]
del cells, checks, copies, fills, lines, naming, pointing, sheets, trials
