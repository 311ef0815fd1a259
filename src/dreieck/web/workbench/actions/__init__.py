"""What can be done on the workbench, one module for each kind of thing.

``ACTIONS`` maps the name of every action to it: importing this package fills it.
"""

from dreieck.web.workbench.actions import (
    checks,
    copies,
    dressing,
    entries,
    fills,
    going,
    layout,
    lines,
    locks,
    naming,
    pointing,
    sheets,
    trials,
)
from dreieck.web.workbench.actions.context import ACTIONS, Action, Context, effects

__all__ = ["ACTIONS", "Action", "Context", "effects"]
del (
    checks,
    copies,
    dressing,
    entries,
    fills,
    going,
    layout,
    lines,
    locks,
    naming,
    pointing,
    sheets,
    trials,
)
