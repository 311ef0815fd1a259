"""What can be done on the workbench, one module for each kind of thing.

``ACTIONS`` maps the name of every action to it: importing this package fills it. What stands in
this folder is found by itself.
"""

from importlib import import_module
from pkgutil import iter_modules

from dreieck.web.workbench.actions.context import ACTIONS, Action, Context, effects

__all__ = ["ACTIONS", "Action", "Context", "effects"]

for _found in iter_modules(__path__):
    import_module(f"{__name__}.{_found.name}")
