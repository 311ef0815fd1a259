"""How a sweep is written: which inputs run over which values, and what is to be seen of it."""

from __future__ import annotations

from dreieck.core.functions.forms import forms

SWEEP, OVER, DRAWN = "SWEEP", "OVER", "DRAWN"
FORMS = forms(__name__)
"""How sweeps are written."""
