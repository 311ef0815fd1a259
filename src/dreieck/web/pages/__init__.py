"""The pages beside the workbench, one module and one template each.

A module has a ``router``, and an ``ENTRY`` if the bar of the pages leads to it. What stands in
this folder is found by itself.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from fastapi import APIRouter

from dreieck.web.navigation import Entry

_MODULES = [import_module(f"{__name__}.{found.name}") for found in iter_modules(__path__)]
ROUTERS: list[APIRouter] = [module.router for module in _MODULES]
ENTRIES: list[Entry] = [module.ENTRY for module in _MODULES if hasattr(module, "ENTRY")]
