"""How the result of a formula looks where its cell has no number format."""

from __future__ import annotations

from dataclasses import replace

from dreieck.core.formula import Shape, tree
from dreieck.core.functions import find
from dreieck.core.sheet.content import Content
from dreieck.core.values.look import Look


def look_of(content: Content | None, look: Look) -> Look:
    """The look of a cell; a formula such as ``=TODAY()`` brings its number format along."""
    if look.form == "general" and isinstance(content, Shape):
        node = content.tree
        function = find(node.function) if isinstance(node, tree.Call) else None
        if function and function.gives:
            return replace(look, form=function.gives)
    return look
