"""The functions of the formula language, one module a family.

``find`` gives the record of a function: what it takes, does, and an example.
"""

from dreieck.core.functions import logic, mathematics, summary
from dreieck.core.functions.registry import Failure, Function, Parameter, every, find

__all__ = ["Failure", "Function", "Parameter", "every", "find", "logic", "mathematics", "summary"]
